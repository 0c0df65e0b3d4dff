package holotome.core.attribute;

import holotome.core.attribute.Attribute.Kind;
import holotome.core.image.Colours;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.Arrays;

/** Copies and mixes values in arrays of any of the kinds' types. */
final class Values {
  private static final int GRAIN = 1 << 16;

  private Values() {}

  /** An array of the same type. */
  static Object make(Object like, int length) {
    return switch (like) {
      case int[] a -> new int[length];
      case float[] a -> new float[length];
      default -> new short[length];
    };
  }

  static void copy(Object from, int i, Object to, int j, int width) {
    switch (from) {
      case int[] a -> ((int[]) to)[j] = a[i];
      case short[] a -> ((short[]) to)[j] = a[i];
      default -> System.arraycopy(from, width * i, to, width * j, width);
    }
  }

  /** The values in longer arrays, with room behind for {@code more}. */
  static Object grown(Object a, int width, int more) {
    return switch (a) {
      case int[] x -> Arrays.copyOf(x, x.length + width * more);
      case float[] x -> Arrays.copyOf(x, x.length + width * more);
      case short[] x -> Arrays.copyOf(x, x.length + width * more);
      default -> throw new IllegalStateException();
    };
  }

  /** Copies value i to place {@code map[base + i]}, unless that is below zero. */
  static void scatter(Object from, int width, int n, int[] map, int base, Object to, Work work) {
    Parallel.range(
        n,
        GRAIN,
        work,
        (a, b) -> {
          switch (from) {
            case float[] f when width == 3 -> scatter3(f, (float[]) to, map, base, a, b);
            case int[] f -> scatter1(f, (int[]) to, map, base, a, b);
            default -> {
              for (int v = a; v < b; v++) {
                if (map[base + v] >= 0) {
                  copy(from, v, to, map[base + v], width);
                }
              }
            }
          }
        });
  }

  private static void scatter3(float[] from, float[] to, int[] map, int base, int a, int b) {
    for (int v = a; v < b; v++) {
      int w = map[base + v];
      if (w >= 0) {
        to[3 * w] = from[3 * v];
        to[3 * w + 1] = from[3 * v + 1];
        to[3 * w + 2] = from[3 * v + 2];
      }
    }
  }

  private static void scatter1(int[] from, int[] to, int[] map, int base, int a, int b) {
    for (int v = a; v < b; v++) {
      int w = map[base + v];
      if (w >= 0) {
        to[w] = from[v];
      }
    }
  }

  /** The values of all rows of blends that have sources, in turn; the others stay zero. */
  static Object blended(Kind kind, Object old, int width, Blends rows) {
    Object out = make(old, width * rows.rows());
    for (int r = 0; r < rows.rows(); r++) {
      int n = rows.to(r) - rows.from(r);
      if (n == 1) {
        int s = rows.source(rows.from(r));
        boolean isOld = s < rows.old();
        copy(isOld ? old : out, isOld ? s : s - rows.old(), out, r, width);
      } else if (n > 1) {
        switch (kind) {
          case COLOUR -> ((int[]) out)[r] = colour((int[]) old, (int[]) out, rows, r);
          case LABEL, MATERIAL -> {
            int s = rows.source(heaviest(rows, r));
            boolean isOld = s < rows.old();
            copy(isOld ? old : out, isOld ? s : s - rows.old(), out, r, width);
          }
          default -> floats(kind, (float[]) old, (float[]) out, width, rows, r);
        }
      }
    }
    return out;
  }

  private static int heaviest(Blends rows, int r) {
    int best = rows.from(r);
    for (int i = best + 1; i < rows.to(r); i++) {
      if (rows.weight(i) > rows.weight(best)) {
        best = i;
      }
    }
    return best;
  }

  private static int colour(int[] old, int[] added, Blends rows, int r) {
    int from = rows.from(r);
    if (rows.to(r) - from == 2) {
      return Colours.mix(
          at(old, added, rows, from), at(old, added, rows, from + 1), rows.weight(from + 1));
    }
    int out = 0;
    for (int shift = 0; shift < 32; shift += 8) {
      double sum = 0.5;
      for (int i = from; i < rows.to(r); i++) {
        sum += rows.weight(i) * (at(old, added, rows, i) >>> shift & 255);
      }
      out |= Math.clamp((int) sum, 0, 255) << shift;
    }
    return out;
  }

  private static int at(int[] old, int[] added, Blends rows, int i) {
    int s = rows.source(i);
    return s < rows.old() ? old[s] : added[s - rows.old()];
  }

  private static void floats(Kind kind, float[] old, float[] added, int width, Blends rows, int r) {
    int from = rows.from(r);
    for (int k = 0; k < width; k++) {
      float first = at(old, added, width, k, rows, from);
      if (rows.to(r) - from == 2) {
        float second = at(old, added, width, k, rows, from + 1);
        added[width * r + k] = first + (second - first) * rows.weight(from + 1);
        continue;
      }
      double sum = 0;
      for (int i = from; i < rows.to(r); i++) {
        sum += (double) rows.weight(i) * at(old, added, width, k, rows, i);
      }
      added[width * r + k] = (float) sum;
    }
    if (kind == Kind.NORMAL) {
      makeUnit(added, 3 * r, old, rows, from);
    }
  }

  private static float at(float[] old, float[] added, int width, int k, Blends rows, int i) {
    int s = rows.source(i);
    return s < rows.old() ? old[width * s + k] : added[width * (s - rows.old()) + k];
  }

  /** Opposite directions leave nothing to make unit: the first source's is taken then. */
  private static void makeUnit(float[] n, int at, float[] old, Blends rows, int first) {
    if (!makeUnit(n, at)) {
      int s = rows.source(first);
      boolean isOld = s < rows.old();
      System.arraycopy(isOld ? old : n, 3 * (isOld ? s : s - rows.old()), n, at, 3);
    }
  }

  /** Makes a direction unit; false where it has no length to speak of. */
  static boolean makeUnit(float[] n, int at) {
    double x = n[at];
    double y = n[at + 1];
    double z = n[at + 2];
    double l = Math.sqrt(x * x + y * y + z * z);
    if (!(l > 1e-12)) {
      return false;
    }
    n[at] = (float) (x / l);
    n[at + 1] = (float) (y / l);
    n[at + 2] = (float) (z / l);
    return true;
  }
}

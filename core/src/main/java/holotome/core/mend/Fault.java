package holotome.core.mend;

import holotome.core.mesh.Mesh;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.PriorityQueue;

/**
 * One kind of fault of a mesh: how many there are, and where.
 *
 * @param kind what is wrong
 * @param count how many there are
 * @param places where, worst first, 3 floats each in base coordinates; the worst {@link #MOST} only
 * @param sizes how large each is, in base units: an edge, a girth, a height, what is apart
 */
public record Fault(Kind kind, long count, float[] places, float[] sizes) {
  /** Places that are kept. */
  public static final int MOST = 1000;

  /** What can be wrong, in the order it is mended. */
  public enum Kind {
    DOUBLED_POINTS,
    NEAR_POINTS,
    UNUSED_POINTS,
    DEGENERATE,
    DUPLICATE,
    SLIVERS,
    CROWDED_EDGES,
    PINCHED_POINTS,
    DISAGREEING,
    INSIDE_OUT,
    SHELLS,
    SPIKES,
    FOLDS,
    CROSSINGS,
    HANDLES,
    HOLES
  }

  /**
   * The same after a change within a region.
   *
   * @param was what the region alone had before
   * @param now what it has; what is not of the region but looks as if, where it was cut out, both
   *     have
   * @return null where too much is not known: then the whole is to be looked at
   */
  Fault after(Fault was, Fault now) {
    if (was.sizes.length == MOST || now.sizes.length == MOST) {
      return null;
    }
    Map<Place, Integer> change = new HashMap<>();
    for (int i = 0; i < now.sizes.length; i++) {
      change.merge(now.place(i), 1, Integer::sum);
    }
    for (int i = 0; i < was.sizes.length; i++) {
      change.merge(was.place(i), -1, Integer::sum);
    }
    boolean isCut = sizes.length >= MOST / 2 && count > sizes.length;
    float least = isCut ? sizes[sizes.length - 1] : Float.NEGATIVE_INFINITY;
    List<Place> left = new ArrayList<>();
    for (int i = 0; i < sizes.length; i++) {
      Place p = place(i);
      if (change.getOrDefault(p, 0) < 0) {
        change.merge(p, 1, Integer::sum);
      } else {
        left.add(p);
      }
    }
    for (int i = 0; i < now.sizes.length; i++) {
      Place p = now.place(i);
      // What is smaller than the last of the worst may not be the next of them.
      if (change.get(p) > 0 && p.size >= least) {
        left.add(p);
        change.merge(p, -1, Integer::sum);
      }
    }
    boolean isOdd = !isCut && change.values().stream().anyMatch(n -> n != 0);
    if (isOdd || isCut && left.size() < MOST / 2) {
      return null;
    }
    left.sort((a, b) -> Float.compare(b.size, a.size));
    int n = Math.min(MOST, left.size());
    float[] at = new float[3 * n];
    float[] size = new float[n];
    for (int i = 0; i < n; i++) {
      Place p = left.get(i);
      at[3 * i] = p.x;
      at[3 * i + 1] = p.y;
      at[3 * i + 2] = p.z;
      size[i] = p.size;
    }
    return new Fault(kind, count - was.count + now.count, at, size);
  }

  /** One of the places, told from others by where it is and how large. */
  private record Place(float x, float y, float z, float size) {}

  private Place place(int i) {
    return new Place(places[3 * i], places[3 * i + 1], places[3 * i + 2], sizes[i]);
  }

  /** Gathers places and keeps the worst. */
  static final class Gathered {
    private final PriorityQueue<float[]> worst =
        new PriorityQueue<>(
            (a, b) -> a[3] != b[3] ? Float.compare(a[3], b[3]) : Float.compare(b[4], a[4]));
    private long count;

    /** Adds a fault; earlier ones go first among equals. */
    void add(double x, double y, double z, double size) {
      float[] one = {(float) x, (float) y, (float) z, (float) size, count++};
      if (worst.size() < MOST) {
        worst.add(one);
      } else if (one[3] > worst.peek()[3]) {
        worst.poll();
        worst.add(one);
      }
    }

    /** Adds a fault at the middle of a triangle. */
    void addTriangle(Mesh m, int t, double size) {
      double[] s = new double[3];
      for (int c = 3 * t; c < 3 * t + 3; c++) {
        for (int k = 0; k < 3; k++) {
          s[k] += m.xyz()[3 * m.triangles()[c] + k] / 3.0;
        }
      }
      add(s[0], s[1], s[2], size);
    }

    void addVertex(Mesh m, int v, double size) {
      add(m.xyz()[3 * v], m.xyz()[3 * v + 1], m.xyz()[3 * v + 2], size);
    }

    long count() {
      return count;
    }

    Fault done(Kind kind) {
      return done(kind, count);
    }

    Fault done(Kind kind, long known) {
      float[][] all = worst.toArray(float[][]::new);
      Arrays.sort(
          all, (a, b) -> a[3] != b[3] ? Float.compare(b[3], a[3]) : Float.compare(a[4], b[4]));
      float[] places = new float[3 * all.length];
      float[] sizes = new float[all.length];
      for (int i = 0; i < all.length; i++) {
        System.arraycopy(all[i], 0, places, 3 * i, 3);
        sizes[i] = all[i][3];
      }
      return new Fault(kind, known, places, sizes);
    }
  }
}

package holotome.core.cut;

import holotome.core.array.Ranks;
import holotome.core.attribute.Blends;
import holotome.core.attribute.Redrawn;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;

/**
 * The part of a mesh where a field over its vertices is not below zero, cut exactly along the line
 * where it is zero; a plane is such a field.
 *
 * <p>Every edge that crosses the line gets one new vertex, shared by its triangles, so that the cut
 * opens nothing but itself. Vertices nearer than a hair (2e-7 of the diagonal) count as lying on
 * it; triangles that lie in it wholly go. O(V + T).
 *
 * @param mesh what is left
 * @param onCut per vertex, whether it lies on the line
 */
public record FieldSplit(Mesh mesh, boolean[] onCut) {
  private static final int GRAIN = 1 << 16;

  /** A field over the vertices, as a distance from where the cut runs. */
  @FunctionalInterface
  public interface Field {
    double at(double x, double y, double z);
  }

  /** Cuts by a plane; keeps what its normal (of unit length) points to. */
  public static FieldSplit byPlane(Mesh mesh, double[] point, double[] n, Work work) {
    return of(
        mesh,
        (x, y, z) -> (x - point[0]) * n[0] + (y - point[1]) * n[1] + (z - point[2]) * n[2],
        work);
  }

  public static FieldSplit of(Mesh mesh, Field field, Work work) {
    float[] p = mesh.xyz();
    float[] side = new float[mesh.vertexCount()];
    Parallel.range(
        side.length,
        GRAIN,
        work.part(0.2, CoreWords.of("work.cutting")),
        (from, to) -> {
          for (int v = from; v < to; v++) {
            side[v] = (float) field.at(p[3 * v], p[3 * v + 1], p[3 * v + 2]);
          }
        });
    return of(mesh, side, work.part(0.8, CoreWords.of("work.cutting")));
  }

  /**
   * @param side the field at each vertex; taken over, not copied
   */
  public static FieldSplit of(Mesh mesh, float[] side, Work work) {
    return new Splitter(mesh, side).run(work);
  }

  private static final class Splitter {
    private final Mesh mesh;
    private final int[] tri;
    private final float[] side;
    private long[] crossing = new long[1024];
    private int crossings;
    private final double hair;

    /** Positions of the crossings, 3 floats each. */
    private float[] crossed;

    /** Vertices that were made one with a lower-numbered one. */
    private final Map<Integer, Integer> weld = new HashMap<>();

    Splitter(Mesh mesh, float[] side) {
      this.mesh = mesh;
      this.tri = mesh.triangles();
      this.side = side;
      hair = 2e-7 * mesh.bounds().diagonal();
      for (int v = 0; v < side.length; v++) {
        side[v] = Math.abs(side[v]) <= hair ? 0 : side[v];
      }
    }

    FieldSplit run(Work work) {
      int n = mesh.triangleCount();
      byte[] fate = new byte[n];
      Parallel.range(
          n,
          GRAIN,
          work.part(0.2, CoreWords.of("work.cutting")),
          (from, to) -> {
            for (int t = from; t < to; t++) {
              fate[t] = fate(t);
            }
          });
      Ranks kept =
          Submesh.chosen(n, t -> fate[t] == KEEP, work.part(0.05, CoreWords.of("work.cutting")));
      int split = 0;
      for (byte f : fate) {
        split += f == SPLIT ? 1 : 0;
      }
      int[] straddling = new int[split];
      split = 0;
      for (int t = 0; t < n; t++) {
        if (fate[t] == SPLIT) {
          straddling[split++] = t;
        }
      }
      collectCrossings(straddling);
      placeCrossings();
      weldCrossings(straddling);
      work.advance(0.15);
      // Room for two pieces of every straddling triangle.
      int[] corners = new int[3 * (kept.size() + 2 * split)];
      int at = 0;
      for (int t = 0; t < n; t++) {
        if (fate[t] == KEEP) {
          System.arraycopy(tri, 3 * t, corners, 3 * at++, 3);
        }
      }
      work.advance(0.2);
      Redrawn pieces = new Redrawn();
      int[] fan = new int[4];
      float[] weights = new float[12];
      float[] nine = new float[9];
      for (int t : straddling) {
        int m = clip(t, fan, weights);
        for (int i = 2; i < m; i++) {
          if (fan[0] == fan[i] || fan[i - 1] == fan[i] || fan[0] == fan[i - 1]) {
            continue;
          }
          corners[3 * at] = fan[0];
          corners[3 * at + 1] = fan[i - 1];
          corners[3 * at + 2] = fan[i];
          System.arraycopy(weights, 0, nine, 0, 3);
          System.arraycopy(weights, 3 * i - 3, nine, 3, 6);
          pieces.add(at++, t, nine);
        }
      }
      work.advance(0.1);
      return assemble(
          kept,
          pieces,
          Arrays.copyOf(corners, 3 * at),
          work.part(0.3, CoreWords.of("work.cutting")));
    }

    private static final byte KEEP = 1;
    private static final byte SPLIT = 2;

    private byte fate(int t) {
      float a = side[tri[3 * t]];
      float b = side[tri[3 * t + 1]];
      float c = side[tri[3 * t + 2]];
      boolean front = a > 0 || b > 0 || c > 0;
      boolean back = a < 0 || b < 0 || c < 0;
      return !front ? 0 : back ? SPLIT : KEEP;
    }

    private static long key(int a, int b) {
      return a < b ? (long) a << 32 | b : (long) b << 32 | a;
    }

    private boolean crosses(int a, int b) {
      return side[a] < 0 && side[b] > 0 || side[a] > 0 && side[b] < 0;
    }

    private void collectCrossings(int[] straddling) {
      for (int t : straddling) {
        for (int k = 0; k < 3; k++) {
          int l = (k + 1) % 3;
          if (crosses(tri[3 * t + k], tri[3 * t + l])) {
            if (crossings == crossing.length) {
              crossing = Arrays.copyOf(crossing, 2 * crossings);
            }
            crossing[crossings++] = key(tri[3 * t + k], tri[3 * t + l]);
          }
        }
      }
      Arrays.sort(crossing, 0, crossings);
      int unique = 0;
      for (int i = 0; i < crossings; i++) {
        if (i == 0 || crossing[i] != crossing[i - 1]) {
          crossing[unique++] = crossing[i];
        }
      }
      crossings = unique;
    }

    /**
     * The front part of a triangle as a fan of 3 or 4 corners, and what each lies between; returns
     * how many.
     *
     * @param weights filled: 3 per corner of the fan, of the triangle's own corners
     */
    private int clip(int t, int[] fan, float[] weights) {
      int n = 0;
      Arrays.fill(weights, 0);
      for (int k = 0; k < 3; k++) {
        int l = (k + 1) % 3;
        int a = tri[3 * t + k];
        int b = tri[3 * t + l];
        if (side[a] >= 0) {
          fan[n] = a;
          weights[3 * n++ + k] = 1;
        }
        if (crosses(a, b)) {
          float f = along(a, b);
          fan[n] = welded(crossingOf(a, b));
          weights[3 * n + k] = 1 - f;
          weights[3 * n++ + l] = f;
        }
      }
      return n;
    }

    private int crossingOf(int a, int b) {
      return mesh.vertexCount() + Arrays.binarySearch(crossing, 0, crossings, key(a, b));
    }

    private void placeCrossings() {
      float[] p = mesh.xyz();
      crossed = new float[3 * crossings];
      for (int i = 0; i < crossings; i++) {
        int a = (int) (crossing[i] >>> 32);
        int b = (int) crossing[i];
        float f = along(a, b);
        for (int k = 0; k < 3; k++) {
          crossed[3 * i + k] = (float) (p[3 * a + k] + ((double) p[3 * b + k] - p[3 * a + k]) * f);
        }
      }
    }

    /**
     * Makes one vertex of those on the line of a triangle that lie within a hair of each other: a
     * fan of long triangles is crossed many times in one place, and an outline with such places
     * twice cannot be closed well.
     */
    private void weldCrossings(int[] straddling) {
      for (int t : straddling) {
        int first = -1;
        for (int k = 0; k < 3; k++) {
          int a = tri[3 * t + k];
          int b = tri[3 * t + (k + 1) % 3];
          int v = side[a] == 0 ? a : crosses(a, b) ? crossingOf(a, b) : -1;
          if (v >= 0 && first < 0) {
            first = v;
          } else if (v >= 0 && distance(first, v) <= hair) {
            weld(first, v);
          }
        }
      }
    }

    private double distance(int v, int w) {
      return Vec.distance(place(v), place(w));
    }

    private double[] place(int v) {
      return v < mesh.vertexCount()
          ? Vec.at(mesh.xyz(), v)
          : Vec.at(crossed, v - mesh.vertexCount());
    }

    private int welded(int v) {
      int at = v;
      for (Integer up = weld.get(at); up != null; up = weld.get(at)) {
        at = up;
      }
      return at;
    }

    private void weld(int v, int w) {
      int a = welded(v);
      int b = welded(w);
      // Vertices that were there before stay apart, as they were.
      if (a != b && Math.max(a, b) >= mesh.vertexCount()) {
        weld.put(Math.max(a, b), Math.min(a, b));
      }
    }

    /** How far along from a to b an edge meets the cut. */
    private float along(int a, int b) {
      return side[a] / (side[a] - side[b]);
    }

    private FieldSplit assemble(Ranks kept, Redrawn pieces, int[] corners, Work work) {
      int old = mesh.vertexCount();
      Blends added = new Blends(old);
      for (int i = 0; i < crossings; i++) {
        int a = (int) (crossing[i] >>> 32);
        int b = (int) crossing[i];
        added.between(a, b, along(a, b));
      }
      Assembly whole = Assembly.of(mesh, kept, pieces, corners, added, crossed, work);
      boolean[] onCut = new boolean[whole.mesh().vertexCount()];
      for (int v = 0; v < old + crossings; v++) {
        int w = whole.map()[v];
        if (w >= 0) {
          onCut[w] = v >= old || side[v] == 0;
        }
      }
      return new FieldSplit(whole.mesh(), onCut);
    }
  }
}

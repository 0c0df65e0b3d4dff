package holotome.core.spatial;

import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;

/**
 * Counts pairs of triangles that cut through each other: an edge of one passes through the inside
 * of the other. Neighbours along an edge are left out; of those that share one vertex only the
 * edges away from it are tested. Touching and overlap in one plane do not count.
 */
public final class SelfIntersections {
  private static final int GRAIN = 1 << 12;

  private SelfIntersections() {}

  public static long count(Mesh mesh, Work work) {
    Bvh bvh = Bvh.of(mesh, work.part(0.3, CoreWords.of("work.indexing-the-surface")));
    int n = mesh.triangleCount();
    long[] parts = new long[Parallel.chunks(n, GRAIN)];
    Parallel.chunked(
        n,
        GRAIN,
        work.part(0.7, CoreWords.of("common.looking-for-self-intersections")),
        (c, from, to) -> {
          Finder finder = new Finder(mesh, bvh);
          for (int t = from; t < to; t++) {
            parts[c] += finder.count(t);
          }
        });
    long sum = 0;
    for (long p : parts) {
      sum += p;
    }
    return sum;
  }

  private static final class Finder {
    private final Bvh bvh;
    private final int[] tri;
    private final float[] p;
    private final int[] stack = new int[192];
    private final float[] box = new float[6];

    Finder(Mesh mesh, Bvh bvh) {
      this.bvh = bvh;
      tri = mesh.triangles();
      p = mesh.xyz();
    }

    /** Pairs of this triangle with those of higher number. */
    int count(int t) {
      for (int k = 0; k < 3; k++) {
        float a = p[3 * tri[3 * t] + k];
        float b = p[3 * tri[3 * t + 1] + k];
        float c = p[3 * tri[3 * t + 2] + k];
        box[k] = Math.min(a, Math.min(b, c));
        box[3 + k] = Math.max(a, Math.max(b, c));
      }
      int found = 0;
      int top = 0;
      stack[top++] = bvh.root;
      while (top > 0) {
        int ref = stack[--top];
        if (ref < 0) {
          int leaf = ~ref;
          int first = leaf >>> 3;
          for (int i = first; i <= first + (leaf & 7); i++) {
            if (bvh.ids[i] > t && meets(t, bvh.ids[i])) {
              found++;
            }
          }
          continue;
        }
        for (int side = 0; side < 2; side++) {
          if (overlaps(12 * ref + 6 * side)) {
            stack[top++] = bvh.children[2 * ref + side];
          }
        }
      }
      return found;
    }

    private boolean overlaps(int b) {
      float[] o = bvh.boxes;
      return o[b] <= box[3]
          && o[b + 3] >= box[0]
          && o[b + 1] <= box[4]
          && o[b + 4] >= box[1]
          && o[b + 2] <= box[5]
          && o[b + 5] >= box[2];
    }

    private boolean meets(int t, int u) {
      int shared = 0;
      for (int i = 0; i < 3; i++) {
        for (int j = 0; j < 3; j++) {
          shared += tri[3 * t + i] == tri[3 * u + j] ? 1 : 0;
        }
      }
      return shared < 2 && (pierces(t, u) || pierces(u, t));
    }

    private boolean pierces(int t, int u) {
      for (int k = 0; k < 3; k++) {
        int a = tri[3 * t + k];
        int b = tri[3 * t + (k + 1) % 3];
        if (!corner(u, a) && !corner(u, b) && pierces(a, b, u)) {
          return true;
        }
      }
      return false;
    }

    private boolean corner(int u, int v) {
      return tri[3 * u] == v || tri[3 * u + 1] == v || tri[3 * u + 2] == v;
    }

    /** Whether the edge passes strictly through the inside of the triangle. */
    private boolean pierces(int a, int b, int u) {
      int i = tri[3 * u];
      int j = tri[3 * u + 1];
      int k = tri[3 * u + 2];
      double d0 = volume(i, j, k, a);
      double d1 = volume(i, j, k, b);
      if (d0 == 0 || d1 == 0 || d0 > 0 == d1 > 0) {
        return false;
      }
      double x = volume(a, b, i, j);
      double y = volume(a, b, j, k);
      double z = volume(a, b, k, i);
      return x > 0 && y > 0 && z > 0 || x < 0 && y < 0 && z < 0;
    }

    private double volume(int a, int b, int c, int d) {
      double ax = (double) p[3 * a] - p[3 * d];
      double ay = (double) p[3 * a + 1] - p[3 * d + 1];
      double az = (double) p[3 * a + 2] - p[3 * d + 2];
      double bx = (double) p[3 * b] - p[3 * d];
      double by = (double) p[3 * b + 1] - p[3 * d + 1];
      double bz = (double) p[3 * b + 2] - p[3 * d + 2];
      double cx = (double) p[3 * c] - p[3 * d];
      double cy = (double) p[3 * c + 1] - p[3 * d + 1];
      double cz = (double) p[3 * c + 2] - p[3 * d + 2];
      return ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
    }
  }
}

package holotome.core.trim;

import holotome.core.mesh.Colours;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.mesh.Uv;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.Arrays;

/**
 * The part of a mesh in front of a plane, cut exactly along it.
 *
 * <p>Every edge that crosses the plane gets one new vertex, shared by its triangles, so that the
 * cut opens nothing but itself. Vertices nearer than a hair (2e-7 of the diagonal) count as lying
 * on the plane; triangles that lie in it wholly go. O(V + T).
 *
 * @param mesh what is left
 * @param onPlane per vertex, whether it lies on the plane
 */
record PlaneSplit(Mesh mesh, boolean[] onPlane) {
  private static final int GRAIN = 1 << 16;

  static PlaneSplit of(Mesh mesh, double[] point, double[] normal, Work work) {
    return new Splitter(mesh, point, normal).run(work);
  }

  private static final class Splitter {
    private final Mesh mesh;
    private final int[] tri;
    private final float[] side;
    private long[] crossing = new long[1024];
    private int crossings;
    private long[] uvCrossing;

    Splitter(Mesh mesh, double[] point, double[] n) {
      this.mesh = mesh;
      this.tri = mesh.triangles();
      float[] p = mesh.xyz();
      side = new float[mesh.vertexCount()];
      double hair = 2e-7 * mesh.bounds().diagonal();
      Parallel.range(
          side.length,
          GRAIN,
          Work.unwatched(),
          (from, to) -> {
            for (int v = from; v < to; v++) {
              double d =
                  (p[3 * v] - point[0]) * n[0]
                      + (p[3 * v + 1] - point[1]) * n[1]
                      + (p[3 * v + 2] - point[2]) * n[2];
              side[v] = Math.abs(d) <= hair ? 0 : (float) d;
            }
          });
    }

    PlaneSplit run(Work work) {
      int n = mesh.triangleCount();
      byte[] fate = new byte[n];
      Parallel.range(
          n,
          GRAIN,
          work.part(0.2, "Cutting"),
          (from, to) -> {
            for (int t = from; t < to; t++) {
              fate[t] = fate(t);
            }
          });
      int kept = 0;
      int split = 0;
      for (byte f : fate) {
        kept += f == KEEP ? 1 : 0;
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
      work.advance(0.2);
      // Room for two pieces of every straddling triangle.
      int[] corners = new int[3 * (kept + 2 * split)];
      int[] uvCorners = mesh.uv() == null ? null : new int[corners.length];
      short[] material = mesh.material() == null ? null : new short[kept + 2 * split];
      int at = 0;
      for (int t = 0; t < n; t++) {
        if (fate[t] == KEEP) {
          System.arraycopy(tri, 3 * t, corners, 3 * at, 3);
          if (uvCorners != null) {
            System.arraycopy(mesh.uv().corners(), 3 * t, uvCorners, 3 * at, 3);
          }
          if (material != null) {
            material[at] = mesh.material()[t];
          }
          at++;
        }
      }
      work.advance(0.2);
      int[] piece = new int[4];
      int[] uvPiece = new int[4];
      for (int t : straddling) {
        int m = clip(t, piece, uvPiece);
        for (int i = 2; i < m; i++) {
          put(corners, at, piece, i);
          if (uvCorners != null) {
            put(uvCorners, at, uvPiece, i);
          }
          if (material != null) {
            material[at] = mesh.material()[t];
          }
          at++;
        }
      }
      work.advance(0.1);
      return assemble(
          Arrays.copyOf(corners, 3 * at),
          uvCorners == null ? null : Arrays.copyOf(uvCorners, 3 * at),
          material == null ? null : Arrays.copyOf(material, at));
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

    private static void put(int[] corners, int at, int[] fan, int i) {
      corners[3 * at] = fan[0];
      corners[3 * at + 1] = fan[i - 1];
      corners[3 * at + 2] = fan[i];
    }

    private static long key(int a, int b) {
      return a < b ? (long) a << 32 | b : (long) b << 32 | a;
    }

    private boolean crosses(int a, int b) {
      return side[a] < 0 && side[b] > 0 || side[a] > 0 && side[b] < 0;
    }

    private void collectCrossings(int[] straddling) {
      long[] uvs = mesh.uv() == null ? null : new long[2 * straddling.length];
      int uvCount = 0;
      for (int t : straddling) {
        for (int k = 0; k < 3; k++) {
          int l = (k + 1) % 3;
          if (crosses(tri[3 * t + k], tri[3 * t + l])) {
            if (crossings == crossing.length) {
              crossing = Arrays.copyOf(crossing, 2 * crossings);
            }
            crossing[crossings++] = key(tri[3 * t + k], tri[3 * t + l]);
            if (uvs != null) {
              int[] c = mesh.uv().corners();
              // The place along the edge depends on the vertices: the key holds both corners.
              uvs[uvCount++] = (long) (3 * t + k) << 32 | c[3 * t + k];
            }
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
      uvCrossing = uvs == null ? null : Arrays.copyOf(uvs, uvCount);
    }

    /** The front part of a triangle as a fan of 3 or 4 corners; returns how many. */
    private int clip(int t, int[] fan, int[] uvFan) {
      int n = 0;
      for (int k = 0; k < 3; k++) {
        int a = tri[3 * t + k];
        int b = tri[3 * t + (k + 1) % 3];
        if (side[a] >= 0) {
          fan[n] = a;
          uvFan[n++] = mesh.uv() == null ? 0 : mesh.uv().corners()[3 * t + k];
        }
        if (crosses(a, b)) {
          fan[n] = mesh.vertexCount() + Arrays.binarySearch(crossing, 0, crossings, key(a, b));
          if (uvCrossing != null) {
            long uvKey = (long) (3 * t + k) << 32 | mesh.uv().corners()[3 * t + k];
            uvFan[n] = mesh.uv().coords().length / 2 + Arrays.binarySearch(uvCrossing, uvKey);
          }
          n++;
        }
      }
      return n;
    }

    /** How far along from the lower-numbered end an edge meets the plane. */
    private float along(int a, int b) {
      return side[a] / (side[a] - side[b]);
    }

    private PlaneSplit assemble(int[] corners, int[] uvCorners, short[] material) {
      int old = mesh.vertexCount();
      float[] p = Arrays.copyOf(mesh.xyz(), 3 * (old + crossings));
      int[] colours =
          mesh.colours() == null ? null : Arrays.copyOf(mesh.colours(), old + crossings);
      for (int i = 0; i < crossings; i++) {
        int a = (int) (crossing[i] >>> 32);
        int b = (int) crossing[i];
        float f = along(a, b);
        for (int k = 0; k < 3; k++) {
          p[3 * (old + i) + k] =
              (float) (p[3 * a + k] + ((double) p[3 * b + k] - p[3 * a + k]) * f);
        }
        if (colours != null) {
          colours[old + i] = Colours.mix(colours[a], colours[b], f);
        }
      }
      int[] map = Submesh.compact(corners, old + crossings);
      int count = map[map.length - 1];
      float[] xyz = new float[3 * count];
      int[] colour = colours == null ? null : new int[count];
      boolean[] onPlane = new boolean[count];
      for (int v = 0; v < old + crossings; v++) {
        int w = map[v];
        if (w >= 0) {
          System.arraycopy(p, 3 * v, xyz, 3 * w, 3);
          if (colour != null) {
            colour[w] = colours[v];
          }
          onPlane[w] = v >= old || side[v] == 0;
        }
      }
      Uv uv = uvCorners == null ? null : cutUv(uvCorners);
      return new PlaneSplit(
          new Mesh(xyz, corners, colour, uv, material, mesh.materials()), onPlane);
    }

    private Uv cutUv(int[] uvCorners) {
      float[] old = mesh.uv().coords();
      int n = old.length / 2;
      float[] c = Arrays.copyOf(old, old.length + 2 * uvCrossing.length);
      for (int i = 0; i < uvCrossing.length; i++) {
        int corner = (int) (uvCrossing[i] >>> 32);
        int next = corner % 3 == 2 ? corner - 2 : corner + 1;
        float f = along(tri[corner], tri[next]);
        int ua = 2 * mesh.uv().corners()[corner];
        int ub = 2 * mesh.uv().corners()[next];
        c[2 * (n + i)] = old[ua] + (old[ub] - old[ua]) * f;
        c[2 * (n + i) + 1] = old[ua + 1] + (old[ub + 1] - old[ua + 1]) * f;
      }
      int[] map = Submesh.compact(uvCorners, c.length / 2);
      float[] coords = new float[2 * map[map.length - 1]];
      for (int v = 0; v < map.length - 1; v++) {
        if (map[v] >= 0) {
          coords[2 * map[v]] = c[2 * v];
          coords[2 * map[v] + 1] = c[2 * v + 1];
        }
      }
      return new Uv(coords, uvCorners);
    }
  }
}

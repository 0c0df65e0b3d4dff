package holotome.core.trim;

import holotome.core.geometry.Vec;
import holotome.core.image.Colours;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
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
record FieldSplit(Mesh mesh, boolean[] onCut) {
  private static final int GRAIN = 1 << 16;

  /** A field over the vertices, as a distance from where the cut runs. */
  @FunctionalInterface
  interface Field {
    double at(double x, double y, double z);
  }

  /** Cuts by a plane; keeps what its normal (of unit length) points to. */
  static FieldSplit byPlane(Mesh mesh, double[] point, double[] n, Work work) {
    return of(
        mesh,
        (x, y, z) -> (x - point[0]) * n[0] + (y - point[1]) * n[1] + (z - point[2]) * n[2],
        work);
  }

  static FieldSplit of(Mesh mesh, Field field, Work work) {
    return new Splitter(mesh, field, work.part(0.2, "Cutting")).run(work.part(0.8, "Cutting"));
  }

  private static final class Splitter {
    private final Mesh mesh;
    private final int[] tri;
    private final float[] side;
    private long[] crossing = new long[1024];
    private int crossings;
    private long[] uvCrossing;
    private final double hair;

    /** Positions of the crossings, 3 floats each. */
    private float[] crossed;

    /** Vertices that were made one with a lower-numbered one. */
    private final Map<Integer, Integer> weld = new HashMap<>();

    Splitter(Mesh mesh, Field field, Work work) {
      this.mesh = mesh;
      this.tri = mesh.triangles();
      float[] p = mesh.xyz();
      side = new float[mesh.vertexCount()];
      hair = 2e-7 * mesh.bounds().diagonal();
      Parallel.range(
          side.length,
          GRAIN,
          work,
          (from, to) -> {
            for (int v = from; v < to; v++) {
              double d = field.at(p[3 * v], p[3 * v + 1], p[3 * v + 2]);
              side[v] = Math.abs(d) <= hair ? 0 : (float) d;
            }
          });
    }

    FieldSplit run(Work work) {
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
      placeCrossings();
      weldCrossings(straddling);
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
          if (piece[0] == piece[i] || piece[i - 1] == piece[i] || piece[0] == piece[i - 1]) {
            continue;
          }
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
          fan[n] = welded(crossingOf(a, b));
          if (uvCrossing != null) {
            long uvKey = (long) (3 * t + k) << 32 | mesh.uv().corners()[3 * t + k];
            uvFan[n] = mesh.uv().coords().length / 2 + Arrays.binarySearch(uvCrossing, uvKey);
          }
          n++;
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

    /** How far along from the lower-numbered end an edge meets the cut. */
    private float along(int a, int b) {
      return side[a] / (side[a] - side[b]);
    }

    private FieldSplit assemble(int[] corners, int[] uvCorners, short[] material) {
      int old = mesh.vertexCount();
      int[] colours = mesh.colours() == null ? null : new int[crossings];
      for (int i = 0; i < crossings && colours != null; i++) {
        int a = (int) (crossing[i] >>> 32);
        int b = (int) crossing[i];
        colours[i] = Colours.mix(mesh.colours()[a], mesh.colours()[b], along(a, b));
      }
      float[] uv = uvCorners == null ? null : crossedUv();
      Assembly whole = Assembly.of(mesh, corners, uvCorners, material, crossed, colours, uv);
      boolean[] onCut = new boolean[whole.mesh().vertexCount()];
      for (int v = 0; v < old + crossings; v++) {
        int w = whole.map()[v];
        if (w >= 0) {
          onCut[w] = v >= old || side[v] == 0;
        }
      }
      return new FieldSplit(whole.mesh(), onCut);
    }

    private float[] crossedUv() {
      float[] old = mesh.uv().coords();
      float[] c = new float[2 * uvCrossing.length];
      for (int i = 0; i < uvCrossing.length; i++) {
        int corner = (int) (uvCrossing[i] >>> 32);
        int next = corner % 3 == 2 ? corner - 2 : corner + 1;
        float f = along(tri[corner], tri[next]);
        int ua = 2 * mesh.uv().corners()[corner];
        int ub = 2 * mesh.uv().corners()[next];
        c[2 * i] = old[ua] + (old[ub] - old[ua]) * f;
        c[2 * i + 1] = old[ua + 1] + (old[ub + 1] - old[ua + 1]) * f;
      }
      return c;
    }
  }
}

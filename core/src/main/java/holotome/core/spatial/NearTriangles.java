package holotome.core.spatial;

import holotome.core.array.Ranks;
import holotome.core.geometry.Box;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.task.Work;
import java.util.BitSet;

/**
 * The triangles whose boxes come near those of some: that share a cell of a grid of {@link #SIDE}
 * cells each way with them. A pass over the triangles on all cores; 2 MB.
 */
final class NearTriangles {
  private static final int SIDE = 256;

  private final float[] p;
  private final int[] tri;
  private final double[] low;
  private final double scale;
  private final BitSet cells = new BitSet(SIDE * SIDE * SIDE);

  private NearTriangles(Mesh mesh) {
    p = mesh.xyz();
    tri = mesh.triangles();
    Box b = mesh.bounds();
    low = b.min();
    double side = Math.max(b.width(), Math.max(b.depth(), b.height()));
    scale = side > 0 ? (SIDE - 1) / side : 1;
  }

  /**
   * Their numbers, rising; some themselves among them.
   *
   * @param stride of the others only every so many-th triangle of the mesh is asked
   */
  static int[] of(Mesh mesh, BitSet some, int stride, Work work) {
    if (some.isEmpty()) {
      return new int[0];
    }
    NearTriangles n = new NearTriangles(mesh);
    for (int t = some.nextSetBit(0); t >= 0; t = some.nextSetBit(t + 1)) {
      n.mark(t);
    }
    Ranks near =
        Submesh.chosen(
            mesh.triangleCount(), t -> (t % stride == 0 && n.isNear(t)) || some.get(t), work);
    int[] out = new int[near.size()];
    for (int i = 0; i < out.length; i++) {
      out[i] = near.select(i);
    }
    return out;
  }

  private int at(float x, int k) {
    return Math.clamp((int) ((x - low[k]) * scale), 0, SIDE - 1);
  }

  private int from(int t, int k) {
    return at(
        Math.min(
            p[3 * tri[3 * t] + k], Math.min(p[3 * tri[3 * t + 1] + k], p[3 * tri[3 * t + 2] + k])),
        k);
  }

  private int to(int t, int k) {
    return at(
        Math.max(
            p[3 * tri[3 * t] + k], Math.max(p[3 * tri[3 * t + 1] + k], p[3 * tri[3 * t + 2] + k])),
        k);
  }

  private void mark(int t) {
    int x0 = from(t, 0);
    int x1 = to(t, 0);
    int y1 = to(t, 1);
    int z1 = to(t, 2);
    for (int z = from(t, 2); z <= z1; z++) {
      for (int y = from(t, 1); y <= y1; y++) {
        cells.set((z * SIDE + y) * SIDE + x0, (z * SIDE + y) * SIDE + x1 + 1);
      }
    }
  }

  private boolean isNear(int t) {
    int x0 = from(t, 0);
    int x1 = to(t, 0);
    int y0 = from(t, 1);
    int y1 = to(t, 1);
    int z1 = to(t, 2);
    for (int z = from(t, 2); z <= z1; z++) {
      for (int y = y0; y <= y1; y++) {
        int row = (z * SIDE + y) * SIDE;
        for (int x = x0; x <= x1; x++) {
          if (cells.get(row + x)) {
            return true;
          }
        }
      }
    }
    return false;
  }
}

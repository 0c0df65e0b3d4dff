package holotome.view.cluster;

import holotome.core.geometry.Box;
import holotome.core.mesh.Mesh;
import java.util.Arrays;

/**
 * Nested grids over a cube around a mesh. A cell at the finest grid is three numbers of 21 bits in
 * one long, x highest; a cell of a grid twice as coarse has each number halved.
 *
 * <p>A node at depth d is a cube of side / 2^d and is {@link #WIDE} cells wide in its own grid.
 */
final class Cells {
  static final int BITS = 21;

  /** A node is 2^4 = 16 of its cells wide. */
  static final int SPLIT = 4;

  /** Nodes are no deeper: their grid would be finer than the finest. */
  static final int DEEPEST = BITS - SPLIT;

  /** So many vertices tell where most of them are. */
  private static final int SAMPLE = 1 << 16;

  /** Of a box so many times as wide as all but a hundredth of the vertices, most is left out. */
  private static final double FAR = 256;

  private static final long LAST = (1L << BITS) - 1;

  private final double x;
  private final double y;
  private final double z;
  private final double k;

  Cells(Box b) {
    double side = Math.max(b.width(), Math.max(b.depth(), b.height()));
    // A little room, so that what is added at the rim by a cut or a fill still has its cell.
    double room = 0.01 * Math.max(side, 1e-30);
    x = b.minX() - room;
    y = b.minY() - room;
    z = b.minZ() - room;
    k = (LAST + 1) / (Math.max(side, 1e-30) + 2 * room);
  }

  /**
   * Cells for a mesh. Where a few vertices lie so far off that the rest would share a handful of
   * cells, the cube is laid around the rest, and those count to its nearest cells.
   */
  static Cells around(Mesh mesh) {
    Box b = mesh.bounds();
    int n = Math.min(SAMPLE, mesh.vertexCount());
    double[] low = new double[3];
    double[] high = new double[3];
    double side = 0;
    float[] along = new float[n];
    for (int k = 0; k < 3 && n > 0; k++) {
      for (int i = 0; i < n; i++) {
        along[i] = mesh.xyz()[3 * (int) ((long) i * mesh.vertexCount() / n) + k];
      }
      Arrays.sort(along);
      low[k] = along[n / 200];
      high[k] = along[n - 1 - n / 200];
      side = Math.max(side, high[k] - low[k]);
    }
    double whole = Math.max(b.width(), Math.max(b.depth(), b.height()));
    if (side == 0 || whole <= FAR * side) {
      return new Cells(b);
    }
    return new Cells(
        new Box(
            low[0] - side,
            low[1] - side,
            low[2] - side,
            high[0] + side,
            high[1] + side,
            high[2] + side));
  }

  /** How wide a cell of the grid of a node at a depth is. */
  double width(int depth) {
    return (1L << DEEPEST - depth) / k;
  }

  /** The finest cell of a vertex; places outside the cube count to the nearest cell. */
  long of(float[] xyz, int vertex) {
    return part(xyz[3 * vertex] - x) << 2 * BITS
        | part(xyz[3 * vertex + 1] - y) << BITS
        | part(xyz[3 * vertex + 2] - z);
  }

  private long part(double along) {
    long c = (long) (along * k);
    return c < 0 ? 0 : c > LAST ? LAST : c;
  }

  boolean holds(float[] xyz, int vertex) {
    return inside(xyz[3 * vertex] - x)
        && inside(xyz[3 * vertex + 1] - y)
        && inside(xyz[3 * vertex + 2] - z);
  }

  private boolean inside(double along) {
    double c = along * k;
    return c >= 0 && c < LAST + 1;
  }

  /** The cell that holds this one in a grid coarser by so many halvings. */
  static long coarser(long cell, int halvings) {
    long m = LAST >> halvings;
    return cell >> halvings & (m << 2 * BITS | m << BITS | m);
  }

  /** The node at a depth that a finest cell lies in. */
  static long node(long finest, int depth) {
    return coarser(finest, BITS - depth);
  }

  /** Which of the eight children of its node at the depth above a node is, 0 to 7. */
  static int octant(long node) {
    return (int) (node >> 2 * BITS & 1) << 2 | (int) (node >> BITS & 1) << 1 | (int) (node & 1);
  }

  static long child(long node, int octant) {
    return node << 1
        | (long) (octant >> 2) << 2 * BITS
        | (long) (octant >> 1 & 1) << BITS
        | octant & 1;
  }

  /** A finest cell's place along the space-filling curve of nodes at a depth of at most ten. */
  static int curve(long finest, int depth) {
    int out = 0;
    for (int b = BITS - 1; b >= BITS - depth; b--) {
      out =
          out << 3
              | (int) (finest >> 2 * BITS + b & 1) << 2
              | (int) (finest >> BITS + b & 1) << 1
              | (int) (finest >> b & 1);
    }
    return out;
  }
}

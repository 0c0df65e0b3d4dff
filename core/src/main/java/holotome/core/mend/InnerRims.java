package holotome.core.mend;

import holotome.core.mesh.Mesh;
import holotome.core.topology.Borders;
import holotome.core.triangulation.Triangulator;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Set;

/**
 * Islands within holes: pieces of the surface that lie in a hole as if the patch went through them.
 * Their borders belong to the hole, so that the patch joins them instead of running over them.
 *
 * <p>An island's border lies, seen across the hole, wholly inside the hole's, near the plane of it,
 * and faces the way the patch does. O(L²) in the borders for comparing their boxes, and O(n m) in
 * the points of those that lie in one another.
 */
final class InnerRims {
  /**
   * How far from the plane of a hole an island may lie, in parts of the square root of its area.
   */
  private static final double NEAR = 0.25;

  /** What is seen of an island across the hole, at least, as a share of its border's length. */
  private static final double ROUND = 0.02;

  /** A border beside which the surface faces away from the patch so far goes round it outside. */
  private static final double TURNED_AWAY = -0.5;

  /** A hole with fewer edges has no islands. */
  private static final int FEW = 6;

  private final Mesh mesh;
  private final int[][] loops;
  private final double[] length;
  private final float[][] boxes;

  private InnerRims(Mesh mesh, int[][] loops) {
    this.mesh = mesh;
    this.loops = loops;
    length = new double[loops.length];
    boxes = new float[loops.length][];
    for (int i = 0; i < loops.length; i++) {
      length[i] = Borders.perimeter(mesh, loops[i]);
      boxes[i] = box(Borders.vertices(mesh, loops[i]));
    }
  }

  /** How many borders half-edges go round, one after the other. */
  static int borders(Mesh mesh, int[] loop) {
    return HoleRing.of(mesh, loop).begins().length;
  }

  /**
   * Holes with the borders of the islands within behind their own.
   *
   * @param loops all borders
   * @param wanted those that are to be filled
   * @return as many as are wanted, less those that are islands' in another
   */
  static List<int[]> joined(Mesh mesh, int[][] loops, List<int[]> wanted) {
    if (loops.length < 2) {
      return wanted;
    }
    InnerRims rims = new InnerRims(mesh, loops);
    Set<int[]> asked = Collections.newSetFromMap(new IdentityHashMap<>());
    asked.addAll(wanted);
    int[] around = rims.around(asked);
    List<int[]> out = new ArrayList<>();
    for (int i = 0; i < loops.length; i++) {
      if (around[i] < 0 && asked.contains(loops[i])) {
        int[] all = loops[i];
        for (int j = 0; j < loops.length; j++) {
          if (around[j] == i) {
            int n = all.length;
            all = Arrays.copyOf(all, n + loops[j].length);
            System.arraycopy(loops[j], 0, all, n, loops[j].length);
          }
        }
        // Where the borders cannot be joined each is filled for itself.
        if (all == loops[i] || new FlatRing(mesh, HoleRing.of(mesh, all)).triangulated() != null) {
          out.add(all);
        } else {
          out.add(loops[i]);
          for (int j = 0; j < loops.length; j++) {
            if (around[j] == i && asked.contains(loops[j])) {
              out.add(loops[j]);
            }
          }
        }
      }
    }
    return out;
  }

  /** Per border the smallest wanted one that it lies in; -1 for none. */
  private int[] around(Set<int[]> wanted) {
    int[] out = new int[loops.length];
    Arrays.fill(out, -1);
    for (int i = 0; i < loops.length; i++) {
      if (loops[i].length < FEW || !wanted.contains(loops[i])) {
        continue;
      }
      FlatRing flat = null;
      for (int j = 0; j < loops.length; j++) {
        boolean may = j != i && length[j] < length[i] && isIn(boxes[j], boxes[i], length[i]);
        if (!may || out[j] >= 0 && length[out[j]] < length[i]) {
          continue;
        }
        flat = flat == null ? new FlatRing(mesh, HoleRing.of(mesh, loops[i])) : flat;
        if (flat.facing(mesh, loops[i]) > TURNED_AWAY && liesIn(flat, j)) {
          out[j] = i;
        }
      }
    }
    // A border in an island's is none of the hole around that.
    for (int j = 0; j < out.length; j++) {
      if (out[j] >= 0 && out[out[j]] >= 0) {
        out[j] = -1;
      }
    }
    return out;
  }

  private boolean liesIn(FlatRing flat, int j) {
    double area = Triangulator.area(flat.outline());
    if (!(area > 0)) {
      return false;
    }
    HoleRing island = HoleRing.of(mesh, loops[j]);
    double near = Math.max(NEAR * Math.sqrt(area), 3 * flat.rms());
    if (flat.farthest(mesh, island.vertices()) > near || !(flat.facing(mesh, loops[j]) > 0)) {
      return false;
    }
    double[] laid = flat.laid(mesh, island.vertices());
    if (!(Triangulator.area(laid) < -ROUND * length[j] * length[j])) {
      return false;
    }
    for (int k = 0; k < laid.length; k += 2) {
      if (!isInside(flat.outline(), laid[k], laid[k + 1])) {
        return false;
      }
    }
    return true;
  }

  private static boolean isInside(double[] ring, double x, double y) {
    boolean in = false;
    for (int i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      if (ring[i + 1] > y != ring[j + 1] > y
          && x < (ring[j] - ring[i]) * (y - ring[i + 1]) / (ring[j + 1] - ring[i + 1]) + ring[i]) {
        in = !in;
      }
    }
    return in;
  }

  private float[] box(int[] vertices) {
    float[] out = new float[6];
    Arrays.fill(out, 0, 3, Float.POSITIVE_INFINITY);
    Arrays.fill(out, 3, 6, Float.NEGATIVE_INFINITY);
    for (int v : vertices) {
      for (int k = 0; k < 3; k++) {
        out[k] = Math.min(out[k], mesh.xyz()[3 * v + k]);
        out[3 + k] = Math.max(out[3 + k], mesh.xyz()[3 * v + k]);
      }
    }
    return out;
  }

  private static boolean isIn(float[] inner, float[] outer, double length) {
    double room = NEAR * length;
    for (int k = 0; k < 3; k++) {
      if (inner[k] < outer[k] - room || inner[3 + k] > outer[3 + k] + room) {
        return false;
      }
    }
    return true;
  }
}

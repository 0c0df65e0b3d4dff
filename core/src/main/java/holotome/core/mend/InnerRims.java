package holotome.core.mend;

import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Borders;
import holotome.core.triangulation.Triangulator;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Set;
import java.util.stream.IntStream;

/**
 * Islands within holes: pieces of the surface that lie in a hole as if the patch went through them.
 * Their borders belong to the hole, so that the patch joins them instead of running over them.
 *
 * <p>An island's border lies, seen across the hole, wholly inside the hole's, near the plane of it,
 * and faces the way the patch does. About O(L log L) in the borders, more the more of them lie
 * beside each other along x, and O(n m) in the points of those whose boxes lie in one another.
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

  /** The borders by where their boxes begin along x. */
  private final Integer[] order;

  private InnerRims(Mesh mesh, int[][] loops) {
    this.mesh = mesh;
    this.loops = loops;
    length = new double[loops.length];
    boxes = new float[loops.length][];
    for (int i = 0; i < loops.length; i++) {
      length[i] = Borders.perimeter(mesh, loops[i]);
      boxes[i] = box(Borders.vertices(mesh, loops[i]));
    }
    order = new Integer[loops.length];
    Arrays.setAll(order, i -> i);
    Arrays.sort(order, (a, b) -> Float.compare(boxes[a][0], boxes[b][0]));
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
  static List<int[]> joined(Mesh mesh, int[][] loops, List<int[]> wanted, Work work) {
    if (loops.length < 2) {
      return wanted;
    }
    InnerRims rims = new InnerRims(mesh, loops);
    Set<int[]> asked = Collections.newSetFromMap(new IdentityHashMap<>());
    asked.addAll(wanted);
    int[] around = rims.around(asked, work);
    List<List<int[]>> within = new ArrayList<>();
    for (int i = 0; i < loops.length; i++) {
      within.add(new ArrayList<>());
    }
    for (int i = 0; i < loops.length; i++) {
      if (around[i] >= 0) {
        within.get(around[i]).add(loops[i]);
      }
    }
    List<int[]> out = new ArrayList<>();
    for (int i = 0; i < loops.length; i++) {
      if (around[i] < 0 && asked.contains(loops[i])) {
        int[] all = rims.behind(loops[i], within.get(i));
        out.add(all);
        // Where the borders cannot be joined each is filled for itself.
        if (all == loops[i]) {
          within.get(i).stream().filter(asked::contains).forEach(out::add);
        }
      }
    }
    return out;
  }

  /** A border with others behind it; itself where these cannot be joined. */
  private int[] behind(int[] loop, List<int[]> within) {
    if (within.isEmpty()) {
      return loop;
    }
    int[] all =
        IntStream.concat(Arrays.stream(loop), within.stream().flatMapToInt(Arrays::stream))
            .toArray();
    return new FlatRing(mesh, HoleRing.of(mesh, all)).triangulated() == null ? loop : all;
  }

  /** Per border the smallest wanted one that it lies in; -1 for none. */
  private int[] around(Set<int[]> wanted, Work work) {
    int[] out = new int[loops.length];
    Arrays.fill(out, -1);
    for (int i = 0; i < loops.length; i++) {
      if (loops[i].length < FEW || !wanted.contains(loops[i])) {
        continue;
      }
      work.check();
      FlatRing flat = null;
      float room = (float) (NEAR * length[i]);
      for (int k = firstFrom(boxes[i][0] - room);
          k < order.length && boxes[order[k]][0] <= boxes[i][3] + room;
          k++) {
        int j = order[k];
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

  /** The first place in the order from which on boxes begin at or behind a place along x. */
  private int firstFrom(float x) {
    int low = 0;
    int high = order.length;
    while (low < high) {
      int mid = (low + high) >>> 1;
      if (boxes[order[mid]][0] < x) {
        low = mid + 1;
      } else {
        high = mid;
      }
    }
    return low;
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
      if (!Triangulator.contains(flat.outline(), laid[k], laid[k + 1])) {
        return false;
      }
    }
    return true;
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

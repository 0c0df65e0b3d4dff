package holotome.core.mend;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;

/**
 * A mesh that was opened, by taking triangles away or by a cut, and is to be closed again there and
 * nowhere else.
 *
 * @param mesh what is left
 * @param rim its vertices along what was opened
 */
record Opening(Mesh mesh, BitSet rim) {

  /** What is left without some triangles; O(T). */
  static Opening of(Mesh mesh, BitSet away, Work work) {
    int[] tri = mesh.triangles();
    BitSet along = new BitSet(mesh.vertexCount());
    BitSet used = new BitSet(mesh.vertexCount());
    for (int t = 0; t < mesh.triangleCount(); t++) {
      BitSet to = away.get(t) ? along : used;
      for (int c = 3 * t; c < 3 * t + 3; c++) {
        to.set(tri[c]);
      }
    }
    Mesh left = Submesh.of(mesh, t -> !away.get(t), work);
    // Vertices that stay keep their order.
    BitSet rim = new BitSet(left.vertexCount());
    int number = 0;
    for (int v = used.nextSetBit(0); v >= 0; v = used.nextSetBit(v + 1)) {
      rim.set(number++, along.get(v));
    }
    return new Opening(left, rim);
  }

  /** The same with fans parted that touch in a point. */
  Opening parted(Work work) {
    Mesh split = FanSplit.split(mesh, new ArrayList<>(), work);
    BitSet both = (BitSet) rim.clone();
    for (int c = 0; split != mesh && c < split.triangles().length; c++) {
      if (rim.get(mesh.triangles()[c])) {
        both.set(split.triangles()[c]);
      }
    }
    return new Opening(split, both);
  }

  /** The borders of which at least so large a share lies along what was opened. */
  List<int[]> loops(Adjacency adjacency, double share) {
    List<int[]> out = new ArrayList<>();
    for (int[] loop : Borders.of(adjacency).loops()) {
      int along = 0;
      for (int h : loop) {
        along += rim.get(mesh.triangles()[h]) ? 1 : 0;
      }
      if (along >= share * loop.length) {
        out.add(loop);
      }
    }
    return out;
  }

  /**
   * Smooth fillings of borders, each beside its own; null for one that cannot be filled.
   *
   * @param grade see {@link HoleFill#of}
   */
  List<HoleFill> fills(Adjacency adjacency, List<int[]> loops, double grade, Work work) {
    return new ArrayList<>(
        Arrays.asList(HoleFill.all(mesh, adjacency, loops, loop -> true, grade, work)));
  }

  /** The mesh closed smoothly along what was opened, where it can be. */
  Mesh closed(double share, Work work) {
    Adjacency adjacency =
        Adjacency.of(mesh, work.part(0.4, CoreWords.of("work.finding-neighbours")));
    List<int[]> loops = loops(adjacency, share);
    List<HoleFill> fills =
        fills(adjacency, loops, 1, work.part(0.4, CoreWords.of("work.filling-holes")));
    fills.removeIf(f -> f == null);
    return FillHoles.joined(mesh, fills, work.part(0.2, CoreWords.of("work.filling-holes")));
  }
}

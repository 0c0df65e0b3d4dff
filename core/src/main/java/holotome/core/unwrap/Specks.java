package holotome.core.unwrap;

import holotome.core.array.DisjointSets;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import java.util.BitSet;

/**
 * Regions of a surface without specks: what is too small of the found goes, what is too small of
 * the rest within it comes in. O(T).
 */
final class Specks {
  /** The least share of the surface that a region has. */
  private static final double LEAST = 5e-4;

  private Specks() {}

  /** Takes small regions out of a set of triangles, and then small gaps. */
  static void fill(Mesh mesh, BitSet set, Work work) {
    int[] twin = Adjacency.of(mesh, work).twin();
    turn(mesh, twin, set, true);
    turn(mesh, twin, set, false);
  }

  private static void turn(Mesh mesh, int[] twin, BitSet set, boolean within) {
    int n = mesh.triangleCount();
    DisjointSets sets = new DisjointSets(n);
    boolean[] ends = new boolean[n];
    for (int h = 0; h < twin.length; h++) {
      if (twin[h] >= 0 && set.get(h / 3) == set.get(twin[h] / 3)) {
        sets.join(h / 3, twin[h] / 3);
      }
    }
    double[] area = new double[n];
    double all = 0;
    for (int t = 0; t < n; t++) {
      double a = Vec.length(Measures.cross(mesh, t));
      area[sets.find(t)] += a;
      all += a;
    }
    // What touches nothing of the other kind is an island of the mesh: no speck in anything.
    for (int h = 0; h < twin.length; h++) {
      if (twin[h] >= 0 && set.get(h / 3) != set.get(twin[h] / 3)) {
        ends[sets.find(h / 3)] = true;
      }
    }
    BitSet was = (BitSet) set.clone();
    for (int t = 0; t < n; t++) {
      int s = sets.find(t);
      if (was.get(t) == within && ends[s] && area[s] < LEAST * all) {
        set.flip(t);
      }
    }
  }
}

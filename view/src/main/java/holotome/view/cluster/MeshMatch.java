package holotome.view.cluster;

import holotome.core.mesh.Mesh;
import holotome.core.task.Work;

/**
 * Which triangles of one mesh are still there in another, told by their corners' places and
 * colours. Most edits take triangles out and add some at the end, and keep the others in their
 * order; going back on one puts triangles in between and takes some off the end. One pass over both
 * finds either, O(T); a bit and a half per triangle of the larger.
 */
final class MeshMatch {
  private static final int OFTEN = 1 << 18;

  /**
   * Where the new mesh is larger: its triangles that were there before, the first of the old ones
   * in turn. Else the old triangles that are there still, the first of the new ones in turn.
   */
  private final Ranks common;

  private final boolean grows;
  private final int[] added;

  private MeshMatch(Ranks common, boolean grows, int[] added) {
    this.common = common;
    this.grows = grows;
    this.added = added;
  }

  static MeshMatch of(Mesh old, Mesh next, Work work) {
    int n = next.triangleCount();
    boolean grows = n > old.triangleCount();
    Ranks common = grows ? common(next, old, work) : common(old, next, work);
    int[] added = new int[n - common.size()];
    int k = 0;
    for (int t = grows ? 0 : common.size(); t < n; t++) {
      if (!grows || !common.has(t)) {
        added[k++] = t;
      }
    }
    return new MeshMatch(common, grows, added);
  }

  /** The triangles of the larger mesh that are those of the smaller one, in turn. */
  private static Ranks common(Mesh larger, Mesh smaller, Work work) {
    int n = larger.triangleCount();
    Ranks common = new Ranks(n);
    int j = 0;
    for (int i = 0; i < n; i++) {
      if (j < smaller.triangleCount() && same(larger, i, smaller, j)) {
        common.add(i);
        j++;
      }
      if (i % OFTEN == 0) {
        work.check();
      }
    }
    return common.done();
  }

  /** The number in the new mesh of a triangle of the old one; -1 where it is gone. */
  int to(int triangle) {
    if (grows) {
      return triangle < common.size() ? common.select(triangle) : -1;
    }
    return common.has(triangle) ? common.rank(triangle) : -1;
  }

  /** New triangles that match no old one, ascending. */
  int[] added() {
    return added;
  }

  private static boolean same(Mesh a, int s, Mesh b, int t) {
    for (int k = 0; k < 3; k++) {
      int v = a.triangles()[3 * s + k];
      int w = b.triangles()[3 * t + k];
      for (int i = 0; i < 3; i++) {
        if (a.xyz()[3 * v + i] != b.xyz()[3 * w + i]) {
          return false;
        }
      }
      if (a.colours() != null && b.colours() != null && a.colours()[v] != b.colours()[w]) {
        return false;
      }
    }
    return true;
  }
}

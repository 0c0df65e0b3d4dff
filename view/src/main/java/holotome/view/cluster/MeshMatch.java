package holotome.view.cluster;

import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import java.util.Arrays;

/**
 * Which triangles of one mesh are still there in another, told by their corners' places and
 * colours. Most edits take triangles out and add some at the end, and keep the others in their
 * order: one pass over both finds that, O(T).
 *
 * @param to per old triangle its number in the new mesh; -1 where it is gone
 * @param added new triangles that match no old one, ascending
 */
record MeshMatch(int[] to, int[] added) {
  private static final int OFTEN = 1 << 18;

  static MeshMatch of(Mesh old, Mesh next, Work work) {
    int[] to = new int[old.triangleCount()];
    int n = next.triangleCount();
    int j = 0;
    for (int i = 0; i < to.length; i++) {
      if (j < n && same(old, i, next, j)) {
        to[i] = j++;
      } else {
        to[i] = -1;
      }
      if (i % OFTEN == 0) {
        work.check();
      }
    }
    int[] added = new int[n - j];
    int first = j;
    Arrays.setAll(added, k -> first + k);
    return new MeshMatch(to, added);
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

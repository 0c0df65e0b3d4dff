package holotome.core.mend;

import holotome.core.topology.VertexFans;
import java.util.function.IntConsumer;

/**
 * Vertices around which the triangles form more than one fan, told from each vertex's triangles
 * alone: those that share an edge at it are joined. O(T) for fans of common size.
 */
final class Pinches {
  private Pinches() {}

  static void find(int[] tri, VertexFans fans, IntConsumer found) {
    int[] parent = new int[64];
    int[] other = new int[128];
    int n = fans.start().length - 1;
    for (int v = 0; v < n; v++) {
      int count = fans.count(v);
      if (count < 2) {
        continue;
      }
      if (count > parent.length) {
        parent = new int[2 * count];
        other = new int[4 * count];
      }
      if (fansAt(v, tri, fans, parent, other) > 1) {
        found.accept(v);
      }
    }
  }

  private static int fansAt(int v, int[] tri, VertexFans fans, int[] parent, int[] other) {
    int count = fans.count(v);
    int from = fans.start()[v];
    int sets = count;
    for (int i = 0; i < count; i++) {
      int t = 3 * fans.triangles()[from + i];
      int k = tri[t] == v ? 0 : tri[t + 1] == v ? 1 : 2;
      other[2 * i] = tri[t + (k + 1) % 3];
      other[2 * i + 1] = tri[t + (k + 2) % 3];
      parent[i] = i;
      // Few triangles: compared in pairs, the last ones first, which are mostly neighbours.
      for (int j = i - 1; j >= 0; j--) {
        if (other[2 * j] == other[2 * i]
            || other[2 * j + 1] == other[2 * i + 1]
            || other[2 * j] == other[2 * i + 1]
            || other[2 * j + 1] == other[2 * i]) {
          int a = root(parent, i);
          int b = root(parent, j);
          if (a != b) {
            parent[a] = b;
            sets--;
          }
        }
      }
    }
    return sets;
  }

  private static int root(int[] parent, int at) {
    int x = at;
    while (parent[x] != x) {
      x = parent[x];
    }
    return x;
  }
}

package holotome.core.topology;

import holotome.core.memory.Spare;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.util.Arrays;

/**
 * Joins triangles that share an edge, by union-find with path halving (Tarjan, 1975) on all cores:
 * the larger root is always hung under the smaller one, by comparing and setting, so that each
 * set's root is its lowest triangle whoever comes first.
 *
 * <p>Edges are dealt out by their lower vertex, a share of all vertices at a time, so that no more
 * than 4 bytes a triangle, 64 MB a thread, or an eighth of the free memory a thread are needed
 * beside the result.
 */
final class EdgeJoin {
  private static final VarHandle PARENT = MethodHandles.arrayElementVarHandle(int[].class);

  /** So many shares at most: each is two passes over all triangles. */
  private static final int SHARES = 14;

  /** As many edges a share take 64 MB: what is smaller needs no further shares. */
  private static final long EDGES = 1 << 23;

  /** Bytes an edge takes while its share is joined. */
  private static final int BYTES = 8;

  /** Smaller shares are not worth a pass. */
  private static final int LEAST = 1 << 19;

  /** More edges than these at one vertex are sorted, not compared in pairs. */
  private static final int FEW = 48;

  private final int[] tri;
  private final int[] parent;

  private EdgeJoin(int[] tri) {
    this.tri = tri;
    parent = new int[tri.length / 3];
    Arrays.setAll(parent, t -> t);
  }

  /** Per triangle the lowest one of its set. */
  static int[] roots(int[] tri, int vertices, Work work) {
    EdgeJoin j = new EdgeJoin(tri);
    // The more room, the fewer passes; what comes out is the same.
    long edges = Math.max(EDGES, Spare.free() / 8 / BYTES);
    int wanted = Math.clamp((tri.length + edges - 1) / edges, 2, SHARES);
    int share = Math.max(LEAST, vertices / wanted + 1);
    int shares = Parallel.chunks(vertices, share);
    Parallel.range(
        shares,
        1,
        work.part(0.9, CoreWords.of("work.finding-islands")),
        (from, to) -> {
          for (int s = from; s < to; s++) {
            int first = s * share;
            j.join(first, (int) Math.min(vertices, (long) first + share), work);
          }
        });
    Parallel.range(
        j.parent.length,
        1 << 16,
        work.part(0.1, CoreWords.of("work.finding-islands")),
        (from, to) -> {
          for (int t = from; t < to; t++) {
            j.parent[t] = j.find(t);
          }
        });
    return j.parent;
  }

  /** Joins at all edges whose lower vertex is one of {@code from ... to - 1}. */
  private void join(int from, int to, Work work) {
    int[] start = new int[to - from + 1];
    for (int h = 0; h < tri.length; h++) {
      int low = Math.min(tri[h], tri[next(h)]);
      if (low >= from && low < to) {
        start[low - from + 1]++;
      }
    }
    work.check();
    for (int v = 0; v < to - from; v++) {
      start[v + 1] += start[v];
    }
    int[] other = new int[start[to - from]];
    int[] triangle = new int[other.length];
    int[] fill = Arrays.copyOf(start, to - from);
    for (int h = 0; h < tri.length; h++) {
      int a = tri[h];
      int b = tri[next(h)];
      int low = Math.min(a, b);
      if (low >= from && low < to) {
        int at = fill[low - from]++;
        // An edge from a vertex to itself joins nothing.
        other[at] = a == b ? -1 : Math.max(a, b);
        triangle[at] = h / 3;
      }
    }
    work.check();
    for (int v = 0; v < to - from; v++) {
      if (start[v + 1] - start[v] > FEW) {
        joinSorted(other, triangle, start[v], start[v + 1]);
      } else {
        joinPairs(other, triangle, start[v], start[v + 1]);
      }
    }
  }

  private void joinPairs(int[] other, int[] triangle, int from, int to) {
    for (int i = from + 1; i < to; i++) {
      int u = other[i];
      for (int j = from; u >= 0 && j < i; j++) {
        if (other[j] == u) {
          union(triangle[i], triangle[j]);
          break;
        }
      }
    }
  }

  private void joinSorted(int[] other, int[] triangle, int from, int to) {
    long[] keys = new long[to - from];
    for (int i = from; i < to; i++) {
      keys[i - from] = (long) other[i] << 32 | triangle[i];
    }
    Arrays.sort(keys);
    for (int i = 1; i < keys.length; i++) {
      if (keys[i] >= 0 && keys[i] >>> 32 == keys[i - 1] >>> 32) {
        union((int) keys[i], (int) keys[i - 1]);
      }
    }
  }

  private static int next(int h) {
    return h % 3 == 2 ? h - 2 : h + 1;
  }

  private int find(int t) {
    int at = t;
    while (true) {
      int up = (int) PARENT.getOpaque(parent, at);
      if (up == at) {
        return at;
      }
      int above = (int) PARENT.getOpaque(parent, up);
      if (above != up) {
        PARENT.weakCompareAndSetPlain(parent, at, up, above);
      }
      at = above;
    }
  }

  private void union(int a, int b) {
    int x = find(a);
    int y = find(b);
    while (x != y) {
      int low = Math.min(x, y);
      int high = Math.max(x, y);
      if (PARENT.compareAndSet(parent, high, high, low)) {
        return;
      }
      x = find(low);
      y = find(high);
    }
  }
}

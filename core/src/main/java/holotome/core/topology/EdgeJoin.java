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
 * beside the result. A share looks only at the blocks of triangles that have any of its vertices:
 * few, where neighbours lie near each other in the file, as scans are written.
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

  /** Where more than one edge for so many half-edges has many triangles all edges are sorted. */
  private static final int CROWDED = 12;

  /** Half-edges a block: a whole number of triangles. */
  private static final int BLOCK = 3 << 12;

  private static final int[] NEXT = {1, 2, 0};

  private final int[] tri;
  private final int[] parent;

  /** The lowest and the highest vertex of each block. */
  private int[] lowest;

  private int[] highest;

  private EdgeJoin(int[] tri) {
    this.tri = tri;
    parent = new int[tri.length / 3];
    Parallel.range(
        parent.length,
        1 << 18,
        Work.unwatched(),
        (from, to) -> {
          for (int t = from; t < to; t++) {
            parent[t] = t;
          }
        });
  }

  private void findBlocks() {
    int blocks = Parallel.chunks(tri.length, BLOCK);
    lowest = new int[blocks];
    highest = new int[blocks];
    Parallel.chunked(
        tri.length,
        BLOCK,
        Work.unwatched(),
        (block, from, to) -> {
          int low = Integer.MAX_VALUE;
          int high = -1;
          for (int c = from; c < to; c++) {
            low = Math.min(low, tri[c]);
            high = Math.max(high, tri[c]);
          }
          lowest[block] = low;
          highest[block] = high;
        });
  }

  /** Per triangle the lowest one of its set. */
  static int[] roots(int[] tri, int vertices, Work work) {
    EdgeJoin j = new EdgeJoin(tri);
    j.joinAll(vertices, work.part(0.9, CoreWords.of("work.finding-islands")));
    return j.roots(work.part(0.1, CoreWords.of("work.finding-islands")));
  }

  /** The same where neighbours are known: no edge is looked for but those of many triangles. */
  static int[] roots(Adjacency adjacency, Work work) {
    int[] tri = adjacency.mesh().triangles();
    int[] twin = adjacency.twin();
    if (CROWDED * adjacency.crowdedEdges() > tri.length) {
      return roots(tri, adjacency.mesh().vertexCount(), work);
    }
    EdgeJoin j = new EdgeJoin(tri);
    Parallel.range(
        tri.length,
        BLOCK,
        work.part(0.9, CoreWords.of("work.finding-islands")),
        (from, to) -> {
          for (int h = from; h < to; h++) {
            int other = twin[h] >= 0 ? twin[h] : Adjacency.misfit(twin[h]);
            if (other > h && tri[h] != tri[Adjacency.next(h)]) {
              j.union(h / 3, other / 3);
            }
          }
        });
    if (adjacency.crowdedEdges() > 0) {
      j.joinCrowded(twin);
    }
    return j.roots(work.part(0.1, CoreWords.of("work.finding-islands")));
  }

  /** Joins at edges of more than two triangles, by a table of their ends. */
  private void joinCrowded(int[] twin) {
    int n = 0;
    for (int t : twin) {
      n += t == Adjacency.CROWDED ? 1 : 0;
    }
    int mask = Integer.highestOneBit(n) * 4 - 1;
    long[] ends = new long[mask + 1];
    int[] triangle = new int[mask + 1];
    for (int h = 0; h < twin.length; h++) {
      int a = tri[h];
      int b = tri[Adjacency.next(h)];
      if (twin[h] != Adjacency.CROWDED || a == b) {
        continue;
      }
      long key = (long) Math.min(a, b) << 32 | Math.max(a, b);
      int slot = (int) (key * 0x9E3779B97F4A7C15L >>> 32) & mask;
      // The higher end is never 0: neither is a key.
      while (ends[slot] != 0 && ends[slot] != key) {
        slot = slot + 1 & mask;
      }
      if (ends[slot] == 0) {
        ends[slot] = key;
        triangle[slot] = h / 3;
      } else {
        union(h / 3, triangle[slot]);
      }
    }
  }

  private int[] roots(Work work) {
    Parallel.range(
        parent.length,
        1 << 16,
        work,
        (from, to) -> {
          for (int t = from; t < to; t++) {
            parent[t] = find(t);
          }
        });
    return parent;
  }

  /** How many sets there are. */
  static int count(int[] tri, int vertices, Work work) {
    EdgeJoin j = new EdgeJoin(tri);
    j.joinAll(vertices, work);
    int n = 0;
    for (int t = 0; t < j.parent.length; t++) {
      n += j.parent[t] == t ? 1 : 0;
    }
    return n;
  }

  private void joinAll(int vertices, Work work) {
    findBlocks();
    // The more room, the fewer passes; what comes out is the same.
    long edges = Math.max(EDGES, Spare.free() / 8 / BYTES);
    int wanted = Math.clamp((tri.length + edges - 1) / edges, 2, SHARES);
    int share = Math.max(LEAST, vertices / wanted + 1);
    Parallel.range(
        Parallel.chunks(vertices, share),
        1,
        work,
        (from, to) -> {
          for (int s = from; s < to; s++) {
            int first = s * share;
            join(first, (int) Math.min(vertices, (long) first + share), work);
          }
        });
  }

  /** Joins at all edges whose lower vertex is one of {@code from ... to - 1}. */
  private void join(int from, int to, Work work) {
    int[] start = new int[to - from + 1];
    for (int block = 0; block < lowest.length; block++) {
      if (lowest[block] < to && highest[block] >= from) {
        count(block, from, to, start);
      }
    }
    work.check();
    for (int v = 0; v < to - from; v++) {
      start[v + 1] += start[v];
    }
    int[] other = new int[start[to - from]];
    int[] triangle = new int[other.length];
    int[] fill = Arrays.copyOf(start, to - from);
    for (int block = 0; block < lowest.length; block++) {
      if (lowest[block] < to && highest[block] >= from) {
        deal(block, from, to, fill, other, triangle);
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

  /** Counts the half-edges of a block under their lower vertex. */
  private void count(int block, int from, int to, int[] start) {
    int end = Math.min(tri.length, (block + 1) * BLOCK);
    for (int h = block * BLOCK; h < end; h += 3) {
      for (int k = 0; k < 3; k++) {
        int low = Math.min(tri[h + k], tri[h + NEXT[k]]) - from;
        if (low >= 0 && low < to - from) {
          start[low + 1]++;
        }
      }
    }
  }

  /** Writes down the other end and the triangle of a block's half-edges. */
  private void deal(int block, int from, int to, int[] fill, int[] other, int[] triangle) {
    int end = Math.min(tri.length, (block + 1) * BLOCK);
    for (int h = block * BLOCK; h < end; h += 3) {
      for (int k = 0; k < 3; k++) {
        int a = tri[h + k];
        int b = tri[h + NEXT[k]];
        int low = Math.min(a, b) - from;
        if (low >= 0 && low < to - from) {
          int at = fill[low]++;
          // An edge from a vertex to itself joins nothing.
          other[at] = a == b ? -1 : Math.max(a, b);
          triangle[at] = h / 3;
        }
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

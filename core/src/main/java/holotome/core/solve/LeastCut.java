package holotome.core.solve;

import holotome.core.task.Work;
import java.util.ArrayDeque;
import java.util.Arrays;

/**
 * The cheapest way to part nodes into two sides, where each node costs something on either side and
 * each pair of neighbours something if they are parted: a least cut, found by the largest flow
 * (Ford and Fulkerson 1956) along shortest ways, level by level (Dinic 1970). Of several cuts as
 * cheap the one with the fewest nodes on the first side. About O(V² E) at worst, far less for cells
 * that lie side by side. Costs are whole numbers, so that nothing depends on rounding.
 */
public final class LeastCut {
  private final int nodes;
  private final int source;
  private final int sink;
  private int[] to = new int[64];
  private long[] room = new long[64];
  private int[] next = new int[64];
  private final int[] first;
  private int arcs;

  /** So many nodes, that cost nothing yet. */
  public LeastCut(int nodes) {
    this.nodes = nodes;
    source = nodes;
    sink = nodes + 1;
    first = new int[nodes + 2];
    Arrays.fill(first, -1);
  }

  /** What a node costs more if it is on the first side, and if it is on the second. */
  public void cost(int node, long onFirst, long onSecond) {
    // On the second side its arc from the source is cut, on the first the one to the sink.
    join(source, node, onSecond, 0);
    join(node, sink, onFirst, 0);
  }

  /** What it costs to have two nodes on different sides. */
  public void apart(int a, int b, long cost) {
    join(a, b, cost, cost);
  }

  private void join(int a, int b, long there, long back) {
    if (arcs + 2 > to.length) {
      to = Arrays.copyOf(to, 2 * arcs + 2);
      room = Arrays.copyOf(room, 2 * arcs + 2);
      next = Arrays.copyOf(next, 2 * arcs + 2);
    }
    arc(a, b, there);
    arc(b, a, back);
  }

  private void arc(int a, int b, long cost) {
    to[arcs] = b;
    room[arcs] = cost;
    next[arcs] = first[a];
    first[a] = arcs++;
  }

  /** Which nodes are on the first side. */
  public boolean[] first(Work work) {
    int[] level = levels();
    while (level[sink] >= 0) {
      work.check();
      int[] at = first.clone();
      fill(level, at);
      level = levels();
    }
    boolean[] out = new boolean[nodes];
    for (int i = 0; i < nodes; i++) {
      out[i] = level[i] >= 0;
    }
    return out;
  }

  /** How many arcs with room each node is from the source; -1 for those without a way. */
  private int[] levels() {
    int[] level = new int[nodes + 2];
    Arrays.fill(level, -1);
    level[source] = 0;
    ArrayDeque<Integer> queue = new ArrayDeque<>();
    queue.add(source);
    while (!queue.isEmpty()) {
      int n = queue.poll();
      for (int a = first[n]; a >= 0; a = next[a]) {
        if (room[a] > 0 && level[to[a]] < 0) {
          level[to[a]] = level[n] + 1;
          queue.add(to[a]);
        }
      }
    }
    return level;
  }

  /** Sends along ways of rising level until none is left; without recursion, ways may be long. */
  private void fill(int[] level, int[] at) {
    int[] way = new int[nodes + 2];
    int depth = 0;
    int node = source;
    while (true) {
      if (node == sink) {
        long least = Long.MAX_VALUE;
        for (int i = 0; i < depth; i++) {
          least = Math.min(least, room[way[i]]);
        }
        int back = depth;
        for (int i = depth - 1; i >= 0; i--) {
          room[way[i]] -= least;
          room[way[i] ^ 1] += least;
          back = room[way[i]] == 0 ? i : back;
        }
        depth = back;
        node = to[way[back] ^ 1];
        continue;
      }
      int a = at[node];
      while (a >= 0 && (room[a] == 0 || level[to[a]] != level[node] + 1)) {
        a = next[a];
      }
      at[node] = a;
      if (a >= 0) {
        way[depth++] = a;
        node = to[a];
      } else if (depth == 0) {
        return;
      } else {
        // A dead end: not entered again.
        level[node] = -1;
        node = to[way[--depth] ^ 1];
      }
    }
  }
}

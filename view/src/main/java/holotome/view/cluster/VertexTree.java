package holotome.view.cluster;

import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.view.words.ViewWords;
import java.util.ArrayList;
import java.util.List;

/**
 * Parts the vertices of a mesh into cubes of a few hundred: an octree, as deep as the mesh is dense
 * at each place. O(V log V) at worst, O(V) for a scan; 8 bytes per vertex.
 */
final class VertexTree {
  /** A cube with more vertices is split. */
  private static final int CAP = 840;

  /** A part of the tree of so many vertices is made by one thread. */
  private static final int PART = 1 << 17;

  private static final int GRAIN = 1 << 16;

  final Node root;

  /** In the order of the space-filling curve. */
  final List<Node> leaves = new ArrayList<>();

  /** The number of the leaf that each vertex lies in. */
  final int[] leafOf;

  private final Mesh mesh;
  private final Cells cells;
  private final int[] order;
  private final int sorted;
  private final int[] start;

  VertexTree(Mesh mesh, Cells cells, Work work) {
    this.mesh = mesh;
    this.cells = cells;
    int n = mesh.vertexCount();
    sorted = Math.clamp((int) Math.ceil(Math.log(n / (2.0 * CAP) + 1) / Math.log(4)), 0, 7);
    leafOf = new int[n];
    Parallel.range(
        n,
        GRAIN,
        work.part(0.4, ViewWords.of("common.preparing-the-view")),
        (from, to) -> {
          for (int v = from; v < to; v++) {
            leafOf[v] = Cells.curve(cells.of(mesh.xyz(), v), sorted);
          }
        });
    start = new int[(1 << 3 * sorted) + 1];
    for (int b : leafOf) {
      start[b + 1]++;
    }
    for (int b = 0; b < start.length - 1; b++) {
      start[b + 1] += start[b];
    }
    order = new int[n];
    int[] fill = start.clone();
    for (int v = 0; v < n; v++) {
      order[fill[leafOf[v]]++] = v;
    }
    work.advance(0.3);
    List<Part> parts = new ArrayList<>();
    Node[] top = new Node[1];
    split(top, 0, 0, 0, 0, 0, n, parts);
    Parallel.range(
        parts.size(),
        1,
        work.part(0.2, ViewWords.of("common.preparing-the-view")),
        (from, to) -> {
          for (Part p : parts.subList(from, to)) {
            p.run();
          }
        });
    root = top[0];
    parts.forEach(p -> leaves.addAll(p.leaves));
    number(parts);
    work.advance(0.1);
  }

  /** Writes down the leaf of each vertex. */
  private void number(List<Part> parts) {
    int[] first = new int[parts.size() + 1];
    for (int i = 0; i < parts.size(); i++) {
      first[i + 1] = first[i] + parts.get(i).leaves.size();
    }
    Parallel.range(
        parts.size(),
        1,
        Work.unwatched(),
        (from, to) -> {
          for (int i = from; i < to; i++) {
            Part p = parts.get(i);
            int at = p.from;
            for (int l = 0; l < p.leaves.size(); l++) {
              for (; at < p.ends.get(l); at++) {
                leafOf[order[at]] = first[i] + l;
              }
            }
          }
        });
  }

  /** Makes the upper nodes, and notes the parts below them, which do not meet each other. */
  private void split(
      Node[] into, int place, int depth, long key, int curve, int from, int to, List<Part> parts) {
    if (to - from <= PART || depth >= sorted) {
      parts.add(new Part(into, place, depth, key, curve, from, to));
      return;
    }
    int[] bound = sortedBounds(depth, curve);
    Node[] children = new Node[8 - empty(bound)];
    into[place] = new Node(depth, key, children);
    int c = 0;
    for (int o = 0; o < 8; o++) {
      if (bound[o + 1] > bound[o]) {
        split(
            children,
            c++,
            depth + 1,
            Cells.child(key, o),
            curve << 3 | o,
            bound[o],
            bound[o + 1],
            parts);
      }
    }
  }

  private static int empty(int[] bound) {
    int n = 0;
    for (int o = 0; o < 8; o++) {
      n += bound[o + 1] == bound[o] ? 1 : 0;
    }
    return n;
  }

  /** A part of the tree that is made by one thread. */
  private final class Part {
    private final Node[] into;
    private final int place;
    private final int depth;
    private final long key;
    private final int curve;
    private final int from;
    private final int to;
    private final List<Node> leaves = new ArrayList<>();
    private final List<Integer> ends = new ArrayList<>();
    private int[] spare = new int[0];

    Part(Node[] into, int place, int depth, long key, int curve, int from, int to) {
      this.into = into;
      this.place = place;
      this.depth = depth;
      this.key = key;
      this.curve = curve;
      this.from = from;
      this.to = to;
    }

    void run() {
      into[place] = make(depth, key, curve, from, to);
    }

    /** The node of a cube whose vertices are a stretch of the order. */
    private Node make(int depth, long key, int curve, int from, int to) {
      if (to - from <= CAP || depth == Cells.DEEPEST) {
        Node leaf = new Node(depth, key, null);
        leaves.add(leaf);
        ends.add(to);
        return leaf;
      }
      int[] bound = depth < sorted ? sortedBounds(depth, curve) : partition(depth, from, to);
      Node[] children = new Node[8 - empty(bound)];
      int c = 0;
      for (int o = 0; o < 8; o++) {
        if (bound[o + 1] > bound[o]) {
          children[c++] =
              make(depth + 1, Cells.child(key, o), curve << 3 | o, bound[o], bound[o + 1]);
        }
      }
      return new Node(depth, key, children);
    }

    /** Sorts a stretch of the order by children. */
    private int[] partition(int depth, int from, int to) {
      if (spare.length < to - from) {
        spare = new int[2 * (to - from)];
      }
      int[] bound = new int[9];
      for (int i = from; i < to; i++) {
        bound[octant(order[i], depth) + 1]++;
      }
      bound[0] = from;
      for (int o = 0; o < 8; o++) {
        bound[o + 1] += bound[o];
      }
      int[] fill = bound.clone();
      for (int i = from; i < to; i++) {
        spare[fill[octant(order[i], depth)]++ - from] = order[i];
      }
      System.arraycopy(spare, 0, order, from, to - from);
      return bound;
    }
  }

  private int[] sortedBounds(int depth, int curve) {
    int[] bound = new int[9];
    for (int o = 0; o <= 8; o++) {
      bound[o] = start[(curve << 3) + o << 3 * (sorted - depth - 1)];
    }
    return bound;
  }

  private int octant(int vertex, int depth) {
    return Cells.octant(Cells.node(cells.of(mesh.xyz(), vertex), depth + 1));
  }
}

package holotome.core.topology;

import holotome.core.array.DisjointSets;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;

/**
 * Short loops around handles and tunnels of a surface, along its edges: a tree of shortest ways
 * (Dijkstra) from one vertex of each island, a tree of the triangles over edges the first leaves,
 * those with the longest loops first, and a loop for each edge that neither takes (Erickson and
 * Whittlesey, "Greedy optimal homotopy and homology generators", 2005), without the way that both
 * its ends share. Borders count as closed, so that no loop goes around a hole.
 *
 * <p>There are two such loops a handle; cutting along any of them and closing the cut takes the
 * handle away. A loop is about as short as it can be where the handle is small for its
 * surroundings. O(T log T), 60 bytes a triangle.
 *
 * @param loops vertices in order, shortest first, no longer than was asked for
 * @param girths their lengths in base units
 * @param genus how many handles the surface has in all
 */
public record Handles(int[][] loops, double[] girths, int genus) {

  /** Finds the loops that are no longer than {@code longest}. */
  public static Handles of(Adjacency adjacency, double longest, Work work) {
    return new Finder(adjacency).run(longest, work);
  }

  /** Steps of a search between two looks for a cancel, less one; a power of two. */
  private static final int OFTEN = (1 << 16) - 1;

  private static final class Finder {
    private final Adjacency adjacency;
    private final Mesh mesh;
    private final int[] tri;
    private final int[] twin;
    private final int vertices;

    /** Per vertex the half-edge that leads to it in the tree; -1 for roots and loose vertices. */
    private final int[] from;

    private final float[] far;

    Finder(Adjacency adjacency) {
      this.adjacency = adjacency;
      mesh = adjacency.mesh();
      tri = mesh.triangles();
      twin = adjacency.twin();
      vertices = mesh.vertexCount();
      from = new int[vertices];
      far = new float[vertices];
    }

    Handles run(double longest, Work work) {
      grow(work);
      work.advance(0.4);
      int[] left = leftOver(work);
      work.advance(0.4);
      record Loop(int[] vertices, double girth) {}
      List<Loop> found = new ArrayList<>();
      for (int h : left) {
        int[] loop = loop(h);
        double girth = length(loop);
        if (loop.length >= 3 && girth <= longest) {
          found.add(new Loop(loop, girth));
        }
      }
      found.sort(
          (a, b) ->
              a.girth != b.girth
                  ? Double.compare(a.girth, b.girth)
                  : Arrays.compare(a.vertices, b.vertices));
      return new Handles(
          found.stream().map(Loop::vertices).toArray(int[][]::new),
          found.stream().mapToDouble(Loop::girth).toArray(),
          left.length / 2);
    }

    private double length(int[] loop) {
      double sum = 0;
      for (int i = 0; i < loop.length; i++) {
        sum +=
            Vec.distance(
                Vec.at(mesh.xyz(), loop[i]), Vec.at(mesh.xyz(), loop[(i + 1) % loop.length]));
      }
      return sum;
    }

    private float edge(int h) {
      return (float)
          Vec.distance(Vec.at(mesh.xyz(), tri[h]), Vec.at(mesh.xyz(), tri[Adjacency.next(h)]));
    }

    /** Shortest ways from the first vertex of each island. */
    private void grow(Work work) {
      VertexFans fans = VertexFans.of(mesh, work.part(0.1, work.label()));
      Arrays.fill(from, -1);
      Arrays.fill(far, Float.POSITIVE_INFINITY);
      BitSet done = new BitSet(vertices);
      int steps = 0;
      Heap heap = new Heap();
      for (int root = 0; root < vertices; root++) {
        if (done.get(root) || fans.count(root) == 0) {
          continue;
        }
        far[root] = 0;
        heap.add(0, root);
        while (heap.size > 0) {
          if ((++steps & OFTEN) == 0) {
            work.check();
          }
          int v = heap.take();
          if (done.get(v)) {
            continue;
          }
          done.set(v);
          for (int i = fans.start()[v]; i < fans.start()[v + 1]; i++) {
            int t = 3 * fans.triangles()[i];
            for (int h = t; h < t + 3; h++) {
              int u =
                  tri[h] == v ? tri[Adjacency.next(h)] : tri[Adjacency.next(h)] == v ? tri[h] : -1;
              if (u >= 0 && !done.get(u) && far[v] + edge(h) < far[u]) {
                far[u] = far[v] + edge(h);
                from[u] = h;
                heap.add(far[u], u);
              }
            }
          }
        }
      }
    }

    private int before(int v) {
      int h = from[v];
      return h < 0 ? -1 : tri[h] == v ? tri[Adjacency.next(h)] : tri[h];
    }

    private boolean isInTree(int h) {
      int a = tri[h];
      int b = tri[Adjacency.next(h)];
      return before(a) == b || before(b) == a;
    }

    /** The edges that neither tree takes. */
    private int[] leftOver(Work work) {
      int[] border = new int[tri.length];
      int[][] loops = Borders.of(adjacency).loops();
      for (int i = 0; i < loops.length; i++) {
        for (int h : loops[i]) {
          border[h] = i + 1;
        }
      }
      long[] order = new long[tri.length];
      int n = 0;
      for (int h = 0; h < tri.length; h++) {
        boolean isFirst = twin[h] < 0 ? border[h] > 0 : twin[h] > h;
        if (isFirst && !isInTree(h)) {
          float loop = far[tri[h]] + far[tri[Adjacency.next(h)]] + edge(h);
          order[n++] = (long) (Integer.MAX_VALUE - Float.floatToIntBits(loop)) << 32 | h;
        }
      }
      work.check();
      Arrays.parallelSort(order, 0, n);
      work.check();
      DisjointSets faces = new DisjointSets(tri.length / 3 + loops.length);
      int[] left = new int[16];
      int count = 0;
      for (int i = 0; i < n; i++) {
        int h = (int) order[i];
        int across = twin[h] >= 0 ? twin[h] / 3 : tri.length / 3 + border[h] - 1;
        if (!faces.join(h / 3, across)) {
          if (count == left.length) {
            left = Arrays.copyOf(left, 2 * count);
          }
          left[count++] = h;
        }
      }
      return Arrays.copyOf(left, count);
    }

    /** The loop over an edge: up from both its ends to where the ways meet. */
    private int[] loop(int h) {
      int a = tri[h];
      int b = tri[Adjacency.next(h)];
      BitSet up = new BitSet();
      for (int v = a; v >= 0; v = before(v)) {
        up.set(v);
      }
      int meet = b;
      while (meet >= 0 && !up.get(meet)) {
        meet = before(meet);
      }
      List<Integer> out = new ArrayList<>();
      for (int v = a; v != meet; v = before(v)) {
        out.add(v);
      }
      out.add(meet);
      List<Integer> down = new ArrayList<>();
      for (int v = b; v != meet; v = before(v)) {
        down.add(v);
      }
      for (int i = down.size() - 1; i >= 0; i--) {
        out.add(down.get(i));
      }
      return out.stream().mapToInt(Integer::intValue).toArray();
    }
  }

  /** Vertices by their distance; equal ones by number. */
  private static final class Heap {
    private long[] keys = new long[64];
    private int size;

    void add(float far, int vertex) {
      if (size == keys.length) {
        keys = Arrays.copyOf(keys, 2 * size);
      }
      long key = (long) Float.floatToIntBits(far) << 32 | vertex;
      int at = size++;
      while (at > 0 && keys[(at - 1) / 2] > key) {
        keys[at] = keys[(at - 1) / 2];
        at = (at - 1) / 2;
      }
      keys[at] = key;
    }

    int take() {
      final int first = (int) keys[0];
      long key = keys[--size];
      int at = 0;
      while (2 * at + 1 < size) {
        int child = 2 * at + 1;
        if (child + 1 < size && keys[child + 1] < keys[child]) {
          child++;
        }
        if (keys[child] >= key) {
          break;
        }
        keys[at] = keys[child];
        at = child;
      }
      keys[at] = key;
      return first;
    }
  }
}

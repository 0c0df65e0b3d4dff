package holotome.core.unwrap;

import holotome.core.array.LeastFirst;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.VertexFans;
import java.util.Arrays;

/**
 * Ways along the edges of a mesh for seams: from vertex to vertex, shorter along creases, by
 * Dijkstra's method; and rings around limbs. O(n log n) for the n vertices that are nearer than the
 * goal, 20 bytes a vertex.
 */
final class SeamWays {
  private static final int OFTEN = 0xffff;

  /** Two ways meet behind a limb where they set out in directions so far apart: its cosine. */
  private static final double APART = Math.cos(Math.toRadians(100));

  /** After this share of their length. */
  private static final double EARLY = 0.25;

  private final Ground ground;
  private final int[] tri;
  private final VertexFans fans;
  private final Work work;
  private final double[] so;
  private final int[] before;

  SeamWays(Ground ground, Work work) {
    this.ground = ground;
    this.work = work;
    tri = ground.mesh().triangles();
    fans = VertexFans.of(ground.mesh(), work);
    so = new double[ground.mesh().vertexCount()];
    before = new int[so.length];
  }

  private interface Cost {
    double of(int halfEdge);
  }

  /** The half-edges of the shortest way between two vertices; null where none leads there. */
  int[] way(int from, int to) {
    begin(from);
    LeastFirst open = new LeastFirst();
    open.add(0, from);
    for (int count = 1; !open.isEmpty(); count++) {
      double key = open.key();
      int v = open.take();
      if (v == to) {
        return edges(to);
      }
      if ((count & OFTEN) == 0) {
        work.check();
      }
      if (key <= so[v]) {
        reachAround(v, open, h -> ground.seam()[h]);
      }
    }
    return null;
  }

  private void begin(int from) {
    Arrays.fill(so, Double.POSITIVE_INFINITY);
    so[from] = 0;
    before[from] = -1;
  }

  private void reachAround(int v, LeastFirst open, Cost cost) {
    for (int i = fans.start()[v]; i < fans.start()[v + 1]; i++) {
      int t = 3 * fans.triangles()[i];
      for (int h = t; h < t + 3; h++) {
        int a = tri[h];
        int b = tri[Adjacency.next(h)];
        if (a == v || b == v) {
          int u = a == v ? b : a;
          double d = so[v] + cost.of(h);
          if (d < so[u]) {
            so[u] = d;
            before[u] = h;
            open.add(d, u);
          }
        }
      }
    }
  }

  private int[] edges(int to) {
    int n = 0;
    for (int v = to; before[v] >= 0; v = other(before[v], v)) {
      n++;
    }
    int[] out = new int[n];
    for (int v = to; before[v] >= 0; v = other(before[v], v)) {
      out[--n] = before[v];
    }
    return out;
  }

  private int other(int h, int v) {
    return tri[h] == v ? tri[Adjacency.next(h)] : tri[h];
  }

  /**
   * The half-edges of the shortest ring through a vertex around the limb that it lies on: two ways
   * that set out on different sides and meet behind; null where none does.
   */
  int[] ring(int at) {
    begin(at);
    LeastFirst open = new LeastFirst();
    open.add(0, at);
    double least = Double.POSITIVE_INFINITY;
    int best = -1;
    boolean[] isDone = new boolean[so.length];
    for (int count = 1; !open.isEmpty(); count++) {
      double key = open.key();
      int v = open.take();
      if (2 * key >= least) {
        break;
      }
      if ((count & OFTEN) == 0) {
        work.check();
      }
      if (isDone[v]) {
        continue;
      }
      isDone[v] = true;
      for (int i = fans.start()[v]; i < fans.start()[v + 1]; i++) {
        int t = 3 * fans.triangles()[i];
        for (int h = t; h < t + 3; h++) {
          int a = tri[h];
          int b = tri[Adjacency.next(h)];
          int u = a == v ? b : b == v ? a : -1;
          if (u >= 0 && isDone[u] && h != before[v] && h != before[u]) {
            double all = so[v] + so[u] + ground.length(h);
            if (all < least && meetBehind(at, v, u)) {
              least = all;
              best = h;
            }
          }
        }
      }
      reachAround(v, open, ground::length);
    }
    if (best < 0) {
      return null;
    }
    int[] one = edges(tri[best]);
    int[] other = edges(tri[Adjacency.next(best)]);
    int[] out = Arrays.copyOf(one, one.length + other.length + 1);
    System.arraycopy(other, 0, out, one.length, other.length);
    out[out.length - 1] = best;
    return out;
  }

  private boolean meetBehind(int at, int v, int u) {
    double[] a = Vec.unit(Vec.sub(early(v), point(at)));
    double[] b = Vec.unit(Vec.sub(early(u), point(at)));
    return Vec.dot(a, b) < APART;
  }

  /** A vertex early on the way to another. */
  private double[] early(int to) {
    double goal = EARLY * so[to];
    int v = to;
    while (before[v] >= 0 && so[v] > goal) {
      v = other(before[v], v);
    }
    return point(before[v] < 0 ? to : v);
  }

  private double[] point(int v) {
    return Vec.at(ground.mesh().xyz(), v);
  }

  /** All half-edges between the ends of one: where more than two triangles share an edge, all. */
  int[] alike(int h) {
    int a = tri[h];
    int b = tri[Adjacency.next(h)];
    int[] out = new int[8];
    int n = 0;
    for (int i = fans.start()[a]; i < fans.start()[a + 1]; i++) {
      int t = 3 * fans.triangles()[i];
      for (int g = t; g < t + 3; g++) {
        int c = tri[g];
        int d = tri[Adjacency.next(g)];
        if (c == a && d == b || c == b && d == a) {
          out = n == out.length ? Arrays.copyOf(out, 2 * n) : out;
          out[n++] = g;
        }
      }
    }
    return Arrays.copyOf(out, n);
  }

  /** The half-edges that begin or end at a vertex. */
  int[] edgesAt(int vertex) {
    int[] out = new int[2 * fans.count(vertex)];
    int n = 0;
    for (int i = fans.start()[vertex]; i < fans.start()[vertex + 1]; i++) {
      int t = 3 * fans.triangles()[i];
      for (int h = t; h < t + 3; h++) {
        if (tri[h] == vertex || tri[Adjacency.next(h)] == vertex) {
          out = n == out.length ? Arrays.copyOf(out, n + 2) : out;
          out[n++] = h;
        }
      }
    }
    return Arrays.copyOf(out, n);
  }

  /** The corner of a triangle nearest to a point, as a vertex. */
  static int corner(Mesh mesh, int triangle, double[] p) {
    int best = -1;
    double least = Double.POSITIVE_INFINITY;
    for (int k = 0; k < 3; k++) {
      int v = mesh.triangles()[3 * triangle + k];
      double d = Vec.distance(p, Vec.at(mesh.xyz(), v));
      if (d < least) {
        least = d;
        best = v;
      }
    }
    return best;
  }
}

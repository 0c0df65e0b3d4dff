package holotome.core.measure;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.PriorityQueue;

/**
 * The shortest way along the edges between two triangles, by Dijkstra's method, as a strip of
 * triangles that holds it: about each vertex on the way the strip turns by the side with fewer
 * triangles. O(T log T) at most, less where the goal is near.
 */
final class EdgeWay {
  private final Mesh mesh;
  private final int[] tri;
  private final int[] twin;
  private final Work work;

  EdgeWay(Mesh mesh, int[] twin, Work work) {
    this.mesh = mesh;
    this.tri = mesh.triangles();
    this.twin = twin;
    this.work = work;
  }

  private record Stop(int vertex, double so, double all) {}

  /** The half-edges to be crossed; null where no such strip leads there. */
  int[] gates(int first, int last, double[] from, double[] to) {
    List<Integer> way = vertices(first, last, from, to);
    if (way == null) {
      return null;
    }
    List<Integer> gates = new ArrayList<>();
    int t = first;
    for (int i = 0; i < way.size(); i++) {
      int v = way.get(i);
      int next = i + 1 < way.size() ? way.get(i + 1) : -1;
      List<Integer> turn = turn(t, v, next, last);
      if (turn == null) {
        return null;
      }
      gates.addAll(turn);
      t = turn.isEmpty() ? t : twin[turn.getLast()] / 3;
    }
    return gates.stream().mapToInt(Integer::intValue).toArray();
  }

  private List<Integer> vertices(int first, int last, double[] from, double[] to) {
    int[] start = new int[mesh.vertexCount() + 1];
    for (int v : tri) {
      start[v + 1]++;
    }
    for (int v = 0; v < mesh.vertexCount(); v++) {
      start[v + 1] += start[v];
    }
    int[] corners = new int[tri.length];
    int[] fill = start.clone();
    for (int c = 0; c < tri.length; c++) {
      corners[fill[tri[c]]++] = c;
    }
    double[] so = new double[mesh.vertexCount()];
    int[] before = new int[so.length];
    Arrays.fill(so, Double.POSITIVE_INFINITY);
    PriorityQueue<Stop> open = new PriorityQueue<>((a, b) -> Double.compare(a.all, b.all));
    for (int k = 3 * first; k < 3 * first + 3; k++) {
      double d = Vec.distance(from, at(tri[k]));
      so[tri[k]] = d;
      before[tri[k]] = -1;
      open.add(new Stop(tri[k], d, d + Vec.distance(at(tri[k]), to)));
    }
    int best = -1;
    double least = Double.POSITIVE_INFINITY;
    int count = 0;
    while (!open.isEmpty()) {
      Stop s = open.poll();
      if (s.all >= least) {
        break;
      }
      int v = s.vertex;
      if (s.so > so[v]) {
        continue;
      }
      if ((++count & 0xffff) == 0) {
        work.check();
      }
      for (int i = start[v]; i < start[v + 1]; i++) {
        int c = corners[i];
        if (c / 3 == last && so[v] + Vec.distance(at(v), to) < least) {
          least = so[v] + Vec.distance(at(v), to);
          best = v;
        }
        reach(v, tri[Adjacency.next(c)], to, so, before, open);
        reach(v, tri[Adjacency.previous(c)], to, so, before, open);
      }
    }
    if (best < 0) {
      return null;
    }
    List<Integer> way = new ArrayList<>();
    for (int v = best; v >= 0; v = before[v]) {
      way.add(v);
    }
    Collections.reverse(way);
    return way;
  }

  private void reach(
      int v, int u, double[] to, double[] so, int[] before, PriorityQueue<Stop> open) {
    double[] p = at(u);
    double d = so[v] + Vec.distance(at(v), p);
    if (d < so[u]) {
      so[u] = d;
      before[u] = v;
      open.add(new Stop(u, d, d + Vec.distance(p, to)));
    }
  }

  private double[] at(int v) {
    return Vec.at(mesh.xyz(), v);
  }

  /**
   * The gates from a triangle about one of its corners to one that also has another vertex, or to
   * the last triangle where there is no other; null where borders are in the way on both sides.
   */
  private List<Integer> turn(int t, int v, int next, int last) {
    if (isThere(t, next, last)) {
      return List.of();
    }
    List<Integer> one = turn(t, v, next, last, true);
    List<Integer> other = turn(t, v, next, last, false);
    if (one == null || other == null) {
      return one == null ? other : one;
    }
    return one.size() <= other.size() ? one : other;
  }

  private boolean isThere(int t, int next, int last) {
    if (next < 0) {
      return t == last;
    }
    return tri[3 * t] == next || tri[3 * t + 1] == next || tri[3 * t + 2] == next;
  }

  private List<Integer> turn(int t, int v, int next, int last, boolean outwards) {
    List<Integer> gates = new ArrayList<>();
    int c = 3 * t;
    while (tri[c] != v) {
      c++;
    }
    int h = outwards ? c : Adjacency.previous(c);
    while (true) {
      int g = twin[h];
      if (g < 0) {
        return null;
      }
      gates.add(h);
      if (isThere(g / 3, next, last)) {
        return gates;
      }
      if (g / 3 == t) {
        return null;
      }
      h = outwards ? Adjacency.next(g) : Adjacency.previous(g);
    }
  }
}

package holotome.core.measure;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.PriorityQueue;

/**
 * A shortest way along the surface between two points: a strip of triangles found by Dijkstra's
 * method, once over the triangles and once along the edges, in which the way is pulled straight
 * (Lee and Preparata, "Euclidean shortest paths in the presence of rectilinear barriers", 1984),
 * then led around the other side of each vertex it bends at while that is shorter (after Xin and
 * Wang, "Efficiently determining a locally exact shortest path on polyhedral surfaces", 2007). The
 * result is straight across every edge: a geodesic, the shortest near it and never longer than the
 * shortest along edges; a wholly different way might be shorter still.
 *
 * <p>Looks only within an ellipsoid about both points, as large as need be: any way as short as the
 * one found lies within.
 *
 * @param points the way, 3 doubles each, from the first point to the second
 */
public record SurfacePath(double[] points) {
  private static final int MOST_ROUNDS = 60;

  public double length() {
    double sum = 0;
    for (int i = 3; i < points.length; i += 3) {
      sum +=
          Vec.distance(Arrays.copyOfRange(points, i - 3, i), Arrays.copyOfRange(points, i, i + 3));
    }
    return sum;
  }

  /**
   * Finds the way between two points of the surface.
   *
   * @param from in the mesh's coordinates, on or near the surface
   */
  public static SurfacePath between(Mesh mesh, double[] from, double[] to, Work work) {
    double straight = Vec.distance(from, to);
    for (double factor : new double[] {1.3, 2, 4, Double.POSITIVE_INFINITY}) {
      double limit = factor * Math.max(straight, 1e-12);
      Mesh part =
          Double.isInfinite(factor)
              ? mesh
              : Submesh.of(mesh, t -> reaches(mesh, t, from, to, limit), work);
      if (part.isEmpty()) {
        continue;
      }
      double[] way = new Finding(part, work).run(from, to);
      if (way != null) {
        SurfacePath path = new SurfacePath(way);
        if (path.length() <= limit) {
          return path;
        }
      }
    }
    throw Failure.cannot(CoreWords.of("surface-path.the-two-points-lie-on"));
  }

  private static boolean reaches(Mesh mesh, int t, double[] from, double[] to, double limit) {
    for (int k = 3 * t; k < 3 * t + 3; k++) {
      double[] p = Vec.at(mesh.xyz(), mesh.triangles()[k]);
      if (Vec.distance(p, from) + Vec.distance(p, to) <= limit) {
        return true;
      }
    }
    return false;
  }

  private static final class Finding {
    private final Mesh mesh;
    private final int[] tri;
    private final int[] twin;
    private final Work work;

    Finding(Mesh mesh, Work work) {
      this.mesh = mesh;
      this.work = work;
      tri = mesh.triangles();
      twin = Adjacency.of(mesh, work).twin();
    }

    /** The way, or null where the points do not hang together. */
    double[] run(double[] from, double[] to) {
      int first = nearest(from);
      int last = nearest(to);
      int[] across = strip(first, last);
      if (across == null) {
        return null;
      }
      Strip best = shortened(new Strip(across, from, to));
      int[] along = new EdgeWay(mesh, twin, work).gates(first, last, from, to);
      if (along != null) {
        Strip other = shortened(new Strip(withoutTurns(along), from, to));
        best = other.length < best.length ? other : best;
      }
      return best.way();
    }

    /**
     * Leads a strip around the other side of the vertices its way bends at while that is shorter.
     */
    private Strip shortened(Strip begin) {
      Strip best = begin;
      best.way();
      for (int round = 0; round < MOST_ROUNDS; round++) {
        work.check();
        boolean shorter = false;
        for (int bend = 0; bend < best.bends.size(); bend++) {
          int[] other = around(best.gates, best.bends.get(bend));
          if (other == null) {
            continue;
          }
          Strip next = new Strip(other, best.from, best.to);
          next.way();
          if (next.length < best.length * (1 - 1e-12)) {
            best = next;
            shorter = true;
            bend = Math.max(-1, bend - 2);
          }
        }
        if (!shorter) {
          break;
        }
      }
      return best;
    }

    private int nearest(double[] p) {
      int best = 0;
      double least = Double.POSITIVE_INFINITY;
      for (int t = 0; t < tri.length / 3; t++) {
        double[] q = closest(t, p);
        double d = Vec.distance(p, q);
        if (d < least) {
          least = d;
          best = t;
        }
      }
      return best;
    }

    private double[] corner(int t, int k) {
      return Vec.at(mesh.xyz(), tri[3 * t + k]);
    }

    /**
     * The point of a triangle nearest to another: its foot on the plane where that lies within,
     * else the nearest of the three edges' nearest points.
     */
    private double[] closest(int t, double[] p) {
      double[] a = corner(t, 0);
      double[] ab = Vec.sub(corner(t, 1), a);
      double[] ac = Vec.sub(corner(t, 2), a);
      double[] n = Vec.cross(ab, ac);
      double n2 = Vec.dot(n, n);
      double[] ap = Vec.sub(p, a);
      if (n2 > 0) {
        double v = Vec.dot(Vec.cross(ap, ac), n) / n2;
        double w = Vec.dot(Vec.cross(ab, ap), n) / n2;
        if (v >= 0 && w >= 0 && v + w <= 1) {
          return Vec.add(a, Vec.add(Vec.mul(ab, v), Vec.mul(ac, w)));
        }
      }
      double[] best = a;
      for (int k = 0; k < 3; k++) {
        double[] s = corner(t, k);
        double[] d = Vec.sub(corner(t, (k + 1) % 3), s);
        double l2 = Vec.dot(d, d);
        double f = l2 > 0 ? Math.clamp(Vec.dot(Vec.sub(p, s), d) / l2, 0.0, 1.0) : 0;
        double[] q = Vec.add(s, Vec.mul(d, f));
        best = Vec.distance(q, p) < Vec.distance(best, p) ? q : best;
      }
      return best;
    }

    private double[] middle(int t) {
      return Vec.mul(Vec.add(corner(t, 0), Vec.add(corner(t, 1), corner(t, 2))), 1.0 / 3);
    }

    private record Stop(int triangle, double so, double all) {}

    /** The half-edges to be crossed from one triangle to another; null where there is no way. */
    private int[] strip(int first, int last) {
      double[] so = new double[tri.length / 3];
      int[] through = new int[so.length];
      boolean[] done = new boolean[so.length];
      Arrays.fill(so, Double.POSITIVE_INFINITY);
      double[] goal = middle(last);
      PriorityQueue<Stop> open = new PriorityQueue<>((a, b) -> Double.compare(a.all, b.all));
      so[first] = 0;
      through[first] = -1;
      open.add(new Stop(first, 0, 0));
      int count = 0;
      while (!open.isEmpty()) {
        Stop s = open.poll();
        int t = s.triangle;
        if (done[t]) {
          continue;
        }
        done[t] = true;
        if (t == last) {
          break;
        }
        if ((++count & 0xffff) == 0) {
          work.check();
        }
        double[] here = middle(t);
        for (int h = 3 * t; h < 3 * t + 3; h++) {
          if (twin[h] < 0) {
            continue;
          }
          int u = twin[h] / 3;
          double[] there = middle(u);
          double d = so[t] + Vec.distance(here, there);
          if (d < so[u]) {
            so[u] = d;
            through[u] = h;
            open.add(new Stop(u, d, d + Vec.distance(there, goal)));
          }
        }
      }
      if (!done[last]) {
        return null;
      }
      int n = 0;
      for (int t = last; t != first; t = through[t] / 3) {
        n++;
      }
      int[] gates = new int[n];
      for (int t = last; t != first; t = through[t] / 3) {
        gates[--n] = through[t];
      }
      return gates;
    }

    /**
     * The strip that passes a vertex on its other side; null where a border is in the way.
     *
     * @param bend the vertex, and the gates between which the strip turns about it
     */
    private int[] around(int[] gates, int[] bend) {
      int v = bend[0];
      int lo = bend[1];
      int hi = bend[1];
      while (lo > 0 && touches(gates[lo - 1], v)) {
        lo--;
      }
      while (hi + 1 < gates.length && touches(gates[hi + 1], v)) {
        hi++;
      }
      int start = gates[lo] / 3;
      int end = twin[gates[hi]] / 3;
      // The strip leaves the first triangle over one of its two sides at the vertex; take the
      // other.
      int h = 3 * start;
      while (h < 3 * start + 3 && (!touches(h, v) || h == gates[lo])) {
        h++;
      }
      if (h >= 3 * start + 3) {
        return null;
      }
      List<Integer> fan = new ArrayList<>();
      int t = start;
      for (int guard = 0; guard < 10_000; guard++) {
        if (twin[h] < 0) {
          return null;
        }
        fan.add(h);
        t = twin[h] / 3;
        if (t == end) {
          break;
        }
        int in = twin[h];
        h = touches(Adjacency.next(in), v) ? Adjacency.next(in) : Adjacency.previous(in);
      }
      if (t != end) {
        return null;
      }
      int[] out = new int[lo + fan.size() + gates.length - hi - 1];
      System.arraycopy(gates, 0, out, 0, lo);
      for (int i = 0; i < fan.size(); i++) {
        out[lo + i] = fan.get(i);
      }
      System.arraycopy(gates, hi + 1, out, lo + fan.size(), gates.length - hi - 1);
      return withoutTurns(out);
    }

    private boolean touches(int h, int v) {
      return tri[h] == v || tri[Adjacency.next(h)] == v;
    }

    /** Leaves out where the strip would go into a triangle and straight back. */
    private int[] withoutTurns(int[] gates) {
      int[] out = new int[gates.length];
      int n = 0;
      for (int g : gates) {
        if (n > 0 && twin[out[n - 1]] == g) {
          n--;
        } else {
          out[n++] = g;
        }
      }
      return Arrays.copyOf(out, n);
    }

    /** A strip laid flat, and the straight way in it. */
    private final class Strip {
      final int[] gates;
      final List<int[]> bends = new ArrayList<>();
      double length;
      private final double[] from;
      private final double[] to;

      /** Left and right ends of the gates, flat: 4 doubles each. */
      private final double[] flat;

      private final double[] start;
      private final double[] goal;

      Strip(int[] gates, double[] from, double[] to) {
        this.gates = gates;
        this.from = from;
        this.to = to;
        flat = new double[4 * gates.length];
        int t = gates.length == 0 ? 0 : gates[0] / 3;
        start = new double[2];
        goal = new double[2];
        if (gates.length == 0) {
          return;
        }
        // The first triangle: its gate's right end at nought, its left end along x.
        int h = gates[0];
        double l = Vec.distance(at(tri[h]), at(tri[Adjacency.next(h)]));
        flat[0] = l;
        double[] p = beyond(at(tri[h]), at(tri[Adjacency.next(h)]), from, 0, 0, l, 0, 1);
        start[0] = p[0];
        start[1] = p[1];
        for (int i = 1; i < gates.length; i++) {
          next(i);
        }
        int g = gates[gates.length - 1];
        int o = 4 * (gates.length - 1);
        double[] q =
            beyond(
                at(tri[g]),
                at(tri[Adjacency.next(g)]),
                to,
                flat[o + 2],
                flat[o + 3],
                flat[o],
                flat[o + 1],
                -1);
        goal[0] = q[0];
        goal[1] = q[1];
      }

      private double[] at(int v) {
        return Vec.at(mesh.xyz(), v);
      }

      /** Lays the triangle between two gates flat beyond the first. */
      private void next(int i) {
        int g = gates[i - 1];
        int o = 4 * (i - 1);
        int apex = tri[Adjacency.previous(twin[g])];
        double[] a =
            beyond(
                at(tri[g]),
                at(tri[Adjacency.next(g)]),
                at(apex),
                flat[o + 2],
                flat[o + 3],
                flat[o],
                flat[o + 1],
                -1);
        boolean keepsLeft = tri[Adjacency.next(gates[i])] == tri[Adjacency.next(g)];
        int p = 4 * i;
        // A gate's left end is where its half-edge ends, its right end where that starts.
        flat[p] = keepsLeft ? flat[o] : a[0];
        flat[p + 1] = keepsLeft ? flat[o + 1] : a[1];
        flat[p + 2] = keepsLeft ? a[0] : flat[o + 2];
        flat[p + 3] = keepsLeft ? a[1] : flat[o + 3];
      }

      /** A point of space laid flat beside an edge that is: as far along it and away from it. */
      private double[] beyond(
          double[] a,
          double[] b,
          double[] p,
          double ax,
          double ay,
          double bx,
          double by,
          int side) {
        double[] d = Vec.sub(b, a);
        double l = Vec.length(d);
        double[] ap = Vec.sub(p, a);
        double along = l > 0 ? Vec.dot(ap, d) / l : 0;
        double away = Math.sqrt(Math.max(0, Vec.dot(ap, ap) - along * along));
        double ux = l > 0 ? (bx - ax) / l : 1;
        double uy = l > 0 ? (by - ay) / l : 0;
        return new double[] {
          ax + ux * along - side * uy * away, ay + uy * along + side * ux * away
        };
      }

      /** Pulls the way straight; keeps where it bends, and gives it in space. */
      double[] way() {
        bends.clear();
        List<double[]> flatWay = new ArrayList<>();
        List<Integer> gateOf = new ArrayList<>();
        flatWay.add(start);
        gateOf.add(-1);
        double ax = start[0];
        double ay = start[1];
        int from = -1;
        while (true) {
          int bend = pull(ax, ay, from);
          if (bend == Integer.MIN_VALUE) {
            break;
          }
          int gate = Math.abs(bend) - 1;
          boolean left = bend > 0;
          ax = flat[4 * gate + (left ? 0 : 2)];
          ay = flat[4 * gate + (left ? 1 : 3)];
          int h = gates[gate];
          bends.add(new int[] {left ? tri[Adjacency.next(h)] : tri[h], gate});
          flatWay.add(new double[] {ax, ay});
          gateOf.add(gate);
          from = gate;
        }
        flatWay.add(gates.length == 0 ? flatWay.getFirst() : goal);
        gateOf.add(gates.length);
        return inSpace(flatWay, gateOf);
      }

      /**
       * Looks from a place through the gates after one: the gate at whose left (above zero) or
       * right end the way must bend, by number from 1; the least number where it sees the goal.
       */
      private int pull(double ax, double ay, int after) {
        int left = -1;
        int right = -1;
        double lx = 0;
        double ly = 0;
        double rx = 0;
        double ry = 0;
        for (int i = after + 1; i <= gates.length; i++) {
          double nlx = i < gates.length ? flat[4 * i] : goal[0];
          double nly = i < gates.length ? flat[4 * i + 1] : goal[1];
          double nrx = i < gates.length ? flat[4 * i + 2] : goal[0];
          double nry = i < gates.length ? flat[4 * i + 3] : goal[1];
          boolean atLeft = nlx == ax && nly == ay;
          boolean atRight = nrx == ax && nry == ay;
          if (i < gates.length && (atLeft || atRight)) {
            // Still at the vertex itself: the gate swings about it.
            continue;
          }
          if (left < 0) {
            left = i;
            right = i;
            lx = nlx - ax;
            ly = nly - ay;
            rx = nrx - ax;
            ry = nry - ay;
            continue;
          }
          double vx = nrx - ax;
          double vy = nry - ay;
          // Does the right end come in from the right, and not beyond the left?
          if (rx * vy - ry * vx >= 0) {
            if (lx * vy - ly * vx > 0) {
              return left + 1;
            }
            right = i;
            rx = vx;
            ry = vy;
          }
          vx = nlx - ax;
          vy = nly - ay;
          if (lx * vy - ly * vx <= 0) {
            if (rx * vy - ry * vx < 0) {
              return -(right + 1);
            }
            left = i;
            lx = vx;
            ly = vy;
          }
        }
        return Integer.MIN_VALUE;
      }

      private double[] inSpace(List<double[]> way, List<Integer> gateOf) {
        List<double[]> out = new ArrayList<>();
        out.add(from);
        length = 0;
        for (int s = 0; s + 1 < way.size(); s++) {
          double[] a = way.get(s);
          double[] b = way.get(s + 1);
          length += Math.hypot(b[0] - a[0], b[1] - a[1]);
          for (int i = gateOf.get(s) + 1; i < Math.min(gateOf.get(s + 1) + 1, gates.length); i++) {
            out.add(crossing(i, a, b));
          }
        }
        out.add(to);
        if (gates.length == 0) {
          length = Vec.distance(from, to);
        }
        double[] xyz = new double[3 * out.size()];
        int n = 0;
        for (double[] p : out) {
          boolean same = n > 0 && Vec.distance(p, Arrays.copyOfRange(xyz, 3 * n - 3, 3 * n)) == 0;
          if (!same) {
            System.arraycopy(p, 0, xyz, 3 * n++, 3);
          }
        }
        return Arrays.copyOf(xyz, 3 * n);
      }

      private double[] crossing(int i, double[] a, double[] b) {
        double lx = flat[4 * i];
        double ly = flat[4 * i + 1];
        double dx = flat[4 * i + 2] - lx;
        double dy = flat[4 * i + 3] - ly;
        double ex = b[0] - a[0];
        double ey = b[1] - a[1];
        double det = ex * dy - ey * dx;
        double f = det == 0 ? 0 : (ex * (a[1] - ly) - ey * (a[0] - lx)) / det;
        f = Math.clamp(f, 0.0, 1.0);
        int h = gates[i];
        double[] left = at(tri[Adjacency.next(h)]);
        double[] right = at(tri[h]);
        return Vec.add(Vec.mul(left, 1 - f), Vec.mul(right, f));
      }
    }
  }
}

package holotome.core.reduce;

import holotome.core.attribute.Attributes;
import holotome.core.attribute.Compaction;
import holotome.core.attribute.VertexMix;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.MortonOrder;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.words.CoreWords;
import java.util.Arrays;

/**
 * Edge collapse by quadric error (Garland and Heckbert, "Surface simplification using quadric error
 * metrics", SIGGRAPH 1997), quadrics weighted by area, the new vertex where the error is least.
 *
 * <p>Each vertex keeps its cheapest edge in a heap. A collapse is made only if it keeps the
 * topology (link condition, Dey and others 1999), turns no triangle over and makes no sliver;
 * borders are held by quadrics of planes at right angles to the surface (ibid., section 6), and a
 * border vertex moves only along its border. Vertices where the mesh is not manifold stay. What
 * vertices carry is mixed along the collapsed edge, what triangles carry goes with them ({@link
 * VertexMix}).
 *
 * <p>O(T log T) time; about 150 bytes per triangle.
 */
public final class Decimation {
  private static final double BORDER_WEIGHT = 8;
  private static final int GRAIN = 1 << 13;
  private static final byte FREE = 0;
  private static final byte BORDER = 1;
  private static final byte LOCKED = 2;

  private final double[] p;
  private final int[] tri;
  private final VertexMix carried;
  private final int[] firstCorner;
  private final int[] nextCorner;
  private final byte[] state;
  private final Quadrics quadrics;
  private final CollapseHeap heap;
  private final int[] partner;
  private int alive;
  private int[] ringA = new int[64];
  private int[] ringB = new int[64];

  /**
   * Decimates a mesh; texture coordinates are not carried over.
   *
   * @param target stop at so many triangles
   * @param limit stop before the root of the mean square distance that a collapse adds to the
   *     planes it merges exceeds this; in the mesh's units
   */
  public static Mesh run(Mesh mesh, int target, double limit, Work work) {
    if (mesh.triangleCount() <= target) {
      work.advance(1);
      return mesh;
    }
    // Collapses hop about by cost; what they touch at each place should share cache lines.
    MortonOrder near = MortonOrder.of(mesh, work.part(0.05, CoreWords.of("work.ordering")));
    return new Decimation(mesh, near, work.part(0.2, CoreWords.of("work.weighing-edges")))
        .collapse(mesh, near, target, limit, work);
  }

  private Decimation(Mesh given, MortonOrder near, Work work) {
    Mesh mesh = near.mesh();
    int n = mesh.vertexCount();
    tri = mesh.triangles().clone();
    alive = mesh.triangleCount();
    carried = new VertexMix(given.attributes(), given.triangles(), near.vertex());
    p = new double[3 * n];
    double[] c = mesh.bounds().centre();
    double scale = Math.max(1e-300, mesh.bounds().diagonal());
    for (int i = 0; i < p.length; i++) {
      p[i] = (mesh.xyz()[i] - c[i % 3]) / scale;
    }
    int[] twin = Adjacency.of(mesh, work.part(0.3, CoreWords.of("work.finding-neighbours"))).twin();
    firstCorner = new int[n];
    nextCorner = new int[tri.length];
    Arrays.fill(firstCorner, -1);
    for (int i = tri.length - 1; i >= 0; i--) {
      int v = tri[i];
      if (firstCorner[v] < 0) {
        nextCorner[i] = i;
        firstCorner[v] = i;
      } else {
        nextCorner[i] = nextCorner[firstCorner[v]];
        nextCorner[firstCorner[v]] = i;
      }
    }
    state = states(twin, n);
    quadrics = new Quadrics(p, tri, n);
    for (int h = 0; h < tri.length; h++) {
      if (twin[h] < 0) {
        quadrics.addBorder(
            p, tri[h], tri[Adjacency.next(h)], tri[Adjacency.previous(h)], BORDER_WEIGHT);
      }
    }
    work.advance(0.2);
    partner = new int[n];
    float[] cost = new float[n];
    Parallel.range(
        n,
        GRAIN,
        work.part(0.4, CoreWords.of("work.weighing-edges")),
        (from, to) -> {
          Evaluator e = new Evaluator();
          for (int v = from; v < to; v++) {
            cost[v] = e.best(v);
          }
        });
    heap = new CollapseHeap(cost);
    work.advance(0.1);
  }

  /** Border vertices, and those with irregular edges or more than one fan. */
  private byte[] states(int[] twin, int n) {
    byte[] s = new byte[n];
    int[] ends = new int[n];
    int[] degree = new int[n];
    for (int h = 0; h < tri.length; h++) {
      degree[tri[h]]++;
      if (twin[h] == Adjacency.BORDER) {
        ends[tri[h]]++;
        s[tri[h]] = (byte) Math.max(s[tri[h]], BORDER);
        int b = tri[Adjacency.next(h)];
        s[b] = (byte) Math.max(s[b], BORDER);
      } else if (twin[h] < 0) {
        s[tri[h]] = LOCKED;
        s[tri[Adjacency.next(h)]] = LOCKED;
      }
    }
    for (int v = 0; v < n; v++) {
      if (ends[v] > 1) {
        s[v] = LOCKED;
      } else if (s[v] == FREE && firstCorner[v] >= 0 && fan(twin, v) != degree[v]) {
        s[v] = LOCKED;
      }
    }
    return s;
  }

  private int fan(int[] twin, int v) {
    int start = firstCorner[v];
    int c = start;
    int count = 0;
    do {
      count++;
      int g = twin[Adjacency.previous(c)];
      if (g < 0) {
        return count;
      }
      c = g;
    } while (c != start && count < 1_000_000);
    return count;
  }

  private Mesh collapse(Mesh given, MortonOrder near, int target, double limit, Work work) {
    Mesh mesh = near.mesh();
    int begun = alive;
    int reported = alive;
    double diagonal = Math.max(1e-300, mesh.bounds().diagonal());
    double most = limit / diagonal * (limit / diagonal);
    Evaluator evaluator = new Evaluator();
    while (alive > target) {
      int v = heap.top();
      if (v < 0) {
        break;
      }
      int w = partner[v];
      double cost = evaluator.edge(v, w);
      if (cost > most * (quadrics.weight(v) + quadrics.weight(w))) {
        break;
      }
      if (!allowed(v, w, evaluator)) {
        heap.set(v, evaluator.bestAllowed(v));
        continue;
      }
      merge(v, w, evaluator);
      if (reported - alive >= 4096) {
        work.advance(0.75 * (reported - alive) / Math.max(1.0, begun - target));
        reported = alive;
      }
    }
    return result(given, near);
  }

  private boolean dead(int t) {
    return tri[3 * t] < 0;
  }

  /** Whether merging v and w at the evaluator's point keeps topology and orientation. */
  private boolean allowed(int v, int w, Evaluator e) {
    int na = neighbours(v, true);
    int nb = neighbours(w, false);
    int common = 0;
    for (int i = 0; i < na; i++) {
      for (int j = 0; j < nb; j++) {
        if (ringA[i] == ringB[j]) {
          common++;
        }
      }
    }
    int shared = 0;
    int c = firstCorner[v];
    int start = c;
    do {
      int t = c - c % 3;
      if (tri[t] == w || tri[t + 1] == w || tri[t + 2] == w) {
        shared++;
      }
      c = nextCorner[c];
    } while (c != start);
    boolean bothBorder = state[v] == BORDER && state[w] == BORDER;
    if (common != shared || shared == 0 || shared > 2 || bothBorder && shared != 1) {
      return false;
    }
    // A closed body must keep more than the two sides of one triangle.
    if (shared == 2 && na == 3 && nb == 3) {
      return false;
    }
    return sound(v, w, e.x, e.y, e.z) && sound(w, v, e.x, e.y, e.z);
  }

  /** The vertices around v into ringA or ringB; returns how many. */
  private int neighbours(int v, boolean first) {
    int[] ring = first ? ringA : ringB;
    int n = 0;
    int c = firstCorner[v];
    int start = c;
    if (state[v] == FREE) {
      // Inside a surface every neighbour follows v in exactly one triangle.
      do {
        if (n == ring.length) {
          ring = grown(ring, first);
        }
        ring[n++] = tri[Adjacency.next(c)];
        c = nextCorner[c];
      } while (c != start);
      return n;
    }
    do {
      for (int k = 1; k < 3; k++) {
        int u = tri[k == 1 ? Adjacency.next(c) : Adjacency.previous(c)];
        boolean known = false;
        for (int i = 0; i < n && !known; i++) {
          known = ring[i] == u;
        }
        if (!known) {
          if (n == ring.length) {
            ring = grown(ring, first);
          }
          ring[n++] = u;
        }
      }
      c = nextCorner[c];
    } while (c != start);
    return n;
  }

  private int[] grown(int[] ring, boolean first) {
    int[] larger = Arrays.copyOf(ring, 2 * ring.length);
    if (first) {
      ringA = larger;
    } else {
      ringB = larger;
    }
    return larger;
  }

  /** Whether the triangles of v without w keep their direction and are no slivers with v moved. */
  private boolean sound(int v, int w, double x, double y, double z) {
    int c = firstCorner[v];
    int start = c;
    do {
      int a = tri[Adjacency.next(c)];
      int b = tri[Adjacency.previous(c)];
      if (a != w && b != w) {
        double ex = p[3 * b] - p[3 * a];
        double ey = p[3 * b + 1] - p[3 * a + 1];
        double ez = p[3 * b + 2] - p[3 * a + 2];
        double ox = p[3 * v] - p[3 * a];
        double oy = p[3 * v + 1] - p[3 * a + 1];
        double oz = p[3 * v + 2] - p[3 * a + 2];
        double mx = x - p[3 * a];
        double my = y - p[3 * a + 1];
        double mz = z - p[3 * a + 2];
        double nx = ey * oz - ez * oy;
        double ny = ez * ox - ex * oz;
        double nz = ex * oy - ey * ox;
        double kx = ey * mz - ez * my;
        double ky = ez * mx - ex * mz;
        double kz = ex * my - ey * mx;
        double nn = nx * nx + ny * ny + nz * nz;
        double kk = kx * kx + ky * ky + kz * kz;
        double dot = nx * kx + ny * ky + nz * kz;
        // Less than 75 degrees of turn; a triangle that had no direction may take any.
        if (nn > 0 && (dot <= 0 || dot * dot < 0.067 * nn * kk)) {
          return false;
        }
        double e2 = ex * ex + ey * ey + ez * ez;
        double m2 = mx * mx + my * my + mz * mz;
        double s = e2 + m2 + (mx - ex) * (mx - ex) + (my - ey) * (my - ey) + (mz - ez) * (mz - ez);
        // Shape: 1 for an equilateral triangle, 0 for a line; slivers only where one was before.
        if (12 * kk < 1e-4 * s * s && kk < nn) {
          return false;
        }
      }
      c = nextCorner[c];
    } while (c != start);
    return true;
  }

  /** Merges w into v at the evaluator's point. */
  private void merge(int v, int w, Evaluator e) {
    carried.merge(v, w, (float) e.along(v, w));
    p[3 * v] = e.x;
    p[3 * v + 1] = e.y;
    p[3 * v + 2] = e.z;
    quadrics.merge(v, w);
    state[v] = (byte) Math.max(state[v], state[w]);
    // Triangles with both go; w's corners become v's. Besides v and w, only the third corners of
    // those that go hold dead entries in their lists.
    int apexA = -1;
    int apexB = -1;
    int c = firstCorner[w];
    int start = c;
    do {
      int a = tri[Adjacency.next(c)];
      int b = tri[Adjacency.previous(c)];
      if (a == v || b == v) {
        if (apexA < 0) {
          apexA = a == v ? b : a;
        } else {
          apexB = a == v ? b : a;
        }
        int t = c - c % 3;
        tri[t] = -1 - tri[t];
        alive--;
      } else {
        tri[c] = v;
      }
      c = nextCorner[c];
    } while (c != start);
    int s = nextCorner[firstCorner[v]];
    nextCorner[firstCorner[v]] = nextCorner[firstCorner[w]];
    nextCorner[firstCorner[w]] = s;
    firstCorner[w] = -1;
    heap.remove(w);
    prune(v);
    if (apexA >= 0) {
      prune(apexA);
    }
    if (apexB >= 0) {
      prune(apexB);
    }
    if (firstCorner[v] < 0) {
      heap.remove(v);
      return;
    }
    int n = neighbours(v, true);
    refresh(v, w, n, e);
  }

  /** Takes dead triangles out of a vertex's list of corners. */
  private void prune(int v) {
    int c = firstCorner[v];
    if (c < 0) {
      return;
    }
    int kept = -1;
    int first = -1;
    int at0 = c;
    do {
      int following = nextCorner[at0];
      if (!dead(at0 / 3)) {
        if (kept < 0) {
          first = at0;
        } else {
          nextCorner[kept] = at0;
        }
        kept = at0;
      }
      at0 = following;
    } while (at0 != c);
    if (kept >= 0) {
      nextCorner[kept] = first;
    }
    firstCorner[v] = first;
    if (first < 0) {
      heap.remove(v);
    }
  }

  private void refresh(int v, int w, int n, Evaluator e) {
    float best = Float.POSITIVE_INFINITY;
    int bestOf = -1;
    for (int i = 0; i < n; i++) {
      int u = ringA[i];
      if (firstCorner[u] < 0) {
        continue;
      }
      float cost = (float) e.edge(v, u);
      if (cost < best || cost == best && u < bestOf) {
        best = cost;
        bestOf = u;
      }
      if (partner[u] == v || partner[u] == w) {
        heap.set(u, e.best(u));
      } else if (cost < heap.cost(u)) {
        partner[u] = v;
        heap.set(u, cost);
      }
    }
    partner[v] = bestOf;
    heap.set(v, best);
  }

  private Mesh result(Mesh given, MortonOrder near) {
    Mesh mesh = near.mesh();
    int[] corners = new int[3 * alive];
    int[] from = new int[alive];
    int at0 = 0;
    for (int t = 0; t < tri.length; t += 3) {
      if (tri[t] >= 0) {
        System.arraycopy(tri, t, corners, at0, 3);
        from[at0 / 3] = near.triangle()[t / 3];
        at0 += 3;
      }
    }
    int[] map = Compaction.of(corners, mesh.vertexCount());
    float[] xyz = new float[3 * map[map.length - 1]];
    double[] c = mesh.bounds().centre();
    double scale = Math.max(1e-300, mesh.bounds().diagonal());
    for (int v = 0; v < map.length - 1; v++) {
      if (map[v] >= 0) {
        for (int k = 0; k < 3; k++) {
          xyz[3 * map[v] + k] = (float) (p[3 * v + k] * scale + c[k]);
        }
      }
    }
    Attributes left = carried.left(map, map[map.length - 1]);
    return new Mesh(
        xyz, corners, VertexMix.withTriangles(left, given.attributes(), from), given.materials());
  }

  /** Weighs edges; holds the place of the last one weighed. One per thread. */
  private final class Evaluator {
    double x;
    double y;
    double z;
    private final double[] point = new double[3];
    private int[] tried = new int[64];

    /** What merging v and w costs, with the place in x, y, z; infinite where it may not be. */
    double edge(int v, int w) {
      byte a = state[v];
      byte b = state[w];
      if (a == LOCKED || b == LOCKED) {
        return Double.POSITIVE_INFINITY;
      }
      double cost;
      if (a == b) {
        cost = quadrics.best(v, w, p, point);
      } else {
        // One stands on the border and keeps its place.
        int fixed = a == BORDER ? v : w;
        System.arraycopy(p, 3 * fixed, point, 0, 3);
        cost = quadrics.error(v, w, point);
      }
      x = point[0];
      y = point[1];
      z = point[2];
      return Math.max(0, cost);
    }

    /** How far the place lies along from v to w, 0 to 1. */
    double along(int v, int w) {
      double dx = p[3 * w] - p[3 * v];
      double dy = p[3 * w + 1] - p[3 * v + 1];
      double dz = p[3 * w + 2] - p[3 * v + 2];
      double l = dx * dx + dy * dy + dz * dz;
      double d = dx * (x - p[3 * v]) + dy * (y - p[3 * v + 1]) + dz * (z - p[3 * v + 2]);
      return l > 0 ? Math.clamp(d / l, 0.0, 1.0) : 0;
    }

    /** The cost of v's cheapest edge; its other end becomes v's partner. */
    float best(int v) {
      partner[v] = -1;
      float least = Float.POSITIVE_INFINITY;
      int c = firstCorner[v];
      if (c < 0 || state[v] == LOCKED) {
        return least;
      }
      int start = c;
      do {
        int a = tri[Adjacency.next(c)];
        least = consider(v, a, least);
        if (state[v] == BORDER) {
          // Around a border vertex one neighbour starts no triangle here.
          least = consider(v, tri[Adjacency.previous(c)], least);
        }
        c = nextCorner[c];
      } while (c != start);
      return least;
    }

    private float consider(int v, int u, float least) {
      float cost = (float) edge(v, u);
      if (cost < least || cost == least && cost < Float.POSITIVE_INFINITY && u < partner[v]) {
        partner[v] = u;
        return cost;
      }
      return least;
    }

    /** As {@link #best}, among the edges that may be collapsed as things stand. */
    float bestAllowed(int v) {
      int n = neighbours(v, true);
      if (tried.length < n) {
        tried = new int[2 * n];
      }
      System.arraycopy(ringA, 0, tried, 0, n);
      float least = Float.POSITIVE_INFINITY;
      int found = -1;
      for (int i = 0; i < n; i++) {
        float cost = (float) edge(v, tried[i]);
        if (cost < least && allowed(v, tried[i], this)) {
          least = cost;
          found = tried[i];
        }
      }
      partner[v] = found;
      return least;
    }
  }
}

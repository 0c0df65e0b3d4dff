package holotome.core.reduce;

/** Collapses the edges of one region, the cheapest first, up to a cost or a number. One thread. */
final class RegionCollapse {
  /** Told of each merge before it is made: w goes into v along h, to f of the way from v to w. */
  interface Trail {
    void merging(int v, int w, int h, float f);
  }

  /** A turn of a triangle by more than 75 degrees is a fold: the square of its cosine. */
  private static final double FOLD = 0.067;

  /** Shape, 1 for an equilateral triangle and 0 for a line: what counts as a sliver, squared. */
  private static final double SLIVER = 1e-4;

  /** An edge that proves to cost so many times what was thought waits its turn. */
  private static final float SLACK = 1.25f;

  private final LocalMesh mesh;
  private final LocalQuadrics quadrics;

  /** What each vertex's collapses count for; null for 1 everywhere. */
  private final float[] weight;

  private final int[] partner;

  /** What each half-edge's collapse costs, as when it was last weighed. */
  private final float[] edgeCost;

  private final CollapseHeap heap;
  private final int[] count = new int[1];
  private int[] ring = new int[32];
  private int[] tried = new int[32];
  private float reached;

  RegionCollapse(LocalMesh mesh, float[] weight) {
    this.mesh = mesh;
    this.weight = weight;
    quadrics = new LocalQuadrics(mesh);
    partner = new int[mesh.vertices];
    edgeCost = new float[mesh.org.length];
    for (int h = 0; h < edgeCost.length; h++) {
      int g = mesh.twin[h];
      edgeCost[h] =
          g >= 0 && g < h
              ? edgeCost[g]
              : (float) weigh(mesh.org[h], mesh.org[LocalMesh.next(h)], h);
    }
    float[] cost = new float[mesh.vertices];
    for (int v = 0; v < cost.length; v++) {
      cost[v] = best(v);
    }
    heap = new CollapseHeap(cost);
  }

  /** What a vertex's collapses count for by now. */
  float weight(int v) {
    return weight[v];
  }

  /**
   * Goes on collapsing.
   *
   * @param most stops before what costs more
   * @param limit stops before the root of the mean square distance that a collapse adds exceeds
   *     this
   * @param fewest stops at so many triangles
   * @param costs takes the triangles gone by {@link CostCount}
   */
  void run(float most, double limit, int fewest, CostCount costs, Trail trail) {
    while (mesh.alive() > fewest) {
      int v = heap.top();
      if (v < 0 || heap.cost(v) > most) {
        return;
      }
      int w = partner[v];
      int h = mesh.between(v, w);
      double cost = place(v, w, h);
      if ((float) cost > SLACK * heap.cost(v)) {
        keep(h, (float) cost);
        heap.set(v, best(v));
        continue;
      }
      if (cost > limit * limit * quadrics.area(v, w)) {
        // Dearer ones may still be wide enough to be within the limit.
        heap.remove(v);
        continue;
      }
      if (!isAllowed(v, w, h)) {
        heap.set(v, bestAllowed(v));
        continue;
      }
      reached = Math.max(reached, (float) cost);
      int before = mesh.alive();
      merge(v, w, h, trail);
      costs.add(reached, before - mesh.alive());
    }
  }

  private void keep(int h, float cost) {
    edgeCost[h] = cost;
    if (mesh.twin[h] >= 0) {
      edgeCost[mesh.twin[h]] = cost;
    }
  }

  private double weigh(int v, int w, int h) {
    double cost = quadrics.weigh(v, w, h);
    return weight == null ? cost : cost * Math.max(weight[v], weight[w]);
  }

  /** As {@link #weigh}, with the place that keeps the volume. */
  private double place(int v, int w, int h) {
    double cost = quadrics.place(v, w, h);
    return weight == null ? cost : cost * Math.max(weight[v], weight[w]);
  }

  private boolean isAllowed(int v, int w, int h) {
    return mesh.keepsTopology(v, w, h) && isSound(v, w) && isSound(w, v);
  }

  /** Whether v's triangles without w neither turn over nor become slivers with v moved. */
  private boolean isSound(int v, int w) {
    double[] p = mesh.p;
    double x = quadrics.x;
    double y = quadrics.y;
    double z = quadrics.z;
    int h = mesh.out[v];
    int start = h;
    do {
      int a = mesh.org[LocalMesh.next(h)];
      int b = mesh.org[LocalMesh.previous(h)];
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
        // A triangle that had no direction may take any.
        if (nn > 0 && (dot <= 0 || dot * dot < FOLD * nn * kk)) {
          return false;
        }
        double e2 = ex * ex + ey * ey + ez * ez;
        double m2 = mx * mx + my * my + mz * mz;
        double s = e2 + m2 + (mx - ex) * (mx - ex) + (my - ey) * (my - ey) + (mz - ez) * (mz - ez);
        if (12 * kk < SLIVER * s * s && kk < nn) {
          return false;
        }
      }
      h = mesh.turn(h);
    } while (h >= 0 && h != start);
    return true;
  }

  private void merge(int v, int w, int h, Trail trail) {
    trail.merging(v, w, h, (float) along(v, w));
    quadrics.merge(v, w);
    double[] p = mesh.p;
    p[3 * v] = quadrics.x;
    p[3 * v + 1] = quadrics.y;
    p[3 * v + 2] = quadrics.z;
    if (weight != null) {
      weight[v] = Math.max(weight[v], weight[w]);
    }
    mesh.merge(v, w, h);
    heap.remove(w);
    if (mesh.out[v] < 0) {
      heap.remove(v);
      return;
    }
    refresh(v, w);
  }

  /** How far the place lies along from v to w, 0 to 1. */
  private double along(int v, int w) {
    double[] p = mesh.p;
    double dx = p[3 * w] - p[3 * v];
    double dy = p[3 * w + 1] - p[3 * v + 1];
    double dz = p[3 * w + 2] - p[3 * v + 2];
    double l = dx * dx + dy * dy + dz * dz;
    double d =
        dx * (quadrics.x - p[3 * v])
            + dy * (quadrics.y - p[3 * v + 1])
            + dz * (quadrics.z - p[3 * v + 2]);
    return l > 0 ? Math.clamp(d / l, 0.0, 1.0) : 0;
  }

  private void refresh(int v, int w) {
    ring = mesh.around(v, ring, count);
    int n = count[0];
    float least = Float.POSITIVE_INFINITY;
    int found = -1;
    int h = mesh.out[v];
    for (int i = 0; i < n; i++) {
      int u = ring[i];
      // The last one of an open fan has no half-edge from v.
      int g = h >= 0 ? h : mesh.between(v, u);
      float cost = (float) weigh(v, u, g);
      keep(g, cost);
      h = h >= 0 ? mesh.turn(h) : h;
      if (cost < least || cost == least && u < found) {
        least = cost;
        found = u;
      }
      if (partner[u] == v || partner[u] == w) {
        heap.set(u, best(u));
      } else if (cost < heap.cost(u)) {
        partner[u] = v;
        heap.set(u, cost);
      }
    }
    partner[v] = found;
    heap.set(v, least);
  }

  /** The cost of v's cheapest edge; its other end becomes v's partner. */
  private float best(int v) {
    partner[v] = -1;
    float least = Float.POSITIVE_INFINITY;
    int h = mesh.out[v];
    if (h < 0 || mesh.state[v] == LocalMesh.LOCKED) {
      return least;
    }
    int start = h;
    int last;
    do {
      least = consider(v, mesh.org[LocalMesh.next(h)], h, least);
      last = h;
      h = mesh.turn(h);
    } while (h >= 0 && h != start);
    if (h < 0) {
      int g = LocalMesh.previous(last);
      least = consider(v, mesh.org[g], g, least);
    }
    return least;
  }

  private float consider(int v, int u, int h, float least) {
    float cost = edgeCost[h];
    if (cost < least || cost == least && cost < Float.POSITIVE_INFINITY && u < partner[v]) {
      partner[v] = u;
      return cost;
    }
    return least;
  }

  /** As {@link #best}, among the edges that may be collapsed as things stand. */
  private float bestAllowed(int v) {
    tried = mesh.around(v, tried, count);
    int n = count[0];
    float least = Float.POSITIVE_INFINITY;
    int found = -1;
    for (int i = 0; i < n; i++) {
      int h = mesh.between(v, tried[i]);
      float cost = (float) place(v, tried[i], h);
      if (cost < least && isAllowed(v, tried[i], h)) {
        least = cost;
        found = tried[i];
      }
    }
    partner[v] = found;
    return least;
  }
}

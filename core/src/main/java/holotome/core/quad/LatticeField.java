package holotome.core.quad;

import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;

/**
 * Grids along a field of directions that agree from neighbour to neighbour: per point of a surface
 * one point of its grid, moved as little as can be until the points of neighbours' grids lie on one
 * another. Smoothed as {@link CrossField} is (Jakob and others, 2015, section 4).
 *
 * <p>About 1.5 µs a point and sweep on one core; on all cores.
 */
final class LatticeField {
  private static final int SWEEPS = 6;

  private final FieldLevels levels;
  private final float[] finest;

  /** How far apart the grid's points are, at each point of the finest level. */
  private final float[] side;

  private LatticeField(FieldLevels levels, float[] field, float[] side) {
    this.levels = levels;
    finest = field;
    this.side = side;
  }

  /**
   * The places, 3 floats per point of the finest level: the point of its grid that is nearest.
   *
   * @param field directions of the finest level
   * @param side how far apart points of the grid are to be, at each point of the finest level
   */
  static float[] of(FieldLevels levels, float[] field, float[] side, Work work) {
    return new LatticeField(levels, field, side).run(work);
  }

  private float[] run(Work work) {
    int last = levels.levels().size() - 1;
    float[][] ways = new float[last + 1][];
    float[][] sides = new float[last + 1][];
    ways[0] = finest;
    sides[0] = side;
    for (int l = 0; l < last; l++) {
      int n = levels.levels().get(l + 1).size();
      ways[l + 1] = new float[3 * n];
      sides[l + 1] = new float[n];
      lifted(l, ways, sides);
    }
    float[] places = levels.levels().get(last).at().clone();
    double all = 2.0 * levels.finest().size();
    for (int l = last; ; l--) {
      FieldLevel level = levels.levels().get(l);
      Work part = work.part(level.size() / all, CoreWords.of("quads.lattice"));
      for (int i = 0; i < SWEEPS; i++) {
        sweep(l, ways[l], sides[l], places, part.part(1.0 / SWEEPS, part.label()));
      }
      if (l == 0) {
        return places;
      }
      places = handedDown(l, places);
    }
  }

  /** The field of the finest level as fewer points have it: one of the two that each stands for. */
  private void lifted(int l, float[][] ways, float[][] sides) {
    FieldLevel fine = levels.levels().get(l);
    FieldLevel coarse = levels.levels().get(l + 1);
    Holds holds = levels.holds().get(l + 1);
    int[] parent = levels.parents().get(l);
    float[] largest = new float[coarse.size()];
    for (int v = 0; v < fine.size(); v++) {
      int p = parent[v];
      if (sides[l + 1][p] == 0 || fine.area()[v] > largest[p]) {
        largest[p] = fine.area()[v];
        sides[l + 1][p] = sides[l][v];
        put(coarse.normal(), p, ways[l], 3 * v, ways[l + 1]);
      }
    }
    for (int p = 0; p < coarse.size(); p++) {
      if (!holds.turns(p)) {
        System.arraycopy(holds.along(), 3 * p, ways[l + 1], 3 * p, 3);
      }
    }
  }

  private static void put(float[] normal, int p, float[] way, int from, float[] out) {
    double dot = 0;
    double square = 0;
    double[] d = new double[3];
    for (int k = 0; k < 3; k++) {
      dot += (double) normal[3 * p + k] * way[from + k];
    }
    for (int k = 0; k < 3; k++) {
      d[k] = way[from + k] - dot * normal[3 * p + k];
      square += d[k] * d[k];
    }
    double l = Math.sqrt(square);
    for (int k = 0; k < 3; k++) {
      out[3 * p + k] = l > 1e-9 ? (float) (d[k] / l) : way[from + k];
    }
  }

  private float[] handedDown(int from, float[] places) {
    FieldLevel level = levels.levels().get(from - 1);
    int[] parent = levels.parents().get(from - 1);
    float[] out = new float[3 * level.size()];
    for (int v = 0; v < level.size(); v++) {
      double off = 0;
      for (int k = 0; k < 3; k++) {
        off +=
            level.normal()[3 * v + k]
                * ((double) places[3 * parent[v] + k] - level.at()[3 * v + k]);
      }
      for (int k = 0; k < 3; k++) {
        out[3 * v + k] = (float) (places[3 * parent[v] + k] - off * level.normal()[3 * v + k]);
      }
    }
    return out;
  }

  private void sweep(int l, float[] ways, float[] sides, float[] places, Work work) {
    FieldLevel level = levels.levels().get(l);
    Holds holds = levels.holds().get(l);
    for (int c = 0; c + 1 < level.colours().length; c++) {
      int first = level.colours()[c];
      int count = level.colours()[c + 1] - first;
      Parallel.range(
          count,
          CrossField.GRAIN,
          work.part((double) count / level.size(), work.label()),
          (from, to) -> {
            Smoothing s = new Smoothing(level, holds, ways, sides, places);
            for (int i = from; i < to; i++) {
              s.smooth(level.order()[first + i]);
            }
          });
    }
  }

  /** What one thread needs. */
  private static final class Smoothing {
    private final FieldLevel level;
    private final Holds holds;
    private final float[] ways;
    private final float[] sides;
    private final float[] places;
    private final Crosses crosses = new Crosses();
    private final Lattices lattices = new Lattices();
    private final double[] sum = new double[3];

    Smoothing(FieldLevel level, Holds holds, float[] ways, float[] sides, float[] places) {
      this.level = level;
      this.holds = holds;
      this.ways = ways;
      this.sides = sides;
      this.places = places;
    }

    void smooth(int v) {
      double weights = 0;
      for (int i = level.start()[v]; i < level.start()[v + 1]; i++) {
        int u = level.near()[i];
        double w = level.weight()[i];
        crosses.match(ways, level.normal(), v, u);
        lattices.match(level, places, v, u, crosses, sides[v], sides[u]);
        double part = w / (weights + w);
        sum[0] = lattices.ax + part * (lattices.bx - lattices.ax);
        sum[1] = lattices.ay + part * (lattices.by - lattices.ay);
        sum[2] = lattices.az + part * (lattices.bz - lattices.az);
        weights += w;
        held(v);
        store(v);
      }
      if (weights == 0) {
        load(v);
        held(v);
      }
      nearest(v);
      held(v);
      store(v);
    }

    private void store(int v) {
      for (int k = 0; k < 3; k++) {
        places[3 * v + k] = (float) sum[k];
      }
    }

    private void load(int v) {
      for (int k = 0; k < 3; k++) {
        sum[k] = places[3 * v + k];
      }
    }

    /** Puts the place into the tangent plane, and onto what it is held to. */
    private void held(int v) {
      int i = 3 * v;
      byte kind = holds.kind()[v];
      if (kind == Holds.PLACE) {
        for (int k = 0; k < 3; k++) {
          sum[k] = holds.through()[i + k];
        }
        return;
      }
      if (kind == Holds.LINE) {
        double along = 0;
        for (int k = 0; k < 3; k++) {
          along += holds.along()[i + k] * (sum[k] - holds.through()[i + k]);
        }
        for (int k = 0; k < 3; k++) {
          sum[k] = holds.through()[i + k] + along * holds.along()[i + k];
        }
        return;
      }
      double off = 0;
      for (int k = 0; k < 3; k++) {
        off += level.normal()[i + k] * (sum[k] - level.at()[i + k]);
      }
      for (int k = 0; k < 3; k++) {
        sum[k] -= off * level.normal()[i + k];
      }
    }

    /** The point of the grid that is nearest to the point of the surface. */
    private void nearest(int v) {
      int i = 3 * v;
      float[] n = level.normal();
      double wx = ways[i];
      double wy = ways[i + 1];
      double wz = ways[i + 2];
      double cx = n[i + 1] * wz - n[i + 2] * wy;
      double cy = n[i + 2] * wx - n[i] * wz;
      double cz = n[i] * wy - n[i + 1] * wx;
      double dx = level.at()[i] - sum[0];
      double dy = level.at()[i + 1] - sum[1];
      double dz = level.at()[i + 2] - sum[2];
      double s = Math.rint((dx * wx + dy * wy + dz * wz) / sides[v]) * sides[v];
      double t = Math.rint((dx * cx + dy * cy + dz * cz) / sides[v]) * sides[v];
      sum[0] += s * wx + t * cx;
      sum[1] += s * wy + t * cy;
      sum[2] += s * wz + t * cz;
    }
  }
}

package holotome.core.quad;

import holotome.core.geometry.Vec;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;

/**
 * Directions that run along a surface's form: of each four, a right angle apart, neighbours agree
 * as well as they can. Smoothed point by point (Gauss and Seidel) from few points to many, with
 * directions compared in space, so that they follow how the surface is bent without its curvature
 * being measured (Jakob and others, "Instant field-aligned meshes", 2015, sections 3 and 5).
 *
 * <p>About 0.5 µs a point and sweep on one core; on all cores.
 */
final class CrossField {
  static final int GRAIN = 1 << 11;

  private static final int SWEEPS = 6;

  private CrossField() {}

  /** One direction per point of the finest level, 3 floats each. */
  static float[] of(FieldLevels levels, Work work) {
    int last = levels.levels().size() - 1;
    float[] field = begun(levels.levels().get(last), levels.holds().get(last));
    double all = 2.0 * levels.finest().size();
    for (int l = last; ; l--) {
      FieldLevel level = levels.levels().get(l);
      Work part = work.part(level.size() / all, CoreWords.of("quads.field"));
      for (int i = 0; i < SWEEPS; i++) {
        sweep(level, levels.holds().get(l), field, part.part(1.0 / SWEEPS, part.label()));
      }
      if (l == 0) {
        return field;
      }
      field = handedDown(levels, l, field);
    }
  }

  private static float[] begun(FieldLevel level, Holds holds) {
    float[] out = new float[3 * level.size()];
    for (int v = 0; v < level.size(); v++) {
      int axis = 0;
      for (int k = 1; k < 3; k++) {
        if (Math.abs(level.normal()[3 * v + k]) < Math.abs(level.normal()[3 * v + axis])) {
          axis = k;
        }
      }
      double[] some = new double[3];
      some[axis] = 1;
      set(level, holds, out, v, some);
    }
    return out;
  }

  private static float[] handedDown(FieldLevels levels, int from, float[] field) {
    FieldLevel level = levels.levels().get(from - 1);
    int[] parent = levels.parents().get(from - 1);
    float[] out = new float[3 * level.size()];
    double[] way = new double[3];
    for (int v = 0; v < level.size(); v++) {
      for (int k = 0; k < 3; k++) {
        way[k] = field[3 * parent[v] + k];
      }
      set(level, levels.holds().get(from - 1), out, v, way);
    }
    return out;
  }

  private static void sweep(FieldLevel level, Holds holds, float[] field, Work work) {
    for (int c = 0; c + 1 < level.colours().length; c++) {
      int first = level.colours()[c];
      int count = level.colours()[c + 1] - first;
      Parallel.range(
          count,
          GRAIN,
          work.part((double) count / level.size(), work.label()),
          (from, to) -> {
            Crosses crosses = new Crosses();
            double[] sum = new double[3];
            for (int i = from; i < to; i++) {
              smooth(level, holds, field, level.order()[first + i], crosses, sum);
            }
          });
    }
  }

  private static void smooth(
      FieldLevel level, Holds holds, float[] field, int v, Crosses crosses, double[] sum) {
    if (!holds.turns(v)) {
      return;
    }
    double weights = 0;
    for (int i = level.start()[v]; i < level.start()[v + 1]; i++) {
      crosses.match(field, level.normal(), v, level.near()[i]);
      double w = level.weight()[i];
      // What was summed up so far is turned to the arm that agrees with this neighbour.
      sum[0] = crosses.ax * weights + crosses.bx * w;
      sum[1] = crosses.ay * weights + crosses.by * w;
      sum[2] = crosses.az * weights + crosses.bz * w;
      weights += w;
      set(level, holds, field, v, sum);
    }
  }

  /** Puts a direction into the tangent plane, at unit length; one with none there is left. */
  private static void set(FieldLevel level, Holds holds, float[] field, int v, double[] way) {
    int i = 3 * v;
    if (!holds.turns(v)) {
      System.arraycopy(holds.along(), i, field, i, 3);
      return;
    }
    float[] n = level.normal();
    double dot = way[0] * n[i] + way[1] * n[i + 1] + way[2] * n[i + 2];
    double x = way[0] - dot * n[i];
    double y = way[1] - dot * n[i + 1];
    double z = way[2] - dot * n[i + 2];
    double l = Math.sqrt(x * x + y * y + z * z);
    if (l > 1e-9) {
      field[i] = (float) (x / l);
      field[i + 1] = (float) (y / l);
      field[i + 2] = (float) (z / l);
    } else if (field[i] == 0 && field[i + 1] == 0 && field[i + 2] == 0) {
      double[] p = Vec.perpendicular(new double[] {n[i], n[i + 1], n[i + 2]});
      for (int k = 0; k < 3; k++) {
        field[i + k] = (float) p[k];
      }
    }
  }
}

package holotome.demo;

/**
 * The quay around the bollard, in metres: granite setts with joints, a puddle, a collar of mortar.
 */
final class Quay {
  static final double PUDDLE_X = -0.72;
  static final double PUDDLE_Y = -0.38;
  private static final double LONG = 0.200;
  private static final double SHORT = 0.110;

  private Quay() {}

  /** One sett and where a point lies in it. */
  record Sett(int column, int row, double edge) {}

  static Sett sett(double x, double y) {
    // The courses run a little askew to the axes; every second one is shifted by half.
    double c = Math.cos(0.35);
    double s = Math.sin(0.35);
    double u = c * x + s * y + 0.008 * Noise.value(3 * x, 3 * y, 0, 41);
    double v = -s * x + c * y + 0.008 * Noise.value(3 * x, 3 * y, 5, 42);
    int row = (int) Math.floor(v / SHORT);
    double shifted = u + (row & 1) * LONG / 2;
    int column = (int) Math.floor(shifted / LONG);
    double du = Math.min(shifted - column * LONG, (column + 1) * LONG - shifted);
    double dv = Math.min(v - row * SHORT, (row + 1) * SHORT - v);
    return new Sett(column, row, Math.min(du, dv));
  }

  /** How near the collar of mortar at the flange: 1 at the flange, 0 from 40 mm on. */
  static double collar(double x, double y) {
    return 1 - Noise.smoothStep(0.006, 0.040, Math.hypot(x, y) - Bollard.FLANGE_RADIUS);
  }

  /** The true height of the paving. */
  static double height(double x, double y) {
    Sett s = sett(x, y);
    double lift = 0.0022 * (2 * Noise.uniform(s.column, s.row, 7) - 1) - 0.001;
    double dome = -0.0035 * (1 - Noise.smoothStep(0, 0.030, s.edge - 0.006));
    double joint = -0.009 * (1 - Noise.smoothStep(0.004, 0.010, s.edge));
    double grain = 0.0009 * Noise.octaves(40 * x, 40 * y, 3, 43, 3);
    double paving = lift + dome + joint + grain;
    double mortar = -0.0006 + 0.0005 * Noise.octaves(60 * x, 60 * y, 9, 44, 2);
    double k = collar(x, y);
    double edge = Noise.smoothStep(0, 0.004, Math.hypot(x, y) - Bollard.FLANGE_RADIUS);
    return edge * (paving + (mortar - paving) * k);
  }

  /** How deep in the puddle: 0 outside to 1 in its middle. */
  static double puddle(double x, double y) {
    double d =
        Math.hypot(x - PUDDLE_X, (y - PUDDLE_Y) * 1.3) + 0.03 * Noise.value(12 * x, 12 * y, 1, 45);
    return 1 - Noise.smoothStep(0.07, 0.14, d);
  }

  /** How far out the scan reaches in a direction. */
  static double reach(double angle) {
    double c = Math.cos(angle);
    double s = Math.sin(angle);
    return 1.18
        + 0.10 * Noise.octaves(2.2 * c + 5, 2.2 * s, 0, 46, 2)
        + 0.05 * Noise.octaves(14 * c, 14 * s, 2, 47, 3);
  }
}

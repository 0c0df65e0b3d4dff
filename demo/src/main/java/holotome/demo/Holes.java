package holotome.demo;

/** Where the camera did not see the bollard: three ragged patches below the rim. */
final class Holes {
  /** Per hole: place along the profile, angle, half extent along, half extent around, in metres. */
  private static final double[][] PATCHES = {
    {0.372, 2.20, 0.026, 0.110}, {0.388, 0.35, 0.014, 0.032}, {0.360, 4.30, 0.010, 0.022}
  };

  private Holes() {}

  static boolean at(double place, double angle) {
    for (double[] h : PATCHES) {
      double around = Math.abs(angle - h[1]);
      around = Math.min(around, 2 * Math.PI - around) * RingGrid.radius(h[0]);
      double d = Math.hypot((place - h[0]) / h[2], around / h[3]);
      if (d < 1.5) {
        double ragged = 0.25 * Noise.octaves(60 * place, 9 * angle, 0.3, 81, 3);
        if (d + ragged < 1) {
          return true;
        }
      }
    }
    return false;
  }
}

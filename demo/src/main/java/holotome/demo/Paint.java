package holotome.demo;

import holotome.core.image.Colours;

/** The colours of the scene. */
final class Paint {
  /** Chalked numerals, "S 17", as strokes in a box of 4 x 6: x y x y per stroke. */
  private static final double[][] CHALK = {
    {3, 5, 2, 6},
    {2, 6, 1, 6},
    {1, 6, 0, 5},
    {0, 5, 0, 4},
    {0, 4, 3, 2},
    {3, 2, 3, 1},
    {3, 1, 2, 0},
    {2, 0, 1, 0},
    {1, 0, 0, 1},
    {6, 4.8, 7, 6},
    {7, 6, 7, 0},
    {9, 6, 12, 6},
    {12, 6, 10, 0}
  };

  private Paint() {}

  private static int mix(int a, int b, double f) {
    return Colours.mix(a, b, (float) Math.clamp(f, 0.0, 1.0));
  }

  private static int light(int c, double k) {
    return Colours.argb((c >> 16 & 255) * k, (c >> 8 & 255) * k, (c & 255) * k);
  }

  /** Weathered iron with rust, a chipped band of harbour yellow, chalk. */
  static int bollard(double x, double y, double z) {
    double fine = Noise.octaves(70 * x, 70 * y, 70 * z, 51, 3);
    int colour = mix(Colours.argb(44, 54, 58), Colours.argb(70, 80, 80), 0.5 + fine);
    double rust = Bollard.rust(x, y, z) + 0.35 * fine;
    int orange = mix(Colours.argb(112, 58, 32), Colours.argb(176, 98, 48), 0.5 + 1.2 * fine);
    colour = mix(colour, orange, Noise.smoothStep(0.12, 0.42, rust));
    double band = Noise.smoothStep(0.196, 0.199, z) * (1 - Noise.smoothStep(0.287, 0.290, z));
    double chips = Noise.octaves(16 * x + 9, 16 * y, 16 * z, 52, 4) + 0.25 * rust;
    int yellow = mix(Colours.argb(196, 158, 44), Colours.argb(214, 182, 74), 0.5 + fine);
    colour = mix(colour, yellow, band * (1 - Noise.smoothStep(0.10, 0.16, chips)));
    double angle = Math.atan2(y, x);
    double along = (angle + 1.35) * 0.226 / 0.011;
    double up = (z - 0.508) / 0.011;
    if (along > -1 && along < 13 && up > -1 && up < 7 && Math.hypot(x, y) > 0.19) {
      double d = 9;
      for (double[] s : CHALK) {
        d = Math.min(d, distance(along, up, s));
      }
      double dust = Noise.octaves(160 * x, 160 * y, 160 * z, 53, 2);
      colour =
          mix(
              colour,
              Colours.argb(226, 224, 214),
              (1 - Noise.smoothStep(0.25, 0.6, d)) * (0.75 + dust));
    }
    double shade = 0.72 + 0.28 * Noise.smoothStep(0, 0.05, z);
    double under =
        1 - 0.22 * Noise.smoothStep(0.40, 0.46, z) * (1 - Noise.smoothStep(0.49, 0.52, z));
    return light(colour, shade * under);
  }

  private static double distance(double x, double y, double[] s) {
    double dx = s[2] - s[0];
    double dy = s[3] - s[1];
    double t = Math.clamp(((x - s[0]) * dx + (y - s[1]) * dy) / (dx * dx + dy * dy), 0.0, 1.0);
    return Math.hypot(x - s[0] - t * dx, y - s[1] - t * dy);
  }

  /** Granite setts, each of its own grey, moss in the joints, mortar at the flange. */
  static int quay(double x, double y) {
    Quay.Sett s = Quay.sett(x, y);
    double tone = Noise.uniform(s.column(), s.row(), 3);
    double warm = Noise.uniform(s.column(), s.row(), 4);
    int stone = mix(Colours.argb(104, 106, 112), Colours.argb(150, 147, 142), tone);
    stone = mix(stone, Colours.argb(148, 128, 112), 0.35 * warm);
    double speck = Noise.value(420 * x, 420 * y, 2, 54);
    stone = light(stone, 1 + 0.13 * speck + 0.12 * Noise.octaves(25 * x, 25 * y, 1, 55, 3));
    double moss = Noise.octaves(6 * x, 6 * y, 4, 56, 3) + 0.15;
    int joint =
        mix(Colours.argb(72, 66, 58), Colours.argb(76, 92, 44), Noise.smoothStep(0, 0.3, moss));
    int colour = mix(joint, stone, Noise.smoothStep(0.005, 0.011, s.edge()));
    double creep = moss - s.edge() * 12 + 0.2 * speck;
    colour = mix(colour, Colours.argb(88, 104, 52), 0.7 * Noise.smoothStep(0.12, 0.3, creep));
    int mortar = light(Colours.argb(150, 144, 132), 1 + 0.12 * speck);
    colour = mix(colour, mortar, Quay.collar(x, y));
    double wet = Quay.puddle(x, y);
    colour =
        mix(
            colour,
            Colours.argb(150, 168, 182),
            0.75 * wet * (0.6 + 0.5 * Noise.value(30 * x, 30 * y, 8, 57)));
    double shadow = 1 - 0.3 * (1 - Noise.smoothStep(0.26, 0.36, Math.hypot(x, y)));
    return light(colour, shadow);
  }

  /** The scale bar: ten divisions, black first. */
  static int bar(double along) {
    int division = Math.clamp((int) (along / 0.05), 0, 9);
    double dirt = Noise.value(60 * along, 3, 1, 58);
    return division % 2 == 0
        ? light(Colours.argb(30, 30, 32), 1 + 0.2 * dirt)
        : light(Colours.argb(228, 226, 218), 1 - 0.05 * dirt);
  }

  static int debris(int piece) {
    return light(Colours.argb(96, 92, 84), 0.5 + Noise.uniform(piece, 1, 9));
  }
}

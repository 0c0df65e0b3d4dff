package holotome.app.tool;

import java.util.Locale;

/** Points as text: three numbers parted by commas, or by blanks. */
final class Points {
  private Points() {}

  static String format(double[] p) {
    return String.format(Locale.ROOT, "%.7g, %.7g, %.7g", p[0], p[1], p[2]);
  }

  /** To look at, where the point itself is kept elsewhere. */
  static String brief(double[] p) {
    return String.format(Locale.ROOT, "%.5g, %.5g, %.5g", p[0], p[1], p[2]);
  }

  /** A direction of unit length, to a twentieth of a degree or so. */
  static String direction(double[] d) {
    return String.format(Locale.ROOT, "%.3f, %.3f, %.3f", d[0], d[1], d[2]);
  }

  /** The point, or null where the text is not three numbers. */
  static double[] parse(String text) {
    String[] words = text.strip().split("\\s*,\\s*|\\s+");
    if (words.length != 3) {
      return null;
    }
    double[] p = new double[3];
    try {
      for (int k = 0; k < 3; k++) {
        p[k] = Double.parseDouble(words[k]);
      }
    } catch (NumberFormatException e) {
      return null;
    }
    return Double.isFinite(p[0] + p[1] + p[2]) ? p : null;
  }
}

package holotome.demo;

import holotome.core.image.Colours;
import holotome.core.mesh.Mesh;

/**
 * Three metres of the quay's setts in Sandmouth, as a scanner sees them from above: paving that
 * slopes and bends, with a rule of a true metre on it, a rope, and weeds in the joints. Made in
 * true metres, then scaled as a capture without a known size is.
 *
 * <p>Everything follows from the triangle count: same count, same bytes.
 */
public final class Setts {
  /** True metres along each side. */
  public static final double SIDE = 3;

  /** Scan units to a true metre. */
  public static final double SCALE = 2.74;

  /** The rule's ends, true metres. */
  public static final double[][] RULE = {{0.35, 0.3}, {1.35, 0.3}};

  private static final double RULE_WIDE = 0.03;
  private static final double RULE_HIGH = 0.006;
  private static final double ROPE = 0.011;
  private static final int CLUMPS = 36;
  private static final int BLADES = 7;
  private static final double[][] WEEDS = blades();

  private Setts() {}

  /** A scan of about so many triangles. */
  public static Mesh scan(int triangles) {
    int cells = (int) Math.ceil(Math.sqrt(triangles / 2.0));
    int n = cells + 1;
    float[] xyz = new float[3 * n * n];
    int[] colours = new int[n * n];
    int[] tri = new int[6 * cells * cells];
    int c = 0;
    for (int j = 0; j < n; j++) {
      for (int i = 0; i < n; i++) {
        double x = SIDE * i / cells;
        double y = SIDE * j / cells;
        int v = j * n + i;
        double weed = weed(x, y);
        double thing = Math.max(rule(x, y), rope(x, y));
        double own = detail(x, y);
        double z = base(x, y) + (thing > 0 ? Math.max(thing, own) : own) + weed;
        z += 0.0002 * Noise.bell(i, j, 81);
        xyz[3 * v] = (float) (SCALE * x);
        xyz[3 * v + 1] = (float) (SCALE * y);
        xyz[3 * v + 2] = (float) (SCALE * z);
        colours[v] = paint(x, y, weed);
        if (i < cells && j < cells) {
          int[] two = {v, v + 1, v + n + 1, v, v + n + 1, v + n};
          System.arraycopy(two, 0, tri, c, 6);
          c += 6;
        }
      }
    }
    return new Mesh(xyz, tri, colours);
  }

  /** The true base: how the ground slopes and bends, in metres. */
  public static double base(double x, double y) {
    return 0.05 * x
        - 0.02 * y
        + 0.035 * Math.sin(2 * Math.PI * (x + 0.3 * y) / 4.5)
        + 0.015 * Math.cos(2 * Math.PI * y / 3.2);
  }

  /** How far the paving lies over it. */
  public static double detail(double x, double y) {
    // Far from where the quay has its bollard.
    return Quay.height(x + 5, y + 7);
  }

  /** Whether there is nothing but paving. */
  public static boolean isPaving(double x, double y) {
    return rule(x, y) == 0 && rope(x, y) == 0 && weed(x, y) == 0;
  }

  private static double rule(double x, double y) {
    boolean isOn = x > RULE[0][0] && x < RULE[1][0] && Math.abs(y - RULE[0][1]) < RULE_WIDE / 2;
    return isOn ? RULE_HIGH : 0;
  }

  private static double rope(double x, double y) {
    if (x < 0.2 || x > 2.3) {
      return 0;
    }
    double off = y - 2.6 - 0.12 * Math.sin(3 * x);
    // The curve's slope makes it narrower across y.
    double away = Math.abs(off) / Math.hypot(1, 0.36 * Math.cos(3 * x));
    return away < ROPE ? ROPE + Math.sqrt(ROPE * ROPE - away * away) : 0;
  }

  /** Each blade: where it stands, which way it leans, how long and how high it is. */
  private static double[][] blades() {
    double[][] out = new double[CLUMPS * BLADES][];
    for (int i = 0; i < out.length; i++) {
      int clump = i / BLADES;
      double x = SIDE * Noise.uniform(clump, 1, 82) + 0.02 * Noise.bell(i, 2, 83);
      double y = SIDE * Noise.uniform(clump, 3, 84) + 0.02 * Noise.bell(i, 4, 85);
      double way = 2 * Math.PI * Noise.uniform(i, 5, 86);
      double far = 0.02 + 0.04 * Noise.uniform(i, 6, 87);
      double high = 0.02 + 0.06 * Noise.uniform(i, 7, 88);
      out[i] = new double[] {x, y, Math.cos(way) * far, Math.sin(way) * far, high};
    }
    return out;
  }

  private static double weed(double x, double y) {
    double most = 0;
    for (double[] b : WEEDS) {
      double dx = x - b[0];
      double dy = y - b[1];
      if (Math.abs(dx) < 0.08 && Math.abs(dy) < 0.08) {
        double t = (dx * b[2] + dy * b[3]) / (b[2] * b[2] + b[3] * b[3]);
        double k = Math.clamp(t, 0.0, 1.0);
        if (Math.hypot(dx - k * b[2], dy - k * b[3]) < 0.003) {
          most = Math.max(most, b[4] * (0.2 + 0.8 * k));
        }
      }
    }
    return most;
  }

  private static int paint(double x, double y, double weed) {
    double fine = 0.5 + Noise.octaves(30 * x, 30 * y, 0.1, 89, 3);
    float share = (float) Math.clamp(fine, 0.0, 1.0);
    if (weed > 0) {
      return Colours.mix(Colours.argb(58, 84, 38), Colours.argb(96, 118, 52), share);
    }
    if (rope(x, y) > 0) {
      boolean isTwist = Math.floorMod((int) Math.floor(60 * (x + y)), 2) == 0;
      return isTwist ? Colours.argb(168, 144, 96) : Colours.argb(140, 118, 78);
    }
    if (rule(x, y) > 0) {
      boolean isDark = Math.floorMod((int) Math.floor((x - RULE[0][0]) / 0.1), 2) == 0;
      return isDark ? Colours.argb(34, 34, 36) : Colours.argb(226, 224, 216);
    }
    Quay.Sett s = Quay.sett(x + 5, y + 7);
    double own = Noise.uniform(s.column(), s.row(), 90);
    int stone =
        Colours.mix(
            Colours.argb(92, 90, 88),
            Colours.argb(142, 132, 124),
            (float) (0.7 * own + 0.3 * share));
    boolean isJoint = s.edge() < 0.008;
    return isJoint ? Colours.mix(stone, Colours.argb(64, 56, 46), 0.7f) : stone;
  }
}

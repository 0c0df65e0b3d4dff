package holotome.demo;

import holotome.core.image.Colours;
import holotome.core.mesh.Mesh;

/**
 * A shop front in Sandmouth with two panes of glass, as a scanner sees it: the wall and the joinery
 * well, the glass as boiling noise that stands a little proud. In true metres, the wall upright in
 * the plane y = 0, its front towards -y, x along it and z up; 3 m by 2.4 m.
 *
 * <p>Everything follows from the triangle count: same count, same bytes.
 */
public final class ShopWindow {
  public static final double WIDTH = 3;
  public static final double HEIGHT = 2.4;

  /** How far the true panes lie behind the wall's face. */
  public static final double PANE_DEPTH = 0.02;

  /** How far the frame stands out before it. */
  private static final double FRAME = 0.04;

  /** Sound putty around each pane, at its depth. */
  private static final double BEAD = 0.05;

  /** The panes with their beads: x from, x to, z from, z to. */
  private static final double[][] PANES = {{0.4, 1.4, 0.7, 2.0}, {1.6, 2.6, 0.7, 2.0}};

  private ShopWindow() {}

  /** A scan of about so many triangles. */
  public static Mesh scan(int triangles) {
    double cell = Math.sqrt(2 * WIDTH * HEIGHT / triangles);
    int across = (int) Math.ceil(WIDTH / cell);
    int up = (int) Math.ceil(HEIGHT / cell);
    int n = across + 1;
    float[] xyz = new float[3 * n * (up + 1)];
    int[] colours = new int[n * (up + 1)];
    int[] tri = new int[6 * across * up];
    int c = 0;
    for (int j = 0; j <= up; j++) {
      for (int i = 0; i <= across; i++) {
        double x = WIDTH * i / across;
        double z = HEIGHT * j / up;
        int v = j * n + i;
        xyz[3 * v] = (float) x;
        xyz[3 * v + 1] = (float) (-depth(x, z) - noise(x, z, i, j));
        xyz[3 * v + 2] = (float) z;
        colours[v] = paint(x, z);
        if (i < across && j < up) {
          int[] two = {v, v + 1, v + n + 1, v, v + n + 1, v + n};
          System.arraycopy(two, 0, tri, c, 6);
          c += 6;
        }
      }
    }
    return new Mesh(xyz, tri, colours);
  }

  /** Whether a place of the front is glass: 1 or 2 for the pane, 0 for none. */
  public static int pane(double x, double z) {
    for (int k = 0; k < PANES.length; k++) {
      double[] p = PANES[k];
      if (x > p[0] + BEAD && x < p[1] - BEAD && z > p[2] + BEAD && z < p[3] - BEAD) {
        return k + 1;
      }
    }
    return 0;
  }

  /** How far the true surface stands out of the wall's face. */
  public static double depth(double x, double z) {
    for (double[] p : PANES) {
      double out = Math.max(Math.max(p[0] - x, x - p[1]), Math.max(p[2] - z, z - p[3]));
      if (out <= 0) {
        return -PANE_DEPTH;
      }
      if (out < 0.08) {
        // The frame's edge towards the pane is a bevel.
        return Math.min(FRAME, -PANE_DEPTH + (FRAME + PANE_DEPTH) * out / 0.02);
      }
    }
    return 0;
  }

  /** What the scanner adds: little on what is dull, boiling and proud on glass. */
  private static double noise(double x, double z, int i, int j) {
    double fine = 0.0002 * Noise.bell(i, j, 71);
    if (pane(x, z) == 0) {
      return fine;
    }
    return 0.012 + 0.02 * Noise.octaves(14 * x, 14 * z, 0.3, 72, 3) + 0.006 * Noise.bell(i, j, 73);
  }

  private static int paint(double x, double z) {
    if (pane(x, z) > 0) {
      double sky = 0.5 + Noise.octaves(2 * x, 3 * z, 0.7, 74, 3);
      return Colours.mix(
          Colours.argb(24, 34, 44), Colours.argb(120, 150, 168), (float) Math.clamp(sky, 0.0, 1.0));
    }
    double fine = Noise.octaves(30 * x, 30 * z, 0.1, 75, 3);
    boolean isWood = depth(x, z) != 0;
    return isWood
        ? Colours.mix(
            Colours.argb(36, 66, 58),
            Colours.argb(58, 92, 80),
            (float) Math.clamp(0.5 + fine, 0, 1))
        : Colours.mix(
            Colours.argb(178, 168, 150),
            Colours.argb(206, 198, 180),
            (float) Math.clamp(0.5 + fine, 0, 1));
  }
}

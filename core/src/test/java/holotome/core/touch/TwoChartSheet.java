package holotome.core.touch;

import holotome.core.image.Image;
import holotome.core.map.Directions;
import holotome.core.map.MapKind;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Maps;
import holotome.core.task.Work;
import java.util.List;
import java.util.Map;

/**
 * A flat sheet, 2 wide and 1 high, of two charts that meet at x = 1, the second turned by a quarter
 * in the texture; its maps are made by formulas of the place.
 */
public final class TwoChartSheet {
  static final int SIZE = 512;

  /** Texture to a unit of length. */
  static final double PER_UNIT = 0.42;

  static final double TEXEL = 1 / (PER_UNIT * SIZE);

  private static final int CELLS = 10;

  public final Mesh mesh;
  public final Maps maps;
  final TouchGround ground;

  /** What is to be at a place. */
  public interface Field {
    double[] at(double x, double y);
  }

  /**
   * @param colour red, green, blue, 0 to 1 as shown
   * @param normal in space
   * @param height one number
   */
  public TwoChartSheet(Field colour, Field normal, Field height) {
    mesh = sheet();
    Image missed = Image.blank(SIZE, SIZE, 1, Image.Sample.BYTE, Image.Space.LINEAR);
    Maps bare = new Maps(SIZE, Map.of(), Map.of(), missed, 1, 0, List.of());
    ground = TouchGround.of(mesh, bare, Work.unwatched());
    Maps all = bare;
    Image c = Image.blank(SIZE, SIZE, 3, Image.Sample.BYTE, Image.Space.SRGB);
    all =
        all.with(
            MapKind.COLOUR,
            c.filled(
                (x, y, out) -> set(colour.at(placeX(x, y), placeY(x, y)), 255, out),
                Work.unwatched()));
    Image n = Image.blank(SIZE, SIZE, 3, Image.Sample.SHORT, Image.Space.LINEAR);
    all =
        all.with(
            MapKind.NORMAL,
            n.filled(
                (x, y, out) -> normal(normal.at(placeX(x, y), placeY(x, y)), x, y, out),
                Work.unwatched()));
    all =
        all.with(
            MapKind.OBJECT_NORMAL,
            n.filled(
                (x, y, out) -> {
                  double[] d = normal.at(placeX(x, y), placeY(x, y));
                  Directions.store(d[0], d[1], d[2], out);
                  scale(out, 65535);
                },
                Work.unwatched()));
    Image h = Image.blank(SIZE, SIZE, 1, Image.Sample.FLOAT, Image.Space.LINEAR);
    maps =
        all.with(
            MapKind.HEIGHT,
            h.filled(
                (x, y, out) -> set(height.at(placeX(x, y), placeY(x, y)), 1, out),
                Work.unwatched()));
  }

  private static void set(double[] v, double one, double[] out) {
    for (int k = 0; k < v.length; k++) {
      out[k] = v[k] * one;
    }
  }

  private static void scale(double[] v, double by) {
    for (int k = 0; k < 3; k++) {
      v[k] *= by;
    }
  }

  private void normal(double[] d, int x, int y, double[] out) {
    double[] frame = new double[9];
    ground.split().frame(isSecond(x) ? 2 * CELLS * CELLS : 0, 0.3, 0.3, frame);
    float[] w = new float[3];
    Directions.solve(frame, d[0], d[1], d[2], w, 0);
    Directions.store(w[0], w[1], w[2], out);
    scale(out, 65535);
  }

  private static boolean isSecond(int x) {
    return x >= SIZE / 2;
  }

  /** The place on the sheet of a texel, or of what its chart's plane would go on to be. */
  static double placeX(int x, int y) {
    double u = (x + 0.5) / SIZE;
    double v = 1 - (y + 0.5) / SIZE;
    return isSecond(x) ? 1 + (v - 0.04) / PER_UNIT : (u - 0.04) / PER_UNIT;
  }

  static double placeY(int x, int y) {
    double u = (x + 0.5) / SIZE;
    double v = 1 - (y + 0.5) / SIZE;
    return isSecond(x) ? (0.96 - u) / PER_UNIT : (v - 0.04) / PER_UNIT;
  }

  static boolean isOnSheet(int x, int y) {
    double px = placeX(x, y);
    double py = placeY(x, y);
    boolean across = isSecond(x) ? px >= 1 && px <= 2 : px >= 0 && px <= 1;
    return across && py >= 0 && py <= 1;
  }

  private static Mesh sheet() {
    int n = 2 * CELLS + 1;
    float[] xyz = new float[3 * n * (CELLS + 1)];
    for (int j = 0; j <= CELLS; j++) {
      for (int i = 0; i < n; i++) {
        xyz[3 * (j * n + i)] = (float) i / CELLS;
        xyz[3 * (j * n + i) + 1] = (float) j / CELLS;
      }
    }
    int[] tri = new int[2 * 6 * CELLS * CELLS];
    int[] corners = new int[tri.length];
    float[] uv = new float[2 * tri.length];
    int at = 0;
    for (int half = 0; half < 2; half++) {
      for (int j = 0; j < CELLS; j++) {
        for (int i = half * CELLS; i < (half + 1) * CELLS; i++) {
          int a = j * n + i;
          int[] quad = {a, a + 1, a + n + 1, a, a + n + 1, a + n};
          for (int v : quad) {
            double x = xyz[3 * v];
            double y = xyz[3 * v + 1];
            tri[at] = v;
            corners[at] = at;
            uv[2 * at] = (float) (half == 1 ? 0.96 - PER_UNIT * y : 0.04 + PER_UNIT * x);
            uv[2 * at + 1] = (float) (half == 1 ? 0.04 + PER_UNIT * (x - 1) : 0.04 + PER_UNIT * y);
            at++;
          }
        }
      }
    }
    return new Mesh(xyz, tri).withUv(new Uv(uv, corners));
  }

  /** A stroke straight from one place to another. */
  public static double[] line(double x0, double y0, double x1, double y1) {
    return new double[] {x0, y0, 0, x1, y1, 0};
  }
}

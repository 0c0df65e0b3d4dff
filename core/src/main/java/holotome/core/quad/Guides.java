package holotome.core.quad;

import holotome.core.mesh.Mesh;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.List;

/** Lines drawn on a surface that directions follow where they run. */
final class Guides {
  private static final int MOST_RINGS = 12;

  private Guides() {}

  /**
   * Holds the points below guides to their directions, where no line holds them.
   *
   * @param guides points of 3 numbers one after the other
   * @param width and so far to either side
   */
  static void hold(
      Mesh surface, FieldLevel level, List<double[]> guides, double width, Holds holds, Work work) {
    if (guides.isEmpty() || surface.isEmpty()) {
      work.advance(1);
      return;
    }
    BvhQuery query = new BvhQuery(Bvh.of(surface, work.part(1, label())));
    double step = 0.5 * Math.sqrt(2 * meanArea(level, surface));
    for (double[] line : guides) {
      for (int i = 3; i < line.length; i += 3) {
        double[] way = {
          line[i] - line[i - 3], line[i + 1] - line[i - 2], line[i + 2] - line[i - 1]
        };
        double length = Math.sqrt(way[0] * way[0] + way[1] * way[1] + way[2] * way[2]);
        int parts = (int) Math.clamp(Math.ceil(length / step), 1, 10_000);
        for (int j = 0; length > 0 && j <= parts; j++) {
          double s = (double) j / parts;
          boolean isFound =
              query.closest(
                  (float) (line[i - 3] + s * way[0]),
                  (float) (line[i - 2] + s * way[1]),
                  (float) (line[i - 1] + s * way[2]),
                  Float.POSITIVE_INFINITY);
          for (int c = 3 * query.triangle; isFound && c < 3 * query.triangle + 3; c++) {
            hold(level, surface.triangles()[c], way, holds);
          }
        }
      }
    }
    double edge = 2 * Math.sqrt(meanArea(level, surface) / Math.sqrt(3));
    for (int i = 0; i < (int) Math.clamp(width / edge, 0, MOST_RINGS); i++) {
      widen(level, holds);
    }
  }

  /** What lies beside points that are held takes their direction. */
  private static void widen(FieldLevel level, Holds holds) {
    byte[] before = holds.kind().clone();
    double[] way = new double[3];
    for (int v = 0; v < before.length; v++) {
      for (int i = level.start()[v]; before[v] == Holds.FREE && i < level.start()[v + 1]; i++) {
        int u = level.near()[i];
        if (before[u] == Holds.ALONG) {
          for (int k = 0; k < 3; k++) {
            way[k] = holds.along()[3 * u + k];
          }
          hold(level, v, way, holds);
          break;
        }
      }
    }
  }

  private static String label() {
    return CoreWords.of("quads.field");
  }

  private static double meanArea(FieldLevel level, Mesh surface) {
    double sum = 0;
    for (float a : level.area()) {
      sum += a;
    }
    return sum / surface.triangleCount();
  }

  private static void hold(FieldLevel level, int v, double[] way, Holds holds) {
    if (holds.kind()[v] > Holds.ALONG) {
      return;
    }
    double dot = 0;
    for (int k = 0; k < 3; k++) {
      dot += way[k] * level.normal()[3 * v + k];
    }
    double[] d = new double[3];
    double square = 0;
    for (int k = 0; k < 3; k++) {
      d[k] = way[k] - dot * level.normal()[3 * v + k];
      square += d[k] * d[k];
    }
    if (square > 0) {
      holds.kind()[v] = Holds.ALONG;
      for (int k = 0; k < 3; k++) {
        holds.along()[3 * v + k] = (float) (d[k] / Math.sqrt(square));
      }
    }
  }
}

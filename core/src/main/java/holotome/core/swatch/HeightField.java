package holotome.core.swatch;

import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.task.Parallel;
import holotome.core.task.Work;

/**
 * How far over a rectangle the Scan lies, on a grid that reaches beyond its sides: what rays along
 * its normal meet first from above. O(samples x log triangles).
 *
 * @param columns samples across, beyond the sides too
 * @param rows and upwards
 * @param margin how many of them lie beyond each side
 * @param step between samples across, in base units
 * @param stepUp and upwards
 * @param heights row by row from the lower side; NaN where there is no Scan
 */
record HeightField(int columns, int rows, int margin, double step, double stepUp, float[] heights) {
  private static final int GRAIN = 8;

  /**
   * Casts the rays.
   *
   * @param spacing of samples, about; whole numbers of them go into the sides
   * @param beyond how far it goes on over the sides
   * @param within how far over and under the rectangle the Scan counts
   */
  static HeightField of(
      Bvh scan, Rectangle r, double spacing, double beyond, double within, Work work) {
    int across = (int) Math.max(1, Math.ceil(r.width() / spacing));
    int up = (int) Math.max(1, Math.ceil(r.height() / spacing));
    double step = r.width() / across;
    double stepUp = r.height() / up;
    int margin = (int) Math.ceil(beyond / Math.min(step, stepUp));
    int columns = across + 1 + 2 * margin;
    int rows = up + 1 + 2 * margin;
    float[] out = new float[Math.multiplyExact(columns, rows)];
    Parallel.range(
        rows,
        GRAIN,
        work,
        (from, to) -> {
          BvhQuery q = new BvhQuery(scan);
          for (int j = from; j < to; j++) {
            for (int i = 0; i < columns; i++) {
              out[j * columns + i] =
                  r.look(q, (double) (i - margin) / across, (double) (j - margin) / up, within);
            }
          }
        });
    return new HeightField(columns, rows, margin, step, stepUp, out);
  }

  /** The same with other heights. */
  HeightField with(float[] others) {
    return new HeightField(columns, rows, margin, step, stepUp, others);
  }

  /** Whether a sample lies within the rectangle. */
  boolean isWithin(int at) {
    int i = at % columns;
    int j = at / columns;
    return i >= margin && j >= margin && i < columns - margin && j < rows - margin;
  }

  /** Between samples, at shares of the rectangle's width and height: bilinear. */
  double at(double u, double v) {
    double x = margin + u * (columns - 1 - 2 * margin);
    double y = margin + v * (rows - 1 - 2 * margin);
    int i = Math.clamp((long) Math.floor(x), 0, columns - 2);
    int j = Math.clamp((long) Math.floor(y), 0, rows - 2);
    double fx = x - i;
    double fy = y - j;
    int k = j * columns + i;
    double low = heights[k] + fx * (heights[k + 1] - heights[k]);
    double high = heights[k + columns] + fx * (heights[k + columns + 1] - heights[k + columns]);
    return low + fy * (high - low);
  }
}

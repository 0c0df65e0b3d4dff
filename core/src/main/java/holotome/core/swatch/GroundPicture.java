package holotome.core.swatch;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.VertexColours;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.task.Parallel;
import holotome.core.task.Work;

/**
 * What of the Scan lies under a rectangle, seen along its normal: height and colour in the middle
 * of each cell of a grid. O(cells x log triangles).
 *
 * @param columns cells across
 * @param rows and upwards
 * @param heights over the rectangle in base units, row by row from the lower side; NaN where there
 *     is no Scan
 * @param colours as stored, 0xAARRGGBB; 0 where there is no Scan
 */
record GroundPicture(int columns, int rows, float[] heights, int[] colours) {
  private static final int GRAIN = 8;

  /**
   * Looks down.
   *
   * @param within how far over and under the rectangle the Scan counts, in base units
   */
  static GroundPicture of(
      Mesh scan, Bvh index, Rectangle r, int columns, int rows, double within, Work work) {
    float[] heights = new float[Math.multiplyExact(columns, rows)];
    int[] colours = new int[heights.length];
    Parallel.range(
        rows,
        GRAIN,
        work,
        (from, to) -> {
          BvhQuery q = new BvhQuery(index);
          for (int j = from; j < to; j++) {
            for (int i = 0; i < columns; i++) {
              int at = j * columns + i;
              heights[at] = r.look(q, (i + 0.5) / columns, (j + 0.5) / rows, within);
              boolean isHit = !Float.isNaN(heights[at]);
              colours[at] = isHit ? VertexColours.at(scan, q.triangle, q.u, q.v) | 0xff << 24 : 0;
            }
          }
        });
    return new GroundPicture(columns, rows, heights, colours);
  }

  boolean isSeen(int at) {
    return colours[at] != 0;
  }
}

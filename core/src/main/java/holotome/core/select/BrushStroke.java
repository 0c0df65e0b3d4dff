package holotome.core.select;

import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.step.Parameter;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.BitSet;
import java.util.HashMap;
import java.util.Map;

/** A stroke over the surface: all within a distance of its points, in space. */
public record BrushStroke(
    @Parameter(help = "Points on the surface, x y z in turn, in working space") double[] points,
    @Parameter(help = "How far the brush reaches", min = 0) Length radius)
    implements Rule {

  public BrushStroke {
    if (points.length == 0 || points.length % 3 != 0) {
      throw Failure.usage(CoreWords.of("brush-stroke.a-brush-strokes-points-need"));
    }
    if (!(radius.metres() > 0)) {
      throw Failure.usage(CoreWords.of("brush-stroke.a-brushs-radius-must-be"));
    }
  }

  /**
   * The triangles whose centre is within the radius of a point; the points are sorted into cells of
   * that size first, so that a triangle meets those of 27 cells at most.
   */
  @Override
  public BitSet select(Mesh mesh, Frame frame, Work work) {
    Similarity back = frame.toWork().inverse();
    double r = radius.metres() * back.scale();
    double[] p = new double[points.length];
    Map<Long, int[]> cells = new HashMap<>();
    double[] low = {Double.MAX_VALUE, Double.MAX_VALUE, Double.MAX_VALUE};
    double[] high = {-Double.MAX_VALUE, -Double.MAX_VALUE, -Double.MAX_VALUE};
    for (int i = 0; i < p.length; i += 3) {
      double[] q = back.apply(points[i], points[i + 1], points[i + 2]);
      System.arraycopy(q, 0, p, i, 3);
      for (int k = 0; k < 3; k++) {
        low[k] = Math.min(low[k], q[k] - r);
        high[k] = Math.max(high[k], q[k] + r);
      }
    }
    // A stroke is short beside its radius, as a rule; cells larger than the radius keep them few.
    double cell = Math.max(r, Vec.distance(low, high) / 500_000);
    for (int i = 0; i < p.length; i += 3) {
      long key =
          key(cell(p[i], low[0], cell), cell(p[i + 1], low[1], cell), cell(p[i + 2], low[2], cell));
      int at = i;
      cells.merge(key, new int[] {at}, BrushStroke::append);
    }
    return TriangleTest.select(
        mesh,
        work,
        (t, x, y, z) ->
            x >= low[0]
                && x <= high[0]
                && y >= low[1]
                && y <= high[1]
                && z >= low[2]
                && z <= high[2]
                && near(p, cells, r * r, low, cell, x, y, z));
  }

  private static int[] append(int[] a, int[] b) {
    int[] out = java.util.Arrays.copyOf(a, a.length + 1);
    out[a.length] = b[0];
    return out;
  }

  private static int cell(double x, double low, double cell) {
    return (int) Math.floor((x - low) / cell) + 1;
  }

  private static long key(int x, int y, int z) {
    return (long) x << 42 | (long) y << 21 | z;
  }

  private static boolean near(
      double[] p,
      Map<Long, int[]> cells,
      double r2,
      double[] low,
      double cell,
      double x,
      double y,
      double z) {
    int cx = cell(x, low[0], cell);
    int cy = cell(y, low[1], cell);
    int cz = cell(z, low[2], cell);
    for (int i = cx - 1; i <= cx + 1; i++) {
      for (int j = cy - 1; j <= cy + 1; j++) {
        for (int k = cz - 1; k <= cz + 1; k++) {
          int[] found = cells.get(key(i, j, k));
          if (found == null) {
            continue;
          }
          for (int o : found) {
            double dx = p[o] - x;
            double dy = p[o + 1] - y;
            double dz = p[o + 2] - z;
            if (dx * dx + dy * dy + dz * dz <= r2) {
              return true;
            }
          }
        }
      }
    }
    return false;
  }
}

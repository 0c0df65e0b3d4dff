package holotome.app.tool;

import java.awt.BasicStroke;
import java.awt.geom.Area;
import java.awt.geom.Path2D;
import java.awt.geom.PathIterator;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/** The outline around a brush stroke. */
final class StrokeOutline {
  private static final double FLAT = 0.2;

  private StrokeOutline() {}

  /**
   * All within a radius of a line of straight pieces, as one ring by the even-odd rule: the rings
   * of the area, each joined to the first by a line there and back, which bounds nothing.
   *
   * @param xy of the line's corners
   */
  static double[] of(double[] xy, double radius) {
    Path2D path = new Path2D.Double();
    path.moveTo(xy[0], xy[1]);
    // A point alone is drawn as a disc.
    path.lineTo(xy[0] + 1e-3, xy[1]);
    for (int i = 2; i < xy.length; i += 2) {
      path.lineTo(xy[i], xy[i + 1]);
    }
    BasicStroke pen =
        new BasicStroke((float) (2 * radius), BasicStroke.CAP_ROUND, BasicStroke.JOIN_ROUND);
    List<double[]> rings = rings(new Area(pen.createStrokedShape(path)));
    int n = rings.stream().mapToInt(r -> r.length).sum() + 4 * rings.size();
    double[] out = new double[n];
    int at = 0;
    double[] first = rings.getFirst();
    for (double[] r : rings) {
      System.arraycopy(r, 0, out, at, r.length);
      at += r.length;
      out[at++] = r[0];
      out[at++] = r[1];
      out[at++] = first[0];
      out[at++] = first[1];
    }
    return Arrays.copyOf(out, at);
  }

  private static List<double[]> rings(Area area) {
    List<double[]> rings = new ArrayList<>();
    double[] ring = new double[64];
    int n = 0;
    double[] c = new double[6];
    for (PathIterator it = area.getPathIterator(null, FLAT); !it.isDone(); it.next()) {
      int kind = it.currentSegment(c);
      if (kind == PathIterator.SEG_CLOSE) {
        rings.add(Arrays.copyOf(ring, n));
        n = 0;
      } else {
        if (n + 2 > ring.length) {
          ring = Arrays.copyOf(ring, 2 * n);
        }
        ring[n++] = c[0];
        ring[n++] = c[1];
      }
    }
    return rings;
  }
}

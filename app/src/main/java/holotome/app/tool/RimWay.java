package holotome.app.tool;

import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/** The way along a rim from one of its points to another. */
final class RimWay {
  private RimWay() {}

  /**
   * @param rims as closed rows of points in base coordinates, 3 floats each
   * @param a a point of a rim, in working space
   * @param b another point of it
   * @return the shorter way, both points with it, in working space; null where no rim has both
   */
  static List<double[]> between(float[][] rims, Frame frame, double[] a, double[] b) {
    for (float[] rim : rims) {
      double[][] p = new double[rim.length / 3][];
      int from = -1;
      int to = -1;
      for (int i = 0; i < p.length; i++) {
        p[i] = frame.toWork().apply(rim[3 * i], rim[3 * i + 1], rim[3 * i + 2]);
        from = Arrays.equals(p[i], a) ? i : from;
        to = Arrays.equals(p[i], b) ? i : to;
      }
      if (from >= 0 && to >= 0 && from != to) {
        List<double[]> on = way(p, from, to, 1);
        List<double[]> back = way(p, from, to, p.length - 1);
        return length(on) <= length(back) ? on : back;
      }
    }
    return null;
  }

  private static List<double[]> way(double[][] p, int from, int to, int step) {
    List<double[]> out = new ArrayList<>();
    for (int i = from; i != to; i = (i + step) % p.length) {
      out.add(p[i]);
    }
    out.add(p[to]);
    return out;
  }

  private static double length(List<double[]> way) {
    double sum = 0;
    for (int i = 1; i < way.size(); i++) {
      sum += Vec.distance(way.get(i - 1), way.get(i));
    }
    return sum;
  }
}

package holotome.core.proxy;

import holotome.core.geometry.Vec;
import java.util.ArrayList;
import java.util.List;

/**
 * How a point moves whose planes each shift along their normal: the shortest way that does it. Of
 * more planes than a point has directions the further ones must follow; by how much of the others
 * says {@link #follows}.
 */
final class PlanesMove {
  /** Planes nearer than this, in sines, to those that there are say nothing new. */
  private static final double NEW = 1e-3;

  private final double[][] normals;

  /** The planes that lead, and directions at right angles of which each is the first to need. */
  private final List<Integer> leading = new ArrayList<>();

  private final List<double[]> along = new ArrayList<>();

  /**
   * @param normals of a point's planes, unit each
   */
  PlanesMove(double[][] normals) {
    this.normals = normals;
    while (leading.size() < 3) {
      int best = -1;
      double most = NEW;
      for (int i = 0; i < normals.length; i++) {
        double left = Vec.length(rest(normals[i]));
        // The first one leads unless another says clearly more.
        if (left > most * (best < 0 ? 1 : 1.001)) {
          most = left;
          best = i;
        }
      }
      if (best < 0) {
        break;
      }
      along.add(Vec.unit(rest(normals[best])));
      leading.add(best);
    }
  }

  private double[] rest(double[] n) {
    double[] left = n;
    for (double[] a : along) {
      left = Vec.sub(left, Vec.mul(a, Vec.dot(left, a)));
    }
    return left;
  }

  /** The way for a shift of each plane; those that follow are not looked at. */
  double[] by(double... shifts) {
    double[] way = new double[3];
    for (int i = 0; i < along.size(); i++) {
      double[] n = normals[leading.get(i)];
      double missing = shifts[leading.get(i)] - Vec.dot(n, way);
      way = Vec.add(way, Vec.mul(along.get(i), missing / Vec.dot(n, along.get(i))));
    }
    return way;
  }

  /**
   * For each plane that does not lead, its own shift less what the leading ones make of it: a row
   * of as many numbers as there are planes, whose product with the shifts is to be nought.
   */
  List<double[]> follows() {
    List<double[]> rows = new ArrayList<>();
    for (int j = 0; j < normals.length; j++) {
      if (leading.contains(j)) {
        continue;
      }
      double[] row = new double[normals.length];
      row[j] = 1;
      for (int i : leading) {
        double[] one = new double[normals.length];
        one[i] = 1;
        row[i] = -Vec.dot(normals[j], by(one));
      }
      rows.add(row);
    }
    return rows;
  }
}

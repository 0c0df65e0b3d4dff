package holotome.core.measure;

import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import java.util.Arrays;

/**
 * The box of least volume in any direction around a hull: for each of the hull's larger faces the
 * best box that lies flat on it (rotating calipers over the hull's edges), and the best of those
 * turned a little further while that helps, since the smallest box need not lie flat on any face
 * (O'Rourke, "Finding minimal enclosing boxes", 1985). Near the least; never below it.
 *
 * @param axes three unit directions by rows, right-handed, the longest side first
 * @param size along each, longest first
 */
public record SmallestBox(double[] centre, double[] axes, double[] size) {
  private static final int MOST_FACES = 200;
  private static final int STARTS = 24;

  public double volume() {
    return size[0] * size[1] * size[2];
  }

  public static SmallestBox of(Hull hull) {
    int faces = hull.faceCount();
    Integer[] order = new Integer[faces];
    double[] area = new double[faces];
    for (int f = 0; f < faces; f++) {
      order[f] = f;
      area[f] = Vec.length(hull.cross(f));
    }
    Arrays.sort(order, (a, b) -> Double.compare(area[b], area[a]));
    double[] best = {1, 0, 0, 0, 1, 0, 0, 0, 1};
    double least = volume(hull, best);
    for (int i = 0; i < Math.min(faces, MOST_FACES); i++) {
      double[] n = Vec.unit(hull.cross(order[i]));
      if (Vec.length(n) < 0.5) {
        continue;
      }
      double[] found = on(hull, n);
      double v = volume(hull, found);
      if (v < least) {
        least = v;
        best = found;
      }
    }
    best = refined(hull, best);
    least = volume(hull, best);
    // The least box need not be near one that lies on a face: look from all around as well.
    for (int i = 0; i < STARTS; i++) {
      double[] found = refined(hull, start(i));
      double v = volume(hull, found);
      if (v < least * (1 - 1e-9)) {
        least = v;
        best = found;
      }
    }
    return settled(hull, best);
  }

  /** Turned a little further, by ever smaller steps, while that makes the box smaller. */
  private static double[] refined(Hull hull, double[] axes) {
    double[] best = axes;
    double least = volume(hull, best);
    for (double step = 0.2; step > 1e-7; step /= 1.6) {
      boolean better = true;
      while (better) {
        better = false;
        for (int k = 0; k < 6; k++) {
          double[] turned = turned(best, k / 2, k % 2 == 0 ? step : -step);
          double v = volume(hull, turned);
          if (v < least * (1 - 1e-12)) {
            least = v;
            best = turned;
            better = true;
          }
        }
      }
    }
    return best;
  }

  /** Axes in some direction, spread evenly by the R3 sequence (Roberts, 2018). */
  private static double[] start(int i) {
    double u = (0.5 + i * 0.8191725133961645) % 1;
    double v = (0.5 + i * 0.6710436067037893) % 1;
    double w = (0.5 + i * 0.5497004779019703) % 1;
    double z = 2 * v - 1;
    double r = Math.sqrt(1 - z * z);
    double a = 2 * Math.PI * u;
    return Similarity.turning(Vec.of(r * Math.cos(a), r * Math.sin(a), z), Math.PI * w).rotation();
  }

  /** The axes turned about one of them. */
  private static double[] turned(double[] axes, int about, double angle) {
    double[] a = Arrays.copyOfRange(axes, 3 * about, 3 * about + 3);
    Similarity t = Similarity.turning(Vec.unit(a), angle);
    double[] out = new double[9];
    for (int k = 0; k < 3; k++) {
      double[] d = Vec.unit(t.direction(Arrays.copyOfRange(axes, 3 * k, 3 * k + 3)));
      System.arraycopy(d, 0, out, 3 * k, 3);
    }
    return out;
  }

  /** Of the boxes flat on a direction the least: one side along an edge of the flat outline. */
  private static double[] on(Hull hull, double[] n) {
    double[] u = Vec.perpendicular(n);
    double[] v = Vec.cross(n, u);
    int count = hull.cornerCount();
    double[][] flat = new double[count][];
    for (int i = 0; i < count; i++) {
      double[] p = hull.corner(i);
      flat[i] = new double[] {Vec.dot(p, u), Vec.dot(p, v)};
    }
    double[][] outline = ConvexOutline.of(flat);
    double best = Double.POSITIVE_INFINITY;
    double[] along = u;
    for (int i = 0; i < outline.length; i++) {
      double[] a = outline[i];
      double[] b = outline[(i + 1) % outline.length];
      double l = Math.hypot(b[0] - a[0], b[1] - a[1]);
      if (!(l > 0)) {
        continue;
      }
      double c = (b[0] - a[0]) / l;
      double s = (b[1] - a[1]) / l;
      double x0 = 1e300;
      double x1 = -1e300;
      double y0 = 1e300;
      double y1 = -1e300;
      for (double[] p : outline) {
        double x = c * p[0] + s * p[1];
        double y = c * p[1] - s * p[0];
        x0 = Math.min(x0, x);
        x1 = Math.max(x1, x);
        y0 = Math.min(y0, y);
        y1 = Math.max(y1, y);
      }
      if ((x1 - x0) * (y1 - y0) < best) {
        best = (x1 - x0) * (y1 - y0);
        along = Vec.add(Vec.mul(u, c), Vec.mul(v, s));
      }
    }
    double[] w = Vec.cross(n, along);
    return new double[] {along[0], along[1], along[2], w[0], w[1], w[2], n[0], n[1], n[2]};
  }

  private static double[] extent(Hull hull, double[] axes) {
    double[] e = {1e300, -1e300, 1e300, -1e300, 1e300, -1e300};
    double[] p = hull.xyz();
    for (int i = 0; i < p.length; i += 3) {
      for (int k = 0; k < 3; k++) {
        double d = axes[3 * k] * p[i] + axes[3 * k + 1] * p[i + 1] + axes[3 * k + 2] * p[i + 2];
        e[2 * k] = Math.min(e[2 * k], d);
        e[2 * k + 1] = Math.max(e[2 * k + 1], d);
      }
    }
    return e;
  }

  private static double volume(Hull hull, double[] axes) {
    double[] e = extent(hull, axes);
    return (e[1] - e[0]) * (e[3] - e[2]) * (e[5] - e[4]);
  }

  private static SmallestBox settled(Hull hull, double[] axes) {
    double[] e = extent(hull, axes);
    Integer[] order = {0, 1, 2};
    Arrays.sort(order, (a, b) -> Double.compare(e[2 * b + 1] - e[2 * b], e[2 * a + 1] - e[2 * a]));
    double[] out = new double[9];
    double[] size = new double[3];
    double[] centre = new double[3];
    for (int k = 0; k < 3; k++) {
      int o = order[k];
      double[] d = Arrays.copyOfRange(axes, 3 * o, 3 * o + 3);
      size[k] = e[2 * o + 1] - e[2 * o];
      centre = Vec.add(centre, Vec.mul(d, (e[2 * o] + e[2 * o + 1]) / 2));
      System.arraycopy(d, 0, out, 3 * k, 3);
    }
    double[] third = Vec.cross(Arrays.copyOf(out, 3), Arrays.copyOfRange(out, 3, 6));
    System.arraycopy(third, 0, out, 6, 3);
    return new SmallestBox(centre, out, size);
  }
}

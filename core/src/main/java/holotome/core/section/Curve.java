package holotome.core.section;

/**
 * A line of points in a plane, in metres. Closed curves do not repeat their first point; the solid
 * lies to the left of a curve cut from a mesh whose outside faces out.
 *
 * @param xy 2 doubles a point
 */
public record Curve(double[] xy, boolean closed) {

  public int size() {
    return xy.length / 2;
  }

  public double length() {
    double sum = 0;
    int n = size();
    for (int i = closed ? 0 : 1; i < n; i++) {
      int a = i == 0 ? n - 1 : i - 1;
      sum += Math.hypot(xy[2 * i] - xy[2 * a], xy[2 * i + 1] - xy[2 * a + 1]);
    }
    return sum;
  }

  /** The enclosed area, above zero where it runs counter-clockwise; 0 for an open curve. */
  public double area() {
    return closed ? moments()[0] : 0;
  }

  /** The middle of the enclosed area, or of the points where it encloses none. */
  public double[] centroid() {
    double[] m = moments();
    double scale = length() * length();
    if (closed && Math.abs(m[0]) > 1e-12 * scale) {
      return new double[] {m[1] / m[0], m[2] / m[0]};
    }
    double x = 0;
    double y = 0;
    for (int i = 0; i < size(); i++) {
      x += xy[2 * i] / size();
      y += xy[2 * i + 1] / size();
    }
    return new double[] {x, y};
  }

  /** Area and its first moments by Green's theorem, taken about the first point. */
  double[] moments() {
    double[] m = new double[3];
    int n = size();
    double ox = n == 0 ? 0 : xy[0];
    double oy = n == 0 ? 0 : xy[1];
    for (int i = 0; i < n; i++) {
      int j = i + 1 == n ? 0 : i + 1;
      double ax = xy[2 * i] - ox;
      double ay = xy[2 * i + 1] - oy;
      double bx = xy[2 * j] - ox;
      double by = xy[2 * j + 1] - oy;
      double c = ax * by - bx * ay;
      m[0] += c / 2;
      m[1] += c * (ax + bx) / 6;
      m[2] += c * (ay + by) / 6;
    }
    m[1] += ox * m[0];
    m[2] += oy * m[0];
    return m;
  }
}

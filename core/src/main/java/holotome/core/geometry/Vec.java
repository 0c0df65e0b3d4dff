package holotome.core.geometry;

/** Small vectors as double[3]: for set-up code, not for inner loops. */
public final class Vec {
  private Vec() {}

  public static double[] of(double x, double y, double z) {
    return new double[] {x, y, z};
  }

  /** The position of a vertex. */
  public static double[] at(float[] xyz, int vertex) {
    return of(xyz[3 * vertex], xyz[3 * vertex + 1], xyz[3 * vertex + 2]);
  }

  public static double[] add(double[] a, double[] b) {
    return of(a[0] + b[0], a[1] + b[1], a[2] + b[2]);
  }

  public static double[] sub(double[] a, double[] b) {
    return of(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
  }

  public static double[] mul(double[] a, double s) {
    return of(a[0] * s, a[1] * s, a[2] * s);
  }

  public static double dot(double[] a, double[] b) {
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
  }

  public static double[] cross(double[] a, double[] b) {
    return of(a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]);
  }

  public static double length(double[] a) {
    return Math.sqrt(dot(a, a));
  }

  public static double distance(double[] a, double[] b) {
    return length(sub(a, b));
  }

  /** a with length 1; a null vector stays null. */
  public static double[] unit(double[] a) {
    double l = length(a);
    return l > 0 ? mul(a, 1 / l) : of(0, 0, 0);
  }

  /** A unit vector at right angles to the unit vector n (Duff and others, JCGT 6(1), 2017). */
  public static double[] perpendicular(double[] n) {
    double sign = Math.copySign(1.0, n[2]);
    double a = -1.0 / (sign + n[2]);
    return of(1 + sign * n[0] * n[0] * a, sign * n[0] * n[1] * a, -sign * n[0]);
  }
}

package holotome.core.touch;

import holotome.core.geometry.Vec;

/** Directions carried from one normal to another. */
final class Turning {
  private Turning() {}

  /** A direction turned as the shortest turn from one unit normal to another takes it. */
  static double[] carried(double[] v, double[] from, double[] to) {
    double cos = Vec.dot(from, to);
    if (cos < -0.999999) {
      return v.clone();
    }
    double[] axis = Vec.cross(from, to);
    double[] across = Vec.cross(axis, v);
    double k = Vec.dot(axis, v) / (1 + cos);
    double[] out = new double[3];
    for (int i = 0; i < 3; i++) {
      out[i] = cos * v[i] + across[i] + k * axis[i];
    }
    return out;
  }

  /** A unit direction along the surface, as near to {@code v} as can be. */
  static double[] along(double[] v, double[] normal) {
    double d = Vec.dot(v, normal);
    double[] out = new double[3];
    for (int i = 0; i < 3; i++) {
      out[i] = v[i] - d * normal[i];
    }
    double l = Vec.length(out);
    return l > 1e-9 ? Vec.mul(out, 1 / l) : Vec.perpendicular(normal);
  }
}

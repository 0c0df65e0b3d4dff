package holotome.core.geometry;

import java.util.Arrays;

/**
 * A similarity in double precision: p' = scale · R · p + t.
 *
 * @param scale above zero
 * @param rotation R, 9 doubles by rows, orthonormal with determinant 1
 * @param shift t, 3 doubles
 */
public record Similarity(double scale, double[] rotation, double[] shift) {
  public static final Similarity IDENTITY =
      new Similarity(1, new double[] {1, 0, 0, 0, 1, 0, 0, 0, 1}, new double[3]);

  public Similarity {
    if (!(scale > 0) || rotation.length != 9 || shift.length != 3) {
      throw new IllegalArgumentException("not a similarity: scale " + scale);
    }
  }

  public static Similarity scaling(double s) {
    return new Similarity(s, IDENTITY.rotation, new double[3]);
  }

  public static Similarity translation(double[] t) {
    return new Similarity(1, IDENTITY.rotation, t.clone());
  }

  public static Similarity rotating(double[] rotation) {
    return new Similarity(1, rotation.clone(), new double[3]);
  }

  /** A turn by an angle in radians about a unit axis (Rodrigues' formula). */
  public static Similarity turning(double[] axis, double angle) {
    double c = Math.cos(angle);
    double s = Math.sin(angle);
    double k = 1 - c;
    double x = axis[0];
    double y = axis[1];
    double z = axis[2];
    return rotating(
        new double[] {
          c + x * x * k,
          x * y * k - z * s,
          x * z * k + y * s,
          y * x * k + z * s,
          c + y * y * k,
          y * z * k - x * s,
          z * x * k - y * s,
          z * y * k + x * s,
          c + z * z * k
        });
  }

  /** The smallest turn that takes unit vector a to unit vector b. */
  public static Similarity turningTo(double[] a, double[] b) {
    double[] axis = Vec.cross(a, b);
    double sin = Vec.length(axis);
    double cos = Vec.dot(a, b);
    if (sin < 1e-14) {
      return cos > 0 ? IDENTITY : turning(Vec.perpendicular(a), Math.PI);
    }
    return turning(Vec.mul(axis, 1 / sin), Math.atan2(sin, cos));
  }

  /**
   * The similarity that a 4 x 4 matrix by rows is, up to what text may have rounded; null for a
   * matrix that shears, mirrors, or scales unevenly.
   */
  public static Similarity ofMatrix(double[] m) {
    if (m.length != 16 || m[12] != 0 || m[13] != 0 || m[14] != 0 || m[15] != 1) {
      return null;
    }
    double[] x = {m[0], m[4], m[8]};
    double[] y = {m[1], m[5], m[9]};
    double[] z = {m[2], m[6], m[10]};
    double k = Vec.length(x);
    boolean good =
        k > 0
            && Double.isFinite(k + m[3] + m[7] + m[11])
            && Math.abs(Vec.length(y) - k) < 1e-6 * k
            && Math.abs(Vec.dot(x, y)) < 1e-6 * k * k
            && Vec.distance(Vec.mul(Vec.cross(x, y), 1 / k), z) < 1e-5 * k;
    if (!good) {
      return null;
    }
    double[] r = {
      m[0] / k, m[1] / k, m[2] / k, m[4] / k, m[5] / k, m[6] / k, m[8] / k, m[9] / k, m[10] / k
    };
    return new Similarity(k, orthonormal(r), new double[] {m[3], m[7], m[11]});
  }

  public double[] apply(double[] p) {
    return apply(p[0], p[1], p[2]);
  }

  public double[] apply(double x, double y, double z) {
    double[] r = rotation;
    return new double[] {
      scale * (r[0] * x + r[1] * y + r[2] * z) + shift[0],
      scale * (r[3] * x + r[4] * y + r[5] * z) + shift[1],
      scale * (r[6] * x + r[7] * y + r[8] * z) + shift[2]
    };
  }

  /** Turns a direction; its length is kept. */
  public double[] direction(double[] d) {
    double[] r = rotation;
    return new double[] {
      r[0] * d[0] + r[1] * d[1] + r[2] * d[2],
      r[3] * d[0] + r[4] * d[1] + r[5] * d[2],
      r[6] * d[0] + r[7] * d[1] + r[8] * d[2]
    };
  }

  /** First this, then the other. */
  public Similarity then(Similarity o) {
    double[] r = new double[9];
    for (int i = 0; i < 3; i++) {
      for (int j = 0; j < 3; j++) {
        r[3 * i + j] =
            o.rotation[3 * i] * rotation[j]
                + o.rotation[3 * i + 1] * rotation[3 + j]
                + o.rotation[3 * i + 2] * rotation[6 + j];
      }
    }
    return new Similarity(scale * o.scale, orthonormal(r), o.apply(shift));
  }

  public Similarity inverse() {
    double[] r = rotation;
    double[] t = {r[0], r[3], r[6], r[1], r[4], r[7], r[2], r[5], r[8]};
    Similarity turned = new Similarity(1 / scale, t, new double[3]);
    return new Similarity(1 / scale, t, Vec.mul(turned.apply(shift), -1));
  }

  /** Keeps a product of many turns a turn (Gram-Schmidt). */
  private static double[] orthonormal(double[] r) {
    double[] a = Vec.unit(new double[] {r[0], r[1], r[2]});
    double[] b = {r[3], r[4], r[5]};
    b = Vec.unit(Vec.sub(b, Vec.mul(a, Vec.dot(a, b))));
    double[] c = Vec.cross(a, b);
    return new double[] {a[0], a[1], a[2], b[0], b[1], b[2], c[0], c[1], c[2]};
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof Similarity o
        && scale == o.scale
        && Arrays.equals(rotation, o.rotation)
        && Arrays.equals(shift, o.shift);
  }

  @Override
  public int hashCode() {
    return Double.hashCode(scale) * 31 + Arrays.hashCode(rotation) * 7 + Arrays.hashCode(shift);
  }
}

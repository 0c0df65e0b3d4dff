package holotome.core.map;

/** Directions as maps hold them: unit vectors, -1 to 1 as 0 to 1. */
public final class Directions {
  private Directions() {}

  /** Sets a texel to a direction of whatever length; to the third axis where it has none. */
  public static void store(double x, double y, double z, double[] texel) {
    double l = Math.sqrt(x * x + y * y + z * z);
    double f = l > 1e-9 ? 0.5 / l : 0;
    texel[0] = 0.5 + x * f;
    texel[1] = 0.5 + y * f;
    texel[2] = 0.5 + (f > 0 ? z * f : 0.5);
  }

  /**
   * A direction's weights on tangent, bitangent and normal: the interpolated three are not quite at
   * right angles, and whoever shows the map puts it together from just these. As long as it was.
   *
   * @param f tangent, bitangent and normal, as rows
   */
  public static void solve(double[] f, double x, double y, double z, float[] out, int at) {
    double c0 = f[4] * f[8] - f[5] * f[7];
    double c1 = f[5] * f[6] - f[3] * f[8];
    double c2 = f[3] * f[7] - f[4] * f[6];
    double det = f[0] * c0 + f[1] * c1 + f[2] * c2;
    double s = 0;
    double t = 0;
    double n = 1;
    if (Math.abs(det) >= 1e-6) {
      s = (x * c0 + y * c1 + z * c2) / det;
      t =
          (x * (f[7] * f[2] - f[8] * f[1])
                  + y * (f[8] * f[0] - f[6] * f[2])
                  + z * (f[6] * f[1] - f[7] * f[0]))
              / det;
      n =
          (x * (f[1] * f[5] - f[2] * f[4])
                  + y * (f[2] * f[3] - f[0] * f[5])
                  + z * (f[0] * f[4] - f[1] * f[3]))
              / det;
    }
    double l = Math.sqrt(s * s + t * t + n * n);
    double k = l > 0 ? Math.sqrt(x * x + y * y + z * z) / l : 0;
    out[at] = (float) (s * k);
    out[at + 1] = (float) (t * k);
    out[at + 2] = (float) (n * k);
  }
}

package holotome.core.map;

import holotome.core.image.Image;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;

/**
 * The direction that the Scan faces, in the Cast's tangent space: red along the tangent, green
 * along the bitangent (up in the picture), blue along the normal; -1 to 1 as 0 to 255.
 */
final class NormalMap extends MapRule {

  NormalMap() {
    super("normal", 3, Image.Sample.BYTE, Image.Space.LINEAR, Shown.DIRECTION);
  }

  @Override
  public Taker taker(Mesh scan) {
    float[] normals = Measures.vertexNormals(scan);
    return new Taker() {
      @Override
      public int sums() {
        return 3;
      }

      @Override
      public void take(Hit hit, float[] sum, int at) {
        int[] tri = scan.triangles();
        int a = 3 * tri[3 * hit.triangle];
        int b = 3 * tri[3 * hit.triangle + 1];
        int c = 3 * tri[3 * hit.triangle + 2];
        float w = 1 - hit.u - hit.v;
        solve(
            hit.frame,
            normals[a] * w + normals[b] * hit.u + normals[c] * hit.v,
            normals[a + 1] * w + normals[b + 1] * hit.u + normals[c + 1] * hit.v,
            normals[a + 2] * w + normals[b + 2] * hit.u + normals[c + 2] * hit.v,
            sum,
            at);
      }

      @Override
      public void store(float[] sum, int at, int samples, double[] stored) {
        double l =
            Math.sqrt(sum[at] * sum[at] + sum[at + 1] * sum[at + 1] + sum[at + 2] * sum[at + 2]);
        double f = l > 0 ? 127.5 / l : 0;
        stored[0] = 127.5 + sum[at] * f - 0.5;
        stored[1] = 127.5 + sum[at + 1] * f - 0.5;
        stored[2] = 127.5 + (l > 0 ? sum[at + 2] * f : 127.5) - 0.5;
      }
    };
  }

  /**
   * The direction's weights on tangent, bitangent and normal: the interpolated three are not quite
   * at right angles, and whoever shows the map puts it together from just these.
   */
  private static void solve(double[] f, double x, double y, double z, float[] sum, int at) {
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
    if (l > 0) {
      sum[at] += (float) (s / l);
      sum[at + 1] += (float) (t / l);
      sum[at + 2] += (float) (n / l);
    }
  }
}

package holotome.view;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Placing;
import holotome.core.mesh.Similarity;

/**
 * From a mesh's base coordinates to pixels, in floats: taken about the first vertex, what stands
 * far off is folded into the last column, so that floats do.
 *
 * @param m 4 x 4 by rows, applied to the position less the origin
 */
record Projection(float[] m, float originX, float originY, float originZ) {

  static Projection of(Mesh mesh, Similarity place, double[] toPixels) {
    double[] d = Placing.then(place, toPixels);
    float[] p = mesh.xyz();
    float ox = p.length == 0 ? 0 : p[0];
    float oy = p.length == 0 ? 0 : p[1];
    float oz = p.length == 0 ? 0 : p[2];
    float[] m = new float[16];
    for (int i = 0; i < 4; i++) {
      for (int k = 0; k < 3; k++) {
        m[4 * i + k] = (float) d[4 * i + k];
      }
      m[4 * i + 3] = (float) (d[4 * i] * ox + d[4 * i + 1] * oy + d[4 * i + 2] * oz + d[4 * i + 3]);
    }
    return new Projection(m, ox, oy, oz);
  }

  /** A vertex's homogeneous x, y, depth and w (4 floats) into {@code out} from {@code at}. */
  void apply(float[] xyz, int vertex, float[] out, int at) {
    float x = xyz[3 * vertex] - originX;
    float y = xyz[3 * vertex + 1] - originY;
    float z = xyz[3 * vertex + 2] - originZ;
    float[] a = m;
    out[at] = a[0] * x + a[1] * y + a[2] * z + a[3];
    out[at + 1] = a[4] * x + a[5] * y + a[6] * z + a[7];
    out[at + 2] = a[8] * x + a[9] * y + a[10] * z + a[11];
    out[at + 3] = a[12] * x + a[13] * y + a[14] * z + a[15];
  }
}

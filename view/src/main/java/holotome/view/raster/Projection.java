package holotome.view.raster;

import holotome.core.geometry.Placing;
import holotome.core.geometry.Similarity;
import holotome.core.mesh.Mesh;

/**
 * From a mesh's base coordinates to pixels, in floats: taken about the first vertex, what stands
 * far off is folded into the last column, so that floats do.
 *
 * @param m 4 x 4 by rows, applied to the position less the origin
 */
public record Projection(float[] m, float originX, float originY, float originZ) {

  public static Projection of(Mesh mesh, Similarity place, double[] toPixels) {
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
  public void apply(float[] xyz, int vertex, float[] out, int at) {
    float x = xyz[3 * vertex] - originX;
    float y = xyz[3 * vertex + 1] - originY;
    float z = xyz[3 * vertex + 2] - originZ;
    float[] a = m;
    out[at] = a[0] * x + a[1] * y + a[2] * z + a[3];
    out[at + 1] = a[4] * x + a[5] * y + a[6] * z + a[7];
    out[at + 2] = a[8] * x + a[9] * y + a[10] * z + a[11];
    out[at + 3] = a[12] * x + a[13] * y + a[14] * z + a[15];
  }

  /** A vertex's homogeneous x, y and w (3 floats) into {@code out} from {@code at}. */
  public void seen(float[] xyz, int vertex, float[] out, int at) {
    float x = xyz[3 * vertex] - originX;
    float y = xyz[3 * vertex + 1] - originY;
    float z = xyz[3 * vertex + 2] - originZ;
    float[] a = m;
    out[at] = a[0] * x + a[1] * y + a[2] * z + a[3];
    out[at + 1] = a[4] * x + a[5] * y + a[6] * z + a[7];
    out[at + 2] = a[12] * x + a[13] * y + a[14] * z + a[15];
  }

  /** Works out the places (see {@link TriangleFill#place}) and depths of some vertices. */
  public void places(float[] xyz, int from, int to, long[] places, float[] depths) {
    float[] a = m;
    float m0 = a[0];
    float m1 = a[1];
    float m2 = a[2];
    float m3 = a[3];
    float m4 = a[4];
    float m5 = a[5];
    float m6 = a[6];
    float m7 = a[7];
    float m8 = a[8];
    float m9 = a[9];
    float m10 = a[10];
    float m11 = a[11];
    float m12 = a[12];
    float m13 = a[13];
    float m14 = a[14];
    float m15 = a[15];
    for (int v = from; v < to; v++) {
      float x = xyz[3 * v] - originX;
      float y = xyz[3 * v + 1] - originY;
      float z = xyz[3 * v + 2] - originZ;
      float w = m12 * x + m13 * y + m14 * z + m15;
      float inverse = 1 / w;
      places[v] =
          TriangleFill.place(
              m0 * x + m1 * y + m2 * z + m3, m4 * x + m5 * y + m6 * z + m7, w, inverse);
      depths[v] = (m8 * x + m9 * y + m10 * z + m11) * inverse;
    }
  }
}

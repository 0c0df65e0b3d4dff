package holotome.view.shading;

import holotome.core.geometry.Similarity;
import holotome.core.image.Colours;
import holotome.view.camera.Camera;
import holotome.view.cluster.PackedNormal;

/**
 * The light of all pictures: from over the viewer's left shoulder, with a softer one from the right
 * and a floor, so that form reads from every side without a set-up.
 */
public final class Light {
  private static final float[] KEY = {-0.336f, 0.55f, 0.70f};
  private static final float[] FILL = {0.75f, 0.1f, 0.62f};

  /** From base directions to the viewer's: right, up, towards the viewer; 3 x 3 by rows. */
  final float[] toView = new float[9];

  private final float[] key = new float[3];
  private final float[] fill = new float[3];
  private final float brightness;

  public Light(Camera camera, Similarity place, double brightness) {
    this.brightness = (float) brightness;
    double[] r = camera.right();
    double[] u = camera.up();
    double[] f = camera.forward();
    double[] turn = place.rotation();
    for (int j = 0; j < 3; j++) {
      for (int k = 0; k < 3; k++) {
        toView[j] += (float) (r[k] * turn[3 * k + j]);
        toView[3 + j] += (float) (u[k] * turn[3 * k + j]);
        toView[6 + j] -= (float) (f[k] * turn[3 * k + j]);
      }
    }
    for (int j = 0; j < 3; j++) {
      for (int k = 0; k < 3; k++) {
        key[j] += KEY[k] * toView[3 * k + j];
        fill[j] += FILL[k] * toView[3 * k + j];
      }
    }
  }

  /** How bright a surface is that looks in a unit direction of the viewer's. */
  float seen(float x, float y, float z) {
    return of(KEY[0] * x + KEY[1] * y + KEY[2] * z, FILL[0] * x + FILL[1] * y + FILL[2] * z);
  }

  /** How bright a surface is that looks in a unit direction of base coordinates. */
  float on(float x, float y, float z) {
    return of(key[0] * x + key[1] * y + key[2] * z, fill[0] * x + fill[1] * y + fill[2] * z);
  }

  private float of(float k, float f) {
    return brightness * (0.34f + 0.62f * Math.max(k, 0) + 0.16f * Math.max(f, 0));
  }

  /** A unit direction of base coordinates as a colour, by how it looks to the viewer. */
  int direction(float x, float y, float z) {
    float[] m = toView;
    return direction(
        m[0] * x + m[1] * y + m[2] * z,
        m[3] * x + m[4] * y + m[5] * z,
        m[6] * x + m[7] * y + m[8] * z,
        1);
  }

  /** A direction of the viewer's, of the given length, as a colour. */
  static int direction(float x, float y, float z, float length) {
    float k = 127.5f / length;
    return Colours.argb((int) (127.5f + k * x), (int) (127.5f + k * y), (int) (127.5f + k * z));
  }

  /**
   * Brightness in 256ths by the upper seven bits of both parts of a {@link PackedNormal}: right
   * within a degree. For where every vertex of a picture is lit.
   */
  int[] table() {
    int[] out = new int[1 << 14];
    float[] n = new float[3];
    for (int i = 0; i < out.length; i++) {
      // The middle of the entry's square.
      PackedNormal.unpack(i >> 7 << 25 | 1 << 24 | (i & 127) << 9 | 1 << 8, n, 0);
      out[i] = (int) (256 * on(n[0], n[1], n[2]) + 0.5f);
    }
    return out;
  }

  static int tableIndex(int packedNormal) {
    return packedNormal >>> 18 & 0x3f80 | packedNormal >>> 9 & 0x7f;
  }

  /** A colour under light of some brightness in 256ths. */
  static int lit(int colour, int k) {
    int r = (colour >> 16 & 255) * k >> 8;
    int g = (colour >> 8 & 255) * k >> 8;
    int b = (colour & 255) * k >> 8;
    return Math.min(r, 255) << 16 | Math.min(g, 255) << 8 | Math.min(b, 255);
  }

  /** A colour under light of some brightness. */
  static int lit(int colour, float k) {
    return Colours.argb(
        (int) ((colour >> 16 & 255) * k + 0.5f),
        (int) ((colour >> 8 & 255) * k + 0.5f),
        (int) ((colour & 255) * k + 0.5f));
  }
}

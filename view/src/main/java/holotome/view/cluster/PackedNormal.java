package holotome.view.cluster;

/**
 * Unit vectors in 32 bits: the octahedral mapping with 16 bits each (Meyer and others, "On floating
 * point normal vectors", 2010); wrong by at most 0.004 degrees. The null vector is 0.
 */
public final class PackedNormal {
  private PackedNormal() {}

  /** Packs a vector of any length. */
  public static int pack(double x, double y, double z) {
    double s = Math.abs(x) + Math.abs(y) + Math.abs(z);
    if (!(s > 0)) {
      return 0;
    }
    double u = x / s;
    double v = y / s;
    if (z < 0) {
      double w = (1 - Math.abs(v)) * (u >= 0 ? 1 : -1);
      v = (1 - Math.abs(u)) * (v >= 0 ? 1 : -1);
      u = w;
    }
    // From 1 to 65535: 0 is left for no normal.
    int a = (int) Math.round(32768 + 32767 * u);
    int b = (int) Math.round(32768 + 32767 * v);
    return a << 16 | b;
  }

  /** Writes a unit vector to {@code out} from {@code at}; null for 0. */
  public static void unpack(int packed, float[] out, int at) {
    unpackRoughly(packed, out, at);
    float x = out[at];
    float y = out[at + 1];
    float z = out[at + 2];
    float l = (float) Math.sqrt(x * x + y * y + z * z);
    if (l > 0) {
      out[at] = x / l;
      out[at + 1] = y / l;
      out[at + 2] = z / l;
    }
  }

  /** The same direction with a length between 0.57 and 1, for where speed counts. */
  public static void unpackRoughly(int packed, float[] out, int at) {
    if (packed == 0) {
      out[at] = 0;
      out[at + 1] = 0;
      out[at + 2] = 0;
      return;
    }
    float u = ((packed >>> 16) - 32768) * (1 / 32767f);
    float v = ((packed & 0xffff) - 32768) * (1 / 32767f);
    float z = 1 - Math.abs(u) - Math.abs(v);
    // Below the equator the corners of the square are folded out.
    float fold = Math.max(-z, 0);
    out[at] = u >= 0 ? u - fold : u + fold;
    out[at + 1] = v >= 0 ? v - fold : v + fold;
    out[at + 2] = z;
  }
}

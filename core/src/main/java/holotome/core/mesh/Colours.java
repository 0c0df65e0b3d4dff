package holotome.core.mesh;

/** Arithmetic on colours packed as 0xAARRGGBB. */
public final class Colours {
  private Colours() {}

  public static int argb(int r, int g, int b) {
    return 0xff000000 | clamp(r) << 16 | clamp(g) << 8 | clamp(b);
  }

  public static int argb(double r, double g, double b) {
    return argb((int) (r + 0.5), (int) (g + 0.5), (int) (b + 0.5));
  }

  private static int clamp(int v) {
    return v < 0 ? 0 : Math.min(v, 255);
  }

  /** a at f = 0, b at f = 1, each channel rounded. */
  public static int mix(int a, int b, float f) {
    if (a == b) {
      return a;
    }
    int result = 0;
    for (int shift = 0; shift < 32; shift += 8) {
      int ca = a >>> shift & 255;
      int cb = b >>> shift & 255;
      result |= (int) (ca + (cb - ca) * f + 0.5f) << shift;
    }
    return result;
  }

  /** The mix of three colours by weights that sum to 1. */
  public static int mix(int a, int b, int c, float wa, float wb, float wc) {
    return channel(a >>> 24, b >>> 24, c >>> 24, wa, wb, wc) << 24
        | channel(a >> 16 & 255, b >> 16 & 255, c >> 16 & 255, wa, wb, wc) << 16
        | channel(a >> 8 & 255, b >> 8 & 255, c >> 8 & 255, wa, wb, wc) << 8
        | channel(a & 255, b & 255, c & 255, wa, wb, wc);
  }

  private static int channel(int a, int b, int c, float wa, float wb, float wc) {
    return clamp((int) (a * wa + b * wb + c * wc + 0.5f));
  }
}

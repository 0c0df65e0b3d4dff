package holotome.core.image;

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

  /** The mix of three colours by weights that sum to 1, each to a 256th. */
  public static int mix(int a, int b, int c, float wa, float wb, float wc) {
    // Two channels at a time: with weights that sum to 256 none runs over into its neighbour.
    int kb = Math.clamp((int) (wb * 256 + 0.5f), 0, 256);
    int kc = Math.clamp((int) (wc * 256 + 0.5f), 0, 256 - kb);
    int ka = 256 - kb - kc;
    int even =
        (a & 0xff00ff) * ka + (b & 0xff00ff) * kb + (c & 0xff00ff) * kc + 0x800080 >>> 8 & 0xff00ff;
    int odd =
        (a >>> 8 & 0xff00ff) * ka + (b >>> 8 & 0xff00ff) * kb + (c >>> 8 & 0xff00ff) * kc + 0x800080
            & 0xff00ff00;
    return even | odd;
  }
}

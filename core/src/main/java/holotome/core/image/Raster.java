package holotome.core.image;

/**
 * A colour picture: {@code pixels[y * width + x]} as 0xAARRGGBB, row 0 at the top, sRGB values,
 * alpha not multiplied in.
 */
public record Raster(int width, int height, int[] pixels) {
  public Raster {
    if (width < 1 || height < 1 || pixels.length != width * height) {
      throw new IllegalArgumentException("raster of " + width + " x " + height);
    }
  }

  /**
   * The colour at (u, v), bilinear between pixel centres, clamped at the rim; v = 0 is the bottom
   * row, as in OBJ. Beyond it the picture is repeated.
   */
  public int sample(float u, float v) {
    float x = within(u) * width - 0.5f;
    float y = (1 - within(v)) * height - 0.5f;
    int x0 = (int) Math.floor(x);
    int y0 = (int) Math.floor(y);
    float fx = x - x0;
    float fy = y - y0;
    int xa = clamp(x0, width);
    int xb = clamp(x0 + 1, width);
    int ya = clamp(y0, height) * width;
    int yb = clamp(y0 + 1, height) * width;
    return Colours.mix(
        Colours.mix(pixels[ya + xa], pixels[ya + xb], fx),
        Colours.mix(pixels[yb + xa], pixels[yb + xb], fx),
        fy);
  }

  /**
   * Where a texture coordinate lies in its own square: as it is from 0 to 1, the upper border of
   * another square at 1.
   */
  public static float within(float c) {
    return c < 0 ? c - (float) Math.floor(c) : c > 1 ? c + 1 - (float) Math.ceil(c) : c;
  }

  private static int clamp(int i, int n) {
    return i < 0 ? 0 : Math.min(i, n - 1);
  }
}

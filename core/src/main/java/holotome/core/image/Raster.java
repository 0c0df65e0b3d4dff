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
   * row, as in OBJ.
   */
  public int sample(float u, float v) {
    float x = u * width - 0.5f;
    float y = (1 - v) * height - 0.5f;
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

  private static int clamp(int i, int n) {
    return i < 0 ? 0 : Math.min(i, n - 1);
  }
}

package holotome.view.scene;

import java.util.Arrays;

/**
 * How a scene is lit and what of it is left out.
 *
 * @param brightness the light's strength; 1 as a rule
 * @param background its shade of grey, top to bottom
 * @param clip a plane in working space, 4 doubles: only where x, y, z and 1 times these sum to zero
 *     or more is drawn; null for all
 */
public record Setting(double brightness, Background background, double[] clip) {
  public static final Setting PLAIN = new Setting(1, Background.MIDDLE, null);

  /** Plain greys, so that colour is judged fairly. */
  public enum Background {
    LIGHT(226, 206),
    MIDDLE(168, 142),
    DARK(64, 46);

    private final int top;
    private final int bottom;

    Background(int top, int bottom) {
      this.top = top;
      this.bottom = bottom;
    }

    public int argb(int y, int height) {
      return 0xff000000 | 0x010101 * (top - (top - bottom) * y / height);
    }
  }

  public Setting withBrightness(double b) {
    return new Setting(b, background, clip);
  }

  public Setting withBackground(Background b) {
    return new Setting(brightness, b, clip);
  }

  public Setting withClip(double[] plane) {
    return new Setting(brightness, background, plane);
  }

  @Override
  public boolean equals(Object o) {
    return o instanceof Setting s
        && s.brightness == brightness
        && s.background == background
        && Arrays.equals(s.clip, clip);
  }

  @Override
  public int hashCode() {
    return Double.hashCode(brightness) + background.hashCode() + Arrays.hashCode(clip);
  }
}

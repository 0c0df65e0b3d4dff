package holotome.view.scene;

import java.util.Arrays;

/**
 * How a scene is lit and what of it is left out.
 *
 * @param brightness the light's strength; 1 as a rule
 * @param background its shade of grey, top to bottom
 * @param clip a plane in working space, 4 doubles: only where x, y, z and 1 times these sum to zero
 *     or more is drawn; null for all
 * @param edges whether the subject's triangles are outlined, where they are large enough on screen
 */
public record Setting(double brightness, Background background, double[] clip, boolean edges) {
  public static final Setting PLAIN = new Setting(1, Background.MIDDLE, null, false);

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
    return new Setting(b, background, clip, edges);
  }

  public Setting withBackground(Background b) {
    return new Setting(brightness, b, clip, edges);
  }

  public Setting withClip(double[] plane) {
    return new Setting(brightness, background, plane, edges);
  }

  public Setting withEdges(boolean on) {
    return new Setting(brightness, background, clip, on);
  }

  @Override
  public boolean equals(Object o) {
    return o instanceof Setting s
        && s.brightness == brightness
        && s.background == background
        && s.edges == edges
        && Arrays.equals(s.clip, clip);
  }

  @Override
  public int hashCode() {
    return Double.hashCode(brightness)
        + background.hashCode()
        + Arrays.hashCode(clip)
        + (edges ? 1 : 0);
  }
}

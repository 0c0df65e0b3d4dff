package holotome.core.map;

import holotome.core.image.Image;
import holotome.core.map.MapRule.Values;
import holotome.core.task.Work;

/**
 * A map at half its size, each by its own rule: colours averaged as light, directions made unit
 * again, shares and measures averaged, numbers of things taken from one pixel.
 */
public final class Smaller {
  private Smaller() {}

  /**
   * Halved until it is no wider and no higher. O(pixels).
   *
   * @param most pixels, at least 1
   */
  public static Image upTo(Image picture, Values values, int most, Work work) {
    Image now = picture;
    while (now.width() > most || now.height() > most) {
      work.check();
      now = half(now, values);
    }
    return now;
  }

  private static Image half(Image picture, Values values) {
    return switch (values) {
      case TANGENT_DIRECTION, DIRECTION -> unit(picture.half(Work.unwatched()));
      case NUMBER -> picked(picture);
      default -> picture.half(Work.unwatched());
    };
  }

  private static Image unit(Image p) {
    return Image.blank(p.width(), p.height(), p.channels(), p.sample(), p.space())
        .filled(
            (x, y, out) -> {
              double square = 0;
              for (int c = 0; c < 3; c++) {
                out[c] = 2 * p.value(x, y, c) - 1;
                square += out[c] * out[c];
              }
              double f = square > 0 ? 0.5 / Math.sqrt(square) : 0;
              for (int c = 0; c < 3; c++) {
                out[c] = (0.5 + out[c] * f) * p.sample().one();
              }
            },
            Work.unwatched());
  }

  private static Image picked(Image p) {
    int w = (p.width() + 1) / 2;
    int h = (p.height() + 1) / 2;
    return Image.blank(w, h, p.channels(), p.sample(), p.space())
        .filled(
            (x, y, out) ->
                p.stored(Math.min(2 * x, p.width() - 1), Math.min(2 * y, p.height() - 1), out),
            Work.unwatched());
  }
}

package holotome.core.bake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.image.Image;
import holotome.core.map.MapRule.Values;
import holotome.core.map.Smaller;
import holotome.core.task.Work;
import org.junit.jupiter.api.Test;

/** Copies of maps at lower sizes, each by its own rule. */
class SmallerTest {
  private static Image picture(Image.Sample sample, Image.Space space, Image.Filler filler) {
    return Image.blank(8, 8, 3, sample, space).filled(filler, Work.unwatched());
  }

  @Test
  void coloursAreAveragedAsLight() {
    // Black and white in turn: half of the light, which sRGB stores as 188 (IEC 61966-2-1).
    Image p =
        picture(
            Image.Sample.BYTE,
            Image.Space.SRGB,
            (x, y, out) -> java.util.Arrays.fill(out, 0, 3, (x + y) % 2 == 0 ? 255 : 0));
    Image s = Smaller.upTo(p, Values.COLOUR, 4, Work.unwatched());
    assertThat(s.width()).isEqualTo(4);
    assertThat(s.stored(1, 1, 0)).isEqualTo(188);
  }

  @Test
  void directionsStayUnit() {
    double r = Math.sqrt(0.5);
    Image p =
        picture(
            Image.Sample.SHORT,
            Image.Space.LINEAR,
            (x, y, out) -> {
              out[0] = 65535 * (0.5 + 0.5 * (x % 2 == 0 ? r : -r));
              out[1] = 65535 * 0.5;
              out[2] = 65535 * (0.5 + 0.5 * r);
            });
    Image s = Smaller.upTo(p, Values.DIRECTION, 2, Work.unwatched());
    assertThat(s.width()).isEqualTo(2);
    for (int c = 0; c < 3; c++) {
      assertThat(2 * s.value(1, 1, c) - 1).isCloseTo(c == 2 ? 1 : 0, within(1e-4));
    }
  }

  @Test
  void numbersAreNeverMixed() {
    Image p =
        picture(
            Image.Sample.BYTE,
            Image.Space.SRGB,
            (x, y, out) -> java.util.Arrays.fill(out, 0, 3, x < 3 ? 40 : 200));
    Image s = Smaller.upTo(p, Values.NUMBER, 4, Work.unwatched());
    for (int i = 0; i < 16; i++) {
      assertThat(s.stored(i % 4, i / 4, 0)).isIn(40.0, 200.0);
    }
  }

  @Test
  void whatIsSmallEnoughStaysAsItIs() {
    Image p = picture(Image.Sample.FLOAT, Image.Space.LINEAR, (x, y, out) -> out[0] = x);
    assertThat(Smaller.upTo(p, Values.LENGTH, 8, Work.unwatched())).isSameAs(p);
    Image s = Smaller.upTo(p, Values.LENGTH, 4, Work.unwatched());
    assertThat(s.value(0, 0, 0)).isCloseTo(0.5, within(1e-6));
  }
}

package holotome.core.image;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.image.Image.Sample;
import holotome.core.image.Image.Space;
import holotome.core.image.Image.Wrap;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

class ImageTest {
  private static final Work WORK = Work.unwatched();

  /** A picture of noise, the same for the same size. */
  private static Image noise(int w, int h, int channels, Sample sample, Space space) {
    double[] v = new Random(w * 31L + h).doubles((long) w * h * channels).toArray();
    return Image.blank(w, h, channels, sample, space)
        .filled(
            (x, y, out) -> {
              for (int c = 0; c < channels; c++) {
                out[c] = v[(y * w + x) * channels + c] * sample.one();
              }
            },
            WORK);
  }

  @ParameterizedTest
  @EnumSource(Sample.class)
  void holdsWhatIsStored(Sample sample) {
    for (int channels = 1; channels <= 4; channels++) {
      Image m = noise(300, 131, channels, sample, Space.LINEAR);
      double[] v = new Random(300 * 31L + 131).doubles(300L * 131 * channels).toArray();
      double step = sample == Sample.FLOAT ? 1e-7 : 0.501;
      for (int i = 0; i < 300 * 131; i += 7) {
        for (int c = 0; c < channels; c++) {
          assertThat(m.stored(i % 300, i / 300, c))
              .isCloseTo(v[i * channels + c] * sample.one(), within(step));
        }
      }
    }
  }

  @Test
  void whatCannotBeStoredIsHeldWithinWhatCan() {
    Image.Editor e = Image.blank(1, 1, 2, Sample.BYTE, Space.LINEAR).edit();
    e.set(0, 0, -3, 1e9);
    assertThat(e.done().stored(0, 0, 0)).isZero();
    assertThat(e.done().stored(0, 0, 1)).isEqualTo(255);
    Image.Editor f = Image.blank(1, 1, 1, Sample.FLOAT, Space.LINEAR).edit();
    f.set(0, 0, -3e20);
    assertThat(f.done().stored(0, 0, 0)).isCloseTo(-3e20, within(1e14));
  }

  /** A stroke of 40 pixels' width on an 8K picture: a few tiles of 4,096 are its own. */
  @Test
  void aStrokeCostsTheTilesItTouches() {
    Image big = Image.blank(8192, 8192, 4, Sample.BYTE, Space.SRGB);
    Image.Editor first = big.edit();
    for (int i = 0; i < 40 * 200; i++) {
      first.set(1000 + i % 200, 2000 + i / 200, 1, 2, 3, 4);
    }
    Image stroked = first.done();
    assertThat(big.tileCount()).isEqualTo(64 * 64);
    assertThat(big.tileCount() - stroked.tilesSharedWith(big)).isBetween(2, 4);
    Image.Editor second = stroked.edit();
    second.set(0, 0, 9, 9, 9, 9);
    Image both = second.done();
    assertThat(both.tilesSharedWith(stroked)).isEqualTo(64 * 64 - 1);
    // Neither of the earlier ones was changed.
    assertThat(big.stored(1000, 2000, 2)).isZero();
    assertThat(stroked.stored(0, 0, 0)).isZero();
    assertThat(both.stored(1000, 2000, 2)).isEqualTo(3);
  }

  /** The curve of IEC 61966-2-1: half of full light is stored as 188 of 255. */
  @Test
  void colourIsAveragedAsLightAndDataAsItIs() {
    for (Space space : Space.values()) {
      Image.Editor e = Image.blank(2, 2, 3, Sample.BYTE, space).edit();
      for (int i = 0; i < 4; i++) {
        double v = i % 2 == 0 ? 0 : 255;
        e.set(i % 2, i / 2, v, v, v);
      }
      Image half = e.done().half(WORK);
      assertThat(half.width()).isEqualTo(1);
      assertThat(half.stored(0, 0, 1)).isEqualTo(space == Space.SRGB ? 188 : 128);
      double[] light = new double[3];
      e.done().light(0.5, 0.5, Wrap.CLAMP, light);
      assertThat(light[0]).isCloseTo(0.5, within(1e-12));
    }
  }

  /** What cannot be seen has no colour to give: opaque red beside clear green is half-clear red. */
  @Test
  void coloursAreWeightedByAlpha() {
    Image.Editor e = Image.blank(2, 1, 4, Sample.BYTE, Space.SRGB).edit();
    e.set(0, 0, 200, 0, 0, 255);
    e.set(1, 0, 0, 255, 0, 0);
    Image half = e.done().half(WORK);
    assertThat(half.stored(0, 0, 0)).isEqualTo(200);
    assertThat(half.stored(0, 0, 1)).isZero();
    assertThat(half.stored(0, 0, 3)).isEqualTo(128);
    double[] light = new double[4];
    e.done().light(0.5, 0.5, Wrap.CLAMP, light);
    assertThat(light[1]).isZero();
    assertThat(light[3]).isCloseTo(0.5, within(1e-12));
  }

  /** The mean of every level is the mean of the picture, odd sizes too; no level shifts it. */
  @ParameterizedTest
  @CsvSource({"64, 64", "100, 37", "131, 131", "1, 9", "5, 1"})
  void reducedLevelsKeepTheMeanAndTheMiddle(int w, int h) {
    Image m = noise(w, h, 2, Sample.FLOAT, Space.LINEAR);
    // The second channel would be alpha: full, so that the first is a plain mean.
    Image.Editor e = m.edit();
    for (int i = 0; i < w * h; i++) {
      e.set(i % w, i / w, m.stored(i % w, i / w, 0) + i % w, 1);
    }
    List<Image> levels = e.done().levels(WORK);
    assertThat(levels.getLast().width() * levels.getLast().height()).isEqualTo(1);
    double mean = mean(levels.getFirst());
    for (Image l : levels) {
      assertThat(mean(l)).isCloseTo(mean, within(1e-4 * Math.max(1, mean)));
    }
    assertThat(levels.getLast().stored(0, 0, 0)).isCloseTo(mean, within(1e-4 * Math.max(1, mean)));
  }

  private static double mean(Image m) {
    double sum = 0;
    for (int i = 0; i < m.width() * m.height(); i++) {
      sum += m.light(i % m.width(), i / m.width(), 0);
    }
    return sum / (m.width() * m.height());
  }

  @ParameterizedTest
  @CsvSource({
    "CLAMP, -0.2, 0", "CLAMP, 1.3, 3", "REPEAT, -0.125, 3", "REPEAT, 2.375, 1",
    "MIRROR, -0.125, 0", "MIRROR, -0.375, 1", "MIRROR, 1.125, 3", "MIRROR, 2.125, 0"
  })
  void beyondTheRimGoesOnAsAsked(Wrap wrap, double u, double column) {
    Image.Editor e = Image.blank(4, 1, 1, Sample.FLOAT, Space.LINEAR).edit();
    for (int x = 0; x < 4; x++) {
      e.set(x, 0, x);
    }
    double[] out = new double[1];
    e.done().light(u, 0.5, wrap, out);
    assertThat(out[0]).isCloseTo(column, within(1e-9));
  }

  @ParameterizedTest
  @EnumSource(Space.class)
  void storedOtherwiseItIsTheSameLight(Space space) {
    Image m = noise(140, 20, 3, Sample.BYTE, space);
    for (Sample s : Sample.values()) {
      for (Space to : Space.values()) {
        Image there = m.as(s, to, WORK);
        // A byte of light is coarse in the dark, one through the curve where it is bright.
        double error = s == Sample.BYTE && to != space ? 0.005 : 1e-4;
        for (int i = 0; i < 140 * 20; i += 3) {
          assertThat(there.light(i % 140, i / 140, 1))
              .isCloseTo(m.light(i % 140, i / 140, 1), within(error));
        }
        if (s != Sample.BYTE) {
          assertThat(there.as(Sample.BYTE, space, WORK).sameAs(m)).as("%s %s", s, to).isTrue();
        }
      }
    }
  }

  @Test
  void packedColoursGoThereAndBack() {
    int[] px = new Random(4).ints(200 * 150).toArray();
    Raster r = new Raster(200, 150, px);
    assertThat(Image.of(r).channels()).isEqualTo(4);
    assertThat(Image.of(r).raster().pixels()).isEqualTo(px);
    for (int i = 0; i < px.length; i++) {
      px[i] |= 0xff000000;
    }
    assertThat(Image.of(r).channels()).isEqualTo(3);
    assertThat(Image.of(r).raster().pixels()).isEqualTo(px);
    float[][] places = {{0.3f, 0.7f}, {0, 0}, {1, 1}, {0.501f, 0.02f}};
    for (float[] p : places) {
      assertThat(Image.of(r).shown(p[0], p[1])).isEqualTo(r.sample(p[0], p[1]));
    }
  }

  @Test
  void anyNumberOfThreadsGivesTheSame() {
    Image m = noise(700, 300, 3, Sample.SHORT, Space.SRGB);
    Image many = m.half(WORK);
    int threads = Parallel.threads();
    Parallel.limitThreads(1);
    try {
      assertThat(m.half(WORK).sameAs(many)).isTrue();
    } finally {
      Parallel.limitThreads(threads);
    }
  }

  @Test
  void tellsPicturesApart() {
    Image m = noise(200, 200, 3, Sample.BYTE, Space.SRGB);
    Object[] tiles = new Object[m.tileCount()];
    for (int t = 0; t < tiles.length; t++) {
      tiles[t] = ((byte[]) m.tile(t)).clone();
    }
    Image copy = Image.ofTiles(200, 200, 3, Sample.BYTE, Space.SRGB, tiles);
    assertThat(copy.sameAs(m)).isTrue();
    Image.Editor e = m.edit();
    e.set(199, 199, 1, 2, m.stored(199, 199, 2) == 3 ? 4 : 3);
    assertThat(e.done().sameAs(m)).isFalse();
    assertThat(Image.ofTiles(200, 200, 3, Sample.BYTE, Space.LINEAR, tiles).sameAs(m)).isFalse();
  }

  @Test
  void impossibleOnesAreRefused() {
    assertThatThrownBy(() -> Image.blank(0, 4, 3, Sample.BYTE, Space.SRGB))
        .isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> Image.blank(4, 4, 5, Sample.BYTE, Space.SRGB))
        .isInstanceOf(IllegalArgumentException.class);
    Object[] wrong = {new byte[7]};
    assertThatThrownBy(() -> Image.ofTiles(4, 4, 3, Sample.BYTE, Space.SRGB, wrong))
        .isInstanceOf(IllegalArgumentException.class);
  }
}

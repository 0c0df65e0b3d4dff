package holotome.core.io;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Datasets;
import holotome.core.image.Image;
import holotome.core.image.Image.Sample;
import holotome.core.image.Image.Space;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/**
 * Pictures written are read back by readers that are not ours: npm pngjs, jpeg-js, geotiff and
 * parse-exr.
 */
class ImageFileTest {
  private static final Work WORK = Work.unwatched();
  private static final int WIDTH = 150;
  private static final int HEIGHT = 131;

  @TempDir Path dir;

  /** Noise over a ramp, more than one tile wide and high. */
  private static Image picture(int channels, Sample sample, Space space) {
    double[] v = new Random(9).doubles((long) WIDTH * HEIGHT * channels).toArray();
    return Image.blank(WIDTH, HEIGHT, channels, sample, space)
        .filled(
            (x, y, out) -> {
              for (int c = 0; c < channels; c++) {
                double ramp = (double) x / WIDTH;
                double value = 0.5 * ramp + 0.5 * v[(y * WIDTH + x) * channels + c];
                out[c] = value * sample.one();
              }
            },
            WORK);
  }

  private Path write(Image m, ImageFile.Format format) throws IOException {
    Path file = dir.resolve("p." + format.ending());
    try (OutputStream out = Files.newOutputStream(file)) {
      ImageFile.write(m, format, 0.95, out, WORK);
    }
    return file;
  }

  /** What an independent reader says: the first line's words, then the values. */
  private record Seen(int width, int height, int channels, String kind, double[] values) {}

  private static Seen seen(Path file) throws IOException, InterruptedException {
    Datasets.file("pictures");
    Process p =
        new ProcessBuilder("node", Datasets.script("read-picture").toString(), file.toString())
            .redirectErrorStream(true)
            .start();
    String said = new String(p.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(p.waitFor()).as(said).isZero();
    String[] lines = said.split("\n");
    String[] head = lines[0].split(" ");
    int channels = Integer.parseInt(head[2]);
    double[] v = new double[(lines.length - 1) * channels];
    for (int i = 1; i < lines.length; i++) {
      String[] words = lines[i].split(" ");
      for (int c = 0; c < channels; c++) {
        v[(i - 1) * channels + c] = Double.parseDouble(words[c]);
      }
    }
    return new Seen(
        Integer.parseInt(head[0]), Integer.parseInt(head[1]), channels, head[3] + " " + head[4], v);
  }

  @ParameterizedTest
  @EnumSource(
      value = ImageFile.Format.class,
      names = {"PNG_8", "PNG_16", "TIFF_8", "TIFF_16"})
  void wholeNumbersAreWrittenAsTheyAre(ImageFile.Format format) throws Exception {
    for (int channels : new int[] {1, 3, 4}) {
      Image m = picture(channels, format.sample(), Space.SRGB);
      Seen s = seen(write(m, format));
      assertThat(s.width()).isEqualTo(WIDTH);
      assertThat(s.height()).isEqualTo(HEIGHT);
      assertThat(s.kind()).endsWith("uint").startsWith(format.sample() == Sample.BYTE ? "8" : "16");
      for (int i = 0; i < WIDTH * HEIGHT; i++) {
        for (int c = 0; c < channels; c++) {
          assertThat(s.values()[i * s.channels() + c]).isEqualTo(m.stored(i % WIDTH, i / WIDTH, c));
        }
      }
    }
  }

  @Test
  void floatsInTiffAreExact() throws Exception {
    for (int channels : new int[] {1, 3}) {
      Image m = picture(channels, Sample.FLOAT, Space.LINEAR);
      Image.Editor e = m.edit();
      double[] far = {-2.5, 1e-20, 70000.125};
      e.set(WIDTH - 1, 0, channels == 1 ? new double[] {-2.5} : far);
      m = e.done();
      Seen s = seen(write(m, ImageFile.Format.TIFF_FLOAT));
      assertThat(s.kind()).isEqualTo("32 float");
      assertThat(s.channels()).isEqualTo(channels);
      for (int i = 0; i < s.values().length; i++) {
        int pixel = i / channels;
        float expected = (float) m.stored(pixel % WIDTH, pixel / WIDTH, i % channels);
        assertThat((float) s.values()[i]).isEqualTo(expected);
      }
    }
  }

  /** Halves hold 11 bits: within one part in 2,048. */
  @ParameterizedTest
  @EnumSource(
      value = ImageFile.Format.class,
      names = {"EXR_HALF", "EXR_FLOAT"})
  void openExrHoldsLight(ImageFile.Format format) throws Exception {
    for (int channels : new int[] {1, 3, 4}) {
      for (Space space : Space.values()) {
        Image m = picture(channels, Sample.SHORT, space);
        Seen s = seen(write(m, format));
        assertThat(s.width()).isEqualTo(WIDTH);
        assertThat(s.height()).isEqualTo(HEIGHT);
        assertThat(s.kind())
            .isEqualTo(format == ImageFile.Format.EXR_HALF ? "16 float" : "32 float");
        for (int i = 0; i < WIDTH * HEIGHT; i++) {
          for (int c = 0; c < channels; c++) {
            double light = m.light(i % WIDTH, i / WIDTH, c);
            double part = format == ImageFile.Format.EXR_HALF ? 1 / 2048.0 : 1e-6;
            assertThat(s.values()[i * s.channels() + c])
                .isCloseTo(light, within(part * light + 1e-7));
          }
        }
      }
    }
  }

  /** A smooth ramp by the reader's own decoding; JPEG is near, not exact. */
  @Test
  void jpegIsNearAndWithoutAlpha() throws Exception {
    Image ramp =
        Image.blank(64, 48, 4, Sample.BYTE, Space.SRGB)
            .filled(
                (x, y, out) -> {
                  out[0] = 4 * x;
                  out[1] = 5 * y;
                  out[2] = 128;
                  out[3] = 7;
                },
                WORK);
    Seen s = seen(write(ramp, ImageFile.Format.JPEG));
    double worst = 0;
    for (int i = 0; i < 64 * 48; i++) {
      for (int c = 0; c < 3; c++) {
        worst = Math.max(worst, Math.abs(s.values()[4 * i + c] - ramp.stored(i % 64, i / 64, c)));
      }
    }
    assertThat(worst).isLessThan(12);
  }

  @ParameterizedTest
  @EnumSource(
      value = ImageFile.Format.class,
      names = {"PNG_8", "PNG_16", "TIFF_8", "TIFF_16", "TIFF_FLOAT"})
  void isReadBackTheSame(ImageFile.Format format) throws IOException {
    Space space = format == ImageFile.Format.TIFF_FLOAT ? Space.LINEAR : Space.SRGB;
    for (int channels = 1; channels <= 4; channels++) {
      Image m = picture(channels, format.sample(), space);
      Image back = ImageFile.read(write(m, format), space, WORK);
      assertThat(back.sameAs(m)).as("%d channels", channels).isTrue();
    }
  }

  @Test
  void damagedFilesAreRefusedPlainly() throws IOException {
    Random random = new Random(77);
    for (ImageFile.Format f :
        new ImageFile.Format[] {
          ImageFile.Format.PNG_16, ImageFile.Format.TIFF_FLOAT, ImageFile.Format.JPEG
        }) {
      byte[] whole = Files.readAllBytes(write(picture(3, Sample.BYTE, Space.SRGB), f));
      Path file = dir.resolve("damaged." + f.ending());
      int refused = 0;
      for (int k = 0; k < Datasets.times(60, 10_000); k++) {
        byte[] b =
            k % 2 == 0
                ? java.util.Arrays.copyOf(whole, random.nextInt(whole.length))
                : whole.clone();
        for (int j = 0; j < 5 && b.length > 0; j++) {
          b[random.nextInt(Math.min(b.length, 400))] = (byte) random.nextInt();
        }
        Files.write(file, b);
        try {
          assertThat(ImageFile.read(file, Space.SRGB, WORK).width()).isPositive();
        } catch (IOException e) {
          refused++;
        }
      }
      assertThat(refused).isGreaterThan(10);
    }
    Path text = Files.writeString(dir.resolve("t.png"), "no picture");
    assertThatThrownBy(() -> ImageFile.read(text, Space.SRGB, WORK))
        .isInstanceOf(IOException.class)
        .hasMessageContaining("PNG, JPEG or TIFF");
  }

  @ParameterizedTest
  @EnumSource(ImageFile.Format.class)
  void writingCanBeCancelled(ImageFile.Format format) {
    Image m = picture(3, format.sample(), Space.SRGB);
    Work work = new Work();
    work.cancel();
    assertThatThrownBy(() -> ImageFile.write(m, format, 0.9, new ByteArrayOutputStream(), work))
        .isInstanceOfSatisfying(
            Failure.class, f -> assertThat(f.kind()).isEqualTo(Failure.Kind.CANCELLED));
  }
}

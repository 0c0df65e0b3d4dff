package holotome.core.io;

import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.awt.image.BufferedImage;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.Iterator;
import javax.imageio.ImageIO;
import javax.imageio.ImageReader;
import javax.imageio.stream.ImageInputStream;

/** The JDK's codecs for pictures, held to our ways: no large sizes, plain errors, cancel. */
final class PictureCodec {
  private static final long MOST_PIXELS = 1L << 29;

  private PictureCodec() {}

  /**
   * Decodes a picture; the size is checked before memory is taken.
   *
   * @throws IOException where the file is damaged, of another kind, or too large
   */
  static BufferedImage decode(Path file) throws IOException {
    try (ImageInputStream in = ImageIO.createImageInputStream(file.toFile())) {
      Iterator<ImageReader> readers = in == null ? null : ImageIO.getImageReaders(in);
      if (readers == null || !readers.hasNext()) {
        throw new IOException(CoreWords.of("picture-codec.not-a-picture-format-read"));
      }
      ImageReader reader = readers.next();
      try {
        reader.setInput(in, true, true);
        int w = reader.getWidth(0);
        int h = reader.getHeight(0);
        if ((long) w * h > MOST_PIXELS) {
          throw new IOException(CoreWords.of("picture-codec.x-pixels-are-too-many", w, h));
        }
        return reader.read(0);
      } catch (Failure e) {
        throw e;
      } catch (RuntimeException e) {
        // The JDK's codecs throw unchecked exceptions of many kinds on damaged files.
        throw new IOException(CoreWords.of("common.damaged-picture"), e);
      } finally {
        reader.dispose();
      }
    }
  }

  /**
   * A decoded picture's pixels as 0xAARRGGBB, by rows.
   *
   * @throws IOException where its palette or its samples are damaged
   */
  static int[] argb(BufferedImage image) throws IOException {
    int w = image.getWidth();
    int h = image.getHeight();
    try {
      return image.getRGB(0, 0, w, h, null, 0, w);
    } catch (RuntimeException e) {
      throw new IOException(CoreWords.of("common.damaged-picture"), e);
    }
  }

  /** A stream that looks for a cancel with everything that is written to it. */
  static OutputStream cancelled(OutputStream out, Work work) {
    ImageIO.setUseCache(false);
    return new FilterOutputStream(out) {
      @Override
      public void write(byte[] b, int from, int length) throws IOException {
        work.check();
        out.write(b, from, length);
      }
    };
  }
}

package holotome.core.io;

import holotome.core.image.Raster;
import holotome.core.task.Work;
import java.awt.image.BufferedImage;
import java.awt.image.DataBufferInt;
import java.io.BufferedOutputStream;
import java.io.ByteArrayOutputStream;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.Iterator;
import javax.imageio.ImageIO;
import javax.imageio.ImageReader;
import javax.imageio.stream.ImageInputStream;

/** Pictures from and to files, by the JDK's own codecs. */
public final class Pictures {
  private static final long MOST_PIXELS = 1L << 29;

  private Pictures() {}

  /** Reads PNG, JPEG, TIFF, BMP or GIF; the size is checked before memory is taken. */
  public static Raster read(Path file) throws IOException {
    try (ImageInputStream in = ImageIO.createImageInputStream(file.toFile())) {
      Iterator<ImageReader> readers = in == null ? null : ImageIO.getImageReaders(in);
      if (readers == null || !readers.hasNext()) {
        throw new IOException("not a picture format read here; use PNG, JPEG or TIFF");
      }
      ImageReader reader = readers.next();
      try {
        reader.setInput(in, true, true);
        int w = reader.getWidth(0);
        int h = reader.getHeight(0);
        if ((long) w * h > MOST_PIXELS) {
          throw new IOException(w + " x " + h + " pixels are too many");
        }
        BufferedImage image = reader.read(0);
        return new Raster(w, h, image.getRGB(0, 0, w, h, null, 0, w));
      } catch (RuntimeException e) {
        // The JDK's codecs throw unchecked exceptions on some damaged files.
        throw new IOException("damaged picture", e);
      } finally {
        reader.dispose();
      }
    }
  }

  /** A view of the raster as an image, its pixels shared; opaque unless {@code alpha}. */
  private static BufferedImage image(Raster r, boolean alpha) {
    int type = alpha ? BufferedImage.TYPE_INT_ARGB : BufferedImage.TYPE_INT_RGB;
    BufferedImage image = new BufferedImage(r.width(), r.height(), type);
    int[] to = ((DataBufferInt) image.getRaster().getDataBuffer()).getData();
    System.arraycopy(r.pixels(), 0, to, 0, to.length);
    return image;
  }

  /** PNG, 8 bits a channel, opaque. */
  static byte[] png(Raster r, Work work) {
    try (ByteArrayOutputStream out = new ByteArrayOutputStream(r.pixels().length)) {
      writePng(r, out, work);
      return out.toByteArray();
    } catch (IOException e) {
      throw new java.io.UncheckedIOException(e);
    }
  }

  public static void writePng(Raster r, OutputStream out) throws IOException {
    writePng(r, out, Work.unwatched());
  }

  /** Writes a PNG; looks for a cancel with every few kilobytes that come out. */
  public static void writePng(Raster r, OutputStream out, Work work) throws IOException {
    ImageIO.setUseCache(false);
    OutputStream checked =
        new FilterOutputStream(out) {
          @Override
          public void write(byte[] b, int from, int length) throws IOException {
            work.check();
            out.write(b, from, length);
          }
        };
    BufferedOutputStream buffered = new BufferedOutputStream(checked, 1 << 13);
    if (!ImageIO.write(image(r, false), "png", buffered)) {
      throw new IOException("no PNG writer in this Java");
    }
    buffered.flush();
  }
}

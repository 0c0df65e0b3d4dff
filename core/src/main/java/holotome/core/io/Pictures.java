package holotome.core.io;

import holotome.core.image.Raster;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.awt.image.BufferedImage;
import java.awt.image.DataBufferInt;
import java.io.BufferedOutputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import javax.imageio.ImageIO;

/** Pictures from and to files, by the JDK's own codecs. */
public final class Pictures {
  private Pictures() {}

  /** Reads PNG, JPEG, TIFF, BMP or GIF; the size is checked before memory is taken. */
  public static Raster read(Path file) throws IOException {
    BufferedImage image = PictureCodec.decode(file);
    int w = image.getWidth();
    int h = image.getHeight();
    return new Raster(w, h, PictureCodec.argb(image));
  }

  /** The raster as an opaque image. */
  private static BufferedImage image(Raster r) {
    BufferedImage image = new BufferedImage(r.width(), r.height(), BufferedImage.TYPE_INT_RGB);
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
    BufferedOutputStream buffered =
        new BufferedOutputStream(PictureCodec.cancelled(out, work), 1 << 13);
    if (!ImageIO.write(image(r), "png", buffered)) {
      throw new IOException(CoreWords.of("pictures.no-png-writer-in-this"));
    }
    buffered.flush();
  }
}

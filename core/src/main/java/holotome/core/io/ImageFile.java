package holotome.core.io;

import holotome.core.image.Image;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.awt.image.BufferedImage;
import java.awt.image.DataBuffer;
import java.awt.image.IndexColorModel;
import java.awt.image.Raster;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.Iterator;
import javax.imageio.IIOImage;
import javax.imageio.ImageIO;
import javax.imageio.ImageTypeSpecifier;
import javax.imageio.ImageWriteParam;
import javax.imageio.ImageWriter;
import javax.imageio.stream.ImageOutputStream;

/**
 * Pictures of any depth from and to files: PNG, JPEG and TIFF by the JDK's codecs, OpenEXR by
 * {@link ExrFile}. What is written keeps all that its format can hold: whole numbers as they are,
 * floats as light.
 */
public final class ImageFile {
  private ImageFile() {}

  /** File formats with their depth. */
  public enum Format {
    PNG_8("png", Image.Sample.BYTE),
    PNG_16("png", Image.Sample.SHORT),
    JPEG("jpg", Image.Sample.BYTE),
    TIFF_8("tif", Image.Sample.BYTE),
    TIFF_16("tif", Image.Sample.SHORT),
    TIFF_FLOAT("tif", Image.Sample.FLOAT),
    EXR_HALF("exr", Image.Sample.FLOAT),
    EXR_FLOAT("exr", Image.Sample.FLOAT);

    private final String ending;
    private final Image.Sample sample;

    Format(String ending, Image.Sample sample) {
      this.ending = ending;
      this.sample = sample;
    }

    /** Of the file's name, without the dot. */
    public String ending() {
      return ending;
    }

    public Image.Sample sample() {
      return sample;
    }
  }

  /**
   * Reads PNG, JPEG or TIFF of 8 or 16 bits or floats; palettes and fewer bits become 8 bits. The
   * size is checked before memory is taken.
   *
   * @param space what whole numbers stand for; floats are taken as light
   * @throws IOException where the file is damaged, of another kind, or too large
   */
  public static Image read(Path file, Image.Space space, Work work) throws IOException {
    BufferedImage decoded = PictureCodec.decode(file);
    try {
      return image(decoded, space, work);
    } catch (IndexOutOfBoundsException e) {
      throw new IOException(CoreWords.of("common.damaged-picture"), e);
    }
  }

  private static Image image(BufferedImage b, Image.Space space, Work work) throws IOException {
    Raster r = b.getRaster();
    int type = r.getSampleModel().getDataType();
    int bits = r.getSampleModel().getSampleSize(0);
    boolean packed = b.getColorModel() instanceof IndexColorModel || bits < 8;
    Image.Sample sample =
        switch (type) {
          case DataBuffer.TYPE_FLOAT -> Image.Sample.FLOAT;
          case DataBuffer.TYPE_USHORT -> bits == 16 ? Image.Sample.SHORT : Image.Sample.BYTE;
          case DataBuffer.TYPE_BYTE, DataBuffer.TYPE_INT -> Image.Sample.BYTE;
          default -> throw new IOException(CoreWords.of("image-file.its-samples-are-neither-8"));
        };
    int w = b.getWidth();
    int h = b.getHeight();
    if (packed || sample == Image.Sample.BYTE && bits != 8) {
      return Image.of(new holotome.core.image.Raster(w, h, PictureCodec.argb(b)));
    }
    int n = Math.min(4, r.getNumBands());
    Image.Space meant = sample == Image.Sample.FLOAT ? Image.Space.LINEAR : space;
    return Image.blank(w, h, n, sample, meant)
        .filled(
            (x, y, out) -> {
              for (int c = 0; c < n; c++) {
                out[c] = r.getSampleDouble(x + r.getMinX(), y + r.getMinY(), c);
              }
            },
            work);
  }

  /**
   * Writes a picture. JPEG has no alpha: it is left out.
   *
   * @param quality of JPEG, 0 to 1
   */
  public static void write(Image image, Format format, double quality, OutputStream out, Work work)
      throws IOException {
    boolean light = format.sample == Image.Sample.FLOAT;
    Image stored =
        image.as(
            format.sample,
            light ? Image.Space.LINEAR : image.space(),
            work.part(0.2, CoreWords.of("work.preparing-the-picture")));
    Work rest = work.part(0.8, CoreWords.of("work.writing-the-picture"));
    switch (format) {
      case EXR_HALF, EXR_FLOAT -> ExrFile.write(stored, format == Format.EXR_HALF, out, rest);
      case JPEG -> encode(opaque(stored, rest), "jpeg", quality, out, rest);
      case PNG_8, PNG_16 -> encode(stored, "png", 0, out, rest);
      default -> encode(stored, "tiff", 0, out, rest);
    }
  }

  private static Image opaque(Image image, Work work) {
    if (!image.hasAlpha()) {
      return image;
    }
    Image to =
        Image.blank(
            image.width(), image.height(), image.channels() - 1, image.sample(), image.space());
    return to.filled(
        (x, y, v) -> {
          for (int c = 0; c < to.channels(); c++) {
            v[c] = image.stored(x, y, c);
          }
        },
        work);
  }

  private static void encode(Image image, String name, double quality, OutputStream out, Work work)
      throws IOException {
    TiledRendering picture = new TiledRendering(image);
    ImageTypeSpecifier type = ImageTypeSpecifier.createFromRenderedImage(picture);
    Iterator<ImageWriter> writers = ImageIO.getImageWriters(type, name);
    if (!writers.hasNext()) {
      throw new IOException(CoreWords.of("image-file.no-writer-for-this-kind", name));
    }
    ImageWriter writer = writers.next();
    BufferedOutputStream buffered =
        new BufferedOutputStream(PictureCodec.cancelled(out, work), 1 << 13);
    try (ImageOutputStream to = ImageIO.createImageOutputStream(buffered)) {
      writer.setOutput(to);
      ImageWriteParam p = writer.getDefaultWriteParam();
      if (name.equals("jpeg")) {
        p.setCompressionMode(ImageWriteParam.MODE_EXPLICIT);
        p.setCompressionQuality((float) quality);
      } else if (name.equals("tiff")) {
        p.setCompressionMode(ImageWriteParam.MODE_EXPLICIT);
        p.setCompressionType("Deflate");
      }
      writer.write(null, new IIOImage(picture, null, null), p);
    } finally {
      writer.dispose();
    }
    buffered.flush();
  }
}

package holotome.core.io;

import holotome.core.image.Image;
import java.awt.Point;
import java.awt.Rectangle;
import java.awt.color.ColorSpace;
import java.awt.image.ColorModel;
import java.awt.image.ComponentColorModel;
import java.awt.image.DataBuffer;
import java.awt.image.DataBufferByte;
import java.awt.image.DataBufferFloat;
import java.awt.image.DataBufferUShort;
import java.awt.image.PixelInterleavedSampleModel;
import java.awt.image.Raster;
import java.awt.image.RenderedImage;
import java.awt.image.SampleModel;
import java.awt.image.WritableRaster;
import java.util.Vector;

/**
 * An {@link Image} as the JDK's codecs want to see it, its tiles shared: nothing is copied whole.
 */
final class TiledRendering implements RenderedImage {
  private final Image image;
  private final SampleModel samples;
  private final ColorModel colours;

  TiledRendering(Image image) {
    this.image = image;
    int type =
        switch (image.sample()) {
          case BYTE -> DataBuffer.TYPE_BYTE;
          case SHORT -> DataBuffer.TYPE_USHORT;
          case FLOAT -> DataBuffer.TYPE_FLOAT;
        };
    int n = image.channels();
    int[] offsets = {0, 1, 2, 3};
    samples =
        new PixelInterleavedSampleModel(
            type, Image.TILE, Image.TILE, n, n * Image.TILE, java.util.Arrays.copyOf(offsets, n));
    ColorSpace space = ColorSpace.getInstance(n < 3 ? ColorSpace.CS_GRAY : ColorSpace.CS_sRGB);
    int transparency =
        image.hasAlpha() ? java.awt.Transparency.TRANSLUCENT : java.awt.Transparency.OPAQUE;
    colours = new ComponentColorModel(space, image.hasAlpha(), false, transparency, type);
  }

  @Override
  public Raster getTile(int tileX, int tileY) {
    Object t = image.tile(tileY * getNumXTiles() + tileX);
    DataBuffer data =
        switch (t) {
          case byte[] b -> new DataBufferByte(b, b.length);
          case short[] s -> new DataBufferUShort(s, s.length);
          case Object f -> new DataBufferFloat((float[]) f, ((float[]) f).length);
        };
    return Raster.createRaster(samples, data, new Point(tileX * Image.TILE, tileY * Image.TILE));
  }

  @Override
  public Raster getData(Rectangle r) {
    SampleModel s = samples.createCompatibleSampleModel(r.width, r.height);
    WritableRaster out = Raster.createWritableRaster(s, new Point(r.x, r.y));
    copyData(out);
    return out;
  }

  @Override
  public Raster getData() {
    return getData(new Rectangle(getWidth(), getHeight()));
  }

  @Override
  public WritableRaster copyData(WritableRaster into) {
    WritableRaster out =
        into == null
            ? Raster.createWritableRaster(
                samples.createCompatibleSampleModel(getWidth(), getHeight()), new Point())
            : into;
    Rectangle r = out.getBounds();
    for (int y = r.y / Image.TILE; y <= (r.y + r.height - 1) / Image.TILE; y++) {
      for (int x = r.x / Image.TILE; x <= (r.x + r.width - 1) / Image.TILE; x++) {
        out.setRect(getTile(x, y));
      }
    }
    return out;
  }

  @Override
  public ColorModel getColorModel() {
    return colours;
  }

  @Override
  public SampleModel getSampleModel() {
    return samples;
  }

  @Override
  public int getWidth() {
    return image.width();
  }

  @Override
  public int getHeight() {
    return image.height();
  }

  @Override
  public int getNumXTiles() {
    return (image.width() + Image.TILE - 1) / Image.TILE;
  }

  @Override
  public int getNumYTiles() {
    return (image.height() + Image.TILE - 1) / Image.TILE;
  }

  @Override
  public int getTileWidth() {
    return Image.TILE;
  }

  @Override
  public int getTileHeight() {
    return Image.TILE;
  }

  @Override
  public int getMinX() {
    return 0;
  }

  @Override
  public int getMinY() {
    return 0;
  }

  @Override
  public int getMinTileX() {
    return 0;
  }

  @Override
  public int getMinTileY() {
    return 0;
  }

  @Override
  public int getTileGridXOffset() {
    return 0;
  }

  @Override
  public int getTileGridYOffset() {
    return 0;
  }

  @Override
  public Vector<RenderedImage> getSources() {
    return null;
  }

  @Override
  public Object getProperty(String name) {
    return java.awt.Image.UndefinedProperty;
  }

  @Override
  public String[] getPropertyNames() {
    return null;
  }
}

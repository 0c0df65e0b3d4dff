package holotome.core.mesh;

import holotome.core.image.Raster;
import java.util.Arrays;

/** What a group of triangles is coloured with: a picture, or one colour (0xAARRGGBB) if null. */
public record Material(String name, int argb, Raster image) {

  /** Equal when name, colour and every pixel are. */
  public boolean sameAs(Material o) {
    return name.equals(o.name)
        && argb == o.argb
        && (image == o.image
            || image != null
                && o.image != null
                && image.width() == o.image.width()
                && Arrays.equals(image.pixels(), o.image.pixels()));
  }
}

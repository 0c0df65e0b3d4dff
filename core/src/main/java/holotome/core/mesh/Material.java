package holotome.core.mesh;

import holotome.core.image.Raster;

/** What a group of triangles is coloured with: a picture, or one colour (0xAARRGGBB) if null. */
public record Material(String name, int argb, Raster image) {}

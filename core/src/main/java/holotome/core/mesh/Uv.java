package holotome.core.mesh;

import holotome.core.attribute.Attribute;

/**
 * Texture coordinates with their own index.
 *
 * @param coords u, v per texture vertex, 2 floats each; v = 0 is the bottom of the picture
 * @param corners texture vertex per triangle corner, 3 ints per triangle
 */
public record Uv(float[] coords, int[] corners) {

  /** The same as an attribute on corners. */
  public Attribute attribute(String name) {
    return Attribute.of(name, Attribute.Kind.UV, Attribute.Domain.CORNER, coords, corners);
  }
}

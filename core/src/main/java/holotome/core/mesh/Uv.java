package holotome.core.mesh;

/**
 * Texture coordinates with their own index.
 *
 * @param coords u, v per texture vertex, 2 floats each; v = 0 is the bottom of the picture
 * @param corners texture vertex per triangle corner, 3 ints per triangle
 */
public record Uv(float[] coords, int[] corners) {}

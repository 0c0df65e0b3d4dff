package holotome.core.map;

/**
 * Where a sample of a texel found the Scan; one a thread, filled anew for each sample.
 *
 * <p>{@code triangle}, {@code u}, {@code v}: the Scan's triangle and the weights of its second and
 * third corner; {@code x}, {@code y}, {@code z} the place on it. {@code frame}: tangent, bitangent
 * and normal of the Cast there, 3 x 3 by rows, as whoever shows a map puts it together from.
 *
 * <p>{@code castX}, {@code castY}, {@code castZ}: the place on the Cast. {@code height}: how far
 * the Scan lies outside of it along the ray, below 0 within. {@code footprint}: how wide the sample
 * is on the surface. All in base units.
 *
 * <p>{@code sample} of {@code samples} in its texel, and {@code seed}, the same for all of a texel.
 * {@code number} tells one filling from the next.
 */
public final class Hit {
  public int triangle;
  public float u;
  public float v;
  public float x;
  public float y;
  public float z;
  public float castX;
  public float castY;
  public float castZ;
  public float height;
  public float footprint;
  public int sample;
  public int samples;
  public int seed;
  public long number;
  public final double[] frame = new double[9];

  /** One that is to be filled. */
  public Hit() {}
}

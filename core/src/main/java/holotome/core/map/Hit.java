package holotome.core.map;

/**
 * Where a sample of a texel found the Scan; one a thread, filled anew for each sample.
 *
 * <p>{@code triangle}, {@code u}, {@code v}: the Scan's triangle and the weights of its second and
 * third corner. {@code frame}: tangent, bitangent and normal of the Cast there, 3 x 3 by rows, as
 * the interpolated ones that whoever shows a map puts it together from.
 */
public final class Hit {
  public int triangle;
  public float u;
  public float v;
  public final double[] frame = new double[9];

  /** One that is to be filled. */
  public Hit() {}
}

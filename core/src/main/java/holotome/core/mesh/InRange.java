package holotome.core.mesh;

/**
 * A mesh brought to a size at which squares and cubes of its lengths are well within the range of
 * floats: itself, or scaled by a power of two, which rounds nothing.
 *
 * @param by what its lengths were multiplied with
 */
public record InRange(Mesh mesh, double by) {
  /** Binary exponents of lengths that are left as they are. */
  private static final int USUAL = 36;

  /** O(vertices) where the mesh is scaled; its attributes are shared. */
  public static InRange of(Mesh mesh) {
    double diagonal = mesh.bounds().diagonal();
    int exponent = Math.getExponent(diagonal);
    // What is on one spot has no size to be brought to.
    if (!(diagonal > 0) || Math.abs(exponent) <= USUAL) {
      return new InRange(mesh, 1);
    }
    double by = Math.scalb(1.0, -exponent);
    return new InRange(scaled(mesh, by), by);
  }

  /** A mesh made from this one at its size, at the size of the first. */
  public Mesh back(Mesh made) {
    return by == 1 ? made : scaled(made, 1 / by);
  }

  private static Mesh scaled(Mesh mesh, double by) {
    float[] xyz = new float[mesh.xyz().length];
    for (int i = 0; i < xyz.length; i++) {
      xyz[i] = (float) (mesh.xyz()[i] * by);
    }
    return mesh.withPositions(xyz);
  }
}

package holotome.core.spatial;

import holotome.core.mesh.Mesh;

/**
 * Brings vast and tiny meshes to about 1 and back, by a power of two, which loses nothing: squares
 * of distances are floats, and would overflow or vanish.
 *
 * @param power of two that lengths are multiplied by; 0 where they are of a usual size
 */
public record UsualSize(int power) {
  /** What is within two to the power of so much, or of its negative, is usual. */
  private static final int USUAL = 40;

  /** The one for a mesh, by its diagonal. */
  public static UsualSize of(Mesh mesh) {
    double diagonal = mesh.bounds().diagonal();
    int power = diagonal > 0 && diagonal < 1e60 ? -Math.getExponent(diagonal) : 0;
    return new UsualSize(Math.abs(power) > USUAL ? power : 0);
  }

  /** A length in the mesh's units at the usual size. */
  public double to(double length) {
    return Math.scalb(length, power);
  }

  /** A length at the usual size in the mesh's units. */
  public double back(double length) {
    return Math.scalb(length, -power);
  }

  /** The mesh at the usual size; itself where it is. */
  public Mesh to(Mesh mesh) {
    return scaled(mesh, power);
  }

  /** What was made of it, at the size there was. */
  public Mesh back(Mesh mesh) {
    return scaled(mesh, -power);
  }

  private static Mesh scaled(Mesh mesh, int power) {
    if (power == 0) {
      return mesh;
    }
    float[] p = mesh.xyz().clone();
    for (int i = 0; i < p.length; i++) {
      p[i] = Math.scalb(p[i], power);
    }
    return mesh.withPositions(p);
  }
}

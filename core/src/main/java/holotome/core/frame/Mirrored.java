package holotome.core.frame;

import holotome.core.geometry.Similarity;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;

/**
 * A mesh and its placing turned into their mirror image, for left-handed coordinates: the mesh is
 * mirrored in its base coordinates, where that is a change of sign and loses nothing, its triangles
 * are turned over so that the outside stays outside, and the placing is changed to fit.
 */
public record Mirrored(Mesh mesh, Similarity placing) {

  /**
   * Mirrors.
   *
   * @param axis of the placed coordinates that changes its sign
   */
  public static Mirrored of(Mesh mesh, Similarity placing, int axis) {
    return new Mirrored(mesh(mesh), placing(placing, axis));
  }

  /** A placing of the mirrored mesh: the axis's sign changed, and base x's before that. */
  public static Similarity placing(Similarity placing, int axis) {
    double[] r = placing.rotation().clone();
    double[] t = placing.shift().clone();
    for (int k = 0; k < 3; k++) {
      r[3 * axis + k] = -r[3 * axis + k];
    }
    for (int k = 0; k < 3; k++) {
      r[3 * k] = -r[3 * k];
    }
    t[axis] = -t[axis];
    return new Similarity(placing.scale(), r, t);
  }

  /** The mesh with x of the other sign, turned over. */
  public static Mesh mesh(Mesh mesh) {
    float[] xyz = mesh.xyz().clone();
    for (int i = 0; i < xyz.length; i += 3) {
      // Nought stays nought, without a sign.
      xyz[i] = 0 - xyz[i];
    }
    Uv uv = mesh.uv() == null ? null : new Uv(mesh.uv().coords(), turned(mesh.uv().corners()));
    return new Mesh(
        xyz, turned(mesh.triangles()), mesh.colours(), uv, mesh.material(), mesh.materials());
  }

  private static int[] turned(int[] corners) {
    int[] out = corners.clone();
    for (int i = 0; i < out.length; i += 3) {
      out[i + 1] = corners[i + 2];
      out[i + 2] = corners[i + 1];
    }
    return out;
  }
}

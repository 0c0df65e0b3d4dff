package holotome.core.frame;

import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attributes;
import holotome.core.attribute.Provenance;
import holotome.core.geometry.Similarity;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import java.util.BitSet;

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
    return over(mesh, xyz, new double[] {1, 0, 0});
  }

  /**
   * The mirror image of a mesh in a plane, turned over.
   *
   * @param point on the plane, in base coordinates
   * @param normal of the plane, of unit length
   */
  public static Mesh in(Mesh mesh, double[] point, double[] normal) {
    float[] xyz = mesh.xyz().clone();
    for (int i = 0; i < xyz.length; i += 3) {
      double off = 0;
      for (int k = 0; k < 3; k++) {
        off += (xyz[i + k] - point[k]) * normal[k];
      }
      for (int k = 0; k < 3; k++) {
        xyz[i + k] = (float) (xyz[i + k] - 2 * off * normal[k]);
      }
    }
    return over(mesh, xyz, normal);
  }

  /** At other places, turned over so that the outside stays outside. */
  private static Mesh over(Mesh mesh, float[] xyz, double[] plane) {
    int n = mesh.triangleCount();
    int[] tri = mesh.triangles().clone();
    for (int i = 0; i < tri.length; i += 3) {
      tri[i + 1] = mesh.triangles()[i + 2];
      tri[i + 2] = mesh.triangles()[i + 1];
    }
    BitSet all = new BitSet(n);
    all.set(0, n);
    Provenance p = Provenance.of(mesh.vertexCount(), n).turned(all).build();
    Mesh over = mesh.derive(p, new float[0], tri, Work.unwatched());
    // Turning over took the normals to the other side: they are taken back, and mirrored.
    Attributes carried = Attributes.NONE;
    for (Attribute a : over.attributes()) {
      carried = carried.with(a.mirrored(0).mirrored(1).mirrored(2).mirrored(plane));
    }
    return new Mesh(xyz, tri, carried, mesh.materials());
  }
}

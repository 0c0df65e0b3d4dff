package holotome.core.topology;

import holotome.core.attribute.Attribute;
import holotome.core.mesh.Mesh;

/** Edges between triangles that are parts of one face with more than three corners. */
public final class InnerEdges {
  private InnerEdges() {}

  /**
   * Finds them; O(T).
   *
   * @return per triangle a bit for each of its edges, the lowest for the one from its first corner
   *     to its second; null for a mesh of plain triangles
   */
  public static byte[] of(Mesh mesh) {
    Attribute face = mesh.attributes().named(Attribute.FACE);
    if (face == null
        || face.kind() != Attribute.Kind.LABEL
        || face.domain() != Attribute.Domain.TRIANGLE) {
      return null;
    }
    int[] twin = Adjacency.of(mesh).twin();
    byte[] out = new byte[mesh.triangleCount()];
    for (int h = 0; h < twin.length; h++) {
      if (twin[h] >= 0 && face.ints()[h / 3] == face.ints()[twin[h] / 3]) {
        out[h / 3] |= (byte) (1 << h % 3);
      }
    }
    return out;
  }
}

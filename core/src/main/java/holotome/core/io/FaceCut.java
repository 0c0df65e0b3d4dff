package holotome.core.io;

import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attribute.Domain;
import holotome.core.attribute.Attribute.Kind;
import holotome.core.attribute.Attributes;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.polygon.Triangulated;
import java.util.ArrayList;
import java.util.List;

/** Cuts the faces of a mesh that was read into triangles that suit them. */
final class FaceCut {
  /** Faces of more corners are left as the fans they came in. */
  private static final int LARGEST = 1 << 12;

  private FaceCut() {}

  /**
   * A mesh that was read with its faces as fans, cut better: along the shorter diagonal, or by
   * ears.
   *
   * @param faceOf the face of each triangle; those of one face stand one after the other
   */
  static Mesh cut(Mesh fans, int[] faceOf) {
    int n = fans.triangleCount();
    int[] from = new int[3 * n];
    boolean any = false;
    for (int t = 0, end; t < n; t = end) {
      end = t + 1;
      while (end < n && faceOf[end] == faceOf[t]) {
        end++;
      }
      for (int c = 3 * t; c < 3 * end; c++) {
        from[c] = c;
      }
      if (end - t > 1) {
        any = true;
        cut(fans, t, end, from);
      }
    }
    if (!any) {
      return fans;
    }
    List<Attribute> all = new ArrayList<>();
    for (Attribute a : fans.attributes()) {
      all.add(a.domain() == Domain.CORNER ? a.indexed(picked(a.index(), from)) : a);
    }
    all.add(Attribute.of(Attribute.FACE, Kind.LABEL, Domain.TRIANGLE, faceOf, null));
    Attributes carried = Attributes.of(all.toArray(Attribute[]::new));
    return new Mesh(fans.xyz(), picked(fans.triangles(), from), carried, fans.materials());
  }

  private static void cut(Mesh fans, int t, int end, int[] from) {
    int corners = end - t + 2;
    if (corners > LARGEST) {
      return;
    }
    int[] ring = new int[corners];
    double[][] at = new double[corners][];
    for (int i = 0; i < corners; i++) {
      ring[i] = i < 2 ? 3 * t + i : 3 * (t + i - 2) + 2;
      at[i] = Vec.at(fans.xyz(), fans.triangles()[ring[i]]);
    }
    int[] cut = Triangulated.triangles(at);
    for (int i = 0; i < cut.length; i++) {
      from[3 * t + i] = ring[cut[i]];
    }
  }

  private static int[] picked(int[] a, int[] from) {
    int[] out = new int[from.length];
    for (int i = 0; i < out.length; i++) {
      out[i] = a[from[i]];
    }
    return out;
  }
}

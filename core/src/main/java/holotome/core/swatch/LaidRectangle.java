package holotome.core.swatch;

import holotome.core.attribute.Attribute;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import java.util.Arrays;

/** What the Cast of a Swatch knows of how it was laid: how much more than the tile it covers. */
final class LaidRectangle {
  private static final int ROUNDS = 30;

  private LaidRectangle() {}

  /** Notes on a Cast what share of the tile's size lies beyond its left and lower side. */
  static Mesh withApron(Mesh cast, double share) {
    float[] of = new float[cast.vertexCount()];
    Arrays.fill(of, (float) share);
    Attribute a =
        Attribute.of(Attribute.APRON, Attribute.Kind.WEIGHT, Attribute.Domain.VERTEX, of, null);
    return share > 0 ? cast.with(cast.attributes().with(a), cast.materials()) : cast;
  }

  /** The share that was noted; 0 for none. */
  static double apron(Mesh cast) {
    Attribute a = cast.attributes().named(Attribute.APRON);
    return a == null || a.floats().length == 0 ? 0 : a.floats()[0];
  }

  /** Notes how far a settled Cast lies over where it was laid. */
  static Mesh withLift(Mesh cast, float[] lift) {
    Attribute a =
        Attribute.of(Attribute.LIFT, Attribute.Kind.WEIGHT, Attribute.Domain.VERTEX, lift, null);
    return cast.with(cast.attributes().with(a), cast.materials());
  }

  /**
   * The flat rectangle that a Cast was laid as, without the apron; null where it is no more one.
   */
  static Rectangle tileOf(Mesh cast, double share) {
    int[] at = {corner(cast, 0, 0), corner(cast, 1, 0), corner(cast, 0, 1)};
    if (at[0] < 0 || at[1] < 0 || at[2] < 0) {
      return null;
    }
    Attribute lift = cast.attributes().named(Attribute.LIFT);
    double[] n = null;
    double[][] p = new double[3][];
    // Where the corners were laid follows from the normal, and that from them.
    for (int round = 0; round < ROUNDS; round++) {
      for (int k = 0; k < 3; k++) {
        p[k] = Vec.at(cast.xyz(), at[k]);
        if (lift != null && n != null) {
          p[k] = Vec.sub(p[k], Vec.mul(n, lift.floats()[at[k]]));
        }
      }
      n = Vec.unit(Vec.cross(Vec.sub(p[1], p[0]), Vec.sub(p[2], p[0])));
    }
    double[] u = Vec.unit(Vec.sub(p[1], p[0]));
    double[] v = Vec.cross(n, u);
    double width = Vec.distance(p[1], p[0]) / (1 + share);
    double height = Vec.distance(p[2], p[0]) / (1 + share);
    double[] inner = Vec.add(p[0], Vec.add(Vec.mul(u, share * width), Vec.mul(v, share * height)));
    return new Rectangle(inner, u, v, width, height);
  }

  /** The vertex at a corner of the texture square; -1 for none. */
  private static int corner(Mesh cast, int u, int v) {
    int[] corners = cast.uv() == null ? new int[0] : cast.uv().corners();
    for (int c = 0; c < corners.length; c++) {
      float[] uv = cast.uv().coords();
      if (uv[2 * corners[c]] == u && uv[2 * corners[c] + 1] == v) {
        return cast.triangles()[c];
      }
    }
    return -1;
  }
}

package holotome.core.swatch;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.TextureRectangle;
import holotome.core.mesh.Uv;
import holotome.core.spatial.BvhQuery;

/**
 * A flat rectangle in base coordinates.
 *
 * @param corner the lower left one, where texture coordinates begin
 * @param across unit, along its lower side
 * @param up unit, along its left side
 * @param width along {@code across}
 * @param height along {@code up}
 */
record Rectangle(double[] corner, double[] across, double[] up, double width, double height) {
  double[] normal() {
    return Vec.cross(across, up);
  }

  /** The place at shares of its width and height, and so far over it. */
  double[] at(double u, double v, double over) {
    double[] n = normal();
    double[] out = new double[3];
    for (int k = 0; k < 3; k++) {
      out[k] = corner[k] + u * width * across[k] + v * height * up[k] + over * n[k];
    }
    return out;
  }

  /** Shares of its width and height, and how far over it a place lies. */
  double[] of(double[] place) {
    double[] d = Vec.sub(place, corner);
    return new double[] {Vec.dot(d, across) / width, Vec.dot(d, up) / height, Vec.dot(d, normal())};
  }

  /**
   * What of the Scan lies over or under a place, seen along the normal from above; which triangle
   * is left in the query.
   *
   * @param within how far over and under the rectangle the Scan counts, in base units
   * @return how far over the rectangle; NaN where there is no Scan
   */
  float look(BvhQuery q, double u, double v, double within) {
    double[] p = at(u, v, within);
    double[] n = normal();
    boolean isHit =
        q.ray(
            (float) p[0],
            (float) p[1],
            (float) p[2],
            (float) -n[0],
            (float) -n[1],
            (float) -n[2],
            0,
            (float) (2 * within),
            BvhQuery.Facing.ANY);
    return isHit ? (float) (within - q.distance) : Float.NaN;
  }

  /** With so much more on its left and lower side, as a share of its size. */
  Rectangle extended(double share) {
    double[] low =
        Vec.sub(corner, Vec.add(Vec.mul(across, share * width), Vec.mul(up, share * height)));
    return new Rectangle(low, across, up, width * (1 + share), height * (1 + share));
  }

  /** As two triangles that fill the texture square. */
  Mesh mesh() {
    return grid(1, 1, (u, v) -> 0);
  }

  /** How far over the rectangle it goes at shares of its width and height. */
  interface Heights {
    double at(double u, double v);
  }

  /** As a grid of cells of two triangles each, texture coordinates exactly even. */
  Mesh grid(int columns, int rows, Heights heights) {
    int n = (columns + 1) * (rows + 1);
    float[] xyz = new float[3 * n];
    float[] uv = new float[2 * n];
    for (int j = 0; j <= rows; j++) {
      for (int i = 0; i <= columns; i++) {
        int at = j * (columns + 1) + i;
        double u = (double) i / columns;
        double v = (double) j / rows;
        double[] p = at(u, v, heights.at(u, v));
        for (int k = 0; k < 3; k++) {
          xyz[3 * at + k] = (float) p[k];
        }
        uv[2 * at] = (float) u;
        uv[2 * at + 1] = (float) v;
      }
    }
    int[] triangles = new int[6 * columns * rows];
    int t = 0;
    for (int j = 0; j < rows; j++) {
      for (int i = 0; i < columns; i++) {
        int a = j * (columns + 1) + i;
        int c = a + columns + 1;
        int[] quad = {a, a + 1, c + 1, a, c + 1, c};
        System.arraycopy(quad, 0, triangles, t, 6);
        t += 6;
      }
    }
    return new Mesh(xyz, triangles).withUv(new Uv(uv, triangles.clone()));
  }

  /** The rectangle that a mesh is, as {@link #mesh} made it; null for any other mesh. */
  static Rectangle of(Mesh mesh) {
    TextureRectangle r = TextureRectangle.of(mesh);
    if (r == null) {
      return null;
    }
    double[] u = Vec.unit(r.across());
    double[] n = Vec.unit(Vec.cross(u, r.up()));
    return new Rectangle(r.corner(), u, Vec.cross(n, u), r.width(), r.height());
  }
}

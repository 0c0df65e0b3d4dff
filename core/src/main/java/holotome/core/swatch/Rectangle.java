package holotome.core.swatch;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import java.util.Arrays;

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
  /** Corners may lie so far off, as a share of the diagonal, by their rounding to floats. */
  private static final double HAIR = 1e-5;

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
    boolean isPlain = mesh.vertexCount() == 4 && mesh.triangleCount() == 2 && mesh.uv() != null;
    if (!isPlain || !Arrays.equals(mesh.uv().coords(), new float[] {0, 0, 1, 0, 0, 1, 1, 1})) {
      return null;
    }
    double[][] p = new double[4][3];
    for (int i = 0; i < 12; i++) {
      p[i / 3][i % 3] = mesh.xyz()[i];
    }
    double[] across = Vec.sub(p[1], p[0]);
    double[] up = Vec.sub(p[2], p[0]);
    double width = Vec.length(across);
    double height = Vec.length(up);
    double hair = HAIR * (width + height);
    double[] last = Vec.sub(Vec.sub(p[3], p[1]), up);
    if (!(width > 0 && height > 0)
        || Vec.length(last) > hair
        || Math.abs(Vec.dot(across, up)) > hair * Math.max(width, height)) {
      return null;
    }
    double[] u = Vec.unit(across);
    double[] n = Vec.unit(Vec.cross(u, up));
    return new Rectangle(p[0], u, Vec.cross(n, u), width, height);
  }
}

package holotome.core.quad;

import holotome.core.array.LongIndex;
import holotome.core.geometry.Vec;
import java.util.Arrays;

/**
 * How good a mesh of quads is.
 *
 * @param faces how many there are
 * @param quads how many of them have four corners
 * @param inner points that do not lie on an open edge
 * @param irregular how many of these have more or fewer than four edges
 * @param angle by how much angles of quads differ from right ones: the root of the mean square, in
 *     degrees
 * @param bend how far the diagonals of quads pass one another, as a share of their mean length: the
 *     mean
 * @param turned faces that are turned over against their neighbours, or bent in
 */
public record QuadFigures(
    int faces, int quads, int inner, int irregular, double angle, double bend, int turned) {

  /** Of a mesh and its mirror image; points between the two are counted as borders'. */
  public QuadFigures twice() {
    return new QuadFigures(2 * faces, 2 * quads, 2 * inner, 2 * irregular, angle, bend, 2 * turned);
  }

  /** O(faces). */
  public static QuadFigures of(QuadMesh mesh) {
    int n = mesh.at().length / 3;
    LongIndex edges = new LongIndex();
    int[] sides = new int[3 * mesh.faces().length + 16];
    int[] degree = new int[n];
    int quads = 0;
    double angles = 0;
    double bends = 0;
    long corners = 0;
    for (int[] c : mesh.faces()) {
      for (int i = 0; i < c.length; i++) {
        int had = edges.size();
        int e = edges.add(Faces.edge(c[i], c[(i + 1) % c.length]));
        if (e >= sides.length) {
          sides = Arrays.copyOf(sides, 2 * sides.length);
        }
        sides[e]++;
        if (e == had) {
          degree[c[i]]++;
          degree[c[(i + 1) % c.length]]++;
        }
      }
      if (c.length == 4) {
        quads++;
        bends += bend(mesh.at(), c);
        for (int i = 0; i < 4; i++) {
          double cos = Shape.cosine(mesh.at(), c[(i + 3) % 4], c[i], c[(i + 1) % 4]);
          double off = Math.toDegrees(Math.acos(cos)) - 90;
          angles += off * off;
          corners++;
        }
      }
    }
    boolean[] open = new boolean[n];
    for (int e = 0; e < edges.size(); e++) {
      if (sides[e] == 1) {
        open[(int) (edges.key(e) >>> 32)] = true;
        open[(int) edges.key(e)] = true;
      }
    }
    int inner = 0;
    int irregular = 0;
    for (int v = 0; v < n; v++) {
      inner += open[v] ? 0 : 1;
      irregular += open[v] || degree[v] == 4 ? 0 : 1;
    }
    return new QuadFigures(
        mesh.faces().length,
        quads,
        inner,
        irregular,
        corners > 0 ? Math.sqrt(angles / corners) : 0,
        quads > 0 ? bends / quads : 0,
        turned(mesh));
  }

  /** How far apart the diagonals pass, by their mean length. */
  private static double bend(double[] p, int[] c) {
    double[] a = new double[3];
    double[] b = new double[3];
    double[] d = new double[3];
    for (int k = 0; k < 3; k++) {
      a[k] = p[3 * c[2] + k] - p[3 * c[0] + k];
      b[k] = p[3 * c[3] + k] - p[3 * c[1] + k];
      d[k] = p[3 * c[1] + k] - p[3 * c[0] + k];
    }
    double[] n = Vec.cross(a, b);
    double l = Vec.length(n);
    double mean = 0.5 * (Vec.length(a) + Vec.length(b));
    return l > 0 && mean > 0 ? Math.abs(Vec.dot(n, d)) / l / mean : 0;
  }

  /** Faces with a corner that is turned against the mean of the normals at its point. */
  private static int turned(QuadMesh mesh) {
    double[] at = mesh.at();
    double[] normals = new double[at.length];
    double[] cross = new double[3];
    for (int[] c : mesh.faces()) {
      for (int i = 0; i < c.length; i++) {
        Shape.corner(at, c, i, cross);
        for (int k = 0; k < 3; k++) {
          normals[3 * c[i] + k] += cross[k];
        }
      }
    }
    int turned = 0;
    for (int[] c : mesh.faces()) {
      boolean isTurned = false;
      for (int i = 0; i < c.length; i++) {
        Shape.corner(at, c, i, cross);
        int v = 3 * c[i];
        double dot = cross[0] * normals[v] + cross[1] * normals[v + 1] + cross[2] * normals[v + 2];
        isTurned |= dot <= 0;
      }
      turned += isTurned ? 1 : 0;
    }
    return turned;
  }
}

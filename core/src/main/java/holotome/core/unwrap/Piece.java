package holotome.core.unwrap;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import java.util.Arrays;

/**
 * A chart while charts are made: triangles that hang together, each with its own true shape, and
 * where they lie flat.
 *
 * <p>Triangles that are neighbours on the mesh are joined in the chart where they share both
 * vertices of the edge between them; where they do not, a seam runs between them.
 *
 * @param triangles numbers of its triangles in the mesh
 * @param corners 3 per triangle, into its own vertices
 * @param rest 3 per triangle, in the mesh's units: laid on its own plane its first corner is at 0
 *     0, its second at x 0, its third at x y. Never without area: a sliver is taken for a little
 *     thicker than it is
 * @param uv 2 per vertex, in the mesh's units
 */
record Piece(int[] triangles, int[] corners, double[] rest, double[] uv) {
  /** The least height of a triangle, as a share of its longest side. */
  private static final double THIN = 1e-3;

  int vertices() {
    return uv.length / 2;
  }

  Piece at(double[] places) {
    return new Piece(triangles, corners, rest, places);
  }

  /**
   * Some of its triangles as a piece, where they lie.
   *
   * @param places of the triangles within this piece
   */
  Piece subset(int[] places) {
    int[] number = new int[vertices()];
    Arrays.fill(number, -1);
    int[] t = new int[places.length];
    int[] k = new int[3 * places.length];
    double[] shapes = new double[k.length];
    double[] at = new double[2 * Math.min(vertices(), k.length)];
    int count = 0;
    for (int i = 0; i < places.length; i++) {
      t[i] = triangles[places[i]];
      System.arraycopy(rest, 3 * places[i], shapes, 3 * i, 3);
      for (int c = 0; c < 3; c++) {
        int v = corners[3 * places[i] + c];
        if (number[v] < 0) {
          at[2 * count] = uv[2 * v];
          at[2 * count + 1] = uv[2 * v + 1];
          number[v] = count++;
        }
        k[3 * i + c] = number[v];
      }
    }
    return new Piece(t, k, shapes, Arrays.copyOf(at, 2 * count));
  }

  /**
   * Triangles joined as their corners say, all vertices at 0 0 still.
   *
   * @param corners 3 per triangle, vertices numbered from 0
   */
  static Piece unplaced(Ground ground, int[] triangles, int[] corners) {
    int vertices = 0;
    for (int c : corners) {
      vertices = Math.max(vertices, c + 1);
    }
    double[] rest = rest(ground.mesh(), triangles, ground.least());
    return new Piece(triangles, corners, rest, new double[2 * vertices]);
  }

  /** A triangle by itself. */
  static Piece single(Mesh mesh, int triangle, double least) {
    double[] rest = rest(mesh, new int[] {triangle}, least);
    double[] uv = {0, 0, rest[0], 0, rest[1], rest[2]};
    return new Piece(new int[] {triangle}, new int[] {0, 1, 2}, rest, uv);
  }

  /**
   * The triangles' own shapes.
   *
   * @param least length that no longest side falls below
   */
  static double[] rest(Mesh mesh, int[] triangles, double least) {
    double[] out = new double[3 * triangles.length];
    float[] p = mesh.xyz();
    int[] tri = mesh.triangles();
    for (int i = 0; i < triangles.length; i++) {
      int a = 3 * tri[3 * triangles[i]];
      int b = 3 * tri[3 * triangles[i] + 1];
      int c = 3 * tri[3 * triangles[i] + 2];
      double ux = (double) p[b] - p[a];
      double uy = (double) p[b + 1] - p[a + 1];
      double uz = (double) p[b + 2] - p[a + 2];
      double vx = (double) p[c] - p[a];
      double vy = (double) p[c + 1] - p[a + 1];
      double vz = (double) p[c + 2] - p[a + 2];
      double l = Math.sqrt(ux * ux + uy * uy + uz * uz);
      double x = l > 0 ? (ux * vx + uy * vy + uz * vz) / l : 0;
      double cx = uy * vz - uz * vy;
      double cy = uz * vx - ux * vz;
      double cz = ux * vy - uy * vx;
      double y =
          l > 0 ? Math.sqrt(cx * cx + cy * cy + cz * cz) / l : Vec.length(Vec.of(vx, vy, vz));
      double longest =
          Math.max(least, Math.max(l, Math.max(Math.hypot(x, y), Math.hypot(x - l, y))));
      out[3 * i] = Math.max(l, THIN * longest);
      out[3 * i + 1] = x;
      out[3 * i + 2] = Math.max(y, THIN * longest);
    }
    return out;
  }

  double restArea(int t) {
    return rest[3 * t] * rest[3 * t + 2] / 2;
  }

  /** Of the whole surface of the chart. */
  double area() {
    double s = 0;
    for (int t = 0; t < triangles.length; t++) {
      s += restArea(t);
    }
    return s;
  }

  /** A triangle's area where it lies flat, below 0 where it lies on its back. */
  double flatArea(int t) {
    int a = 2 * corners[3 * t];
    int b = 2 * corners[3 * t + 1];
    int c = 2 * corners[3 * t + 2];
    return ((uv[b] - uv[a]) * (uv[c + 1] - uv[a + 1]) - (uv[c] - uv[a]) * (uv[b + 1] - uv[a + 1]))
        / 2;
  }

  /** Whether no triangle lies on its back or is squeezed to less than a share of its area. */
  boolean isUpright(double share) {
    for (int t = 0; t < triangles.length; t++) {
      if (!(flatArea(t) > share * restArea(t))) {
        return false;
      }
    }
    return true;
  }

  /**
   * The L2 stretch of the chart by itself (see {@link Stretch}): 1 where every triangle has its
   * shape and share; without bound where one has no area.
   */
  double stretch() {
    double sum = 0;
    double own = 0;
    double flat = 0;
    for (int t = 0; t < triangles.length; t++) {
      double a = restArea(t);
      own += a;
      flat += flatArea(t);
      sum += a * squeezed(t);
    }
    return Math.sqrt(sum / own * Math.max(0, flat / own));
  }

  /**
   * The squares of a triangle's lengths beside those it has flat, in the mean of all directions.
   */
  double squeezed(int t) {
    int a = 2 * corners[3 * t];
    int b = 2 * corners[3 * t + 1];
    int c = 2 * corners[3 * t + 2];
    double l = rest[3 * t];
    double x = rest[3 * t + 1];
    double y = rest[3 * t + 2];
    // The map from the triangle's plane to the texture, by columns.
    double m00 = (uv[b] - uv[a]) / l;
    double m10 = (uv[b + 1] - uv[a + 1]) / l;
    double m01 = (uv[c] - uv[a] - m00 * x) / y;
    double m11 = (uv[c + 1] - uv[a + 1] - m10 * x) / y;
    double det = m00 * m11 - m01 * m10;
    return (m00 * m00 + m10 * m10 + m01 * m01 + m11 * m11) / (2 * det * det);
  }

  /** The area of the smallest box around it, turned by steps of three degrees. */
  double smallestBox() {
    double least = Double.POSITIVE_INFINITY;
    for (int degrees = 0; degrees < 90; degrees += 3) {
      double c = Math.cos(Math.toRadians(degrees));
      double s = Math.sin(Math.toRadians(degrees));
      double lowX = Double.POSITIVE_INFINITY;
      double lowY = lowX;
      double highX = -lowX;
      double highY = -lowX;
      for (int i = 0; i < uv.length; i += 2) {
        double x = c * uv[i] - s * uv[i + 1];
        double y = s * uv[i] + c * uv[i + 1];
        lowX = Math.min(lowX, x);
        lowY = Math.min(lowY, y);
        highX = Math.max(highX, x);
        highY = Math.max(highY, y);
      }
      least = Math.min(least, (highX - lowX) * (highY - lowY));
    }
    return least;
  }
}

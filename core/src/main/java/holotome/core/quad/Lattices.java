package holotome.core.quad;

/**
 * Grids of points in the tangent planes of two points of a surface, each along the point's own
 * directions: which points of the two grids stand for one another. Not for several threads.
 */
final class Lattices {
  /** The points of either grid that lie nearest to one another, between the two. */
  double ax;

  double ay;
  double az;
  double bx;
  double by;
  double bz;

  /** How many steps each of the two is away from the grid's own point, along and across. */
  int alongA;

  int acrossA;

  int alongB;

  int acrossB;

  private double mx;
  private double my;
  private double mz;

  /**
   * Finds the two: of the four points of the one grid around the place between, and of those of the
   * other nearest to each, the pair that is closest.
   *
   * @param level the surface
   * @param places a point of each grid, 3 floats each
   * @param v one point
   * @param u the other
   * @param way the directions of the two grids that agree, of unit length
   * @param sideA how far apart the one grid's points are, and sideB the other's
   */
  void match(
      FieldLevel level, float[] places, int v, int u, Crosses way, double sideA, double sideB) {
    middle(level.at(), level.normal(), 3 * v, 3 * u);
    float[] n = level.normal();
    int i = 3 * v;
    int j = 3 * u;
    double aX = way.ax;
    double aY = way.ay;
    double aZ = way.az;
    double acX = n[i + 1] * aZ - n[i + 2] * aY;
    double acY = n[i + 2] * aX - n[i] * aZ;
    double acZ = n[i] * aY - n[i + 1] * aX;
    double bX = way.bx;
    double bY = way.by;
    double bZ = way.bz;
    double bcX = n[j + 1] * bZ - n[j + 2] * bY;
    double bcY = n[j + 2] * bX - n[j] * bZ;
    double bcZ = n[j] * bY - n[j + 1] * bX;
    double dx = mx - places[i];
    double dy = my - places[i + 1];
    double dz = mz - places[i + 2];
    double along = Math.floor((dx * aX + dy * aY + dz * aZ) / sideA);
    double across = Math.floor((dx * acX + dy * acY + dz * acZ) / sideA);
    double best = Double.POSITIVE_INFINITY;
    double perB = 1 / sideB;
    for (int c = 0; c < 4; c++) {
      double s = along + (c & 1);
      double t = across + (c >> 1);
      double px = places[i] + sideA * (s * aX + t * acX);
      double py = places[i + 1] + sideA * (s * aY + t * acY);
      double pz = places[i + 2] + sideA * (s * aZ + t * acZ);
      double ex = px - places[j];
      double ey = py - places[j + 1];
      double ez = pz - places[j + 2];
      double sB = Math.rint((ex * bX + ey * bY + ez * bZ) * perB);
      double tB = Math.rint((ex * bcX + ey * bcY + ez * bcZ) * perB);
      double qx = places[j] + sideB * (sB * bX + tB * bcX);
      double qy = places[j + 1] + sideB * (sB * bY + tB * bcY);
      double qz = places[j + 2] + sideB * (sB * bZ + tB * bcZ);
      double fx = px - qx;
      double fy = py - qy;
      double fz = pz - qz;
      double d = fx * fx + fy * fy + fz * fz;
      if (d < best) {
        best = d;
        ax = px;
        ay = py;
        az = pz;
        bx = qx;
        by = qy;
        bz = qz;
        alongA = (int) s;
        acrossA = (int) t;
        alongB = (int) sB;
        acrossB = (int) tB;
      }
    }
  }

  /** The place in both tangent planes that is nearest to the two points; between them if flat. */
  private void middle(float[] p, float[] n, int i, int j) {
    double hx = 0.5 * ((double) p[j] - p[i]);
    double hy = 0.5 * ((double) p[j + 1] - p[i + 1]);
    double hz = 0.5 * ((double) p[j + 2] - p[i + 2]);
    double cos = (double) n[i] * n[j] + (double) n[i + 1] * n[j + 1] + (double) n[i + 2] * n[j + 2];
    double offV = n[i] * hx + n[i + 1] * hy + n[i + 2] * hz;
    double offU = -(n[j] * hx + n[j + 1] * hy + n[j + 2] * hz);
    // Moved along both normals until it lies in both planes.
    double det = 1 - cos * cos + 1e-4;
    double byV = (-offV + cos * offU) / det;
    double byU = (-offU + cos * offV) / det;
    mx = p[i] + hx + byV * n[i] + byU * n[j];
    my = p[i + 1] + hy + byV * n[i + 1] + byU * n[j + 1];
    mz = p[i + 2] + hz + byV * n[i + 2] + byU * n[j + 2];
  }
}

package holotome.core.reduce;

/**
 * Makes the triangles of one region even: long edges are cut, short ones collapsed, edges turned
 * where that brings the number of neighbours nearer to six, vertices moved along the surface to the
 * middle of their neighbours (Botsch and Kobbelt, "A remeshing approach to multiresolution
 * modeling", 2004). Vertices on lines stay on them; a line gives up a vertex only where it runs
 * nearly straight past it. One thread.
 */
final class RegionRemesh {
  /** Told of each merge before it is made. */
  interface Trail {
    /** w goes into v. */
    void merging(int v, int w);
  }

  /** Cut above and collapsed below these many lengths (ibid.). */
  private static final double LONG = 4.0 / 3;

  private static final double SHORT = 4.0 / 5;

  private static final int SPLITS = 3;

  /** A line may pass a vertex it gives up by so much of a length. */
  private static final double PAST = 0.1;

  /** A triangle thinner than a tenth of its length must not get thinner: in terms of squares. */
  private static final double THIN = 0.0025;

  /** A turn of a triangle by more than 60 degrees is a fold: the square of its cosine. */
  private static final double FOLD = 0.25;

  private final LocalMesh mesh;
  private final double[] p;

  /** How long the edges at each vertex are to be. */
  private final double[] length;

  private double x;
  private double y;
  private double z;

  /**
   * Takes a region.
   *
   * @param length of the edges there are to be, one per vertex; what is cut has the mean of its
   *     ends
   */
  RegionRemesh(LocalMesh mesh, double[] length) {
    this.mesh = mesh;
    this.length = length;
    p = mesh.p;
  }

  /**
   * One round of all four.
   *
   * @return whether there was room for all that was to be cut
   */
  boolean run(Trail trail) {
    for (int i = 0; i < SPLITS && split(); i++) {
      // What was cut may be long again.
    }
    boolean hadRoom = mesh.hasRoom();
    collapse(trail);
    flip();
    smooth();
    return hadRoom;
  }

  private double square(int a, int b) {
    double dx = p[3 * a] - p[3 * b];
    double dy = p[3 * a + 1] - p[3 * b + 1];
    double dz = p[3 * a + 2] - p[3 * b + 2];
    return dx * dx + dy * dy + dz * dz;
  }

  /** The square of how long the edge of two vertices may be, or no shorter than. */
  private double bound(int a, int b, double times) {
    double l = times * 0.5 * (length[a] + length[b]);
    return l * l;
  }

  private boolean isLocked(int v) {
    return mesh.state[v] == LocalMesh.LOCKED;
  }

  private boolean split() {
    int before = mesh.usedVertices();
    // What is added is looked at too.
    for (int h = 0; h < 3 * mesh.usedTriangles() && mesh.hasRoom(); h++) {
      int a = mesh.org[h];
      if (a < 0 || mesh.twin[h] >= 0 && mesh.twin[h] < h) {
        continue;
      }
      int b = mesh.org[LocalMesh.next(h)];
      double here = square(a, b);
      if (isLocked(a) && isLocked(b) || here <= bound(a, b, LONG)) {
        continue;
      }
      // An open edge of a locked vertex may be another region's inner one.
      if (mesh.twin[h] < 0 && (isLocked(a) || isLocked(b))) {
        continue;
      }
      // Only the longest side of both its triangles: else what it leaves would be long again.
      if (hasLonger(h, here) || mesh.twin[h] >= 0 && hasLonger(mesh.twin[h], here)) {
        continue;
      }
      int m = mesh.split(h);
      length[m] = 0.5 * (length[a] + length[b]);
      for (int k = 0; k < 3; k++) {
        p[3 * m + k] = (p[3 * a + k] + p[3 * b + k]) / 2;
      }
    }
    return mesh.usedVertices() > before;
  }

  private boolean hasLonger(int h, double than) {
    int a = mesh.org[h];
    int b = mesh.org[LocalMesh.next(h)];
    int c = mesh.org[LocalMesh.previous(h)];
    return square(a, c) > than || square(b, c) > than;
  }

  private void collapse(Trail trail) {
    for (int h = 0; h < 3 * mesh.usedTriangles(); h++) {
      int v = mesh.org[h];
      if (v < 0) {
        continue;
      }
      int w = mesh.org[LocalMesh.next(h)];
      if (square(v, w) >= bound(v, w, SHORT)
          || !mesh.mayMerge(v, w, h)
          || !mesh.keepsTopology(v, w, h)
          || !placed(v, w)
          || !isSound(v, w)
          || !isSound(w, v)) {
        continue;
      }
      trail.merging(v, w);
      p[3 * v] = x;
      p[3 * v + 1] = y;
      p[3 * v + 2] = z;
      length[v] = 0.5 * (length[v] + length[w]);
      mesh.merge(v, w, h);
    }
  }

  /** Where v and w are to become one; false where a line would lose a bend. */
  private boolean placed(int v, int w) {
    byte a = mesh.state[v];
    byte b = mesh.state[w];
    if (a == LocalMesh.FREE && b == LocalMesh.FREE) {
      at(
          (p[3 * v] + p[3 * w]) / 2,
          (p[3 * v + 1] + p[3 * w + 1]) / 2,
          (p[3 * v + 2] + p[3 * w + 2]) / 2);
      return true;
    }
    if (a == LocalMesh.FREE || b == LocalMesh.FREE) {
      return put(a > b ? v : w);
    }
    double most = PAST * 0.5 * (length[v] + length[w]);
    double goes = b == LocalMesh.LINE ? past(w, v) : Double.POSITIVE_INFINITY;
    double stays = a == LocalMesh.LINE ? past(v, w) : Double.POSITIVE_INFINITY;
    return Math.min(goes, stays) <= most * most && put(goes <= stays ? v : w);
  }

  private boolean put(int v) {
    at(p[3 * v], p[3 * v + 1], p[3 * v + 2]);
    return true;
  }

  private void at(double px, double py, double pz) {
    x = px;
    y = py;
    z = pz;
  }

  /** The square of how far a line without w runs past it: from v to the next beyond w. */
  private double past(int w, int v) {
    int u = mesh.alongLine(w, v);
    if (u < 0) {
      return Double.POSITIVE_INFINITY;
    }
    double ex = p[3 * u] - p[3 * v];
    double ey = p[3 * u + 1] - p[3 * v + 1];
    double ez = p[3 * u + 2] - p[3 * v + 2];
    double wx = p[3 * w] - p[3 * v];
    double wy = p[3 * w + 1] - p[3 * v + 1];
    double wz = p[3 * w + 2] - p[3 * v + 2];
    double ee = ex * ex + ey * ey + ez * ez;
    double s = ee > 0 ? Math.clamp((wx * ex + wy * ey + wz * ez) / ee, 0.0, 1.0) : 0;
    double dx = wx - s * ex;
    double dy = wy - s * ey;
    double dz = wz - s * ez;
    return dx * dx + dy * dy + dz * dz;
  }

  /** Whether v's triangles without w, with v moved, neither fold nor get edges that are long. */
  private boolean isSound(int v, int w) {
    int h = mesh.out[v];
    int start = h;
    do {
      int a = mesh.org[LocalMesh.next(h)];
      int b = mesh.org[LocalMesh.previous(h)];
      if (a != w && b != w) {
        double ax = p[3 * a] - x;
        double ay = p[3 * a + 1] - y;
        double az = p[3 * a + 2] - z;
        if (ax * ax + ay * ay + az * az > bound(a, v, LONG) || !keepsSide(v, a, b)) {
          return false;
        }
      }
      h = mesh.turn(h);
    } while (h >= 0 && h != start);
    return true;
  }

  /** Whether the triangle v, a, b faces the way it did with v at the new place. */
  private boolean keepsSide(int v, int a, int b) {
    double ex = p[3 * b] - p[3 * a];
    double ey = p[3 * b + 1] - p[3 * a + 1];
    double ez = p[3 * b + 2] - p[3 * a + 2];
    double ox = p[3 * v] - p[3 * a];
    double oy = p[3 * v + 1] - p[3 * a + 1];
    double oz = p[3 * v + 2] - p[3 * a + 2];
    double mx = x - p[3 * a];
    double my = y - p[3 * a + 1];
    double mz = z - p[3 * a + 2];
    double nx = ey * oz - ez * oy;
    double ny = ez * ox - ex * oz;
    double nz = ex * oy - ey * ox;
    double kx = ey * mz - ez * my;
    double ky = ez * mx - ex * mz;
    double kz = ex * my - ey * mx;
    double nn = nx * nx + ny * ny + nz * nz;
    double kk = kx * kx + ky * ky + kz * kz;
    double dot = nx * kx + ny * ky + nz * kz;
    double wide = ex * ex + ey * ey + ez * ez + mx * mx + my * my + mz * mz;
    if (kk < THIN * wide * wide && kk < nn) {
      return false;
    }
    return kk > 0 && (nn == 0 || dot > 0 && dot * dot >= FOLD * nn * kk);
  }

  private int degree(int v) {
    int n = 0;
    int h = mesh.out[v];
    int start = h;
    do {
      n++;
      h = mesh.turn(h);
    } while (h >= 0 && h != start);
    return h < 0 ? n + 1 : n;
  }

  /** How far a number of neighbours is from what it should be: six, on open edges four. */
  private int off(int v, int degree) {
    return Math.abs(degree - (mesh.twin[mesh.out[v]] < 0 ? 4 : 6));
  }

  private void flip() {
    int[] degree = new int[mesh.usedVertices()];
    for (int v = 0; v < degree.length; v++) {
      degree[v] = mesh.out[v] < 0 || isLocked(v) ? 0 : degree(v);
    }
    for (int h = 0; h < 3 * mesh.usedTriangles(); h++) {
      int a = mesh.org[h];
      int g = mesh.twin[h];
      if (a < 0 || g < h || mesh.isDrawn(h)) {
        continue;
      }
      int b = mesh.org[g];
      int c = mesh.org[LocalMesh.previous(h)];
      int d = mesh.org[LocalMesh.previous(g)];
      if (isLocked(a)
          || isLocked(b)
          || isLocked(c)
          || isLocked(d)
          || degree[a] < 4
          || degree[b] < 4) {
        continue;
      }
      int before = off(a, degree[a]) + off(b, degree[b]) + off(c, degree[c]) + off(d, degree[d]);
      int after =
          off(a, degree[a] - 1)
              + off(b, degree[b] - 1)
              + off(c, degree[c] + 1)
              + off(d, degree[d] + 1);
      if (after < before && isFlatEnough(a, b, c, d) && !mesh.areNeighbours(c, d)) {
        mesh.flip(h);
        degree[a]--;
        degree[b]--;
        degree[c]++;
        degree[d]++;
      }
    }
  }

  /** Whether d c a and c d b face the same way as a b c and b a d, and have area. */
  private boolean isFlatEnough(int a, int b, int c, int d) {
    double[] n = normal(a, b, c);
    double[] m = normal(b, a, d);
    double[] k = normal(d, c, a);
    double[] l = normal(c, d, b);
    return agree(n, k) && agree(n, l) && agree(m, k) && agree(m, l) && agree(k, l);
  }

  private static boolean agree(double[] n, double[] k) {
    double nn = n[0] * n[0] + n[1] * n[1] + n[2] * n[2];
    double kk = k[0] * k[0] + k[1] * k[1] + k[2] * k[2];
    double dot = n[0] * k[0] + n[1] * k[1] + n[2] * k[2];
    // 45 degrees.
    return kk > 0 && (nn == 0 || dot > 0 && dot * dot >= 0.5 * nn * kk);
  }

  private double[] normal(int a, int b, int c) {
    double ux = p[3 * b] - p[3 * a];
    double uy = p[3 * b + 1] - p[3 * a + 1];
    double uz = p[3 * b + 2] - p[3 * a + 2];
    double vx = p[3 * c] - p[3 * a];
    double vy = p[3 * c + 1] - p[3 * a + 1];
    double vz = p[3 * c + 2] - p[3 * a + 2];
    return new double[] {uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx};
  }

  /** Moves each free vertex to the middle of its neighbours, without leaving its tangent plane. */
  private void smooth() {
    for (int v = 0; v < mesh.usedVertices(); v++) {
      if (mesh.out[v] < 0 || mesh.state[v] != LocalMesh.FREE) {
        continue;
      }
      double sx = 0;
      double sy = 0;
      double sz = 0;
      double nx = 0;
      double ny = 0;
      double nz = 0;
      int n = 0;
      int h = mesh.out[v];
      int start = h;
      do {
        int a = 3 * mesh.org[LocalMesh.next(h)];
        int b = 3 * mesh.org[LocalMesh.previous(h)];
        sx += p[a];
        sy += p[a + 1];
        sz += p[a + 2];
        double ux = p[a] - p[3 * v];
        double uy = p[a + 1] - p[3 * v + 1];
        double uz = p[a + 2] - p[3 * v + 2];
        double wx = p[b] - p[3 * v];
        double wy = p[b + 1] - p[3 * v + 1];
        double wz = p[b + 2] - p[3 * v + 2];
        nx += uy * wz - uz * wy;
        ny += uz * wx - ux * wz;
        nz += ux * wy - uy * wx;
        n++;
        h = mesh.turn(h);
      } while (h != start);
      double nn = nx * nx + ny * ny + nz * nz;
      if (!(nn > 0)) {
        continue;
      }
      double dx = sx / n - p[3 * v];
      double dy = sy / n - p[3 * v + 1];
      double dz = sz / n - p[3 * v + 2];
      double up = (dx * nx + dy * ny + dz * nz) / nn;
      x = p[3 * v] + dx - up * nx;
      y = p[3 * v + 1] + dy - up * ny;
      z = p[3 * v + 2] + dz - up * nz;
      if (mayMove(v)) {
        p[3 * v] = x;
        p[3 * v + 1] = y;
        p[3 * v + 2] = z;
      }
    }
  }

  private boolean mayMove(int v) {
    int h = mesh.out[v];
    int start = h;
    do {
      if (!keepsSide(v, mesh.org[LocalMesh.next(h)], mesh.org[LocalMesh.previous(h)])) {
        return false;
      }
      h = mesh.turn(h);
    } while (h != start);
    return true;
  }
}

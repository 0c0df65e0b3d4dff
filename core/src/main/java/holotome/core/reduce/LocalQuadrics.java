package holotome.core.reduce;

/**
 * What collapsing an edge of a region costs, and where its vertex goes.
 *
 * <p>Each vertex has the sum of its triangles' squared distances, weighted by area (Garland and
 * Heckbert, "Surface simplification using quadric error metrics", 1997), as of when the region was
 * taken up, added up since; between rounds they are made anew from the mesh as it then is, so that
 * they forget most of what was before (Lindstrom and Turk, "Fast and memory efficient polygonal
 * simplification", 1998). The new vertex lies where that error is least among the places that keep
 * the volume (ibid.). Of edges that turn by more than 60 degrees the planes at right angles to both
 * sides are held as well: the rim of a thin fin, whose sides say nothing of where it ends, is not
 * eaten away.
 */
final class LocalQuadrics {
  /** a00 a01 a02 a11 a12 a22, b0 b1 b2, c, area. */
  private static final int N = 11;

  /**
   * A trace of distance to the triangles' middles, as if their normals were uncertain by so much
   * (Trettner and Kobbelt, "Fast and robust QEM simplification using probabilistic quadrics",
   * 2020): where the surface is flat it keeps the point on the mesh and the triangles even.
   */
  private static final double UNSURE = 1e-5;

  private static final double LINE_WEIGHT = 8;

  /** The cosine of the turn from which on an edge is sharp: 60 degrees. */
  private static final double SHARP = 0.5;

  /** Where the vertex of the edge weighed last goes. */
  double x;

  double y;
  double z;

  private final double[] volume = new double[4];
  private final LocalMesh mesh;
  private final double[] p;
  private final int[] org;
  private final double[] q;

  LocalQuadrics(LocalMesh mesh) {
    this.mesh = mesh;
    p = mesh.p;
    org = mesh.org;
    q = new double[N * mesh.vertices];
    double[] normals = new double[org.length];
    for (int h = 0; h < org.length; h += 3) {
      add(h, normals);
    }
    for (int h = 0; h < org.length; h++) {
      if (mesh.isLine(h)) {
        addLine(h, LINE_WEIGHT);
      } else {
        int t = h - h % 3;
        int u = mesh.twin[h] - mesh.twin[h] % 3;
        double turn =
            normals[t] * normals[u]
                + normals[t + 1] * normals[u + 1]
                + normals[t + 2] * normals[u + 2];
        if (turn < SHARP) {
          addLine(h, SHARP - turn);
        }
      }
    }
  }

  private void add(int h, double[] normals) {
    int a = 3 * org[h];
    int b = 3 * org[h + 1];
    int c = 3 * org[h + 2];
    double ax = p[a];
    double ay = p[a + 1];
    double az = p[a + 2];
    double ux = p[b] - ax;
    double uy = p[b + 1] - ay;
    double uz = p[b + 2] - az;
    double vx = p[c] - ax;
    double vy = p[c + 1] - ay;
    double vz = p[c + 2] - az;
    double nx = uy * vz - uz * vy;
    double ny = uz * vx - ux * vz;
    double nz = ux * vy - uy * vx;
    double l = Math.sqrt(nx * nx + ny * ny + nz * nz);
    if (!(l > 0)) {
      return;
    }
    double w = l / 6;
    double trace = w * UNSURE;
    nx /= l;
    ny /= l;
    nz /= l;
    normals[h] = nx;
    normals[h + 1] = ny;
    normals[h + 2] = nz;
    double d = -(nx * ax + ny * ay + nz * az);
    double gx = ax + (ux + vx) / 3;
    double gy = ay + (uy + vy) / 3;
    double gz = az + (uz + vz) / 3;
    double g2 = gx * gx + gy * gy + gz * gz;
    for (int k = 0; k < 3; k++) {
      int o = N * org[h + k];
      q[o] += w * nx * nx + trace;
      q[o + 1] += w * nx * ny;
      q[o + 2] += w * nx * nz;
      q[o + 3] += w * ny * ny + trace;
      q[o + 4] += w * ny * nz;
      q[o + 5] += w * nz * nz + trace;
      q[o + 6] += w * nx * d - trace * gx;
      q[o + 7] += w * ny * d - trace * gy;
      q[o + 8] += w * nz * d - trace * gz;
      q[o + 9] += w * d * d + trace * g2;
      q[o + 10] += w;
    }
  }

  /** Holds a half-edge by the plane through it at right angles to its triangle. */
  private void addLine(int h, double weight) {
    int a = org[h];
    int b = org[LocalMesh.next(h)];
    int apex = org[LocalMesh.previous(h)];
    double ex = p[3 * b] - p[3 * a];
    double ey = p[3 * b + 1] - p[3 * a + 1];
    double ez = p[3 * b + 2] - p[3 * a + 2];
    double vx = p[3 * apex] - p[3 * a];
    double vy = p[3 * apex + 1] - p[3 * a + 1];
    double vz = p[3 * apex + 2] - p[3 * a + 2];
    double e2 = ex * ex + ey * ey + ez * ez;
    if (!(e2 > 0)) {
      return;
    }
    double f = (ex * vx + ey * vy + ez * vz) / e2;
    double nx = vx - f * ex;
    double ny = vy - f * ey;
    double nz = vz - f * ez;
    double l = Math.sqrt(nx * nx + ny * ny + nz * nz);
    if (!(l > 0)) {
      return;
    }
    nx /= l;
    ny /= l;
    nz /= l;
    double d = -(nx * p[3 * a] + ny * p[3 * a + 1] + nz * p[3 * a + 2]);
    double w = weight * e2 / 2;
    for (int k = 0; k < 2; k++) {
      int o = N * (k == 0 ? a : b);
      q[o] += w * nx * nx;
      q[o + 1] += w * nx * ny;
      q[o + 2] += w * nx * nz;
      q[o + 3] += w * ny * ny;
      q[o + 4] += w * ny * nz;
      q[o + 5] += w * nz * nz;
      q[o + 6] += w * nx * d;
      q[o + 7] += w * ny * d;
      q[o + 8] += w * nz * d;
      q[o + 9] += w * d * d;
    }
  }

  /** The area that an edge's error is summed over. */
  double area(int v, int w) {
    return q[N * v + 10] + q[N * w + 10];
  }

  /** What merging v and w along the half-edge between them costs at least; infinite for never. */
  double weigh(int v, int w, int h) {
    return weigh(v, w, h, false);
  }

  /** The same at the place that keeps the volume, which is in x, y, z. */
  double place(int v, int w, int h) {
    return weigh(v, w, h, true);
  }

  private double weigh(int v, int w, int h, boolean keepsVolume) {
    if (!mesh.mayMerge(v, w, h)) {
      return Double.POSITIVE_INFINITY;
    }
    byte a = mesh.state[v];
    byte b = mesh.state[w];
    if (a != b) {
      int stays = 3 * (a > b ? v : w);
      x = p[stays];
      y = p[stays + 1];
      z = p[stays + 2];
      return Math.max(0, error(N * v, N * w, x, y, z));
    }
    return best(v, w, keepsVolume && a == LocalMesh.FREE);
  }

  /**
   * The place of least error, by Cramer's rule about the middle of the edge; where the system is
   * too near to singular, the best of the two ends and the middle.
   */
  private double best(int v, int w, boolean keepsVolume) {
    int a = N * v;
    int b = N * w;
    double mx = (p[3 * v] + p[3 * w]) / 2;
    double my = (p[3 * v + 1] + p[3 * w + 1]) / 2;
    double mz = (p[3 * v + 2] + p[3 * w + 2]) / 2;
    double a00 = q[a] + q[b];
    double a01 = q[a + 1] + q[b + 1];
    double a02 = q[a + 2] + q[b + 2];
    double a11 = q[a + 3] + q[b + 3];
    double a12 = q[a + 4] + q[b + 4];
    double a22 = q[a + 5] + q[b + 5];
    double gx = a00 * mx + a01 * my + a02 * mz + q[a + 6] + q[b + 6];
    double gy = a01 * mx + a11 * my + a12 * mz + q[a + 7] + q[b + 7];
    double gz = a02 * mx + a12 * my + a22 * mz + q[a + 8] + q[b + 8];
    double c00 = a11 * a22 - a12 * a12;
    double c01 = a02 * a12 - a01 * a22;
    double c02 = a01 * a12 - a02 * a11;
    double det = a00 * c00 + a01 * c01 + a02 * c02;
    double trace = a00 + a11 + a22;
    if (det > 1e-13 * trace * trace * trace) {
      double r = 1 / det;
      double c11 = a00 * a22 - a02 * a02;
      double c12 = a01 * a02 - a00 * a12;
      double c22 = a00 * a11 - a01 * a01;
      double dx = -(c00 * gx + c01 * gy + c02 * gz) * r;
      double dy = -(c01 * gx + c11 * gy + c12 * gz) * r;
      double dz = -(c02 * gx + c12 * gy + c22 * gz) * r;
      double ex = p[3 * v] - p[3 * w];
      double ey = p[3 * v + 1] - p[3 * w + 1];
      double ez = p[3 * v + 2] - p[3 * w + 2];
      double e2 = ex * ex + ey * ey + ez * ez;
      if (keepsVolume) {
        volume[0] = 0;
        volume[1] = 0;
        volume[2] = 0;
        volume[3] = 0;
        addVolume(v, -1);
        addVolume(w, v);
        double sx = volume[0];
        double sy = volume[1];
        double sz = volume[2];
        double ix = (c00 * sx + c01 * sy + c02 * sz) * r;
        double iy = (c01 * sx + c11 * sy + c12 * sz) * r;
        double iz = (c02 * sx + c12 * sy + c22 * sz) * r;
        double stiff = sx * ix + sy * iy + sz * iz;
        if (stiff > 0) {
          // Along the way that costs least, to where the volume is kept.
          double f = (volume[3] - (sx * (mx + dx) + sy * (my + dy) + sz * (mz + dz))) / stiff;
          if (f * f * (ix * ix + iy * iy + iz * iz) < e2) {
            dx += f * ix;
            dy += f * iy;
            dz += f * iz;
          }
        }
      }
      // A minimum far away comes from planes that are almost parallel; it is no place to go.
      if (dx * dx + dy * dy + dz * dz < e2) {
        x = mx + dx;
        y = my + dy;
        z = mz + dz;
        return Math.max(0, error(a, b, x, y, z));
      }
    }
    double best = error(a, b, mx, my, mz);
    x = mx;
    y = my;
    z = mz;
    for (int i = 0; i < 2; i++) {
      int o = 3 * (i == 0 ? v : w);
      double e = error(a, b, p[o], p[o + 1], p[o + 2]);
      if (e < best) {
        best = e;
        x = p[o];
        y = p[o + 1];
        z = p[o + 2];
      }
    }
    return Math.max(0, best);
  }

  private double error(int a, int b, double x, double y, double z) {
    return x
            * ((q[a] + q[b]) * x
                + 2 * ((q[a + 1] + q[b + 1]) * y + (q[a + 2] + q[b + 2]) * z + q[a + 6] + q[b + 6]))
        + y * ((q[a + 3] + q[b + 3]) * y + 2 * ((q[a + 4] + q[b + 4]) * z + q[a + 7] + q[b + 7]))
        + z * ((q[a + 5] + q[b + 5]) * z + 2 * (q[a + 8] + q[b + 8]))
        + q[a + 9]
        + q[b + 9];
  }

  /** Merges w's error into v's. */
  void merge(int v, int w) {
    for (int i = 0; i < N; i++) {
      q[N * v + i] += q[N * w + i];
    }
  }

  /** Adds the normals of v's triangles, twice their area long, and their volumes six times. */
  private void addVolume(int v, int without) {
    int h = mesh.out[v];
    int start = h;
    do {
      int a = org[LocalMesh.next(h)];
      int b = org[LocalMesh.previous(h)];
      if (a != without && b != without) {
        int o = 3 * v;
        double ux = p[3 * a] - p[o];
        double uy = p[3 * a + 1] - p[o + 1];
        double uz = p[3 * a + 2] - p[o + 2];
        double vx = p[3 * b] - p[o];
        double vy = p[3 * b + 1] - p[o + 1];
        double vz = p[3 * b + 2] - p[o + 2];
        double nx = uy * vz - uz * vy;
        double ny = uz * vx - ux * vz;
        double nz = ux * vy - uy * vx;
        volume[0] += nx;
        volume[1] += ny;
        volume[2] += nz;
        volume[3] += nx * p[o] + ny * p[o + 1] + nz * p[o + 2];
      }
      h = mesh.turn(h);
    } while (h >= 0 && h != start);
  }
}

package holotome.core.touch;

import holotome.core.geometry.Vec;
import holotome.core.map.TexelTriangle;
import holotome.core.mesh.Measures;
import holotome.core.task.Work;
import java.util.Arrays;

/**
 * Finds the texels that a form covers: of the triangles that hang together with those it lies on,
 * piece by piece.
 */
final class Reach {
  private final TouchGround ground;
  private final Region region;
  private final TexelTriangle texels;
  private final int[] tri;
  private final float[] p;

  /** The piece that a triangle was met for last, with 1 added. */
  private final int[] met;

  private int round;
  private int[] open = new int[256];
  private final double[] face = new double[3];
  private final double[] found = new double[2];
  private final double[][] edge = new double[2][3];

  Reach(TouchGround ground, Region region) {
    this.ground = ground;
    this.region = region;
    tri = ground.cast().triangles();
    p = ground.cast().xyz();
    met = new int[tri.length / 3];
    texels = new TexelTriangle(ground.cast(), ground.size(), ground.columns(), ground.rows());
  }

  /** All pieces from one on. */
  void find(Form form, int first, Work work) {
    for (int i = first; i < form.pieces(); i++) {
      work.check();
      piece(form, i);
    }
  }

  private void piece(Form form, int piece) {
    round++;
    int count = 0;
    for (int t : form.seeds(piece)) {
      if (met[t] != round) {
        met[t] = round;
        count = push(count, t);
      }
    }
    double[] balls = form.balls(piece);
    while (count > 0) {
      int t = open[--count];
      triangle(form, piece, t, balls);
      for (int k = 0; k < 3; k++) {
        int h = ground.twin()[3 * t + k];
        if (h >= 0 && met[h / 3] != round) {
          met[h / 3] = round;
          if (isNear(form, piece, h / 3)) {
            count = push(count, h / 3);
          }
        }
      }
    }
  }

  private int push(int count, int t) {
    if (count == open.length) {
      open = Arrays.copyOf(open, 2 * count);
    }
    open[count] = t;
    return count + 1;
  }

  private boolean isNear(Form form, int piece, int t) {
    double x = 0;
    double y = 0;
    double z = 0;
    for (int k = 0; k < 3; k++) {
      int v = 3 * tri[3 * t + k];
      x += p[v] / 3.0;
      y += p[v + 1] / 3.0;
      z += p[v + 2] / 3.0;
    }
    double reach = 0;
    for (int k = 0; k < 3; k++) {
      int v = 3 * tri[3 * t + k];
      double dx = p[v] - x;
      double dy = p[v + 1] - y;
      double dz = p[v + 2] - z;
      reach = Math.max(reach, dx * dx + dy * dy + dz * dz);
    }
    return form.isNear(piece, x, y, z, Math.sqrt(reach));
  }

  private void triangle(Form form, int piece, int t, double[] balls) {
    Measures.cross(p, tri, t, face);
    double l = Vec.length(face);
    if (l == 0 || !texels.take(t)) {
      return;
    }
    for (int k = 0; k < 3; k++) {
      face[k] /= l;
    }
    int a = 3 * tri[3 * t];
    int b = 3 * tri[3 * t + 1];
    int c = 3 * tri[3 * t + 2];
    for (int k = 0; k < 3; k++) {
      edge[0][k] = (double) p[b + k] - p[a + k];
      edge[1][k] = (double) p[c + k] - p[a + k];
    }
    crop(a, balls);
    for (int y = texels.top; y <= texels.bottom; y++) {
      for (int x = texels.left; x <= texels.right; x++) {
        double u = texels.second(x, y);
        double v = texels.third(x, y);
        if (u >= 0 && v >= 0 && u + v <= 1) {
          double far =
              form.far(
                  piece,
                  p[a] + u * edge[0][0] + v * edge[1][0],
                  p[a + 1] + u * edge[0][1] + v * edge[1][1],
                  p[a + 2] + u * edge[0][2] + v * edge[1][2],
                  face,
                  found);
          if (far < Double.POSITIVE_INFINITY) {
            region.reach(x, y, far, found, t, u, v);
          }
        }
      }
    }
  }

  /** Leaves out the texels of a triangle that lie beyond the shadows of all balls on its plane. */
  private void crop(int a, double[] balls) {
    double ee = Vec.dot(edge[0], edge[0]);
    double ef = Vec.dot(edge[0], edge[1]);
    double ff = Vec.dot(edge[1], edge[1]);
    double det = ee * ff - ef * ef;
    if (!(det > 0)) {
      return;
    }
    double ox = texels.x(0, 0);
    double oy = texels.y(0, 0);
    double slopeX = slope(texels.x(1, 0) - ox, texels.x(0, 1) - ox, ee, ef, ff, det);
    double slopeY = slope(texels.y(1, 0) - oy, texels.y(0, 1) - oy, ee, ef, ff, det);
    double x0 = Double.POSITIVE_INFINITY;
    double x1 = Double.NEGATIVE_INFINITY;
    double y0 = Double.POSITIVE_INFINITY;
    double y1 = Double.NEGATIVE_INFINITY;
    for (int i = 0; i < balls.length; i += 4) {
      double[] d = {balls[i] - p[a], balls[i + 1] - p[a + 1], balls[i + 2] - p[a + 2]};
      double e = Vec.dot(d, edge[0]);
      double f = Vec.dot(d, edge[1]);
      double u = (e * ff - f * ef) / det;
      double v = (f * ee - e * ef) / det;
      double x = texels.x(u, v);
      double y = texels.y(u, v);
      double r = balls[i + 3];
      x0 = Math.min(x0, x - r * slopeX);
      x1 = Math.max(x1, x + r * slopeX);
      y0 = Math.min(y0, y - r * slopeY);
      y1 = Math.max(y1, y + r * slopeY);
    }
    texels.within(x0, y0, x1, y1);
  }

  /** Texels per base unit where a row or column grows fastest along the plane. */
  private static double slope(double e, double f, double ee, double ef, double ff, double det) {
    return Math.sqrt(Math.max(0, (e * e * ff - 2 * e * f * ef + f * f * ee) / det));
  }
}

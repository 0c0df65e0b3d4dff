package holotome.core.unwrap;

import holotome.core.task.Work;
import java.util.Arrays;

/**
 * Moves the vertices of a chart one by one to where its triangles are distorted least, and brings
 * turned ones back: Newton's method on the symmetric Dirichlet energy of Smith and Schaefer
 * ("Bijective parameterization with free boundaries", SIGGRAPH 2015), which has no bound where a
 * triangle loses its area; where triangles lie on their back, on the bounded one of Garanzha and
 * others ("Foldover-free maps in 50 lines of code", SIGGRAPH 2021) until none does. Once none lies
 * on its back none will.
 *
 * <p>Good for what is near: far-reaching distortion is {@link AsRigid}'s. Whether all could be
 * brought back is for the caller to look at.
 */
final class Unfolding {
  private static final int MOST_HALVINGS = 8;

  /** How far the bounded energy reaches below nothing, beside the worst triangle's area. */
  private static final double REACH = 0.2;

  private static final double LEAST_REACH = 0.02;
  private static final double WORST = -2;

  private final Piece piece;
  private final double[] uv;
  private final boolean[] held;
  private final int[] start;
  private final int[] around;

  /** Of the triangles around the vertex in work: gradients of its hat, of u and of v; its area. */
  private double[] fan = new double[7 * 16];

  private double reach;

  /**
   * @param held vertices that stay where they are; null for none
   */
  Unfolding(Piece piece, boolean[] held) {
    this.piece = piece;
    this.held = held;
    uv = piece.uv().clone();
    Fans fans = Fans.of(piece);
    start = fans.start();
    around = fans.corner();
  }

  /**
   * Brings turned triangles back; only their surroundings are moved.
   *
   * @param share of its area below which a triangle counts as turned
   * @return the places; null where some could not be brought back
   */
  double[] upright(double share, int sweeps) {
    uprighted(share, sweeps, Work.unwatched());
    return piece.at(uv).isUpright(share) ? uv : null;
  }

  /** The same, with what could not be brought back left as near to it as it came. */
  double[] uprighted(double share, int sweeps, Work work) {
    Piece now = piece.at(uv);
    boolean[] moves = new boolean[piece.vertices()];
    for (int s = 0; s < sweeps; s++) {
      work.check();
      double worst = Double.POSITIVE_INFINITY;
      boolean isSound = true;
      for (int t = 0; t < piece.triangles().length; t++) {
        double d = now.flatArea(t) / piece.restArea(t);
        worst = Math.min(worst, d);
        if (!(d > share)) {
          isSound = false;
          moves[piece.corners()[3 * t]] = true;
          moves[piece.corners()[3 * t + 1]] = true;
          moves[piece.corners()[3 * t + 2]] = true;
        }
      }
      if (isSound) {
        return uv;
      }
      if (s % 4 == 0) {
        moves = widened(moves);
      }
      reach = worst > 0 ? 0 : Math.max(LEAST_REACH, -REACH * Math.max(WORST, worst));
      for (int v = 0; v < moves.length; v++) {
        if (moves[v] && (held == null || !held[v])) {
          move(v);
        }
      }
    }
    return uv;
  }

  private boolean[] widened(boolean[] moves) {
    boolean[] out = moves.clone();
    int[] k = piece.corners();
    for (int h = 0; h < k.length; h += 3) {
      if (moves[k[h]] || moves[k[h + 1]] || moves[k[h + 2]]) {
        out[k[h]] = true;
        out[k[h + 1]] = true;
        out[k[h + 2]] = true;
      }
    }
    return out;
  }

  private void move(int v) {
    int n = gather(v);
    double gu = 0;
    double gv = 0;
    double huu = 0;
    double huv = 0;
    double hvv = 0;
    double energy = 0;
    for (int i = 0; i < 7 * n; i += 7) {
      double hx = fan[i];
      double hy = fan[i + 1];
      double ux = fan[i + 2];
      double uy = fan[i + 3];
      double vx = fan[i + 4];
      double vy = fan[i + 5];
      double area = fan[i + 6];
      double f = ux * ux + uy * uy + vx * vx + vy * vy;
      double d = ux * vy - uy * vx;
      double s = Math.sqrt(reach * reach + d * d);
      double chi = (d + s) / 2;
      double g = 1 / (chi * chi);
      double g1 = -2 * g / s;
      double g2 = 2 * g * (2 * s + d) / (s * s * s);
      double fu = 2 * (hx * ux + hy * uy);
      double fv = 2 * (hx * vx + hy * vy);
      double du = hx * vy - hy * vx;
      double dv = ux * hy - uy * hx;
      double h = 2 * (hx * hx + hy * hy) * (1 + g);
      energy += area * f * (1 + g);
      gu += area * ((1 + g) * fu + f * g1 * du);
      gv += area * ((1 + g) * fv + f * g1 * dv);
      huu += area * (h + f * g2 * du * du);
      huv += area * f * g2 * du * dv;
      hvv += area * (h + f * g2 * dv * dv);
    }
    double det = huu * hvv - huv * huv;
    if (!(det > 0) || !Double.isFinite(det)) {
      return;
    }
    double stepU = (huv * gv - hvv * gu) / det;
    double stepV = (huv * gu - huu * gv) / det;
    double t = 1;
    for (int k = 0; k < MOST_HALVINGS; k++) {
      if (energy(n, t * stepU, t * stepV) < energy) {
        uv[2 * v] += t * stepU;
        uv[2 * v + 1] += t * stepV;
        return;
      }
      t /= 2;
    }
  }

  private double energy(int n, double du, double dv) {
    double sum = 0;
    for (int i = 0; i < 7 * n; i += 7) {
      double ux = fan[i + 2] + du * fan[i];
      double uy = fan[i + 3] + du * fan[i + 1];
      double vx = fan[i + 4] + dv * fan[i];
      double vy = fan[i + 5] + dv * fan[i + 1];
      double d = ux * vy - uy * vx;
      if (reach == 0 && !(d > 0)) {
        return Double.POSITIVE_INFINITY;
      }
      double chi = (d + Math.sqrt(reach * reach + d * d)) / 2;
      sum += fan[i + 6] * (ux * ux + uy * uy + vx * vx + vy * vy) * (1 + 1 / (chi * chi));
    }
    return sum;
  }

  /** Fills the fan of a vertex; how many triangles it has. */
  private int gather(int v) {
    int n = start[v + 1] - start[v];
    if (fan.length < 7 * n) {
      fan = Arrays.copyOf(fan, 14 * n);
    }
    int[] k = piece.corners();
    for (int i = 0; i < n; i++) {
      int h = around[start[v] + i];
      int t = h / 3;
      double l = piece.rest()[3 * t];
      double x = piece.rest()[3 * t + 1];
      double y = piece.rest()[3 * t + 2];
      int a = 2 * k[3 * t];
      int b = 2 * k[3 * t + 1];
      int c = 2 * k[3 * t + 2];
      double ux = (uv[b] - uv[a]) / l;
      double vx = (uv[b + 1] - uv[a + 1]) / l;
      double hx = h % 3 == 0 ? -1 / l : h % 3 == 1 ? 1 / l : 0;
      int at = 7 * i;
      fan[at] = hx;
      fan[at + 1] = h % 3 == 2 ? 1 / y : h % 3 == 1 ? -x / (l * y) : (x / l - 1) / y;
      fan[at + 2] = ux;
      fan[at + 3] = (uv[c] - uv[a] - ux * x) / y;
      fan[at + 4] = vx;
      fan[at + 5] = (uv[c + 1] - uv[a + 1] - vx * x) / y;
      fan[at + 6] = l * y / 2;
    }
    return n;
  }
}

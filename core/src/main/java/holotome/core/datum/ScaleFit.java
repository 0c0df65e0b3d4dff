package holotome.core.datum;

import holotome.core.geometry.Vec;
import java.util.List;

/**
 * The factor that fits known lengths best, by least squares of their errors, and how far it can be
 * trusted.
 *
 * @param factor from working space to true metres
 * @param off by how much each length comes out too long, in metres
 * @param precision one standard deviation of the factor, as a share of it; NaN where nothing tells
 * @param outlier the length that does not go with the others, by index; -1 for none
 */
public record ScaleFit(double factor, double[] off, double precision, int outlier) {
  /** A length is named where the others make it so many standard deviations unlikely. */
  private static final double UNLIKELY = 4;

  /** Known lengths are themselves no better than this share, as a rule (no source, a guess). */
  private static final double RULER = 5e-4;

  public static ScaleFit of(List<KnownLength> lengths) {
    int n = lengths.size();
    double[] d = new double[n];
    double[] l = new double[n];
    double picking = 0;
    for (int i = 0; i < n; i++) {
      KnownLength k = lengths.get(i);
      d[i] = Vec.distance(k.from(), k.to());
      l[i] = k.is().metres();
      if (k.within() != null) {
        // Both ends are uncertain along the line between them.
        picking = Math.max(picking, Math.sqrt(2) * k.within().metres());
      }
    }
    double factor = factor(d, l, -1);
    double[] off = new double[n];
    double sum = 0;
    double squares = 0;
    for (int i = 0; i < n; i++) {
      off[i] = factor * d[i] - l[i];
      sum += off[i] * off[i];
      squares += d[i] * d[i];
    }
    // What the residuals tell counts where it is worse than what picking promised.
    double seen = n > 1 ? Math.sqrt(sum / (n - 1)) / factor : 0;
    double sigma = Math.max(seen, picking);
    double precision = sigma > 0 ? sigma / Math.sqrt(squares) : Double.NaN;
    return new ScaleFit(factor, off, precision, outlier(d, l, picking));
  }

  private static double factor(double[] d, double[] l, int without) {
    double up = 0;
    double down = 0;
    for (int i = 0; i < d.length; i++) {
      if (i != without) {
        up += d[i] * l[i];
        down += d[i] * d[i];
      }
    }
    return up / down;
  }

  /**
   * The length with the largest error against the factor of the others, in standard deviations of
   * that error (the deleted residual; Cook and Weisberg, "Residuals and influence in regression",
   * 1982), if that is large.
   */
  private static int outlier(double[] d, double[] l, double picking) {
    int n = d.length;
    int worst = -1;
    double most = UNLIKELY;
    for (int i = 0; n > 2 && i < n; i++) {
      double f = factor(d, l, i);
      double sum = 0;
      double squares = 0;
      for (int j = 0; j < n; j++) {
        if (j != i) {
          sum += (f * d[j] - l[j]) * (f * d[j] - l[j]);
          squares += d[j] * d[j];
        }
      }
      double sigma = Math.max(Math.sqrt(sum / (n - 2)), f * picking);
      sigma = Math.max(sigma, RULER * l[i]);
      double t = Math.abs(f * d[i] - l[i]) / (sigma * Math.sqrt(1 + d[i] * d[i] / squares));
      if (t > most) {
        most = t;
        worst = i;
      }
    }
    return worst;
  }
}

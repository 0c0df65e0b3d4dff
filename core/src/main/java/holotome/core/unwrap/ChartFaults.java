package holotome.core.unwrap;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.UvSquares;
import holotome.core.task.Work;
import holotome.core.topology.Charts;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.Map;

/**
 * What is wrong with how charts lie in the texture, told by the middles of its pixels.
 *
 * @param flipped charts that lie on their backs
 * @param outside charts that reach over the border of their square, or lie where none is
 * @param over charts that lie over themselves or another
 * @param near charts that come nearer to another than the space between them is to be
 * @param overShare the share of the squares that is read more than once
 */
public record ChartFaults(
    BitSet flipped, BitSet outside, BitSet over, BitSet near, double overShare) {
  /** Pictures are looked at with so many pixels to a side at most: that is some 200 MB. */
  private static final int MOST_PIXELS = 4096;

  /** So far out of the squares is still within them, for roundings. */
  private static final double BEYOND = 1e-6;

  /** A pixel's middle so near to an edge, in pixels, may be in both triangles beside it. */
  private static final double HAIR = 1e-3;

  /** Whether there is nothing wrong. */
  public boolean isEmpty() {
    return flipped.isEmpty() && outside.isEmpty() && over.isEmpty() && near.isEmpty();
  }

  /**
   * Looks at charts; O(T + pixels). What is laid over another on purpose ({@link
   * holotome.core.mesh.LaidOver}) may lie so, and mirrored.
   *
   * @param laid per triangle as there; null for none
   * @param size of the picture of a square, in pixels
   * @param apart how far charts are to be apart, in its pixels
   */
  public static ChartFaults of(Charts charts, int[] laid, int size, int apart, Work work) {
    Mesh flat = charts.flat();
    UvSquares squares = UvSquares.ofFlat(flat);
    double many = (double) squares.columns() * squares.rows();
    int pixels = (int) Math.max(1, Math.min(size, MOST_PIXELS / Math.sqrt(many)));
    int width = pixels * squares.columns();
    int gap = (int) Math.max(1, (long) apart * pixels / size);
    int[] owner = new int[width * pixels * squares.rows()];
    int[] square = new int[charts.count()];
    Arrays.fill(square, UvSquares.NONE);
    int[] place = places(charts, laid);
    BitSet over = new BitSet();
    BitSet outside = new BitSet();
    double[] signed = new double[charts.count()];
    int twice = 0;
    for (int t = 0; t < flat.triangleCount(); t++) {
      if ((t & 0xffff) == 0) {
        work.check();
      }
      int chart = charts.ofTriangle()[t];
      double[] p = corners(flat, t);
      for (double c : p) {
        outside.set(chart, outside.get(chart) || c < -BEYOND);
      }
      int own = squares.of()[t];
      // Over the border of its square, or parted from the rest of its chart by one.
      if (own == UvSquares.NONE || square[chart] != UvSquares.NONE && square[chart] != own) {
        outside.set(chart);
      }
      square[chart] = own;
      signed[chart] += (p[2] - p[0]) * (p[5] - p[1]) - (p[4] - p[0]) * (p[3] - p[1]);
      boolean isLaid = laid != null && laid[t] != 0;
      twice += draw(p, pixels, width, place[chart], isLaid, owner, over);
    }
    BitSet flipped = new BitSet();
    for (int c = 0; c < signed.length; c++) {
      flipped.set(c, signed[c] < 0 && place[c] == c);
    }
    work.advance(0.5);
    for (int i = 0; i < owner.length; i++) {
      owner[i] >>= 1;
    }
    BitSet near = new Nearby(owner, width, gap).found(work.part(0.5, work.label()));
    return new ChartFaults(
        flipped,
        outside,
        over,
        near,
        (double) twice / ((double) pixels * pixels * squares.count()));
  }

  /** The chart that each counts as: those laid over another as that. */
  private static int[] places(Charts charts, int[] laid) {
    int[] out = new int[charts.count()];
    Map<Integer, Integer> leading = new HashMap<>();
    for (int t = 0; laid != null && t < laid.length; t++) {
      if (laid[t] > 0) {
        leading.putIfAbsent(laid[t], charts.ofTriangle()[t]);
      }
    }
    for (int c = 0; c < out.length; c++) {
      out[c] = c;
    }
    for (int t = 0; laid != null && t < laid.length; t++) {
      if (laid[t] != 0) {
        out[charts.ofTriangle()[t]] = leading.get(Math.abs(laid[t]));
      }
    }
    return out;
  }

  private static double[] corners(Mesh flat, int t) {
    double[] out = new double[6];
    for (int k = 0; k < 3; k++) {
      int v = 3 * flat.triangles()[3 * t + k];
      out[2 * k] = flat.xyz()[v];
      out[2 * k + 1] = flat.xyz()[v + 1];
    }
    return out;
  }

  /**
   * Takes the pixels whose middles lie in a triangle; how many were taken already.
   *
   * @param isLaid whether it may lie over its own chart
   * @param owner twice the chart counted from 1, and 1 more where the middle lies well within
   */
  private static int draw(
      double[] p, int pixels, int width, int chart, boolean isLaid, int[] owner, BitSet over) {
    double[] q = new double[6];
    double lowY = Double.POSITIVE_INFINITY;
    double highY = Double.NEGATIVE_INFINITY;
    for (int k = 0; k < 6; k++) {
      q[k] = p[k] * pixels;
      if (k % 2 == 1) {
        lowY = Math.min(lowY, q[k]);
        highY = Math.max(highY, q[k]);
      }
    }
    int twice = 0;
    int y1 = (int) Math.min(owner.length / width - 1, Math.ceil(highY));
    for (int y = (int) Math.max(0, Math.floor(lowY)); y <= y1; y++) {
      double low = Double.POSITIVE_INFINITY;
      double high = Double.NEGATIVE_INFINITY;
      for (int k = 0; k < 6; k += 2) {
        int n = (k + 2) % 6;
        double a = y + 0.5 - q[k + 1];
        double b = y + 0.5 - q[n + 1];
        if (a < 0 != b < 0) {
          double x = q[k] + (q[n] - q[k]) * a / (a - b);
          low = Math.min(low, x);
          high = Math.max(high, x);
        }
      }
      int x1 = (int) Math.min(width - 1, Math.floor(high - 0.5));
      for (int x = (int) Math.max(0, Math.ceil(low - 0.5)); x <= x1; x++) {
        int before = owner[y * width + x];
        boolean isWithin = x + 0.5 > low + HAIR && x + 0.5 < high - HAIR;
        boolean isFree = isLaid && before >> 1 == chart + 1;
        if (isWithin && (before & 1) != 0 && !isFree) {
          over.set((before >> 1) - 1);
          over.set(chart);
          twice++;
        }
        if (isWithin || before == 0) {
          owner[y * width + x] = 2 * (chart + 1) + (isWithin ? 1 : 0);
        }
      }
    }
    return twice;
  }
}

package holotome.core.select;

/**
 * Tells which points lie inside an outline, by the even-odd rule.
 *
 * <p>The outline's edges are sorted into horizontal bands, so that a point meets only the edges at
 * its height: hand-drawn loops have hundreds of corners and are asked about millions of points.
 * Building costs O(n), a question a few edges as a rule.
 */
public final class FenceOutline {
  private static final int MOST_BANDS = 1024;

  private final double[] outline;
  private final double minX;
  private final double maxX;
  private final double minY;
  private final double maxY;
  private final double bandsPerUnit;
  private final int bands;

  /**
   * Edges of band b: {@code edges[start[b]] ... edges[start[b + 1] - 1]}, each its first corner.
   */
  private final int[] start;

  private final int[] edges;

  /**
   * @param outline x, y of the corners in turn, at least three; closed by itself
   */
  public FenceOutline(double[] outline) {
    this.outline = outline;
    double[] box = {
      Double.POSITIVE_INFINITY,
      Double.POSITIVE_INFINITY,
      Double.NEGATIVE_INFINITY,
      Double.NEGATIVE_INFINITY
    };
    for (int i = 0; i < outline.length; i += 2) {
      box[0] = Math.min(box[0], outline[i]);
      box[1] = Math.min(box[1], outline[i + 1]);
      box[2] = Math.max(box[2], outline[i]);
      box[3] = Math.max(box[3], outline[i + 1]);
    }
    minX = box[0];
    minY = box[1];
    maxX = box[2];
    maxY = box[3];
    bands = Math.clamp(outline.length / 2, 1, MOST_BANDS);
    bandsPerUnit = maxY > minY ? bands / (maxY - minY) : 0;
    start = new int[bands + 1];
    for (int i = 0; i < outline.length; i += 2) {
      for (int b = lowBand(i); b <= highBand(i); b++) {
        start[b + 1]++;
      }
    }
    for (int b = 0; b < bands; b++) {
      start[b + 1] += start[b];
    }
    edges = new int[start[bands]];
    int[] fill = start.clone();
    for (int i = 0; i < outline.length; i += 2) {
      for (int b = lowBand(i); b <= highBand(i); b++) {
        edges[fill[b]++] = i;
      }
    }
  }

  private int other(int i) {
    return i + 2 == outline.length ? 0 : i + 2;
  }

  private int lowBand(int i) {
    return band(Math.min(outline[i + 1], outline[other(i) + 1]));
  }

  private int highBand(int i) {
    return band(Math.max(outline[i + 1], outline[other(i) + 1]));
  }

  private int band(double y) {
    return Math.clamp((int) ((y - minY) * bandsPerUnit), 0, bands - 1);
  }

  public double minX() {
    return minX;
  }

  public double maxX() {
    return maxX;
  }

  public double minY() {
    return minY;
  }

  public double maxY() {
    return maxY;
  }

  /** Whether a point lies inside. */
  public boolean contains(double x, double y) {
    if (!(x >= minX && x <= maxX && y >= minY && y <= maxY)) {
      return false;
    }
    int b = band(y);
    boolean inside = false;
    for (int k = start[b]; k < start[b + 1]; k++) {
      int j = edges[k];
      int i = other(j);
      double yi = outline[i + 1];
      double yj = outline[j + 1];
      if (yi > y != yj > y && x < (outline[j] - outline[i]) * (y - yi) / (yj - yi) + outline[i]) {
        inside = !inside;
      }
    }
    return inside;
  }
}

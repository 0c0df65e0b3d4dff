package holotome.core.spatial;

/**
 * How a surface's area is spread over signed distances: fine near nought and coarse far off, so
 * that any range can be read off it.
 *
 * <p>Bins are the leading bits of a float (sign, exponent, 8 bits of fraction): each is at most a
 * 256th of its distance wide, over 30 powers of two below the largest.
 */
public final class Spread {
  private static final int SHIFT = 15;
  private static final int BINS = 30 << 8;

  private final double[] below;
  private final double[] above;
  private final int base;
  private final float max;
  private final int power;
  private double all;

  /**
   * @param max no distance added is larger, either way
   */
  Spread(float max) {
    this.max = max;
    below = new double[BINS];
    above = new double[BINS];
    power = 0;
    base = (Float.floatToIntBits(max) >> SHIFT) - BINS + 1;
  }

  private Spread(Spread of, int power) {
    below = of.below;
    above = of.above;
    base = of.base;
    max = of.max;
    all = of.all;
    this.power = of.power + power;
  }

  /** The same of distances so many powers of two larger. */
  Spread scaled(int by) {
    return new Spread(this, by);
  }

  /** Counts an area at a distance; what is not a number is passed over. */
  void add(float distance, double area) {
    if (distance == distance) {
      int i = Math.clamp((Float.floatToIntBits(Math.abs(distance)) >> SHIFT) - base, 0, BINS - 1);
      (distance < 0 ? below : above)[i] += area;
      all += area;
    }
  }

  private float edge(int bin) {
    return bin <= 0 ? 0 : Float.intBitsToFloat(Math.max(0, bin + base) << SHIFT);
  }

  /**
   * The share of the area, 0 to 1, that lies from one signed distance to another; within a bin as
   * if it was spread evenly. 8,000 additions.
   */
  public double share(double from, double to) {
    double low = Math.scalb(from, -power);
    double high = Math.scalb(to, -power);
    return all > 0 && high > low ? (part(above, low, high) + part(below, -high, -low)) / all : 0;
  }

  private double part(double[] side, double low, double high) {
    double sum = 0;
    for (int i = 0; i < BINS; i++) {
      if (side[i] > 0) {
        double from = edge(i);
        double to = edge(i + 1);
        double covered = Math.min(high, to) - Math.max(low, from);
        // A bin without width is that of nought, where nothing lies far off at all.
        sum += to > from ? side[i] * Math.clamp(covered / (to - from), 0.0, 1.0) : side[i];
      }
    }
    return sum;
  }

  /** The distance, either way, up to which a share of the area lies; to a 256th of itself. */
  public double upTo(double share) {
    double sum = 0;
    for (int i = 0; i < BINS; i++) {
      sum += below[i] + above[i];
      if (sum >= share * all) {
        return Math.scalb(Math.min(max, (double) edge(i + 1)), power);
      }
    }
    return Math.scalb((double) max, power);
  }
}

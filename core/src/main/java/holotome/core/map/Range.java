package holotome.core.map;

/** From where to where the values of a measured map reach, as it is shown and written. */
public record Range(float low, float high) {
  /** 0 at the low end, 1 at the high one. */
  public double share(double value) {
    return high > low ? (value - low) / ((double) high - low) : 0;
  }
}

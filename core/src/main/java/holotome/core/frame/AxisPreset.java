package holotome.core.frame;

import holotome.core.geometry.Similarity;

/** What coordinates mean where a mesh goes: unit, up axis and handedness. */
public enum AxisPreset {
  METRES_Z_UP(1, false, false),
  METRES_Y_UP(1, true, false),
  METRES_Y_UP_LEFT_HANDED(1, true, true),
  CENTIMETRES_Z_UP_LEFT_HANDED(0.01, false, true),
  CENTIMETRES_Y_UP(0.01, true, false),
  MILLIMETRES_Z_UP(0.001, false, false),
  MILLIMETRES_Y_UP(0.001, true, false);

  /** Z up to Y up: (x, y, z) becomes (x, z, -y). */
  private static final Similarity Y_UP =
      Similarity.rotating(new double[] {1, 0, 0, 0, 0, 1, 0, -1, 0});

  private final double unit;
  private final boolean yUp;
  private final boolean leftHanded;

  AxisPreset(double unit, boolean yUp, boolean leftHanded) {
    this.unit = unit;
    this.yUp = yUp;
    this.leftHanded = leftHanded;
  }

  /** Metres to one unit. */
  public double unit() {
    return unit;
  }

  public boolean isYUp() {
    return yUp;
  }

  /** Whether the axis that is level and not x is turned around. */
  public boolean isLeftHanded() {
    return leftHanded;
  }

  /**
   * From working space (metres, Z up, right-handed) to these coordinates, but for the turning round
   * of a left-handed system's axis: that is {@link Mirrored}'s.
   */
  public Similarity fromWork() {
    return (yUp ? Y_UP : Similarity.IDENTITY).then(Similarity.scaling(1 / unit));
  }

  /** The axis that a left-handed system turns around: 1 for y, 2 for z. */
  public int turnedAxis() {
    return yUp ? 2 : 1;
  }
}

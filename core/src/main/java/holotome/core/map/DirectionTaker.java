package holotome.core.map;

/** A taker of directions, of whatever length; texels hold them as unit vectors. */
abstract class DirectionTaker implements MapRule.Taker {
  @Override
  public final int numbers() {
    return 3;
  }

  @Override
  public final void store(float[] mean, int at, double[] texel) {
    Directions.store(mean[at], mean[at + 1], mean[at + 2], texel);
  }
}

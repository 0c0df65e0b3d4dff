package holotome.core.map;

/** A taker of one number that is what the texel holds. */
abstract class Plain implements MapRule.Taker {
  @Override
  public int numbers() {
    return 1;
  }

  @Override
  public void take(Hit hit, float[] out, int at) {
    out[at] = value(hit);
  }

  abstract float value(Hit hit);

  @Override
  public void store(float[] mean, int at, double[] texel) {
    texel[0] = mean[at];
  }
}

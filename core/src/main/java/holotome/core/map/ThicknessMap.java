package holotome.core.map;

import holotome.core.task.Work;

/**
 * How thick the body is: how far rays inwards go until they leave it, each measured straight in, so
 * that between two parallel walls it is the distance of the walls; at most the reach.
 */
final class ThicknessMap extends MapRule {
  /** Rays lie within half a right angle around straight in. */
  private static final double SINE = Math.sqrt(0.5);

  ThicknessMap() {
    super("thickness", Values.LENGTH);
  }

  @Override
  public boolean castsRays() {
    return true;
  }

  @Override
  public Asking asking(MapSource source, Work work) {
    float[] normals = source.normals(work);
    float reach = (float) source.settings().reach();
    return rays ->
        new Taker() {
          @Override
          public int numbers() {
            return 2;
          }

          @Override
          public void take(Hit hit, float[] out, int at) {
            out[at] = rays.inwards(hit, normals, SINE);
            out[at + 1] = rays.cast;
          }

          @Override
          public void store(float[] mean, int at, double[] texel) {
            texel[0] = mean[at + 1] > 0 ? mean[at] / mean[at + 1] : reach;
          }
        };
  }
}

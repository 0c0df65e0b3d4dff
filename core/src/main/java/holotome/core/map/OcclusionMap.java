package holotome.core.map;

import holotome.core.task.Work;

/**
 * How much of the half space over a place is open within the reach, each direction by its cosine:
 * what of an even sky's light comes in.
 */
final class OcclusionMap extends MapRule {

  OcclusionMap() {
    super("occlusion", Values.SHARE);
  }

  @Override
  public boolean castsRays() {
    return true;
  }

  @Override
  public Asking asking(MapSource source, Work work) {
    float[] normals = source.normals(work);
    return rays ->
        new Taker() {
          @Override
          public int numbers() {
            return 2;
          }

          @Override
          public void take(Hit hit, float[] out, int at) {
            rays.look(hit, normals);
            out[at] = rays.open;
            out[at + 1] = rays.cast;
          }

          @Override
          public void store(float[] mean, int at, double[] texel) {
            texel[0] = mean[at + 1] > 0 ? mean[at] / mean[at + 1] : 1;
          }
        };
  }
}

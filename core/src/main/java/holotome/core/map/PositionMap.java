package holotome.core.map;

import holotome.core.task.Work;

/** Where the Scan lies. */
final class PositionMap extends MapRule {

  PositionMap() {
    super("position", Values.PLACE);
  }

  @Override
  public Asking asking(MapSource source, Work work) {
    return rays ->
        new Taker() {
          @Override
          public int numbers() {
            return 3;
          }

          @Override
          public void take(Hit hit, float[] out, int at) {
            out[at] = hit.x;
            out[at + 1] = hit.y;
            out[at + 2] = hit.z;
          }

          @Override
          public void store(float[] mean, int at, double[] texel) {
            for (int k = 0; k < 3; k++) {
              texel[k] = mean[at + k];
            }
          }
        };
  }
}

package holotome.core.map;

import holotome.core.task.Work;

/** How far the Scan lies outside of the Cast, along the rays; below 0 within. */
final class HeightMap extends MapRule {

  HeightMap() {
    super("height", Values.LENGTH);
  }

  @Override
  public Asking asking(MapSource source, Work work) {
    return rays ->
        new Plain() {
          @Override
          float value(Hit hit) {
            return hit.height;
          }
        };
  }
}

package holotome.core.map;

import holotome.core.spatial.BvhQuery;
import holotome.core.task.Work;

/** How far the nearest of the Scan is from the Cast, in whatever direction. */
final class DistanceMap extends MapRule {

  DistanceMap() {
    super("distance", Values.LENGTH);
  }

  @Override
  public Asking asking(MapSource source, Work work) {
    return rays -> {
      BvhQuery query = new BvhQuery(source.index());
      return new Plain() {
        @Override
        float value(Hit hit) {
          // What the ray met is no nearer, and near enough to leave most of the Scan aside.
          float far = Math.max(Math.abs(hit.height) * 1.001f, Float.MIN_NORMAL);
          return query.closest(hit.castX, hit.castY, hit.castZ, far)
              ? query.distance
              : Math.abs(hit.height);
        }
      };
    };
  }
}

package holotome.core.map;

import holotome.core.mesh.Importance;
import holotome.core.task.Work;

/**
 * How much parts of the Scan matter, as painted: from least to most by the logarithm, the middle
 * where nothing is said.
 */
final class ImportanceMap extends MapRule {
  private static final double RANGE = Math.log(Importance.MOST);

  ImportanceMap() {
    super("importance", Values.SHARE);
  }

  @Override
  public Asking asking(MapSource source, Work work) {
    float[] of = Importance.of(source.scan());
    return rays ->
        new Plain() {
          @Override
          float value(Hit hit) {
            double weight = of == null ? 1 : of[hit.triangle];
            return (float) Math.clamp(0.5 + 0.5 * Math.log(weight) / RANGE, 0.0, 1.0);
          }
        };
  }
}

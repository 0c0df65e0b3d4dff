package holotome.app.model;

import holotome.core.log.History;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.task.Work;

/**
 * What a way of doing the work comes to at its end.
 *
 * @param rms how far its Cast and its Scan lie from each other, root of the mean square by samples,
 *     in working units; NaN where there is no Cast
 * @param largest the farthest found; NaN where there is no Cast
 * @param bytes of its mesh in hand and its maps
 * @param trueSize whether working units are metres
 */
public record TrialFigures(double rms, double largest, long bytes, boolean trueSize) {
  private static final int SAMPLES = 60_000;

  /** Any thread; reads the state back from disk where it has to. */
  static TrialFigures of(History history, Work work) {
    Workpiece w = history.current();
    long bytes = w.current().bytes() + (w.maps() == null ? 0 : w.maps().bytes());
    Mesh cast = w.cast();
    if (cast == null || cast.isEmpty() || w.scan().isEmpty()) {
      return new TrialFigures(Double.NaN, Double.NaN, bytes, w.frame().trueSize());
    }
    SurfaceDistance off =
        SurfaceDistance.of(cast, w.scan(), SAMPLES, work.part(0.7, work.label()))
            .worse(SurfaceDistance.of(w.scan(), cast, SAMPLES, work.part(0.3, work.label())));
    double k = w.frame().toWork().scale();
    return new TrialFigures(k * off.rms(), k * off.max(), bytes, w.frame().trueSize());
  }
}

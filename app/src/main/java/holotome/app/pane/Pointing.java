package holotome.app.pane;

import holotome.app.model.Session;
import holotome.app.words.AppWords;
import holotome.core.part.Workpiece;
import java.util.Arrays;
import java.util.BitSet;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import java.util.function.Supplier;

/**
 * What lies under the pointer, in pixels of the window: asked of the thread that draws, answered
 * later on the interface thread, and only where it still fits what is shown.
 */
final class Pointing {
  private final Session session;
  private final ViewWorker worker;
  private final Supplier<ViewWorker.Request> shown;
  private final Supplier<Workpiece> workpiece;
  private final Supplier<Double> density;

  /**
   * @param shown what is drawn now; null for nothing
   * @param density pixels of the screen to one of the window
   */
  Pointing(
      Session session,
      ViewWorker worker,
      Supplier<ViewWorker.Request> shown,
      Supplier<Workpiece> workpiece,
      Supplier<Double> density) {
    this.session = session;
    this.worker = worker;
    this.shown = shown;
    this.workpiece = workpiece;
    this.density = density;
  }

  /** The triangle under a pixel and the point on it; -1 and null for none. */
  void triangle(double x, double y, BiConsumer<Integer, double[]> answer) {
    ViewWorker.Request r = shown.get();
    if (r == null) {
      answer.accept(-1, null);
      return;
    }
    Workpiece asked = workpiece.get();
    double dx = x * density.get();
    double dy = y * density.get();
    worker.pick(
        r,
        dx,
        dy,
        t -> {
          // Undone, or another state shown meanwhile: the place is one of another mesh.
          Workpiece now = workpiece.get();
          if (now != null && now.scan() == asked.scan() && now.frame() == asked.frame()) {
            answer.accept(t, t < 0 ? null : r.pointOn(t, dx, dy));
          }
        });
  }

  /** The point under a pixel, for what only moves the camera: always answered, null for none. */
  void place(double x, double y, Consumer<double[]> answer) {
    ViewWorker.Request r = shown.get();
    if (r == null) {
      answer.accept(null);
      return;
    }
    double dx = x * density.get();
    double dy = y * density.get();
    worker.pick(r, dx, dy, t -> answer.accept(t < 0 ? null : r.pointOn(t, dx, dy)));
  }

  /** The triangles seen within an outline. */
  void visibleWithin(double[] outline, Consumer<BitSet> answer) {
    ViewWorker.Request r = shown.get();
    if (r == null) {
      answer.accept(new BitSet());
      return;
    }
    double[] dense = Arrays.stream(outline).map(v -> v * density.get()).toArray();
    session
        .jobs()
        .<BitSet>elsewhere(
            AppWords.of("common.selecting-what-is-seen"),
            (work, found) -> worker.visible(r, dense, work, found),
            set -> {
              ViewWorker.Request now = shown.get();
              if (now != null && now.scene().mesh() == r.scene().mesh()) {
                answer.accept(set);
              }
            });
  }
}

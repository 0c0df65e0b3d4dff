package holotome.app.pane;

import holotome.view.camera.Camera;
import java.util.function.Consumer;
import java.util.function.Supplier;

/**
 * Comes closer by the wheel to what is under the pointer. That is asked for once per run of the
 * wheel; until the answer comes, the turns of the wheel add up.
 */
final class WheelZoom {
  /** A pause of so many nanoseconds ends a run. */
  private static final long PAUSE = 400_000_000L;

  private final Picker picker;
  private final Supplier<Camera> camera;
  private final Consumer<Camera> move;
  private double[] about;
  private double lastX;
  private double lastY;
  private long lastAt;
  private double factor = 1;
  private boolean picking;

  /** Finds the place on the mesh at a pixel; null for none. */
  interface Picker {
    void pick(double x, double y, Consumer<double[]> answer);
  }

  WheelZoom(Picker picker, Supplier<Camera> camera, Consumer<Camera> move) {
    this.picker = picker;
    this.camera = camera;
    this.move = move;
  }

  void turned(double x, double y, double delta) {
    factor *= Math.pow(0.9985, delta);
    long now = System.nanoTime();
    boolean elsewhere = Math.hypot(x - lastX, y - lastY) > 3;
    if (!picking && (now - lastAt > PAUSE || elsewhere)) {
      picking = true;
      lastX = x;
      lastY = y;
      picker.pick(
          x,
          y,
          p -> {
            about = p == null ? camera.get().target() : p;
            picking = false;
            comeCloser();
          });
    } else if (!picking) {
      comeCloser();
    }
    lastAt = now;
  }

  private void comeCloser() {
    double by = factor;
    factor = 1;
    move.accept(camera.get().closer(by, about));
  }
}

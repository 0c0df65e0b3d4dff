package holotome.app.window;

import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.view.Camera;
import holotome.view.Coarse;
import holotome.view.Renderer;
import holotome.view.Scene;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Consumer;
import javafx.application.Platform;

/**
 * Draws on a thread of its own. Only the newest request is drawn; older ones that were not begun
 * are passed over. Large meshes are drawn by a light stand-in while they move.
 */
final class ViewWorker {
  /** Above this many triangles a stand-in is drawn while moving. */
  private static final int LARGE = 1_500_000;

  private static final int STAND_IN_CELLS = 320;

  private final ExecutorService thread = executor("holotome-view");
  private final ExecutorService preparing = executor("holotome-view-prepare");
  private final Renderer renderer = new Renderer();
  private final AtomicReference<Request> pending = new AtomicReference<>();
  private final Consumer<Drawn> onDrawn;
  private volatile StandIn standIn;
  private volatile Mesh standInWanted;
  private volatile Work drawingStill;
  private Drawn exact;

  /** What to draw; {@code moving} asks for speed, else for the full picture, smooth. */
  record Request(Scene scene, Camera camera, int width, int height, boolean moving) {}

  /** A picture as asked; {@code smooth} where the buffer is at twice the size. */
  record Drawn(Request request, Renderer.Picture picture, boolean smooth, double seconds) {}

  private record StandIn(Mesh of, Mesh mesh) {}

  ViewWorker(Consumer<Drawn> onDrawn) {
    this.onDrawn = onDrawn;
  }

  private static ExecutorService executor(String name) {
    return Executors.newSingleThreadExecutor(
        r -> {
          Thread t = new Thread(r, name);
          t.setDaemon(true);
          return t;
        });
  }

  void ask(Request request) {
    prepareStandIn(request.scene.mesh());
    Work still = drawingStill;
    if (still != null) {
      // A newer view is wanted: the full picture of the last one no longer is.
      still.cancel();
    }
    if (pending.getAndSet(request) == null) {
      thread.execute(this::drawPending);
    }
  }

  private void drawPending() {
    Request r = pending.getAndSet(null);
    if (r == null) {
      return;
    }
    Work work = new Work();
    drawingStill = r.moving ? null : work;
    try {
      Drawn d = draw(r, work);
      Platform.runLater(() -> onDrawn.accept(d));
    } catch (Failure f) {
      // Cancelled, as a rule: the newer request is drawn next.
      exact = null;
      if (f.kind() != Failure.Kind.CANCELLED) {
        System.err.println("holotome: the view could not be drawn: " + f.getMessage());
      }
    } catch (RuntimeException | Error e) {
      System.err.println("holotome: the view could not be drawn: " + Failure.of(e).getMessage());
    }
  }

  private Drawn draw(Request r, Work work) {
    long start = System.nanoTime();
    Mesh mesh = r.scene.mesh();
    StandIn s = standIn;
    boolean light = r.moving && s != null && s.of == mesh;
    Scene scene = light ? r.scene.withMesh(s.mesh) : r.scene;
    Renderer.Picture p =
        r.moving
            ? renderer.draw(scene, r.camera, r.width, r.height)
            : renderer.drawSmooth(scene, r.camera, r.width, r.height, work);
    Drawn d = new Drawn(r, p, !r.moving, (System.nanoTime() - start) * 1e-9);
    exact = light ? null : d;
    return d;
  }

  private void prepareStandIn(Mesh mesh) {
    if (mesh.triangleCount() <= LARGE || standInWanted == mesh) {
      return;
    }
    standInWanted = mesh;
    preparing.execute(
        () -> {
          if (standInWanted == mesh) {
            standIn = new StandIn(mesh, Coarse.of(mesh, STAND_IN_CELLS, Work.unwatched()));
          }
        });
  }

  /** Looks into an exact picture of the scene; runs on the drawing thread. */
  interface Look<T> {
    T into(Drawn drawn);
  }

  /** Answers from an exact picture for this request, drawn anew only if need be. */
  <T> void look(Request request, Look<T> look, Consumer<T> answer) {
    thread.execute(
        () -> {
          Drawn d = exact;
          if (d == null
              || d.request.scene.mesh() != request.scene.mesh()
              || !d.request.scene.place().equals(request.scene.place())
              || !d.request.camera.equals(request.camera)
              || d.request.width != request.width
              || d.request.height != request.height) {
            Request now =
                new Request(request.scene, request.camera, request.width, request.height, true);
            d =
                new Drawn(
                    now, renderer.draw(now.scene, now.camera, now.width, now.height), false, 0);
            exact = d;
          }
          T result = look.into(d);
          Platform.runLater(() -> answer.accept(result));
        });
  }

  void shutDown() {
    thread.shutdownNow();
    preparing.shutdownNow();
  }
}

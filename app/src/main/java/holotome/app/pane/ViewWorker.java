package holotome.app.pane;

import holotome.app.model.Jobs;
import holotome.app.model.Problems;
import holotome.app.words.AppWords;
import holotome.core.memory.Claim;
import holotome.core.memory.Spare;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.view.Renderer;
import holotome.view.camera.Camera;
import holotome.view.picking.Picking;
import holotome.view.scene.Scene;
import java.util.BitSet;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Consumer;
import javafx.application.Platform;

/**
 * Draws on a thread of its own. Only the newest request is drawn; older ones that were not begun
 * are passed over. Large meshes are drawn through a hierarchy, made in the background.
 */
final class ViewWorker {
  /** Preparing that failed is tried again after so many nanoseconds. */
  private static final long RETRY = 20_000_000_000L;

  /** Bytes that drawing the true triangles of a very large mesh may take. */
  private static final long ROOM = 2L << 30;

  private final ExecutorService thread = Jobs.thread("holotome-view");
  private final ExecutorService preparing = Jobs.thread("holotome-view-prepare");
  private final Renderer renderer;
  private final AtomicReference<Request> pending = new AtomicReference<>();
  private final Consumer<Drawn> onDrawn;
  private final Consumer<Failure> onUnprepared;
  private final AtomicReference<Mesh> prepareWanted = new AtomicReference<>();

  /** Claims on memory for what is, or waits to be, prepared. */
  private final Set<Claim> claims = ConcurrentHashMap.newKeySet();

  private volatile Work preparingNow = new Work();

  /** When preparing last failed, as {@link System#nanoTime}; it is tried again after a while. */
  private volatile long failed;

  private volatile Work drawingStill;
  private Drawn exact;

  /**
   * What to draw.
   *
   * @param beside what is drawn instead on the left of a line; null for nothing
   * @param moving asks for speed, else for the full picture, smooth
   */
  record Request(Scene scene, Beside beside, Camera camera, int width, int height, boolean moving) {

    /** Of one scene alone. */
    Request(Scene scene, Camera camera, int width, int height, boolean moving) {
      this(scene, null, camera, width, height, moving);
    }

    /** The point of working space where the line of sight through a pixel meets a triangle. */
    double[] pointOn(int triangle, double x, double y) {
      return Picking.point(scene.mesh(), scene.place(), triangle, camera, x, y, width, height);
    }
  }

  /**
   * What is drawn on the left of a line.
   *
   * @param line where that is, as a share of the width
   */
  record Beside(Scene scene, Camera camera, double line) {}

  /**
   * A picture as asked.
   *
   * @param pixels the picture's, or on the left of the line those of the other scene
   * @param smooth whether the buffer is at twice the size
   */
  record Drawn(
      Request request, Renderer.Picture picture, int[] pixels, boolean smooth, double seconds) {}

  /**
   * @param onUnprepared is told, once for each mesh, why it will be drawn less well while it moves
   */
  ViewWorker(Renderer renderer, Consumer<Drawn> onDrawn, Consumer<Failure> onUnprepared) {
    this.renderer = renderer;
    this.onDrawn = onDrawn;
    this.onUnprepared = onUnprepared;
  }

  void ask(Request request) {
    if (thread.isShutdown()) {
      return;
    }
    prepare(request.scene.mesh());
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
      Drawn d = drawWithRoom(r, work);
      Platform.runLater(() -> onDrawn.accept(d));
    } catch (Failure f) {
      // Cancelled, as a rule: the newer request is drawn next.
      exact = null;
      if (f.kind() != Failure.Kind.CANCELLED) {
        Problems.note(AppWords.of("view-worker.the-view-could-not-be"), f);
      }
    } catch (RuntimeException | Error e) {
      Problems.note(AppWords.of("view-worker.the-view-could-not-be"), e);
    }
  }

  /** Draws; where memory runs out, once more after what can be had back is free. */
  private Drawn drawWithRoom(Request r, Work work) {
    try {
      return draw(r, work);
    } catch (OutOfMemoryError e) {
      Spare.makeRoom(ROOM);
      return draw(r, work);
    }
  }

  private Drawn draw(Request r, Work work) {
    long start = System.nanoTime();
    // The scene itself comes last: the buffer that is picked from is of the last picture.
    Beside b = r.beside;
    int[] left = b == null ? null : picture(r, b.scene, b.camera, work).pixels();
    Renderer.Picture p = picture(r, r.scene, r.camera, work);
    int[] pixels = left == null ? p.pixels() : joined(left, p.pixels(), r);
    Drawn d = new Drawn(r, p, pixels, !r.moving, (System.nanoTime() - start) * 1e-9);
    exact = p.isLight() ? null : d;
    return d;
  }

  private Renderer.Picture picture(Request r, Scene scene, Camera camera, Work work) {
    return r.moving
        ? renderer.drawMoving(scene, camera, r.width, r.height)
        : renderer.drawSmooth(scene, camera, r.width, r.height, work);
  }

  private static int[] joined(int[] left, int[] right, Request r) {
    int[] out = right.clone();
    int columns = Math.clamp((int) Math.round(r.beside.line * r.width), 0, r.width);
    for (int y = 0; y < r.height; y++) {
      System.arraycopy(left, y * r.width, out, y * r.width, columns);
    }
    return out;
  }

  private void prepare(Mesh mesh) {
    boolean again =
        prepareWanted.get() == mesh && failed != 0 && System.nanoTime() - failed > RETRY;
    if (prepareWanted.get() == mesh && !again || renderer.isPrepared(mesh)) {
      return;
    }
    failed = 0;
    prepareWanted.set(mesh);
    Work work = new Work();
    preparingNow = work;
    Claim claim = renderer.claim(mesh);
    claims.add(claim);
    preparing.execute(
        () -> {
          try (claim) {
            if (prepareWanted.get() == mesh) {
              renderer.prepare(mesh, claim, work);
              // The renderer holds what it prepared; the mesh must not be held on its account.
              prepareWanted.compareAndSet(mesh, null);
            }
          } catch (RuntimeException | Error e) {
            Failure f = Failure.of(e);
            if (f.kind() != Failure.Kind.CANCELLED) {
              // Drawing goes on without: slower, but the picture is the same.
              if (!again) {
                Platform.runLater(() -> onUnprepared.accept(f));
              }
              failed = System.nanoTime();
            }
          } finally {
            claims.remove(claim);
          }
        });
  }

  /** Another scan is opened: what is prepared, or being prepared, of this one is let go. */
  void forget() {
    preparingNow.cancel();
    prepareWanted.set(null);
    renderer.forget();
  }

  /** Nothing is shown any more: the last picture is not held on account of being picked from. */
  void letGo() {
    pending.set(null);
    if (!thread.isShutdown()) {
      thread.execute(() -> exact = null);
    }
  }

  /** The true triangle under a point; answers -1 for none. */
  void pick(Request r, double x, double y, Consumer<Integer> answer) {
    thread.execute(
        () -> {
          int found = -1;
          try {
            found = picked(r, x, y);
          } catch (RuntimeException | Error e) {
            // Whoever waits for the answer must not wait for ever: it is as if nothing was hit.
            Problems.note(AppWords.of("view-worker.nothing-could-be-picked"), e);
          }
          int t = found;
          Platform.runLater(() -> answer.accept(t));
        });
  }

  private int picked(Request r, double x, double y) {
    Integer t = isExactOf(r) ? null : renderer.probe(r.scene, r.camera, x, y, r.width, r.height);
    if (t != null) {
      return t;
    }
    Drawn d = exactFor(r);
    int k = d.smooth ? 2 : 1;
    return d.picture.buffer().triangle((int) (x * k), (int) (y * k));
  }

  /**
   * The triangles seen within an outline, on pixels half as wide as those shown; null where the
   * work is cancelled.
   */
  void visible(Request r, double[] outline, Work work, Consumer<BitSet> answer) {
    double[] fine = outline.clone();
    for (int i = 0; i < fine.length; i++) {
      fine[i] *= 2;
    }
    thread.execute(
        () -> {
          try {
            BitSet set = visible(r, fine, work);
            Platform.runLater(() -> answer.accept(set));
          } catch (RuntimeException | Error e) {
            Failure f = Failure.of(e);
            if (f.kind() != Failure.Kind.CANCELLED) {
              Problems.note(AppWords.of("view-worker.nothing-could-be-selected"), f);
            }
            Platform.runLater(() -> answer.accept(null));
          }
        });
  }

  private BitSet visible(Request r, double[] fine, Work work) {
    boolean have = isExactOf(r) && exact.smooth;
    if (have) {
      return renderer.visible(r.scene, exact.picture, fine, 1.5, work);
    }
    // The buffer that the last picture was in will be drawn over.
    exact = null;
    Renderer.Picture p =
        renderer.drawWithin(
            r.scene,
            r.camera,
            2 * r.width,
            2 * r.height,
            fine,
            work.part(0.5, AppWords.of("common.selecting-what-is-seen")));
    return renderer.visible(
        r.scene, p, fine, 1.5, work.part(0.5, AppWords.of("common.selecting-what-is-seen")));
  }

  private boolean isExactOf(Request r) {
    Drawn d = exact;
    return d != null
        && d.request.scene.mesh() == r.scene.mesh()
        && d.request.scene.place().equals(r.scene.place())
        && d.request.scene.setting().equals(r.scene.setting())
        && d.request.camera.equals(r.camera)
        && d.request.width == r.width
        && d.request.height == r.height;
  }

  private Drawn exactFor(Request r) {
    if (!isExactOf(r)) {
      Renderer.Picture p = renderer.draw(r.scene, r.camera, r.width, r.height);
      exact = new Drawn(r, p, p.pixels(), false, 0);
    }
    return exact;
  }

  void shutDown() {
    thread.shutdownNow();
    preparing.shutdownNow();
    preparingNow.cancel();
    // What was not begun never will be: nobody must wait behind it.
    claims.forEach(Claim::close);
  }
}

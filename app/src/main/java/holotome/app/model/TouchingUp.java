package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.bake.TouchUp;
import holotome.core.geometry.Similarity;
import holotome.core.log.History;
import holotome.core.part.Maps;
import holotome.core.part.Workpiece;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.touch.LiveTouch;
import holotome.core.touch.Touch;
import holotome.core.touch.TouchGround;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ExecutorService;
import javafx.application.Platform;

/**
 * Maps touched up by hand: what a brush does is shown while it is drawn, on a thread of its own;
 * what was drawn is then made, one after the other, and a sitting is one entry. All methods are
 * called on the interface thread.
 */
public final class TouchingUp {
  private final Session session;
  private final Sitting<TouchUp> sitting;
  private final Runnable onShown;
  private final ExecutorService thread = Jobs.thread("holotome-touch");

  /** What was drawn and is still to be made. */
  private final List<Touch> waiting = new ArrayList<>();

  /** Where the brush went that is not shown yet; guarded by itself. */
  private final List<double[]> ahead = new ArrayList<>();

  /** The work that is drawn on, and what is shown of it; null for nothing. */
  private Workpiece of;

  private Workpiece shown;
  private boolean isDrawing;

  /** Counts strokes, so that what comes late of one is not taken for the next. */
  private int stroke;

  /** Of the thread alone. */
  private LiveTouch live;

  private Similarity toBase;
  private Maps last;

  /**
   * @param onShown told that there is something else to be shown
   */
  public TouchingUp(Session session, Runnable onShown) {
    this.session = session;
    this.onShown = onShown;
    sitting = new Sitting<>(session, TouchUp.class);
    session.onChange(this::changed);
    session.onOpen(this::drop);
  }

  /** Gets ready, so that the first stroke need not wait. */
  public void prepare() {
    Workpiece w = session.current();
    if (hasMaps(w)) {
      thread.execute(() -> ground(w));
    }
  }

  /** Whether there is anything to touch up. */
  public static boolean hasMaps(Workpiece w) {
    return w != null && w.cast() != null && w.cast().uv() != null && w.maps() != null;
  }

  /** What is to be seen instead of the work; null for the work. */
  public Workpiece shown() {
    return shown;
  }

  /** Whether what was drawn is being made, or will be. */
  public boolean isMaking() {
    return !waiting.isEmpty() || sitting.isMaking();
  }

  /** Begins to draw: where that is known at once, what it does is shown from here on. */
  public void begin(Touch touch) {
    Workpiece w = session.current();
    isDrawing = true;
    int mine = ++stroke;
    synchronized (ahead) {
      ahead.clear();
    }
    if (!touch.how().isLive() || touch.area() || !hasMaps(w)) {
      return;
    }
    Maps onto = shown != null && of == w ? shown.maps() : w.maps();
    History h = session.history();
    boolean goesOn = sitting.last() != null;
    of = w;
    thread.execute(
        () -> {
          live = null;
          TouchGround ground = ground(w);
          if (ground != null) {
            Maps before = goesOn ? h.stateAfter(h.size() - 1).maps() : w.maps();
            toBase = w.frame().toFile().inverse();
            last = onto;
            live = new LiveTouch(ground, onto, before, touch.moved(toBase));
            show(mine, w, List.of(toBase.apply(touch.point(0))));
          }
        });
  }

  private static TouchGround ground(Workpiece w) {
    try {
      return TouchGround.of(w.cast(), w.maps(), Work.unwatched());
    } catch (RuntimeException | Error e) {
      // What is drawn is then seen once it is made.
      Problems.note(AppWords.of("touch-tool.not-shown"), e);
      return null;
    }
  }

  /** The brush went on to a point, in the file's coordinates. */
  public void follow(double[] point) {
    synchronized (ahead) {
      ahead.add(point);
    }
    Workpiece w = of;
    int mine = stroke;
    thread.execute(
        () -> {
          List<double[]> next = new ArrayList<>();
          synchronized (ahead) {
            ahead.forEach(p -> next.add(toBase == null ? p : toBase.apply(p)));
            ahead.clear();
          }
          if (live != null && !next.isEmpty()) {
            show(mine, w, next);
          }
        });
  }

  private void show(int mine, Workpiece w, List<double[]> points) {
    try {
      last = live.follow(points);
    } catch (RuntimeException | Error e) {
      live = null;
      Problems.note(AppWords.of("touch-tool.not-shown"), e);
      return;
    }
    Maps now = last;
    Platform.runLater(
        () -> {
          if (mine == stroke && of == w && session.current() == w) {
            shown = w.withMaps(now);
            onShown.run();
          }
        });
  }

  /** Ends drawing: makes what was drawn, once what was drawn before is made. */
  public void end(List<Touch> touches) {
    isDrawing = false;
    waiting.addAll(touches);
    makeWaiting();
  }

  private void makeWaiting() {
    if (waiting.isEmpty() || session.jobs().isBusy()) {
      return;
    }
    List<Touch> now = List.copyOf(waiting);
    waiting.clear();
    try {
      sitting.make(
          AppWords.of("touch-tool.touching"),
          before -> before == null ? new TouchUp(now) : before.with(now));
    } catch (Failure f) {
      session.fail(f);
    }
  }

  private void changed() {
    makeWaiting();
    if (shown != null && !isDrawing && !isMaking()) {
      shown = null;
      of = null;
    }
  }

  /** Lets go of what is being drawn. */
  public void drop() {
    isDrawing = false;
    stroke++;
    waiting.clear();
    if (shown != null) {
      shown = null;
      of = null;
      onShown.run();
    }
  }
}

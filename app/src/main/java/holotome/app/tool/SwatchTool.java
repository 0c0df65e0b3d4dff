package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.log.History;
import holotome.core.part.Workpiece;
import holotome.core.step.Step;
import holotome.core.swatch.LaySwatch;
import holotome.core.swatch.SwatchPreview;
import holotome.core.task.Failure;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseEvent;
import javafx.scene.paint.Color;

/**
 * Lays a Swatch: a click says over what; once it was tried, where it would lie is drawn, to be
 * dragged elsewhere and turned, and what it would contain is shown flat beside it.
 */
final class SwatchTool extends StepTool {
  private static final Color OUTLINE = Color.web("#1E7A6C");
  private static final Color APRON = Color.web("#6E7A78");

  /** Larger scans are not looked at on every edit. */
  private static final int LARGE = 20_000_000;

  private static final int PIXELS = 192;

  private final SwatchCanvas canvas = new SwatchCanvas(this::again);
  private ViewPort view;

  /** Where it would lie, on which work that was, and what is being dragged of it. */
  private SwatchOutline outline;

  private Workpiece of;
  private SwatchOutline dragged;

  SwatchTool(Session session) {
    super(
        session,
        LaySwatch.class,
        Stage.REDUCE,
        true,
        Map.of(),
        (s, t) -> AppWords.of("swatch-tool.lay"),
        w -> List.of());
    triedUpTo(LARGE);
  }

  /** Which way it faces follows from what lies under it; a Log may say otherwise. */
  @Override
  public Node form() {
    Node form = super.form();
    hide("normal");
    return form;
  }

  @Override
  public Node details() {
    return canvas.box();
  }

  @Override
  public Step step() {
    if (values().get("point") == null) {
      throw Failure.usage(AppWords.of("swatch-tool.click"));
    }
    return super.step();
  }

  @Override
  public void tried(History trial) {
    super.tried(trial);
    of = session.current();
    Workpiece made = trial.current();
    LaySwatch step = (LaySwatch) trial.lines().getLast().entry().step();
    outline = SwatchOutline.of(made, step.asLaid(made));
    session
        .jobs()
        .look(
            this,
            AppWords.of("swatch-tool.looking"),
            work -> SwatchPreview.of(made, PIXELS, work),
            p -> {
              if (p != null) {
                canvas.show(p);
                again();
              }
            },
            f -> canvas.clear());
    session.changed();
  }

  private void again() {
    if (view != null) {
      view.repaint();
    }
  }

  @Override
  public void begin(ViewPort port) {
    super.begin(port);
    view = port;
  }

  private SwatchOutline shown() {
    return of != session.current() ? null : dragged != null ? dragged : outline;
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    SwatchOutline o = shown();
    if (o == null) {
      super.draw(view, g);
      return;
    }
    if (o.apron() > 0) {
      Marks.line(view, g, o.around(o.apron()), APRON);
    }
    Marks.line(view, g, o.around(0), OUTLINE);
    Marks.line(view, g, o.arm(), OUTLINE);
    double[] knob = view.project(o.knob());
    if (knob != null) {
      Marks.dot(g, knob);
    }
    Marks.ring(g, view.project(o.middle()));
    canvas.draw(view, g);
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    SwatchOutline o = shown();
    dragged = o == null ? null : o.held(view, e.getX(), e.getY());
    if (dragged == null) {
      super.pressed(view, e);
    }
  }

  @Override
  public void dragged(ViewPort view, MouseEvent e) {
    SwatchOutline held = dragged;
    if (held == null) {
      return;
    }
    if (held.isTurning()) {
      dragged = held.turnedTo(view, e.getX(), e.getY());
      view.repaint();
    } else {
      view.pick(
          e.getX(),
          e.getY(),
          p -> {
            if (p != null && dragged != null) {
              dragged = dragged.movedTo(p);
              view.repaint();
            }
          });
    }
  }

  /**
   * Turned it is there at once; where on the Scan it was let go is told later, and what was told on
   * the way may not have been yet.
   */
  @Override
  public void released(ViewPort view, MouseEvent e) {
    SwatchOutline held = dragged;
    if (held == null) {
      return;
    }
    if (held.isTurning()) {
      letGo(held);
    } else if (held.isAwayFrom(view, e.getX(), e.getY())) {
      view.pick(e.getX(), e.getY(), p -> letGo(p == null ? held : held.movedTo(p)));
    } else {
      dragged = null;
    }
  }

  /** What was dragged is what is asked for: this size, there, no more to be looked for. */
  private void letGo(SwatchOutline held) {
    dragged = null;
    if (!held.isMoved()) {
      return;
    }
    outline = held;
    boolean wasFound = !"here".equals(String.valueOf(values().get("find")));
    if (wasFound) {
      fill("find", "here");
      fill("width", held.width());
      fill("height", held.height());
    }
    if (wasFound || held.isTurning()) {
      fill("turn", String.format(Locale.ROOT, "%.2f", held.turn()));
    }
    if (wasFound || !held.isTurning()) {
      fill("point", Points.format(held.middle()));
    }
  }

  @Override
  public void end(ViewPort port) {
    super.end(port);
    session.jobs().stopLooking(this);
    outline = null;
    dragged = null;
    of = null;
    canvas.clear();
    view = null;
  }
}

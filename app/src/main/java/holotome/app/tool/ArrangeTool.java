package holotome.app.tool;

import holotome.app.model.ArrangingCharts;
import holotome.app.model.ChosenCharts;
import holotome.app.model.LikeCharts;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimate;
import holotome.core.task.Failure;
import holotome.core.unwrap.ArrangeCharts;
import holotome.core.unwrap.ChartEdit;
import holotome.core.unwrap.MakeCharts;
import java.util.BitSet;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseEvent;

/**
 * Moves, turns and scales charts in the flat pane, and single points of them. Each change is made
 * at once; a sitting is one entry.
 */
final class ArrangeTool extends HandTool implements FlatTool {
  /** From how near a box catches a line, in pixels. */
  private static final double CATCH = 6;

  private final ArrangingCharts arranging;
  private final ArrangeForm form;

  /** What the left button holds, while it is down. */
  private ArrangeDrag drag;

  /** What was chosen when the box around it was found. */
  private BitSet seen;

  /** The press of which it is asked what lies there, and the mesh that is asked. */
  private ArrangeDrag asked;

  private Mesh asking;
  private double[] outlines = {};
  private ChartFrame frame;

  /** What charts are caught by; null until it is asked for. */
  private CatchLines catching;

  ArrangeTool(Session session) {
    super(session, ArrangeCharts.class, Stage.UNWRAP);
    arranging = new ArrangingCharts(session);
    form = new ArrangeForm(this::byFigures, this::chooseLike);
  }

  @Override
  public Node form() {
    follow();
    show();
    return form.node();
  }

  @Override
  public String missing() {
    Workpiece w = session.current();
    return w == null
        ? null
        : w.cast() == null
            ? AppWords.of("tools.there-is-no-cast-to")
            : w.cast().uv() == null ? AppWords.of("common.the-cast-has-no-charts") : null;
  }

  @Override
  public Way way() {
    Workpiece w = session.current();
    return w == null || w.cast() == null
        ? new Way(AppWords.of("common.make-a-cast"), Decimate.class)
        : w.cast().uv() == null
            ? new Way(AppWords.of("common.cut-charts"), MakeCharts.class)
            : null;
  }

  /** The mesh whose charts are moved; null where there is none. */
  private Mesh mesh() {
    Workpiece w = session.current();
    return w == null || w.cast() == null || w.cast().uv() == null ? null : w.cast();
  }

  /** The box around what is chosen; null where nothing is. */
  private ChartFrame frame() {
    follow();
    return frame;
  }

  /** Looks what is chosen, if that changed: outlines may be long. */
  private void follow() {
    Mesh mesh = mesh();
    BitSet now = mesh == null ? null : session.charts().of(mesh);
    if (now != seen) {
      seen = now;
      outlines = now == null ? new double[0] : session.charts().outlines(mesh, true);
      frame = ChartFrame.of(outlines);
      catching = null;
      show();
    }
  }

  private void show() {
    ChartFrame f = frame;
    double px = session.isOpen() ? arranging.picture()[0] : 0;
    form.show(
        f == null ? 0 : session.charts().count(),
        f == null
            ? new double[2]
            : new double[] {px * (f.high()[0] - f.low()[0]), px * (f.high()[1] - f.low()[1])});
  }

  private void chooseLike(LikeCharts like) {
    Mesh mesh = mesh();
    if (mesh != null) {
      session.charts().chooseLike(mesh, like);
      follow();
    }
  }

  private double[] chosen() {
    return session.charts().points(session.current());
  }

  @Override
  public boolean isMaking() {
    boolean isAsking = asked != null && asked.isPending() && asking == mesh();
    return isAsking || arranging.isMaking();
  }

  private void make(ChartEdit edit) {
    if (!session.jobs().isBusy()) {
      arranging.make(edit);
    }
  }

  private void byFigures() {
    double[] f = form.figures();
    if (f == null || frame() == null) {
      return;
    }
    double px = arranging.picture()[0];
    double[] move = {f[0] / px, f[1] / px};
    try {
      make(new ChartEdit(chosen(), null, move, f[2], f[3]));
      form.reset();
    } catch (Failure wrong) {
      session.fail(wrong);
    }
  }

  @Override
  public void flatPressed(FlatPort pane, MouseEvent e) {
    Mesh mesh = mesh();
    drag = null;
    if (mesh == null || session.jobs().isBusy()) {
      return;
    }
    ArrangeDrag d = new ArrangeDrag(e.getX(), e.getY(), pane.place(e.getX(), e.getY()));
    drag = d;
    ChartFrame around = form.isOfPoints() ? null : frame();
    ChartFrame.Grip grip =
        around == null ? ChartFrame.Grip.NONE : around.grip(pane, e.getX(), e.getY());
    if (grip != ChartFrame.Grip.NONE) {
      d.hold(around, grip);
      return;
    }
    boolean adds = e.isShiftDown();
    asked = d;
    asking = mesh;
    pane.pickTriangle(
        e.getX(),
        e.getY(),
        t -> {
          take(pane, mesh, d, t, adds);
          d.again();
          if (d.isReleased()) {
            finish(pane, d);
          }
        });
  }

  /** What was pressed on is known now: the button may have been let go by then. */
  private void take(FlatPort pane, Mesh mesh, ArrangeDrag d, int triangle, boolean adds) {
    if (triangle < 0) {
      d.frame(adds, form.isFree());
    } else if (form.isOfPoints()) {
      double[] at = NearTexture.of(pane, mesh, triangle, d.x(), d.y());
      d.points(at, ChosenCharts.middle(mesh, triangle, session.current().frame().toWork()));
    } else {
      if (adds || !session.charts().isChosen(mesh, triangle)) {
        session.charts().choose(mesh, triangle, adds);
      }
      ChartFrame now = frame();
      if (now != null && session.charts().isChosen(mesh, triangle)) {
        d.move(now);
      } else {
        d.rest();
      }
    }
  }

  @Override
  public void flatDragged(FlatPort pane, MouseEvent e) {
    if (drag == null) {
      return;
    }
    drag.to(
        pane.place(e.getX(), e.getY()), e.isControlDown() ? null : lines(), CATCH / pixels(pane));
    pane.repaint();
  }

  private static double pixels(FlatPort pane) {
    double[] a = pane.project(0, 0);
    double[] b = pane.project(1, 0);
    return Math.max(1e-9, Math.hypot(b[0] - a[0], b[1] - a[1]));
  }

  private CatchLines lines() {
    if (catching == null) {
      int[] picture = arranging.picture();
      double[] others = session.charts().outlines(mesh(), false);
      int[] chart = session.charts().chartsOf(mesh(), false);
      catching = new CatchLines(others, chart, (double) picture[1] / picture[0]);
    }
    return catching;
  }

  @Override
  public void flatReleased(FlatPort pane, MouseEvent e) {
    ArrangeDrag d = drag;
    drag = null;
    if (d != null) {
      d.release(e.getX(), e.getY());
      if (!d.isPending()) {
        finish(pane, d);
      }
    }
  }

  private void finish(FlatPort pane, ArrangeDrag d) {
    Mesh mesh = mesh();
    if (mesh != null && d.isFraming()) {
      if (d.isFar()) {
        session.charts().chooseWithin(mesh, d.framed(), d.isAdding());
      } else {
        session.charts().choose(mesh, -1, d.isAdding());
      }
      follow();
    } else if (mesh != null && d.isFar() && d.isHolding()) {
      make(d.edit(d.isOfPoints() ? d.of() : chosen()));
    }
    pane.repaint();
  }

  @Override
  public void drawFlat(FlatPort pane, GraphicsContext g) {
    if (mesh() == null) {
      return;
    }
    if (drag != null) {
      follow();
      drag.draw(pane, g, outlines);
    } else if (!form.isOfPoints() && frame() != null) {
      ArrangeDrag.handles(pane, g, frame());
    }
  }
}

package holotome.app.tool;

import holotome.app.model.Selected;
import holotome.app.model.Session;
import holotome.app.model.Sitting;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimate;
import holotome.core.task.Failure;
import holotome.core.unwrap.EditSeams;
import holotome.core.unwrap.SeamEdit;
import holotome.core.unwrap.SeamEdit.How;
import holotome.view.scene.Look;
import java.util.Arrays;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;

/**
 * Cuts and sews seams: what a click, an angle or the selection means is shown first, and cut or
 * sewn when that is wanted. A sitting is one entry.
 */
final class SeamsTool extends HandTool implements FlatTool {
  /** Of more edges than these only some are drawn. */
  private static final int MOST_DRAWN = 20_000;

  private final Sitting<EditSeams> sitting;
  private final SeamsForm form;
  private double[] points = {};

  /** What is meant now, and the edges that it means, two ends each in working space. */
  private SeamEdit edit;

  private double[] meant = {};

  /** The same in the texture, two ends each, u, v. */
  private double[] flat = {};

  /** The workpiece and selection that edges were looked for in. */
  private Workpiece in;

  private Selected selected;

  SeamsTool(Session session) {
    super(session, EditSeams.class, Stage.UNWRAP);
    sitting = new Sitting<>(session, EditSeams.class);
    form = new SeamsForm(this::chose, this::run);
  }

  @Override
  public Look look() {
    return session.current() != null
            && session.current().cast() != null
            && session.current().cast().uv() != null
        ? Look.CHARTS
        : null;
  }

  @Override
  public boolean takesClicks() {
    return true;
  }

  @Override
  public Node form() {
    follow();
    form.show(meant.length / 6, null);
    return form.node();
  }

  @Override
  public String missing() {
    Workpiece w = session.current();
    return w == null || w.cast() != null ? null : AppWords.of("tools.there-is-no-cast-to");
  }

  @Override
  public Way way() {
    return new Way(AppWords.of("common.make-a-cast"), Decimate.class);
  }

  private void chose() {
    points = new double[0];
    look(null);
  }

  /** Where the work or the selection is another, what was shown is not meant any more. */
  private void follow() {
    if (session.current() != in) {
      in = session.current();
      chose();
    } else if (session.selected() != selected) {
      look(null);
    }
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    if (e.getButton() == MouseButton.PRIMARY && takesPoints()) {
      boolean adds = adds(e);
      view.pick(e.getX(), e.getY(), p -> add(view, p, adds));
    }
  }

  private boolean takesPoints() {
    How how = form.how();
    return (how == How.WAY || how == How.RING || how == How.SEW) && missing() == null;
  }

  private boolean adds(MouseEvent e) {
    return form.how() == How.WAY || e.isShiftDown();
  }

  /** A place in the texture is one on the surface. */
  @Override
  public void flatPressed(FlatPort pane, MouseEvent e) {
    Workpiece w = session.current();
    if (!takesPoints() || w == null || w.cast().uv() == null) {
      return;
    }
    boolean adds = adds(e);
    pane.pickTriangle(
        e.getX(),
        e.getY(),
        t -> {
          if (t >= 0 && session.current() == w) {
            double[] at = NearTexture.onSurface(w.cast(), t, pane.place(e.getX(), e.getY()));
            add(null, w.frame().toWork().apply(at), adds);
            pane.repaint();
          }
        });
  }

  @Override
  public void flatDragged(FlatPort pane, MouseEvent e) {}

  @Override
  public void flatReleased(FlatPort pane, MouseEvent e) {}

  @Override
  public boolean isMaking() {
    return sitting.isMaking();
  }

  @Override
  public void drawFlat(FlatPort pane, GraphicsContext g) {
    int every = 4 * Math.max(1, flat.length / 4 / MOST_DRAWN);
    for (int i = 0; i + 4 <= flat.length; i += every) {
      double[] a = pane.project(flat[i], flat[i + 1]);
      double[] b = pane.project(flat[i + 2], flat[i + 3]);
      Marks.thick(g, a, b);
    }
  }

  private void add(ViewPort view, double[] p, boolean adds) {
    if (p == null) {
      return;
    }
    follow();
    double[] before = adds ? points : new double[0];
    points = Arrays.copyOf(before, before.length + 3);
    System.arraycopy(p, 0, points, before.length, 3);
    look(view);
  }

  /** Finds what is meant, aside; it is drawn as soon as it is known. */
  private void look(ViewPort view) {
    session.jobs().stopLooking(this);
    meant = new double[0];
    flat = new double[0];
    edit = null;
    selected = session.selected();
    Workpiece w = session.current();
    if (w == null || w.cast() == null) {
      return;
    }
    SeamEdit wanted;
    try {
      wanted = form.edit(points, selected == null ? null : selected.picks());
    } catch (Failure wrong) {
      form.show(0, wrong.getMessage());
      return;
    }
    if (wanted == null) {
      form.show(0, points.length == 0 ? null : AppWords.of("seams-form.way-next"));
    } else {
      session
          .jobs()
          .look(
              this,
              AppWords.of("seams-tool.looking"),
              work -> EditSeams.meant(w, wanted, work),
              found -> {
                edit = wanted;
                meant = inWork(w, found.ends());
                flat = found.flat();
                form.show(meant.length / 6, null);
                edited();
              },
              f -> form.show(0, f.getMessage()));
    }
    if (view != null) {
      view.repaint();
    }
  }

  private static double[] inWork(Workpiece w, double[] base) {
    double[] out = new double[base.length];
    for (int i = 0; i < base.length; i += 3) {
      double[] p = w.frame().toWork().apply(base[i], base[i + 1], base[i + 2]);
      System.arraycopy(p, 0, out, i, 3);
    }
    return out;
  }

  private void run() {
    SeamEdit now = edit;
    if (now == null || session.jobs().isBusy()) {
      return;
    }
    sitting.make(
        AppWords.of("seams-tool.cutting"),
        last -> last == null ? new EditSeams(List.of(now)) : last.with(now));
  }

  @Override
  public boolean enter(ViewPort view) {
    boolean isMeant = edit != null;
    run();
    return isMeant;
  }

  @Override
  public boolean key(ViewPort view, KeyEvent e) {
    if (e.getCode() == KeyCode.BACK_SPACE && points.length > 0) {
      points = Arrays.copyOf(points, points.length - 3);
      look(view);
      return true;
    }
    return false;
  }

  @Override
  public void drop(ViewPort view) {
    chose();
    view.repaint();
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    follow();
    int every = 6 * Math.max(1, meant.length / 6 / MOST_DRAWN);
    for (int i = 0; i + 6 <= meant.length; i += every) {
      Marks.thick(view, g, Arrays.copyOfRange(meant, i, i + 6));
    }
    for (int i = 0; i < points.length; i += 3) {
      Marks.ring(g, view.project(Arrays.copyOfRange(points, i, i + 3)));
    }
  }

  @Override
  public void end(ViewPort view) {
    session.jobs().stopLooking(this);
    points = new double[0];
    meant = new double[0];
    flat = new double[0];
    edit = null;
  }
}

package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Sitting;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.bake.CageEdit;
import holotome.core.bake.PaintCage;
import holotome.core.frame.Frame;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimate;
import holotome.core.task.Failure;
import holotome.core.unit.Length;
import holotome.core.unit.RoundLength;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import javafx.scene.layout.VBox;

/** Shows from where rays start as a shell, and makes it wider or narrower with a brush. */
final class CageTool extends HandTool {
  private static final double LARGER = 1.15;

  /** The radius at first, of the diagonal. */
  private static final double USUAL = 0.05;

  private final Sitting<PaintCage> sitting;
  private final TextField radius = Fields.plain("cage-radius", "", "50 mm");
  private final TextField times = Fields.plain("cage-times", "2", "2");
  private final Label next = new Label(AppWords.of("cage-tool.paint"));
  private final VBox box;
  private final TouchMarks marks = new TouchMarks();
  private TouchStroke stroke;

  CageTool(Session session) {
    super(session, PaintCage.class, Stage.BAKE);
    sitting = new Sitting<>(session, PaintCage.class);
    next.setWrapText(true);
    next.getStyleClass().addAll("soft", "small");
    for (TextField t : List.of(radius, times)) {
      t.getStyleClass().add("figure");
    }
    radius.textProperty().addListener((o, was, is) -> check(radius, radius() > 0));
    times.textProperty().addListener((o, was, is) -> check(times, times() > 0));
    box =
        new VBox(
            8,
            Fields.row(AppWords.of("touch-form.radius"), radius),
            Fields.row(AppWords.of("cage-tool.times"), times),
            next);
  }

  @Override
  public Node form() {
    Workpiece w = session.current();
    if (w != null && w.cast() != null && radius.getText().isBlank()) {
      double size = RoundLength.below(USUAL * w.frame().workBounds(w.cast()).diagonal());
      radius.setText(Length.typed(size, w.frame().trueSize()));
    }
    return box;
  }

  private static void check(TextField t, boolean good) {
    t.getStyleClass().remove("wrong");
    if (!good) {
      t.getStyleClass().add("wrong");
    }
  }

  @Override
  public String missing() {
    Workpiece w = session.current();
    return w == null || w.cast() != null ? null : AppWords.of("tools.there-is-no-cast-to-2");
  }

  @Override
  public Way way() {
    return missing() == null ? null : new Way(AppWords.of("common.make-a-cast"), Decimate.class);
  }

  @Override
  public boolean takesClicks() {
    return true;
  }

  @Override
  public boolean showsCage() {
    return missing() == null;
  }

  /** In working space; 0 where none was given. */
  private double radius() {
    boolean sized = session.current() != null && session.current().frame().trueSize();
    try {
      return Math.max(
          0, Length.parse(radius.getText(), sized ? Length.Unit.MM : Length.Unit.M).metres());
    } catch (Failure | NumberFormatException e) {
      return 0;
    }
  }

  private double times() {
    try {
      double t = Double.parseDouble(times.getText().strip());
      return t >= 0.05 && t <= 20 ? t : 0;
    } catch (NumberFormatException e) {
      return 0;
    }
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    stroke = null;
    boolean isReady = missing() == null && radius() > 0 && times() > 0 && !session.jobs().isBusy();
    if (e.getButton() == MouseButton.PRIMARY && isReady) {
      stroke = new TouchStroke(TouchPane.of(view, session), radius(), false, p -> {}, p -> {});
      stroke.to(e.getX(), e.getY());
    }
  }

  @Override
  public void dragged(ViewPort view, MouseEvent e) {
    moved(view, e);
    if (stroke != null) {
      stroke.to(e.getX(), e.getY());
    }
  }

  @Override
  public void released(ViewPort view, MouseEvent e) {
    TouchStroke s = stroke;
    if (s != null) {
      s.end(e.getX(), e.getY(), () -> paint(view, s));
    }
  }

  private void paint(ViewPort view, TouchStroke s) {
    stroke = null;
    double[][] points = s.outline();
    if (points.length > 0 && !session.jobs().isBusy()) {
      Frame f = session.current().frame();
      double[][] inFile = new double[points.length][];
      for (int i = 0; i < points.length; i++) {
        inFile[i] = f.toFile().apply(f.toBase(points[i]));
      }
      double r = f.toBaseLength(radius()) * f.toFile().scale();
      CageEdit edit = new CageEdit(TouchPane.flat(inFile), r, times());
      sitting.make(
          AppWords.of("cage-tool.painting"),
          last -> last == null ? new PaintCage(List.of(edit)) : last.with(edit));
    }
    view.repaint();
  }

  @Override
  public void moved(ViewPort view, MouseEvent e) {
    marks.at(false, e.getX(), e.getY());
    view.repaint();
  }

  @Override
  public boolean scrolled(ViewPort view, ScrollEvent e) {
    if (!e.isControlDown() || session.current() == null) {
      return false;
    }
    double f = e.getDeltaY() > 0 ? LARGER : 1 / LARGER;
    radius.setText(Length.typed(radius() * f, session.current().frame().trueSize()));
    view.repaint();
    return true;
  }

  @Override
  public void drop(ViewPort view) {
    stroke = null;
    view.repaint();
  }

  @Override
  public void end(ViewPort view) {
    stroke = null;
    marks.away();
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    if (missing() == null) {
      marks.brush(g, TouchPane.of(view, session), radius(), stroke);
    }
  }
}

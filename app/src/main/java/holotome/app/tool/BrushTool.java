package holotome.app.tool;

import holotome.app.model.Selected;
import holotome.app.model.Session;
import holotome.app.words.AppWords;
import holotome.core.part.Workpiece;
import holotome.core.select.BrushStroke;
import holotome.core.select.Fence;
import holotome.core.select.Pick;
import holotome.core.task.Failure;
import holotome.core.unit.Length;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.TextField;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import javafx.scene.paint.Color;

/** Paints over what is to be selected, with a size in pixels or in the lengths of the scan. */
public final class BrushTool extends SelectTool {
  private static final double LARGER = 1.15;

  private final Line line = new Line();
  private final List<double[]> dabs = new ArrayList<>();
  private double pixels = 24;
  private double length;
  private boolean inLengths;
  private boolean painting;
  private int asked;
  private int answered;
  private Selected before;
  private Pick.Join join;
  private boolean released;
  private double[] pointer;
  private TextField size;
  private boolean writing;

  public BrushTool(Session session) {
    super(session);
  }

  @Override
  public String id() {
    return "brush";
  }

  @Override
  public String hint() {
    return joining(AppWords.of("brush-tool.paint-with-the-left-button"));
  }

  @Override
  protected String todo() {
    return AppWords.of("brush-tool.paint-over-what-is-to");
  }

  @Override
  protected List<Node> ownFields() {
    ChoiceBox<String> unit = new ChoiceBox<>();
    unit.setId("field-brush-unit");
    unit.getItems()
        .setAll(
            AppWords.of("brush-tool.pixels-of-the-view"),
            AppWords.of("brush-tool.lengths-of-the-scan"));
    unit.getSelectionModel().select(inLengths ? 1 : 0);
    unit.setOnAction(
        e -> {
          inLengths = unit.getSelectionModel().getSelectedIndex() == 1;
          write();
        });
    size = new TextField();
    size.setId("field-brush-size");
    size.setPrefColumnCount(9);
    size.textProperty().addListener((o, was, is) -> typed(is));
    write();
    return List.of(
        Fields.row(AppWords.of("brush-tool.measured-in"), unit),
        Fields.row(AppWords.of("brush-tool.radius"), size));
  }

  private boolean sized() {
    return session.current() != null && session.current().frame().trueSize();
  }

  private double reach() {
    if (length <= 0 && session.current() != null) {
      var w = session.current();
      length = 0.01 * w.frame().workBounds(w.scan()).diagonal();
    }
    return length;
  }

  private void write() {
    writing = true;
    size.setText(
        inLengths ? Length.typed(reach(), sized()) : String.format(Locale.ROOT, "%.0f px", pixels));
    size.getStyleClass().remove("wrong");
    writing = false;
  }

  private void typed(String text) {
    if (writing) {
      return;
    }
    boolean good = false;
    try {
      if (inLengths) {
        double l = Length.parse(text, sized() ? Length.Unit.MM : Length.Unit.M).metres();
        good = l > 0;
        length = good ? l : length;
      } else {
        double p = Double.parseDouble(text.replace("px", "").strip());
        good = p >= 1 && p <= 1000;
        pixels = good ? p : pixels;
      }
    } catch (Failure | NumberFormatException e) {
      good = false;
    }
    size.getStyleClass().remove("wrong");
    if (!good) {
      size.getStyleClass().add("wrong");
    }
  }

  @Override
  public boolean scrolled(ViewPort view, ScrollEvent e) {
    if (!e.isControlDown()) {
      return false;
    }
    double f = e.getDeltaY() > 0 ? LARGER : 1 / LARGER;
    if (inLengths) {
      length = reach() * f;
    } else {
      pixels = Math.clamp(pixels * f, 1, 1000);
    }
    write();
    view.repaint();
    return true;
  }

  @Override
  public void end(ViewPort view) {
    super.end(view);
    stop();
  }

  private void stop() {
    line.clear();
    dabs.clear();
    painting = false;
    released = false;
  }

  @Override
  public void drop(ViewPort view) {
    stop();
    super.drop(view);
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    stop();
    painting = true;
    asked = 0;
    answered = 0;
    before = session.selected();
    join = join(e);
    point(view, e);
  }

  @Override
  public void dragged(ViewPort view, MouseEvent e) {
    pointer = new double[] {e.getX(), e.getY()};
    if (painting && line.isAway(e.getX(), e.getY(), Math.max(2, radius(view) / 4))) {
      point(view, e);
    }
    view.repaint();
  }

  private void point(ViewPort view, MouseEvent e) {
    line.add(e.getX(), e.getY());
    if (inLengths) {
      asked++;
      view.pick(
          e.getX(),
          e.getY(),
          p -> {
            answered++;
            if (p != null) {
              dabs.add(p);
            }
            finish();
          });
    }
  }

  @Override
  public void released(ViewPort view, MouseEvent e) {
    if (!painting) {
      return;
    }
    painting = false;
    if (inLengths) {
      released = true;
      finish();
      return;
    }
    double[] stroke = line.outline();
    line.clear();
    if (view.isThrough()) {
      Fence fence = new Fence(view.toPixels(), stroke, pixels);
      session.selecting().pickOn(before, Pick.of(join, fence));
    } else {
      Selected on = before;
      Pick.Join how = join;
      Workpiece asked = session.current();
      Fence through = new Fence(view.toPixels(), stroke, pixels);
      view.visibleWithin(
          StrokeOutline.of(stroke, pixels),
          set -> session.selecting().pickSeen(asked, on, how, set, through));
    }
    view.repaint();
  }

  /** Once every point of the stroke has found its place on the surface. */
  private void finish() {
    if (!released || answered < asked) {
      return;
    }
    released = false;
    line.clear();
    if (dabs.isEmpty()) {
      return;
    }
    double[] points = new double[3 * dabs.size()];
    for (int i = 0; i < dabs.size(); i++) {
      System.arraycopy(dabs.get(i), 0, points, 3 * i, 3);
    }
    dabs.clear();
    session.selecting().pickOn(before, Pick.of(join, new BrushStroke(points, new Length(reach()))));
  }

  @Override
  public void moved(ViewPort view, MouseEvent e) {
    pointer = new double[] {e.getX(), e.getY()};
    view.repaint();
  }

  /** The brush's radius in pixels. */
  private double radius(ViewPort view) {
    return inLengths ? reach() / view.camera().unitsPerPixel((int) view.height()) : pixels;
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    double r = radius(view);
    line.drawWide(g, r, Color.web("#6C4AB6", 0.35));
    if (pointer != null) {
      g.setStroke(Color.web("#6C4AB6"));
      g.setLineWidth(1.4);
      g.strokeOval(pointer[0] - r, pointer[1] - r, 2 * r, 2 * r);
    }
  }
}

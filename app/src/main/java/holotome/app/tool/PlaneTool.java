package holotome.app.tool;

import holotome.app.model.Insight;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.core.log.History;
import holotome.core.mesh.Box;
import holotome.core.mesh.Frame;
import holotome.core.mesh.Vec;
import holotome.core.step.Length;
import holotome.core.step.Step;
import holotome.core.step.Workpiece;
import holotome.core.task.Failure;
import holotome.core.trim.PlaneCut;
import java.util.Locale;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.VBox;
import javafx.scene.paint.Color;

/** A plane with a handle to drag, in the view; what lies behind it is cut away. */
public final class PlaneTool extends Tool {
  private static final double HANDLE = 9;

  private double[] point;
  private double[] normal;
  private boolean flip;
  private PlaneCut.Close close = PlaneCut.Close.FLAT;
  private int along;
  private boolean dragging;
  private double[] grab;
  private TextField place;
  private boolean writing;

  public PlaneTool(Session session) {
    super(session);
  }

  @Override
  public String title() {
    return "Plane cut";
  }

  @Override
  public Stage stage() {
    return Stage.TRIM;
  }

  @Override
  public String hint() {
    return "Drag the handle along its line, or type how far; up and down nudge it. The arrow points to what is kept.";
  }

  @Override
  public Node form() {
    ChoiceBox<String> axis = new ChoiceBox<>();
    axis.setId("field-along");
    axis.getItems().setAll("The ground", "X", "Y", "Z");
    axis.getSelectionModel().select(along);
    axis.setOnAction(
        e -> {
          along = axis.getSelectionModel().getSelectedIndex();
          place();
          write();
          edited();
        });
    place = new TextField();
    place.setId("field-place");
    place.setPrefColumnCount(10);
    place.textProperty().addListener((o, was, is) -> typed(is));
    ChoiceBox<String> side = new ChoiceBox<>();
    side.setId("field-side");
    side.getItems().setAll("The front", "The back");
    side.getSelectionModel().select(flip ? 1 : 0);
    side.setOnAction(
        e -> {
          flip = side.getSelectionModel().getSelectedIndex() == 1;
          edited();
        });
    ChoiceBox<String> closing = new ChoiceBox<>();
    closing.setId("field-close");
    closing.getItems().setAll("Open", "Closed flat");
    closing.getSelectionModel().select(close == PlaneCut.Close.OPEN ? 0 : 1);
    closing.setOnAction(
        e -> {
          close = PlaneCut.Close.values()[closing.getSelectionModel().getSelectedIndex()];
          edited();
        });
    place();
    write();
    return new VBox(
        6,
        Fields.row("Across", axis),
        Fields.row("At", place),
        Fields.row("Keep", side),
        Fields.row("The cut is left", closing));
  }

  /** Puts the plane where it begins for the chosen direction, unless one was loaded. */
  private void place() {
    Workpiece w = session.current();
    if (w == null || point != null && along < 0) {
      return;
    }
    Frame frame = w.frame();
    Insight insight = session.insight();
    if (along == 0 && insight != null && insight.ground() != null) {
      normal = frame.toWork().direction(insight.ground().normal());
      double margin =
          frame.trueSize() ? 0.007 : 0.002 * w.scan().bounds().diagonal() * frame.toWork().scale();
      point = Vec.add(frame.toWork().apply(insight.ground().point()), Vec.mul(normal, margin));
      return;
    }
    Box b = frame.workBounds(w.scan());
    int axis = along == 0 ? 2 : along - 1;
    normal = Vec.of(axis == 0 ? 1 : 0, axis == 1 ? 1 : 0, axis == 2 ? 1 : 0);
    point = b.centre();
    point[axis] = b.min()[axis] + 0.1 * (b.max()[axis] - b.min()[axis]);
  }

  private double offset() {
    return Vec.dot(point, normal);
  }

  private boolean sized() {
    return session.current().frame().trueSize();
  }

  private void write() {
    if (place == null || point == null) {
      return;
    }
    writing = true;
    place.setText(
        sized()
            ? String.format(Locale.ROOT, "%.2f mm", 1000 * offset())
            : String.format(Locale.ROOT, "%.2f", offset()));
    place.getStyleClass().remove("wrong");
    writing = false;
  }

  private void typed(String text) {
    if (writing || point == null) {
      return;
    }
    try {
      double to = Length.parse(text, sized() ? Length.Unit.MM : Length.Unit.M).metres();
      point = Vec.add(point, Vec.mul(normal, to - offset()));
      place.getStyleClass().remove("wrong");
      edited();
    } catch (Failure f) {
      if (!place.getStyleClass().contains("wrong")) {
        place.getStyleClass().add("wrong");
      }
    }
  }

  private double[] keep() {
    return flip ? Vec.mul(normal, -1) : normal;
  }

  @Override
  public String missing() {
    return point == null ? "Open a scan to place the plane" : null;
  }

  @Override
  public Step step() {
    return new PlaneCut(point, keep(), close);
  }

  @Override
  public void load(Step step) {
    PlaneCut c = (PlaneCut) step;
    point = c.point();
    normal = Vec.unit(c.normal());
    flip = false;
    close = c.close();
    along = -1;
  }

  @Override
  public void end(ViewPort view) {
    if (along < 0) {
      along = 0;
    }
    point = null;
  }

  @Override
  public String verb(History trial) {
    if (trial == null) {
      return "Cut along the plane";
    }
    int removed = -trial.lines().getLast().effect().change();
    return removed > 0 ? String.format("Cut away %,d triangles", removed) : "Cut along the plane";
  }

  private double[] handle() {
    Box b = session.current().frame().workBounds(session.current().scan());
    double[] c = b.centre();
    return Vec.add(c, Vec.mul(normal, offset() - Vec.dot(c, normal)));
  }

  private double reach() {
    return 0.16 * session.current().frame().workBounds(session.current().scan()).diagonal();
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    if (point == null) {
      return;
    }
    double[] h = view.project(handle());
    double[] tip = view.project(Vec.add(handle(), Vec.mul(keep(), reach())));
    dragging =
        h != null && Math.hypot(e.getX() - h[0], e.getY() - h[1]) < 2 * HANDLE
            || tip != null && Math.hypot(e.getX() - tip[0], e.getY() - tip[1]) < 2 * HANDLE;
    grab = new double[] {e.getX(), e.getY(), offset()};
  }

  @Override
  public void dragged(ViewPort view, MouseEvent e) {
    if (!dragging) {
      return;
    }
    double[] h = view.project(handle());
    double unit = reach();
    double[] t = view.project(Vec.add(handle(), Vec.mul(normal, unit)));
    if (h == null || t == null) {
      return;
    }
    double dx = t[0] - h[0];
    double dy = t[1] - h[1];
    double l2 = dx * dx + dy * dy;
    if (l2 < 9) {
      return;
    }
    double moved = ((e.getX() - grab[0]) * dx + (e.getY() - grab[1]) * dy) / l2 * unit;
    point = Vec.add(point, Vec.mul(normal, grab[2] + moved - offset()));
    write();
    view.repaint();
  }

  @Override
  public void released(ViewPort view, MouseEvent e) {
    if (dragging) {
      dragging = false;
      edited();
    }
  }

  @Override
  public boolean key(ViewPort view, KeyEvent e) {
    if (point == null
        || e.isShiftDown()
        || e.getCode() != KeyCode.UP && e.getCode() != KeyCode.DOWN) {
      return false;
    }
    double step = sized() ? 0.001 : 0.0005 * reach() / 0.16;
    point = Vec.add(point, Vec.mul(normal, e.getCode() == KeyCode.UP ? step : -step));
    write();
    view.repaint();
    edited();
    return true;
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    if (point == null || session.current() == null) {
      return;
    }
    double[] c = handle();
    double r = 0.36 * reach() / 0.16;
    double[] u = Vec.perpendicular(normal);
    double[] w = Vec.cross(normal, u);
    double[] xs = new double[4];
    double[] ys = new double[4];
    for (int i = 0; i < 4; i++) {
      double[] p =
          view.project(
              Vec.add(
                  c, Vec.add(Vec.mul(u, i == 0 || i == 3 ? -r : r), Vec.mul(w, i < 2 ? -r : r))));
      if (p == null) {
        return;
      }
      xs[i] = p[0];
      ys[i] = p[1];
    }
    Color violet = Color.web("#6C4AB6");
    g.setFill(Color.web("#6C4AB6", 0.13));
    g.fillPolygon(xs, ys, 4);
    g.setStroke(violet);
    g.setLineWidth(1.2);
    g.strokePolygon(xs, ys, 4);
    double[] h = view.project(c);
    double[] tip = view.project(Vec.add(c, Vec.mul(keep(), reach())));
    if (h == null || tip == null) {
      return;
    }
    g.setLineWidth(2);
    g.strokeLine(h[0], h[1], tip[0], tip[1]);
    double a = Math.atan2(tip[1] - h[1], tip[0] - h[0]);
    g.setFill(violet);
    g.fillPolygon(
        new double[] {
          tip[0] + 9 * Math.cos(a), tip[0] + 6 * Math.cos(a + 2.2), tip[0] + 6 * Math.cos(a - 2.2)
        },
        new double[] {
          tip[1] + 9 * Math.sin(a), tip[1] + 6 * Math.sin(a + 2.2), tip[1] + 6 * Math.sin(a - 2.2)
        },
        3);
    g.setFill(Color.web("#F6F4EF"));
    g.fillRect(h[0] - HANDLE / 2, h[1] - HANDLE / 2, HANDLE, HANDLE);
    g.strokeRect(h[0] - HANDLE / 2, h[1] - HANDLE / 2, HANDLE, HANDLE);
  }
}

package holotome.app.tool;

import holotome.app.model.Insight;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.frame.Frame;
import holotome.core.geometry.Box;
import holotome.core.geometry.Vec;
import holotome.core.log.History;
import holotome.core.part.Workpiece;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.trim.PlaneCut;
import holotome.core.unit.Length;
import java.util.Locale;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.VBox;

/** A plane with handles to drag and tilt, in the view; what lies behind it is cut away. */
public final class PlaneTool extends Tool {
  /** How the plane is placed, in the order of the choice on the Sheet. */
  private enum Across {
    GROUND,
    X,
    Y,
    Z,
    POINTS,
    FACE
  }

  private final PlanePicker picker;
  private final PlaneHandle plane;
  private Across across = Across.GROUND;
  private boolean loaded;
  private boolean flip;
  private boolean both;
  private PlaneCut.Close close = PlaneCut.Close.FLAT;
  private double nudge;
  private TextField place;
  private TextField step;
  private boolean writing;

  public PlaneTool(Session session) {
    super(session);
    picker = new PlanePicker(session, this::write, this::moved);
    plane = picker.plane();
  }

  private void moved() {
    write();
    edited();
  }

  @Override
  public String id() {
    return "plane-cut";
  }

  @Override
  public Stage stage() {
    return Stage.TRIM;
  }

  @Override
  public String hint() {
    return AppWords.of("plane-tool.drag-the-square-along-its");
  }

  private static ChoiceBox<String> choice(String id, int at, String... words) {
    ChoiceBox<String> c = new ChoiceBox<>();
    c.setId(id);
    c.getItems().setAll(words);
    c.getSelectionModel().select(at);
    return c;
  }

  @Override
  public Node form() {
    ChoiceBox<String> axis =
        choice(
            "field-along",
            across.ordinal(),
            AppWords.of("plane-tool.the-ground"),
            "X",
            "Y",
            "Z",
            AppWords.of("common.three-points"),
            AppWords.of("common.a-picked-face"));
    axis.setOnAction(
        e -> {
          across = Across.values()[axis.getSelectionModel().getSelectedIndex()];
          loaded = false;
          place();
          write();
          edited();
        });
    place = field("field-place");
    place.textProperty().addListener((o, was, is) -> typed(is));
    ChoiceBox<String> side =
        choice(
            "field-side",
            both ? 2 : flip ? 1 : 0,
            AppWords.of("plane-tool.the-front"),
            AppWords.of("plane-tool.the-back"),
            AppWords.of("plane-tool.both-parted"));
    side.setOnAction(
        e -> {
          flip = side.getSelectionModel().getSelectedIndex() == 1;
          both = side.getSelectionModel().getSelectedIndex() == 2;
          edited();
        });
    ChoiceBox<String> closing =
        choice(
            "field-close",
            close.ordinal(),
            AppWords.of("common.open"),
            AppWords.of("common.closed-flat"),
            AppWords.of("common.closed-evenly"));
    closing.setOnAction(
        e -> {
          close = PlaneCut.Close.values()[closing.getSelectionModel().getSelectedIndex()];
          edited();
        });
    step = field("field-nudge");
    step.textProperty().addListener((o, was, is) -> nudgeTyped(is));
    place();
    write();
    return new VBox(
        6,
        Fields.row(AppWords.of("plane-tool.across"), axis),
        Fields.row(AppWords.of("plane-tool.at"), place),
        Fields.row(AppWords.of("plane-tool.nudge-by"), step),
        Fields.row(AppWords.of("common.keep"), side),
        Fields.row(AppWords.of("plane-tool.the-cut-is-left"), closing));
  }

  private static TextField field(String id) {
    TextField t = new TextField();
    t.setId(id);
    t.setPrefColumnCount(10);
    return t;
  }

  /** Puts the plane where it begins for the chosen way, unless one was loaded. */
  private void place() {
    picker.setWay(
        across == Across.POINTS
            ? PlanePicker.Way.POINTS
            : across == Across.FACE ? PlanePicker.Way.FACE : PlanePicker.Way.NOTHING);
    Workpiece w = session.current();
    if (w == null || loaded && plane.isPlaced()) {
      return;
    }
    Frame frame = w.frame();
    nudge = nudge > 0 ? nudge : sized() ? 0.001 : 0.0005 * size();
    Insight insight = session.insight();
    switch (across) {
      case GROUND -> {
        if (insight == null || insight.ground() == null) {
          alongAxis(w, 2);
          return;
        }
        double[] n = frame.toWork().direction(insight.ground().normal());
        double margin =
            frame.trueSize()
                ? 0.007
                : 0.002 * w.scan().bounds().diagonal() * frame.toWork().scale();
        plane.place(Vec.add(frame.toWork().apply(insight.ground().point()), Vec.mul(n, margin)), n);
      }
      case X, Y, Z -> alongAxis(w, across.ordinal() - 1);
      case POINTS, FACE -> plane.remove();
    }
  }

  private void alongAxis(Workpiece w, int axis) {
    Box b = w.frame().workBounds(w.scan());
    double[] p = b.centre();
    p[axis] = b.min()[axis] + 0.1 * (b.max()[axis] - b.min()[axis]);
    plane.place(p, Vec.of(axis == 0 ? 1 : 0, axis == 1 ? 1 : 0, axis == 2 ? 1 : 0));
  }

  private boolean sized() {
    return session.current().frame().trueSize();
  }

  private double size() {
    return session.current().frame().workBounds(session.current().scan()).diagonal();
  }

  private double[] centre() {
    return session.current().frame().workBounds(session.current().scan()).centre();
  }

  private String length(double v) {
    return sized()
        ? String.format(Locale.ROOT, "%.2f mm", 1000 * v)
        : String.format(Locale.ROOT, "%.2f", v);
  }

  private void write() {
    if (place == null || session.current() == null) {
      return;
    }
    writing = true;
    place.setText(plane.isPlaced() ? length(plane.offset()) : "");
    place.setDisable(!plane.isPlaced());
    place.getStyleClass().remove("wrong");
    step.setText(length(nudge));
    step.getStyleClass().remove("wrong");
    writing = false;
  }

  private Double parse(TextField from, String text) {
    from.getStyleClass().remove("wrong");
    try {
      return Length.parse(text, sized() ? Length.Unit.MM : Length.Unit.M).metres();
    } catch (Failure f) {
      from.getStyleClass().add("wrong");
      return null;
    }
  }

  private void typed(String text) {
    if (!writing && plane.isPlaced()) {
      Double to = parse(place, text);
      if (to != null) {
        plane.setOffset(to);
        edited();
      }
    }
  }

  private void nudgeTyped(String text) {
    if (!writing) {
      Double to = parse(step, text);
      if (to != null && to > 0) {
        nudge = to;
      }
    }
  }

  private double[] keep() {
    return flip ? Vec.mul(plane.normal(), -1) : plane.normal();
  }

  @Override
  public String missing() {
    return picker.missing();
  }

  @Override
  public Step step() {
    return new PlaneCut(
        plane.point(), keep(), close, both ? PlaneCut.Keep.BOTH : PlaneCut.Keep.FRONT);
  }

  @Override
  public void load(Step of) {
    PlaneCut c = (PlaneCut) of;
    plane.place(c.point(), c.normal());
    flip = false;
    both = c.keep() == PlaneCut.Keep.BOTH;
    close = c.close();
    loaded = true;
  }

  @Override
  public void end(ViewPort view) {
    loaded = false;
    picker.end();
  }

  @Override
  public Draft<?> draft() {
    return picker.draft();
  }

  @Override
  public void drop(ViewPort view) {
    if (picker.drop()) {
      write();
    }
  }

  @Override
  public String verb(History trial) {
    if (both) {
      return AppWords.of("plane-tool.part-along-the-plane");
    }
    if (trial == null) {
      return AppWords.of("plane-tool.cut-along-the-plane");
    }
    int removed = -trial.lines().getLast().effect().change();
    return removed > 0
        ? AppWords.of("common.cut-away-triangles", removed)
        : AppWords.of("plane-tool.cut-along-the-plane");
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    if (session.current() != null) {
      picker.pressed(view, e, plane.isPlaced() ? keep() : null);
    }
  }

  @Override
  public void dragged(ViewPort view, MouseEvent e) {
    picker.dragged(view, e);
  }

  @Override
  public void released(ViewPort view, MouseEvent e) {
    picker.released();
  }

  @Override
  public boolean key(ViewPort view, KeyEvent e) {
    return picker.key(view, e, nudge);
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    if (session.current() != null) {
      picker.draw(view, g, plane.isPlaced() ? keep() : null);
    }
  }
}

package holotome.app.tool;

import holotome.app.model.Insight;
import holotome.app.model.Measurements;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.frame.Frame;
import holotome.core.log.History;
import holotome.core.measure.Measured;
import holotome.core.measure.Measurement;
import holotome.core.measure.Snap;
import holotome.core.part.Workpiece;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import java.io.File;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.Button;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/** Measures between picked places and keeps the figures as a list; changes nothing. */
final class MeasureTool extends Tool {
  private final List<Measurement.Pin> pins = new ArrayList<>();
  private final VBox list = new VBox(4);
  private Measurement.Kind kind = Measurement.Kind.DISTANCE;
  private Snap snap = Snap.SURFACE;
  private double reach;
  private double[] pointer;
  private List<Measured> listed;
  private List<String> listedFailed;
  private Button take;

  MeasureTool(Session session) {
    super(session);
    list.setId("measurements");
  }

  @Override
  public String id() {
    return "measure";
  }

  @Override
  public Stage stage() {
    return Stage.DATUM;
  }

  @Override
  public String hint() {
    return AppWords.of("measure-tool.choose-what-to-measure-and");
  }

  @Override
  public boolean makesSteps() {
    return false;
  }

  private Measurements all() {
    return session.measurements();
  }

  @Override
  public Node form() {
    ChoiceBox<String> what = new ChoiceBox<>();
    what.setId("field-measure");
    for (Measurement.Kind k : Measurement.Kind.values()) {
      what.getItems().add(k.title());
    }
    what.getSelectionModel().select(kind.ordinal());
    ChoiceBox<String> to = new ChoiceBox<>();
    to.setId("field-snap");
    to.getItems()
        .setAll(
            AppWords.of("measure-tool.the-surface"),
            AppWords.of("measure-tool.vertex"),
            AppWords.of("measure-tool.edge"),
            AppWords.of("measure-tool.border"),
            AppWords.of("measure-tool.centre-of-a-hole"),
            AppWords.of("measure-tool.centre-of-a-ball"));
    to.getSelectionModel().select(snap.ordinal());
    to.setOnAction(e -> snap = Snap.values()[to.getSelectionModel().getSelectedIndex()]);
    TextField around = new TextField();
    around.setId("field-reach");
    around.setPrefColumnCount(8);
    startReach();
    around.setText(reach > 0 ? lengthText(reach) : "");
    around.textProperty().addListener((o, was, is) -> reachTyped(around, is));
    HBox reachRow = Fields.row(AppWords.of("measure-tool.around"), around);
    HBox snapRow = Fields.row(AppWords.of("measure-tool.point-on"), to);
    take = new Button(AppWords.of("measure-tool.measure-the-whole-work"));
    take.setId("measure-whole");
    take.getStyleClass().setAll("link");
    take.setOnAction(e -> finish());
    Runnable rows =
        () -> {
          show(reachRow, kind.takesPatches() || snap == Snap.SPHERE_CENTRE);
          show(snapRow, kind.least() > 0 && !(kind.takesPatches() && kind.most() == 1));
          show(take, kind.most() == 0 || kind.most() > kind.least());
          take.setText(
              kind.most() == 0
                  ? AppWords.of("measure-tool.measure-the-whole-work")
                  : AppWords.of("measure-tool.fit-through-the-points"));
        };
    to.addEventHandler(javafx.event.ActionEvent.ACTION, e -> rows.run());
    what.setOnAction(
        e -> {
          kind = Measurement.Kind.values()[what.getSelectionModel().getSelectedIndex()];
          pins.clear();
          rows.run();
          edited();
        });
    rows.run();
    return new VBox(
        6, Fields.row(AppWords.of("measure-tool.measure"), what), snapRow, reachRow, take);
  }

  private static void show(Node n, boolean visible) {
    n.setVisible(visible);
    n.setManaged(visible);
  }

  private void startReach() {
    Workpiece w = session.current();
    if (reach <= 0 && w != null) {
      double size = w.frame().workBounds(w.current()).diagonal();
      double k = Math.pow(10, Math.floor(Math.log10(0.05 * size)));
      reach = Math.rint(0.05 * size / k) * k;
    }
  }

  private String lengthText(double v) {
    return session.current().frame().trueSize()
        ? String.format(Locale.ROOT, "%.4g mm", 1000 * v)
        : String.format(Locale.ROOT, "%.4g", v);
  }

  private void reachTyped(TextField field, String text) {
    field.getStyleClass().remove("wrong");
    try {
      boolean sized = session.current() != null && session.current().frame().trueSize();
      double v = Length.parse(text, sized ? Length.Unit.MM : Length.Unit.M).metres();
      reach = v > 0 ? v : reach;
    } catch (Failure f) {
      field.getStyleClass().add("wrong");
    }
  }

  @Override
  public Node details() {
    Button csv = new Button(AppWords.of("measure-tool.write-the-list-as-csv"));
    csv.setId("measurements-csv");
    csv.getStyleClass().setAll("link");
    csv.setOnAction(e -> write(csv));
    listed = null;
    fillList();
    return new VBox(6, list, csv);
  }

  private void write(Button near) {
    FileChooser c = new FileChooser();
    c.setTitle(AppWords.of("measure-tool.write-the-measurements"));
    c.setInitialFileName("measurements.csv");
    File f = c.showSaveDialog(near.getScene().getWindow());
    if (f != null) {
      all().write(f.toPath());
    }
  }

  private void fillList() {
    if (listed == all().taken() && listedFailed == all().failed()) {
      return;
    }
    listed = all().taken();
    listedFailed = all().failed();
    list.getChildren().clear();
    boolean sized = session.current() != null && session.current().frame().trueSize();
    for (Measured m : listed) {
      list.getChildren().add(card(m, sized));
    }
    for (String f : all().failed()) {
      Label l = new Label(f);
      l.setWrapText(true);
      l.getStyleClass().add("problem");
      list.getChildren().add(l);
    }
    if (listed.isEmpty() && !all().all().isEmpty() && !all().failed().isEmpty()) {
      Button again = new Button(AppWords.of("measure-tool.measure-again"));
      again.setId("measure-again");
      again.getStyleClass().setAll("link");
      again.setOnAction(e -> all().again());
      list.getChildren().add(again);
    }
  }

  private Node card(Measured m, boolean sized) {
    TextField name = new TextField(m.of().name());
    name.getStyleClass().add("quiet-field");
    name.setPrefColumnCount(9);
    name.setOnAction(
        e -> {
          if (!name.getText().equals(m.of().name())) {
            all().rename(m.of(), name.getText());
          }
        });
    name.focusedProperty()
        .addListener(
            (o, was, is) -> {
              if (!is && !name.getText().equals(m.of().name())) {
                all().rename(m.of(), name.getText());
              }
            });
    Label figure = new Label(m.text(sized));
    figure.getStyleClass().add("figure");
    figure.setMinWidth(Region.USE_PREF_SIZE);
    Button off = new Button("×");
    off.getStyleClass().setAll("link");
    off.setAccessibleText(AppWords.of("measure-tool.take-off-the-list"));
    off.setMinWidth(Region.USE_PREF_SIZE);
    off.setOnAction(e -> all().remove(m.of()));
    HBox.setHgrow(name, Priority.ALWAYS);
    HBox top = new HBox(6, name, figure, off);
    top.setAlignment(javafx.geometry.Pos.CENTER_LEFT);
    List<String> more = new ArrayList<>(m.more());
    if (!m.residualText(sized).isEmpty()) {
      more.addFirst(m.residualText(sized));
    }
    Label rest = new Label(String.join(", ", more));
    rest.setWrapText(true);
    rest.setMinHeight(Region.USE_PREF_SIZE);
    rest.getStyleClass().addAll("soft", "small");
    VBox box = new VBox(0, top);
    if (!more.isEmpty()) {
      box.getChildren().add(rest);
    }
    return box;
  }

  @Override
  public String missing() {
    if (session.current() == null || kind.most() == 0) {
      return null;
    }
    int more = kind.least() - pins.size();
    return switch (kind) {
      case FROM_PLANE ->
          pins.isEmpty()
              ? AppWords.of("measure-tool.click-on-the-plane")
              : AppWords.of("measure-tool.click-the-point");
      case ANGLE ->
          pins.isEmpty()
              ? AppWords.of("measure-tool.click-on-one-plane")
              : AppWords.of("measure-tool.click-on-the-other");
      case SPHERE, CYLINDER, PLANE -> AppWords.of("measure-tool.click-on-it");
      case CIRCLE ->
          more > 0
              ? (pins.isEmpty()
                  ? AppWords.of("measure-tool.click-three-points-or-more")
                  : AppWords.count("measure-tool.click-more", more))
              : AppWords.of("measure-tool.click-more-points-or-fit");
      default ->
          pins.isEmpty()
              ? AppWords.of("measure-tool.click-one-end")
              : AppWords.of("measure-tool.click-the-other-end");
    };
  }

  @Override
  public Step step() {
    throw Failure.usage(AppWords.of("measure-tool.measuring-changes-nothing"));
  }

  @Override
  public void load(Step step) {}

  @Override
  public String verb(History trial) {
    return AppWords.of("measure-tool.measure");
  }

  @Override
  public void moved(ViewPort view, MouseEvent e) {
    pointer = new double[] {e.getX(), e.getY()};
    view.repaint();
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    if (kind.most() == 0) {
      return;
    }
    view.pickTriangle(e.getX(), e.getY(), (t, p) -> picked(view, t, p));
  }

  private void picked(ViewPort view, int triangle, double[] p) {
    if (p == null) {
      return;
    }
    Workpiece w = session.current();
    Frame f = w.frame();
    boolean patch =
        kind.takesPatches() && !(kind == Measurement.Kind.FROM_PLANE && !pins.isEmpty());
    double base = f.toBaseLength(reach);
    Insight insight = session.insight();
    float[][] borders = insight == null ? new float[0][] : insight.holes();
    Snap how = patch ? Snap.SURFACE : snap;
    double[] at = f.toBase(p);
    Measurement.Kind asked = kind;
    session
        .jobs()
        .fetch(
            () -> {
              try {
                return how.of(view.mesh(), triangle, at, borders, base, Work.unwatched());
              } catch (Failure x) {
                // No ball there: the point itself is the best there is.
                return at;
              }
            },
            q -> {
              if (kind != asked || session.current() != w) {
                // Another kind was chosen meanwhile: the click was not for it.
                return;
              }
              double fileReach = patch ? base * f.toFile().scale() : 0;
              pins.add(new Measurement.Pin(f.toFile().apply(q), fileReach));
              if (pins.size() == kind.most()
                  || pins.size() == kind.least() && kind.most() == kind.least()) {
                finish();
              }
              view.repaint();
              edited();
            });
  }

  private void finish() {
    if (session.current() == null || pins.size() < kind.least()) {
      return;
    }
    all().add(new Measurement(all().freshName(kind), kind, List.copyOf(pins)));
    pins.clear();
    edited();
  }

  @Override
  public void drop(ViewPort view) {
    pins.clear();
    view.repaint();
  }

  @Override
  public void end(ViewPort view) {
    pins.clear();
    pointer = null;
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    Workpiece w = session.current();
    if (w == null) {
      return;
    }
    fillList();
    Frame f = w.frame();
    for (Measurement.Pin pin : pins) {
      double[] base = f.toFile().inverse().apply(pin.at());
      Marks.ring(g, view.project(f.toWork().apply(base)));
    }
    if (pointer != null && kind.most() > 0 && !kind.takesPatches()) {
      Loupe.draw(view, g, pointer);
    }
  }
}

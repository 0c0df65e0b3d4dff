package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.datum.WriteSection;
import holotome.core.log.History;
import holotome.core.part.Workpiece;
import holotome.core.section.Curve;
import holotome.core.section.CurveFit;
import holotome.core.section.DrawingFile;
import holotome.core.section.Section;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import holotome.core.words.Language;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** Cuts sections by a plane that is dragged, and shows them at once in the view and flat. */
final class SectionTool extends Tool {
  private enum Across {
    Z,
    Y,
    X,
    POINTS,
    FACE
  }

  private final PlanePicker picker;
  private final PlaneHandle plane;
  private Across across = Across.Z;
  private String count = "1";
  private String gap = "";
  private String tolerance = "0 mm";
  private String name = "section";
  private final boolean[] formats = {true, true, false};
  private TextField place;
  private boolean outline;
  private boolean writing;
  private boolean loaded;
  private List<Section> cut = List.of();

  /** What the sections were last cut for; a cut in the making. */
  private Object cutFor;

  private boolean cutting;
  private final FittedPieces pieces = new FittedPieces();

  SectionTool(Session session) {
    super(session);
    picker = new PlanePicker(session, this::moving, this::moved);
    plane = picker.plane();
  }

  private void moving() {
    write();
    cutAnew();
  }

  private void moved() {
    write();
    edited();
  }

  @Override
  public String id() {
    return "sections";
  }

  @Override
  public Stage stage() {
    return Stage.DATUM;
  }

  @Override
  public String hint() {
    return AppWords.of("section-tool.cuts-the-mesh-into-curves");
  }

  @Override
  public boolean isQuick() {
    return false;
  }

  @Override
  public Node form() {
    ChoiceBox<String> axis = new ChoiceBox<>();
    axis.setId("field-across");
    axis.getItems()
        .setAll(
            AppWords.of("section-tool.z-level"),
            AppWords.of("section-tool.y-from-the-front"),
            AppWords.of("section-tool.x-from-the-side"),
            AppWords.of("common.three-points"),
            AppWords.of("common.a-picked-face"));
    axis.getSelectionModel().select(across.ordinal());
    axis.setOnAction(
        e -> {
          across = Across.values()[axis.getSelectionModel().getSelectedIndex()];
          loaded = false;
          placePlane();
          write();
          edited();
        });
    place = Fields.plain("field-place", "", "");
    place.textProperty().addListener((o, was, is) -> typed(is));
    ChoiceBox<String> draw = new ChoiceBox<>();
    draw.setId("field-draw");
    draw.getItems()
        .setAll(AppWords.of("section-tool.what-is-cut"), AppWords.of("section-tool.the-outline"));
    draw.getSelectionModel().select(outline ? 1 : 0);
    draw.setOnAction(
        e -> {
          outline = draw.getSelectionModel().getSelectedIndex() == 1;
          edited();
        });
    TextField planes = Fields.plain("field-count", count, "1");
    planes.textProperty().addListener((o, was, is) -> count = told(is));
    TextField step = Fields.plain("field-step", gap, "10 mm");
    step.textProperty().addListener((o, was, is) -> gap = told(is));
    planes.setPrefColumnCount(3);
    step.setPrefColumnCount(6);
    HBox stack =
        new HBox(
            8, planes, new javafx.scene.control.Label(AppWords.of("section-tool.every")), step);
    stack.setAlignment(javafx.geometry.Pos.CENTER_RIGHT);
    TextField fit = Fields.plain("field-tolerance", tolerance, "0 mm");
    fit.textProperty().addListener((o, was, is) -> tolerance = told(is));
    TextField file = Fields.plain("field-name", name, "section");
    file.textProperty().addListener((o, was, is) -> name = told(is));
    HBox kinds = new HBox(10);
    for (DrawingFile.Format f : DrawingFile.Format.values()) {
      CheckBox c = new CheckBox(f.name());
      c.setId("field-format-" + f.name().toLowerCase(Locale.ROOT));
      c.setSelected(formats[f.ordinal()]);
      c.setOnAction(
          e -> {
            formats[f.ordinal()] = c.isSelected();
            edited();
          });
      kinds.getChildren().add(c);
    }
    placePlane();
    write();
    return new VBox(
        6,
        Fields.row(AppWords.of("section-tool.draw"), draw),
        Fields.row(AppWords.of("section-tool.across"), axis),
        Fields.row(AppWords.of("section-tool.at"), place),
        Fields.row(AppWords.of("section-tool.planes"), stack),
        Fields.row(AppWords.of("section-tool.fit"), fit),
        Fields.row(AppWords.of("section-tool.files"), kinds),
        Fields.row(AppWords.of("section-tool.name"), file));
  }

  /** Passes a typed text on, once it is taken over. */
  private String told(String text) {
    javafx.application.Platform.runLater(this::edited);
    return text;
  }

  private boolean sized() {
    return session.current().frame().trueSize();
  }

  private void placePlane() {
    picker.setWay(
        across == Across.POINTS
            ? PlanePicker.Way.POINTS
            : across == Across.FACE ? PlanePicker.Way.FACE : PlanePicker.Way.NOTHING);
    if (session.current() == null || loaded && plane.isPlaced()) {
      return;
    }
    int axis = 2 - across.ordinal();
    if (axis < 0) {
      plane.remove();
      return;
    }
    double[] n = new double[3];
    n[axis] = axis == 1 ? -1 : 1;
    plane.place(picker.box().centre(), n);
  }

  private void write() {
    if (place == null || session.current() == null) {
      return;
    }
    writing = true;
    place.setDisable(!plane.isPlaced());
    place.setText(
        !plane.isPlaced()
            ? ""
            : sized()
                ? String.format(Locale.ROOT, "%.2f mm", 1000 * plane.offset())
                : String.format(Locale.ROOT, "%.4g", plane.offset()));
    writing = false;
  }

  private void typed(String text) {
    if (writing || !plane.isPlaced()) {
      return;
    }
    place.getStyleClass().remove("wrong");
    try {
      plane.setOffset(Length.parse(text, sized() ? Length.Unit.MM : Length.Unit.M).metres());
      edited();
    } catch (Failure f) {
      place.getStyleClass().add("wrong");
    }
  }

  @Override
  public String missing() {
    return session.current() == null ? null : picker.missing();
  }

  @Override
  public Step step() {
    int n;
    try {
      n = Integer.parseInt(count.strip());
    } catch (NumberFormatException e) {
      throw Failure.usage(AppWords.of("section-tool.is-not-a-whole-number", count));
    }
    if (n < 1 || n > 10_000) {
      throw Failure.usage(AppWords.of("section-tool.the-planes-must-be-1"));
    }
    Length.Unit bare = sized() ? Length.Unit.MM : Length.Unit.M;
    List<DrawingFile.Format> kinds = new ArrayList<>();
    for (DrawingFile.Format f : DrawingFile.Format.values()) {
      if (formats[f.ordinal()]) {
        kinds.add(f);
      }
    }
    if (kinds.isEmpty()) {
      throw Failure.usage(AppWords.of("section-tool.choose-at-least-one-kind"));
    }
    Length step = n == 1 && gap.isBlank() ? null : Length.parse(gap, bare);
    if (step != null && !(step.metres() > 0)) {
      throw Failure.usage(AppWords.of("section-tool.the-step-must-be-above"));
    }
    return new WriteSection(
        plane.point(),
        plane.normal(),
        outline ? 1 : n,
        outline ? null : step,
        Length.parse(tolerance, bare),
        kinds,
        name,
        outline ? WriteSection.Draw.OUTLINE : WriteSection.Draw.CUT);
  }

  @Override
  public void load(Step of) {
    WriteSection s = (WriteSection) of;
    plane.place(s.point(), s.normal());
    loaded = true;
    count = String.valueOf(s.count());
    gap = s.step() == null ? "" : s.step().toString();
    tolerance = s.tolerance().toString();
    name = s.name();
    outline = s.draw() == WriteSection.Draw.OUTLINE;
    for (DrawingFile.Format f : DrawingFile.Format.values()) {
      formats[f.ordinal()] = s.format().contains(f);
    }
  }

  @Override
  public List<Row> estimate(Workpiece in) {
    cutAnew();
    if (cut.isEmpty()) {
      return List.of();
    }
    double length = cut.stream().mapToDouble(Section::length).sum();
    double area = cut.stream().mapToDouble(Section::area).sum();
    long open = cut.stream().mapToLong(Section::openCurves).sum();
    long all = cut.stream().mapToLong(s -> s.curves().size()).sum();
    List<Row> rows = new ArrayList<>();
    rows.add(
        new Row(
            "curves",
            "",
            open == 0 ? Language.format("%,d", all) : AppWords.of("section-tool.open", all, open)));
    rows.add(new Row("length", "", Length.format(length, sized())));
    rows.add(new Row("area", "", Length.formatArea(area, sized())));
    String told = pieces.figure();
    if (told != null) {
      rows.add(new Row("told-in", "", told));
    }
    if (cut.size() > 1) {
      double step = cut.get(1).plane().offset() - cut.get(0).plane().offset();
      rows.add(new Row("volume", "", Length.formatVolume(area * step, sized())));
    }
    return rows;
  }

  /** Sections, and what their curves were told in; null without a tolerance. */
  private record Answer(List<Section> sections, List<CurveFit> fits) {}

  /** Cuts in the background as the plane now stands, one cut at a time. */
  private void cutAnew() {
    if (session.current() == null || missing() != null) {
      cut = List.of();
      return;
    }
    WriteSection step;
    try {
      step = (WriteSection) step();
    } catch (Failure f) {
      return;
    }
    Workpiece w = session.current();
    Object now =
        List.of(
            System.identityHashCode(w),
            step.count(),
            step.draw(),
            step.step() == null ? 0 : step.step().metres(),
            step.tolerance().metres(),
            List.of(plane.point()[0], plane.point()[1], plane.point()[2]),
            List.of(plane.normal()[0], plane.normal()[1], plane.normal()[2]));
    if (cutting || now.equals(cutFor)) {
      return;
    }
    cutting = true;
    session
        .jobs()
        .look(
            this,
            step.count() == 1
                ? AppWords.of("section-tool.cutting-the-section")
                : AppWords.of("section-tool.cutting-sections"),
            work -> {
              List<Section> sections = step.cut(w, Run.of(work));
              return new Answer(sections, fits(sections, step.tolerance().metres(), work));
            },
            answer -> {
              cutting = false;
              cutFor = now;
              cut = answer.sections;
              pieces.show(answer.fits, sized());
              session.changed();
            },
            failure -> {
              cutting = false;
              cutFor = now;
              cut = List.of();
              pieces.show(null, sized());
              if (failure.kind() != Failure.Kind.CANCELLED) {
                session.fail(failure);
              }
              session.changed();
            });
  }

  private static List<CurveFit> fits(List<Section> sections, double tolerance, Work work) {
    if (!(tolerance > 0)) {
      return null;
    }
    List<CurveFit> out = new ArrayList<>();
    for (Section s : sections) {
      for (Curve c : s.curves()) {
        work.check();
        out.add(CurveFit.of(c, tolerance));
      }
    }
    return out;
  }

  @Override
  public Node details() {
    return pieces;
  }

  @Override
  public void end(ViewPort view) {
    loaded = false;
    picker.end();
    session.jobs().stopLooking(this);
    cutting = false;
    cut = List.of();
    cutFor = null;
    pieces.show(null, false);
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
    return session.current() == null
        ? AppWords.of("section-tool.write-the-section")
        : cut.size() > 1
            ? AppWords.of("section-tool.write-sections", cut.size())
            : AppWords.of("section-tool.write-the-section");
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    picker.pressed(view, e, plane.normal());
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
    return session.current() != null
        && picker.key(view, e, sized() ? 0.001 : 0.001 * picker.size());
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    if (session.current() == null) {
      return;
    }
    for (Section s : cut) {
      for (Curve c : s.curves()) {
        int n = c.size() + (c.closed() ? 1 : 0);
        double[] xyz = new double[3 * n];
        for (int i = 0; i < n; i++) {
          int k = i % c.size();
          System.arraycopy(s.plane().inSpace(c.xy()[2 * k], c.xy()[2 * k + 1]), 0, xyz, 3 * i, 3);
        }
        Marks.line(view, g, xyz, Marks.VERDIGRIS);
      }
    }
    picker.draw(view, g, plane.isPlaced() ? plane.normal() : null);
    if (plane.isPlaced() && cutFor != null) {
      FlatDrawing.draw(g, view.height(), cut, sized());
    }
  }
}

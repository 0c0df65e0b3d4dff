package holotome.app.tool;

import holotome.app.model.Insight;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.geometry.Box;
import holotome.core.geometry.Vec;
import holotome.core.log.History;
import holotome.core.part.Workpiece;
import holotome.core.select.Region;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.trim.CutBox;
import holotome.core.trim.CutFence;
import holotome.core.trim.PlaneCut;
import holotome.core.unit.Length;
import java.util.Locale;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.TextField;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.VBox;

/** A box in the view, dragged by its faces and corners, turned, or typed; the mesh is cut to it. */
public final class CropTool extends Tool {
  private final BoxHandle box = new BoxHandle();
  private CutFence.Keep keep = CutFence.Keep.INSIDE;
  private PlaneCut.Close close = PlaneCut.Close.OPEN;
  private TextField centre;
  private TextField size;
  private TextField turn;
  private boolean writing;
  private boolean dragging;

  public CropTool(Session session) {
    super(session);
  }

  @Override
  public String id() {
    return "box-crop";
  }

  @Override
  public Stage stage() {
    return Stage.TRIM;
  }

  @Override
  public String hint() {
    return AppWords.of("crop-tool.drag-the-squares-on-the");
  }

  @Override
  public Node form() {
    ChoiceBox<String> kept = new ChoiceBox<>();
    kept.setId("field-keep");
    kept.getItems()
        .setAll(AppWords.of("common.what-is-inside"), AppWords.of("common.what-is-outside"));
    kept.getSelectionModel().select(keep == CutFence.Keep.INSIDE ? 0 : 1);
    ChoiceBox<String> closing = new ChoiceBox<>();
    closing.setId("field-close");
    closing
        .getItems()
        .setAll(
            AppWords.of("common.open"),
            AppWords.of("common.closed-flat"),
            AppWords.of("common.closed-evenly"));
    closing.getSelectionModel().select(close.ordinal());
    Node closingRow = Fields.row(AppWords.of("crop-tool.the-cuts-are-left"), closing);
    closingRow.setVisible(keep == CutFence.Keep.INSIDE);
    kept.setOnAction(
        e -> {
          boolean inside = kept.getSelectionModel().getSelectedIndex() == 0;
          keep = inside ? CutFence.Keep.INSIDE : CutFence.Keep.OUTSIDE;
          closingRow.setVisible(inside);
          edited();
        });
    closing.setOnAction(
        e -> {
          close = PlaneCut.Close.values()[closing.getSelectionModel().getSelectedIndex()];
          edited();
        });
    centre = field("field-centre");
    size = field("field-size");
    turn = field("field-turn");
    begin();
    write();
    VBox fields =
        new VBox(
            6,
            Fields.row(AppWords.of("crop-tool.centre"), centre),
            Fields.row(AppWords.of("common.size"), size),
            Fields.row(AppWords.of("crop-tool.turned"), turn),
            Fields.row(AppWords.of("common.keep"), kept),
            closingRow);
    return fields;
  }

  private TextField field(String id) {
    TextField t = new TextField();
    t.setId(id);
    t.setPrefColumnCount(24);
    t.textProperty().addListener((o, was, is) -> typed());
    return t;
  }

  /** Around the work, along the ground if there is one, unless a box was loaded. */
  private void begin() {
    Workpiece w = session.current();
    if (w == null || box.isPlaced()) {
      return;
    }
    Box b = w.frame().workBounds(w.scan());
    Insight insight = session.insight();
    double[] up =
        insight == null || insight.ground() == null
            ? Vec.of(0, 0, 1)
            : w.frame().toWork().direction(insight.ground().normal());
    double least = 0.01 * b.diagonal();
    double[] s = {
      Math.max(0.8 * b.width(), least),
      Math.max(0.8 * b.depth(), least),
      Math.max(0.8 * b.height(), least)
    };
    box.place(new Region(b.centre(), s, BoxHandle.anglesTo(up)));
  }

  private boolean sized() {
    return session.current().frame().trueSize();
  }

  private void write() {
    if (centre == null || !box.isPlaced()) {
      return;
    }
    writing = true;
    Region r = box.region();
    centre.setText(lengths(r.centre()));
    size.setText(lengths(r.size()));
    turn.setText(
        String.format(Locale.ROOT, "%.1f, %.1f, %.1f", r.turn()[0], r.turn()[1], r.turn()[2]));
    for (TextField t : new TextField[] {centre, size, turn}) {
      t.getStyleClass().remove("wrong");
    }
    writing = false;
  }

  private String lengths(double[] v) {
    double f = sized() ? 1000 : 1;
    // A tenth of a thousandth of the box, whatever its size: what is written must not move it.
    double largest = f * Math.max(1e-12, Vec.length(box.region().size()));
    int decimals = Math.clamp(4 - (int) Math.floor(Math.log10(largest)), 0, 12);
    String one = "%." + decimals + "f";
    String s =
        String.format(Locale.ROOT, one + ", " + one + ", " + one, f * v[0], f * v[1], f * v[2]);
    return sized() ? s + " mm" : s;
  }

  private void typed() {
    if (writing || !box.isPlaced()) {
      return;
    }
    double[] c = read(centre, sized());
    double[] s = read(size, sized());
    double[] t = read(turn, false);
    if (c != null && s != null && t != null) {
      try {
        box.place(new Region(c, s, t));
        edited();
      } catch (Failure f) {
        size.getStyleClass().add("wrong");
      }
    }
  }

  /** Three numbers parted by commas or blanks, each perhaps with a unit. */
  private static double[] read(TextField from, boolean lengths) {
    from.getStyleClass().remove("wrong");
    String text = from.getText().strip();
    boolean mm = lengths && text.endsWith("mm");
    double[] p = Points.parse(mm ? text.substring(0, text.length() - 2) : text);
    if (p == null) {
      from.getStyleClass().add("wrong");
      return null;
    }
    return lengths ? Vec.mul(p, Length.Unit.MM.metres()) : p;
  }

  @Override
  public String missing() {
    return box.isPlaced() ? null : AppWords.of("crop-tool.open-a-scan-to-place");
  }

  @Override
  public Step step() {
    return new CutBox(box.region(), keep, close);
  }

  @Override
  public void load(Step step) {
    CutBox c = (CutBox) step;
    box.place(c.box());
    keep = c.keep();
    close = c.close();
  }

  @Override
  public void end(ViewPort view) {
    box.remove();
  }

  @Override
  public void drop(ViewPort view) {
    box.remove();
    begin();
    write();
  }

  @Override
  public String verb(History trial) {
    if (trial == null) {
      return AppWords.of("crop-tool.crop-to-the-box");
    }
    int n = -trial.lines().getLast().effect().change();
    return n > 0
        ? AppWords.of("common.cut-away-triangles", n)
        : AppWords.of("crop-tool.crop-to-the-box");
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    dragging = box.isPlaced() && box.pressed(view, e.getX(), e.getY());
  }

  @Override
  public void dragged(ViewPort view, MouseEvent e) {
    if (dragging) {
      box.dragged(view, e.getX(), e.getY());
      write();
      view.repaint();
    }
  }

  @Override
  public void released(ViewPort view, MouseEvent e) {
    if (dragging) {
      dragging = false;
      edited();
    }
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    if (box.isPlaced()) {
      box.draw(view, g);
    }
  }
}

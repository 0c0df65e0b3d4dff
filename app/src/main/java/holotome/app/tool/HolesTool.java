package holotome.app.tool;

import holotome.app.model.Insight;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.log.History;
import holotome.core.mend.FillHoles;
import holotome.core.unit.Length;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import javafx.geometry.HPos;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/**
 * Fills holes: all of them, or those ticked in their list, which says how long each is and which
 * way it will be closed.
 */
final class HolesTool extends StepTool {
  private static final int LISTED = 6;

  private final VBox rows = new VBox(4);

  /** Which of the listed holes are ticked, while not all are. */
  private final TreeSet<Integer> ticked = new TreeSet<>();

  private Insight listed;

  HolesTool(Session session) {
    super(
        session,
        FillHoles.class,
        Stage.MEND,
        true,
        Map.of("how", "by-rim"),
        (s, t) -> filling(t),
        w -> List.of());
  }

  private static String filling(History trial) {
    int n = trial == null ? 0 : trial.lines().getLast().effect().amount();
    return n > 0 ? AppWords.count("tools.fill-holes", n) : AppWords.of("common.fill-the-holes");
  }

  @Override
  public Node form() {
    Node form = super.form();
    hide("at");
    list();
    return form;
  }

  @Override
  public Node details() {
    return rows;
  }

  @Override
  public void measured() {
    if (session.insight() != listed) {
      ticked.clear();
      list();
    }
  }

  @Override
  protected void changed() {
    list();
  }

  private void list() {
    rows.getChildren().clear();
    listed = session.insight();
    if (listed == null || listed.holes().length < 2) {
      return;
    }
    GridPane grid = new GridPane();
    grid.setId("holes-list");
    grid.setHgap(12);
    grid.setVgap(3);
    ColumnConstraints name = new ColumnConstraints();
    name.setHgrow(Priority.ALWAYS);
    ColumnConstraints right = new ColumnConstraints();
    right.setHalignment(HPos.RIGHT);
    grid.getColumnConstraints().addAll(name, right);
    int n = Math.min(LISTED, listed.holes().length);
    for (int i = 0; i < n; i++) {
      row(grid, i);
    }
    rows.getChildren().add(grid);
    if (listed.holes().length > n) {
      Label more = new Label(AppWords.of("holes-tool.more", listed.holes().length - n));
      more.getStyleClass().addAll("soft", "small");
      more.setWrapText(true);
      rows.getChildren().add(more);
    }
  }

  private void row(GridPane grid, int i) {
    float[] rim = listed.holes()[i];
    Frame frame = session.current().frame();
    double length = length(rim);
    CheckBox box =
        new CheckBox(
            AppWords.of(
                "holes-tool.around",
                Length.format(length * frame.toWork().scale(), frame.trueSize())));
    box.setId("hole-" + (i + 1));
    box.setSelected(ticked.contains(i));
    box.setOnAction(
        e -> {
          if (box.isSelected()) {
            ticked.add(i);
          } else {
            ticked.remove(i);
          }
          choose();
        });
    Label way = new Label(AppWords.of("holes-tool." + way(rim, length)));
    way.getStyleClass().addAll("soft", "small");
    grid.add(box, 0, i);
    grid.add(way, 1, i);
  }

  /** How a hole will be closed as the choice stands. */
  private String way(float[] rim, double length) {
    Object how = values().get("how");
    if ("bridge".equals(how)) {
      return "bridge";
    }
    boolean flat = "flat".equals(how) || "by-rim".equals(how) && FillHoles.isFlat(rim, length);
    return flat ? "flat" : "smooth";
  }

  private static double length(float[] rim) {
    double sum = 0;
    int n = rim.length / 3;
    for (int i = 0; i < n; i++) {
      sum += Vec.distance(Vec.at(rim, i), Vec.at(rim, (i + 1) % n));
    }
    return sum;
  }

  /** Puts a point of each ticked rim into the step. */
  private void choose() {
    List<String> points = new ArrayList<>();
    for (int i : ticked) {
      points.add(Points.format(place(i)));
    }
    fill("at", String.join(" ", points));
  }

  private double[] place(int hole) {
    float[] rim = listed.holes()[hole];
    return session.current().frame().toWork().apply(rim[0], rim[1], rim[2]);
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    if (listed != null && listed == session.insight()) {
      for (int i : ticked) {
        Marks.ring(g, view.project(place(i)));
      }
    }
  }

  @Override
  public void end(ViewPort view) {
    ticked.clear();
    set("at", null);
  }
}

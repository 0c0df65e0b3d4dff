package holotome.app.tool;

import holotome.app.model.Insight;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.log.History;
import holotome.core.spatial.PlaneFinder;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.trim.CutGround;
import holotome.core.unit.Length;
import holotome.core.words.Language;
import java.util.BitSet;
import java.util.function.Supplier;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** Cuts the ground away: the flat parts found, to choose from; the chosen one is marked. */
final class GroundTool extends MarkingTool {
  private final VBox rows = new VBox();

  GroundTool(Session session) {
    super(session, CutGround.class, Stage.TRIM, GroundTool::verb);
  }

  private static String verb(Step step, History trial) {
    if (trial == null) {
      return AppWords.of("ground-tool.cut-the-ground-away");
    }
    int n = -trial.lines().getLast().effect().change();
    return n > 0
        ? AppWords.of("common.cut-away-triangles", n)
        : AppWords.of("ground-tool.cut-the-ground-away");
  }

  @Override
  public Node form() {
    Node fields = super.form();
    hide("candidate");
    list();
    return new VBox(10, rows, fields);
  }

  private int chosen() {
    try {
      return ((CutGround) step()).candidate();
    } catch (Failure f) {
      // A field that is half typed does not change which part is the ground.
      return 1;
    }
  }

  @Override
  protected Supplier<BitSet> marks() {
    Insight insight = session.insight();
    if (insight.flats().size() < chosen()) {
      return null;
    }
    PlaneFinder.Flat flat = insight.flats().get(chosen() - 1);
    return () -> insight.near(flat);
  }

  @Override
  protected void list() {
    rows.getChildren().clear();
    Insight insight = session.insight();
    if (insight == null) {
      return;
    }
    var frame = session.current().frame();
    int n = 0;
    for (PlaneFinder.Flat f : insight.flats()) {
      n++;
      double tilt =
          Math.toDegrees(Math.acos(Math.clamp(frame.toWork().direction(f.normal())[2], -1.0, 1.0)));
      Label name =
          new Label(
              n == 1
                  ? AppWords.of("ground-tool.largest-flat-part")
                  : AppWords.of("ground-tool.flat-part", n));
      Label share = new Label(Language.format("%.1f %%", 100 * f.share()));
      share.getStyleClass().add("figure");
      Region gap = new Region();
      HBox.setHgrow(gap, Priority.ALWAYS);
      Label more =
          new Label(
              AppWords.of(
                  "ground-tool.tilted-flat-within",
                  tilt,
                  Length.format(f.rms() * frame.toWork().scale(), frame.trueSize())));
      more.getStyleClass().addAll("soft", "small");
      VBox both = new VBox(new HBox(8, name, gap, share), more);
      Button b = new Button();
      b.setGraphic(both);
      both.prefWidthProperty().bind(b.widthProperty().subtract(20));
      b.setAccessibleText(name.getText() + ", " + share.getText() + ", " + more.getText());
      b.setId("ground-" + n);
      b.setMaxWidth(Double.MAX_VALUE);
      b.getStyleClass().setAll("choice");
      if (n == chosen()) {
        b.getStyleClass().add("chosen");
      }
      int number = n;
      b.setOnAction(
          e -> {
            fill("candidate", String.valueOf(number));
            list();
          });
      rows.getChildren().add(b);
    }
  }
}

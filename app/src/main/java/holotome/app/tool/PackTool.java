package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.part.Workpiece;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import holotome.core.unwrap.PackCharts;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.layout.VBox;

/**
 * Packs the charts anew. Of those that are chosen it may be asked that they stay, or that they keep
 * their size or their places beside one another.
 */
final class PackTool extends StepTool {
  /** The step's fields, in the order of what is asked. */
  private static final List<String> FIELDS = List.of("stay", "sized", "together");

  private final StepKind kind = StepKind.of(PackCharts.class);
  private final List<CheckBox> asks = new ArrayList<>();
  private final List<ChosenPart> chosen = new ArrayList<>();
  private final Label where = new Label();
  private final Node fits;

  /**
   * @param fits shown below the buttons
   */
  PackTool(Session session, Function<Workpiece, List<Row>> rows, Node fits) {
    super(
        session,
        PackCharts.class,
        Stage.UNWRAP,
        false,
        Map.of(),
        (s, t) -> AppWords.of("tools.pack-the-charts"),
        rows);
    this.fits = fits;
    following("size", () -> PackedSize.of(session.history()));
    for (String field : FIELDS) {
      CheckBox ask = new CheckBox(AppWords.of("pack-tool." + field));
      ask.setId("pack-" + field);
      ask.setOnAction(e -> edited());
      asks.add(ask);
      chosen.add(new ChosenPart(session, kind, field));
    }
    where.setId("pack-where");
    where.setWrapText(true);
    where.getStyleClass().addAll("soft", "small");
  }

  @Override
  public Node form() {
    Node form = super.form();
    FIELDS.forEach(this::hide);
    VBox box = new VBox(8, form);
    box.getChildren().addAll(asks);
    box.getChildren().add(where);
    return box;
  }

  @Override
  public Node details() {
    return fits;
  }

  @Override
  public Step step() {
    Map<String, Object> v = new LinkedHashMap<>(values());
    FIELDS.forEach(v::remove);
    boolean isAny = false;
    boolean isStored = false;
    double[] now = chosen.getFirst().now();
    // What stays where it is keeps its size and place anyway.
    boolean stays = asks.getFirst().isSelected();
    for (int i = 0; i < FIELDS.size(); i++) {
      asks.get(i).setDisable(stays && i > 0);
      if (asks.get(i).isSelected() && (i == 0 || !stays)) {
        chosen.get(i).put(v, now);
        isAny = true;
        isStored |= chosen.get(i).isStored();
      }
    }
    where.setText(
        now.length > 0
            ? AppWords.count("pack-tool.chosen", now.length / 3)
            : AppWords.of(isStored ? "space-tool.as-stored" : "pack-tool.none"));
    where.setVisible(isAny);
    where.setManaged(isAny);
    return kind.create(v);
  }

  @Override
  public void load(Step step) {
    super.load(step);
    for (int i = 0; i < FIELDS.size(); i++) {
      chosen.get(i).load(step);
      asks.get(i).setSelected(chosen.get(i).isStored());
    }
  }

  @Override
  public void end(ViewPort view) {
    chosen.forEach(ChosenPart::clear);
  }
}

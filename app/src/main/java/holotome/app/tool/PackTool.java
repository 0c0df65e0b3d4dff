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
import javafx.scene.layout.GridPane;
import javafx.scene.layout.VBox;

/**
 * Packs the charts anew. Of those that are chosen it may be asked that they stay, that they keep
 * their size or their places beside one another, or that they get a square to themselves.
 */
final class PackTool extends StepTool {
  /** The step's fields, in the order of what is asked. */
  private static final List<String> FIELDS = List.of("stay", "sized", "together", "alone");

  private static final int ALONE = FIELDS.indexOf("alone");

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
    Label title = new Label(AppWords.of("pack-tool.chosen-charts"));
    title.getStyleClass().add("soft");
    GridPane grid = new GridPane(12, 6);
    for (int i = 0; i < asks.size(); i++) {
      grid.add(asks.get(i), i % 2, i / 2);
    }
    showWhatApplies();
    return new VBox(6, form, title, grid, where);
  }

  @Override
  protected void changed() {
    showWhatApplies();
  }

  /** Asks how charts are shared out only where there are several squares. */
  private void showWhatApplies() {
    boolean isDense = values().get("density") != null;
    boolean isCounted = isDense && "squares".equals(values().get("follows"));
    boolean isSeveral = isCounted || !"1".equals(String.valueOf(values().get("squares")));
    show("follows", isDense);
    show("squares", !isCounted);
    show("by", isSeveral);
    asks.get(ALONE).setVisible(isSeveral);
  }

  private void show(String field, boolean isWanted) {
    if (isWanted) {
      reveal(field);
    } else {
      hide(field);
    }
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
      boolean isOpen = i == ALONE ? asks.get(i).isVisible() : i == 0 || !stays;
      asks.get(i).setDisable(!isOpen && i != ALONE);
      if (asks.get(i).isSelected() && isOpen && !(stays && i == ALONE)) {
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

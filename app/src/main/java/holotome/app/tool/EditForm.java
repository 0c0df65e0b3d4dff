package holotome.app.tool;

import holotome.app.model.HandEditing;
import holotome.app.words.AppWords;
import holotome.core.mend.Edit;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.VBox;

/** The Sheet of {@link EditTool}: what a click takes, what can be done to it, and what was done. */
final class EditForm {
  private static final Map<Edit.How, KeyCode> KEYS =
      Map.of(
          Edit.How.DELETE, KeyCode.DELETE,
          Edit.How.TURN, KeyCode.U,
          Edit.How.COLLAPSE, KeyCode.J,
          Edit.How.SPLIT, KeyCode.D,
          Edit.How.ADD, KeyCode.A,
          Edit.How.STRIP, KeyCode.N,
          Edit.How.SNAP, KeyCode.H);

  private static final KeyCode RIM = KeyCode.R;

  private final EditTool tool;
  private final HandEditing hand;
  private final ChoiceBox<String> takes = new ChoiceBox<>();
  private final Along along = new Along("edit-along");
  private final Map<Edit.How, Button> buttons = new EnumMap<>(Edit.How.class);
  private final Button rim;
  private final Label made = new Label();
  private final ListView<String> list = new ListView<>();
  private final Button out;
  private final VBox box = new VBox(6);

  EditForm(EditTool tool, HandEditing hand) {
    this.tool = tool;
    this.hand = hand;
    takes
        .getItems()
        .addAll(
            AppWords.of("edit-form.nearest"),
            AppWords.of("edit-form.points"),
            AppWords.of("edit-form.edges"),
            AppWords.of("edit-form.triangles"));
    takes.getSelectionModel().select(0);
    takes.setId("edit-takes");
    takes.setAccessibleText(AppWords.of("edit-form.takes"));
    takes.setMaxWidth(Double.MAX_VALUE);
    FlowPane flow = new FlowPane(6, 6);
    for (Edit.How how : Edit.How.values()) {
      if (how != Edit.How.MOVE) {
        Button b = button(how.name().toLowerCase(Locale.ROOT), KEYS.get(how), () -> run(how));
        buttons.put(how, b);
        flow.getChildren().add(b);
      }
    }
    rim = button("rim", RIM, tool::alongTheRim);
    flow.getChildren().add(rim);
    made.getStyleClass().addAll("soft", "small");
    made.setId("edit-made");
    list.setId("edit-list");
    list.setAccessibleText(AppWords.of("edit-form.list"));
    list.setPrefHeight(112);
    list.setMinHeight(60);
    out = new Button(AppWords.of("edit-form.take-out"));
    out.setId("edit-take-out");
    out.getStyleClass().setAll("small-button");
    out.setOnAction(e -> tool.takeOut(list.getSelectionModel().getSelectedIndex()));
    out.disableProperty().bind(list.getSelectionModel().selectedItemProperty().isNull());
    box.getChildren()
        .addAll(
            new Label(AppWords.of("edit-form.takes")),
            takes,
            new Label(AppWords.of("edit-form.moves")),
            along.box(),
            flow,
            made,
            list,
            out);
  }

  Node node() {
    return box;
  }

  Along along() {
    return along;
  }

  /** What a click takes: 1 points, 2 edges, 3 triangles, 0 whatever is nearest. */
  int size() {
    return takes.getSelectionModel().getSelectedIndex();
  }

  private static Button button(String id, KeyCode key, Runnable run) {
    Button b = new Button(AppWords.of("edit-form." + id));
    b.setId("edit-" + id);
    b.getStyleClass().setAll("small-button");
    String words = key == KeyCode.DELETE ? AppWords.keys("Delete") : key.getName();
    b.setTooltip(
        new Tooltip(AppWords.of("common.keyed", AppWords.of("edit-form.tip." + id), words)));
    b.setOnAction(e -> run.run());
    return b;
  }

  /** Brings buttons and list in line with what is chosen and done. */
  void update() {
    buttons.forEach((how, b) -> b.setDisable(edits(how).isEmpty()));
    rim.setDisable(tool.chosen().stream().filter(f -> f.size() == 1).count() < 2);
    List<Edit> edits = hand.edits();
    List<String> rows = new ArrayList<>();
    for (int i = 0; i < edits.size(); i++) {
      rows.add(
          AppWords.of("edit-form.row", i + 1, AppWords.of("edit-form.row." + edits.get(i).how())));
    }
    if (!rows.equals(list.getItems())) {
      list.getItems().setAll(rows);
      list.scrollTo(rows.size() - 1);
    }
    boolean any = !edits.isEmpty();
    made.setText(any ? AppWords.count("edit-form.made", edits.size()) : "");
    for (Node n : List.of(made, list, out)) {
      n.setVisible(any);
      n.setManaged(any);
    }
  }

  boolean key(KeyCode code) {
    if (code == RIM && !rim.isDisabled()) {
      tool.alongTheRim();
      return true;
    }
    for (Map.Entry<Edit.How, KeyCode> e : KEYS.entrySet()) {
      boolean isIt =
          e.getValue() == code || e.getKey() == Edit.How.DELETE && code == KeyCode.BACK_SPACE;
      if (isIt && !buttons.get(e.getKey()).isDisabled()) {
        run(e.getKey());
        return true;
      }
    }
    return false;
  }

  private void run(Edit.How how) {
    tool.make(edits(how), List.of());
  }

  /** The edits that are meant for what is chosen; none where it does not fit. */
  private List<Edit> edits(Edit.How how) {
    List<Feature> chosen = tool.chosen();
    if (chosen.isEmpty()) {
      return List.of();
    }
    return switch (how) {
      case DELETE -> each(how, chosen, 1, 3);
      case TURN, COLLAPSE -> each(how, chosen, 2, 2);
      case SPLIT -> each(how, chosen, 2, 3);
      case ADD -> {
        List<double[]> points = Feature.all(chosen);
        boolean fits = points.size() == 3 && chosen.stream().noneMatch(f -> f.size() == 3);
        yield fits ? List.of(Edit.of(how, Feature.flat(points))) : List.of();
      }
      case STRIP, SNAP -> between(how, chosen);
      case MOVE -> List.of();
    };
  }

  private static List<Edit> each(Edit.How how, List<Feature> chosen, int least, int most) {
    boolean fits = chosen.stream().allMatch(f -> f.size() >= least && f.size() <= most);
    return fits ? chosen.stream().map(f -> Edit.of(how, f.points())).toList() : List.of();
  }

  /** Two runs of edges, or a run and a point, or two points. */
  private static List<Edit> between(Edit.How how, List<Feature> chosen) {
    if (chosen.stream().anyMatch(f -> f.size() == 3)) {
      return List.of();
    }
    List<List<double[]>> runs = Feature.runs(chosen);
    if (runs == null || runs.size() != 2) {
      return List.of();
    }
    int points = runs.get(0).size() + runs.get(1).size();
    boolean fits = how == Edit.How.STRIP ? points >= 3 : true;
    return fits
        ? List.of(new Edit(how, Feature.flat(runs.get(0)), Feature.flat(runs.get(1)), null))
        : List.of();
  }
}

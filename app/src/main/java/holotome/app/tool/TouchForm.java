package holotome.app.tool;

import holotome.app.words.AppWords;
import holotome.core.map.MapKind;
import holotome.core.task.Failure;
import holotome.core.touch.Touch.How;
import holotome.core.unit.Length;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import javafx.scene.Node;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.VBox;

/**
 * The Sheet of {@link TouchTool}: what is done, with what, how far and how much, and to which maps.
 */
final class TouchForm {
  private final ChoiceBox<String> how = new ChoiceBox<>();
  private final ChoiceBox<String> with = new ChoiceBox<>();
  private final TextField radius = Fields.plain("touch-radius", "", "20 mm");
  private final TextField soft = Fields.plain("touch-soft", "50", "50");
  private final TextField strength = Fields.plain("touch-strength", "100", "100");
  private final TextField turn = Fields.plain("touch-turn", "0", "0");
  private final ChoiceBox<String> maps = new ChoiceBox<>();
  private final List<MapKind> kinds = new ArrayList<>();
  private final Label next = new Label();
  private final Node radiusRow;
  private final Node turnRow;
  private final VBox box;
  private final Runnable changed;
  private boolean isSized;

  /**
   * @param changed called when another thing is to be done, or with something else
   */
  TouchForm(Runnable changed) {
    this.changed = changed;
    for (How h : How.values()) {
      how.getItems().add(AppWords.of("touch-how." + h.name().toLowerCase(Locale.ROOT)));
    }
    how.setId("touch-how");
    how.getSelectionModel().select(0);
    how.setOnAction(e -> choose());
    with.setId("touch-with");
    with.getItems().setAll(AppWords.of("touch-form.brush"), AppWords.of("touch-form.area"));
    with.getSelectionModel().select(0);
    with.setOnAction(e -> choose());
    maps.setId("touch-maps");
    next.setId("touch-next");
    next.setWrapText(true);
    next.getStyleClass().addAll("soft", "small");
    for (TextField t : List.of(radius, soft, strength, turn)) {
      t.getStyleClass().add("figure");
      t.textProperty().addListener((o, was, is) -> check(t));
    }
    radiusRow = Fields.row(AppWords.of("touch-form.radius"), radius);
    turnRow = Fields.row(AppWords.of("touch-form.turn"), turn);
    box =
        new VBox(
            8,
            Fields.row(AppWords.of("touch-form.how"), how),
            Fields.row(AppWords.of("touch-form.with"), with),
            radiusRow,
            Fields.row(AppWords.of("touch-form.soft"), soft),
            Fields.row(AppWords.of("touch-form.strength"), strength),
            turnRow,
            Fields.row(AppWords.of("touch-form.maps"), maps),
            next);
    fit();
  }

  Node node() {
    return box;
  }

  private void choose() {
    fit();
    changed.run();
  }

  /** Shows what goes with what is chosen. */
  private void fit() {
    boolean isLine = how() == How.BLEND;
    if (isLine && isArea()) {
      with.getSelectionModel().select(0);
    }
    with.setDisable(isLine);
    Fields.relabel(radiusRow, AppWords.of(isArea() ? "touch-form.rim" : "touch-form.radius"));
    turnRow.setVisible(how().copies());
    turnRow.setManaged(how().copies());
  }

  How how() {
    return How.values()[how.getSelectionModel().getSelectedIndex()];
  }

  boolean isArea() {
    return with.getSelectionModel().getSelectedIndex() == 1;
  }

  /** The maps that are changed; null for all. */
  List<MapKind> maps() {
    int i = maps.getSelectionModel().getSelectedIndex();
    return i < 1 ? null : List.of(kinds.get(i - 1));
  }

  /** The maps that there are. */
  void offer(Set<MapKind> there) {
    List<MapKind> now = there.stream().sorted().toList();
    if (!maps.getItems().isEmpty() && now.equals(kinds)) {
      return;
    }
    kinds.clear();
    kinds.addAll(now);
    maps.getItems().setAll(AppWords.of("touch-form.all"));
    now.forEach(k -> maps.getItems().add(AppWords.of("touch-form.only", k.rule().title())));
    maps.getSelectionModel().select(0);
  }

  /** Says what to do next. */
  void say(String what) {
    next.setText(what);
  }

  /** The radius in working space; 0 where none was given. */
  double radius(boolean sized) {
    isSized = sized;
    try {
      Length l = Length.parse(radius.getText(), sized ? Length.Unit.MM : Length.Unit.M);
      return Math.max(0, l.metres());
    } catch (Failure | NumberFormatException e) {
      return 0;
    }
  }

  void setRadius(double metres, boolean sized) {
    isSized = sized;
    radius.setText(Length.typed(metres, sized));
  }

  boolean hasRadius() {
    return !radius.getText().isBlank();
  }

  double soft() {
    return share(soft);
  }

  double strength() {
    return share(strength);
  }

  /** In degrees; as it is where that is no number. */
  double turn() {
    return how().copies() ? number(turn, -360, 360, 0) : 0;
  }

  private static double share(TextField t) {
    return number(t, 0, 100, 100);
  }

  private static double number(TextField t, double least, double most, double other) {
    try {
      double v = Double.parseDouble(t.getText().replace("%", "").replace("°", "").strip());
      return v >= least && v <= most ? v : other;
    } catch (NumberFormatException e) {
      return other;
    }
  }

  private void check(TextField t) {
    boolean good =
        t == radius
            ? radius(isSized) > 0
            : !Double.isNaN(number(t, t == turn ? -360 : 0, t == turn ? 360 : 100, Double.NaN));
    t.getStyleClass().remove("wrong");
    if (!good) {
      t.getStyleClass().add("wrong");
    }
  }
}

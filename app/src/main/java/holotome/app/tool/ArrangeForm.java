package holotome.app.tool;

import holotome.app.model.LikeCharts;
import holotome.app.words.AppWords;
import holotome.core.words.Language;
import java.util.Locale;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** The Sheet of {@link ArrangeTool}: what is moved, by how much in figures, and what is chosen. */
final class ArrangeForm {
  private final ChoiceBox<String> takes = new ChoiceBox<>();
  private final ChoiceBox<String> frames = new ChoiceBox<>();
  private final TextField right = field("right", "0");
  private final TextField up = field("up", "0");
  private final TextField turn = field("turn", "0");
  private final TextField times = field("times", "1");
  private final Button run = new Button(AppWords.of("arrange-form.do"));
  private final Label where = new Label();
  private final ChoiceBox<String> like = new ChoiceBox<>();
  private final Button choose = new Button(AppWords.of("arrange-form.choose"));
  private final VBox box = new VBox(8);

  /**
   * @param act called to move by the figures
   * @param chooses called to choose what is like the charts that are chosen
   */
  ArrangeForm(Runnable act, Consumer<LikeCharts> chooses) {
    takes.getItems().addAll(AppWords.of("arrange-form.charts"), AppWords.of("arrange-form.points"));
    takes.getSelectionModel().select(0);
    takes.setId("arrange-takes");
    takes.setAccessibleText(AppWords.of("arrange-form.takes"));
    takes.setMaxWidth(Double.MAX_VALUE);
    frames.getItems().addAll(AppWords.of("arrange-form.frame"), AppWords.of("arrange-form.line"));
    frames.getSelectionModel().select(0);
    frames.setId("arrange-frames");
    frames.setAccessibleText(AppWords.of("arrange-form.around"));
    frames.setMaxWidth(Double.MAX_VALUE);
    HBox.setHgrow(frames, Priority.ALWAYS);
    run.setId("arrange-do");
    run.getStyleClass().setAll("small-button");
    run.setOnAction(e -> act.run());
    where.setId("arrange-where");
    where.setWrapText(true);
    where.getStyleClass().addAll("soft", "small");
    for (LikeCharts l : LikeCharts.values()) {
      like.getItems().add(AppWords.of("arrange-like." + l.name().toLowerCase(Locale.ROOT)));
    }
    like.getSelectionModel().select(0);
    like.setId("arrange-like");
    like.setAccessibleText(AppWords.of("arrange-form.like"));
    like.setMaxWidth(Double.MAX_VALUE);
    HBox.setHgrow(like, Priority.ALWAYS);
    choose.setId("arrange-choose");
    choose.getStyleClass().setAll("small-button");
    choose.setOnAction(
        e -> chooses.accept(LikeCharts.values()[like.getSelectionModel().getSelectedIndex()]));
    HBox likes = new HBox(6, like, choose);
    likes.setAlignment(Pos.CENTER_LEFT);
    HBox around = new HBox(8, new Label(AppWords.of("arrange-form.around")), frames);
    around.setAlignment(Pos.CENTER_LEFT);
    GridPane grid = new GridPane(8, 8);
    row(grid, 0, "right", right, "px");
    row(grid, 1, "up", up, "px");
    row(grid, 2, "turn", turn, "°");
    row(grid, 3, "times", times, "×");
    box.getChildren()
        .addAll(
            new Label(AppWords.of("arrange-form.takes")), takes, around, where, likes, grid, run);
  }

  private static TextField field(String name, String text) {
    TextField f = new TextField(text);
    f.setId("arrange-" + name);
    f.setPrefColumnCount(7);
    f.setAccessibleText(AppWords.of("arrange-form." + name));
    f.getStyleClass().add("figure");
    return f;
  }

  private static void row(GridPane grid, int y, String name, TextField field, String unit) {
    Label label = new Label(AppWords.of("arrange-form." + name));
    GridPane.setHgrow(label, Priority.ALWAYS);
    label.setMaxWidth(Double.MAX_VALUE);
    Label of = new Label(unit);
    of.getStyleClass().add("soft");
    of.setMinWidth(18);
    HBox figure = new HBox(6, field, of);
    figure.setAlignment(Pos.CENTER_LEFT);
    grid.addRow(y, label, figure);
  }

  Node node() {
    return box;
  }

  /** Whether single points are moved, not whole charts. */
  boolean isOfPoints() {
    return takes.getSelectionModel().getSelectedIndex() == 1;
  }

  /** Whether charts are chosen by a line drawn freely around them, not by a frame. */
  boolean isFree() {
    return frames.getSelectionModel().getSelectedIndex() == 1;
  }

  /**
   * Says what is chosen.
   *
   * @param size in pixels, as wide and as high
   */
  void show(int charts, double[] size) {
    where.setText(
        charts == 0
            ? AppWords.of("arrange-form.none")
            : AppWords.count(
                "arrange-form.chosen",
                charts,
                Language.format("%,.0f", size[0]),
                Language.format("%,.0f", size[1])));
    boolean isOff = charts == 0 || isOfPoints();
    run.setDisable(isOff);
    choose.setDisable(charts == 0);
  }

  /** The figures typed: right, up, turn, times; null where one is no number. */
  double[] figures() {
    double[] out = new double[4];
    TextField[] all = {right, up, turn, times};
    boolean isGood = true;
    for (int i = 0; i < 4; i++) {
      all[i].getStyleClass().remove("wrong");
      try {
        out[i] = Double.parseDouble(Language.typed(all[i].getText().strip()));
      } catch (NumberFormatException e) {
        all[i].getStyleClass().add("wrong");
        isGood = false;
      }
    }
    return isGood ? out : null;
  }

  /** Back to no change, once one was made. */
  void reset() {
    right.setText("0");
    up.setText("0");
    turn.setText("0");
    times.setText("1");
  }
}

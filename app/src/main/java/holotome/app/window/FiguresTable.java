package holotome.app.window;

import holotome.app.tool.Tool;
import holotome.app.words.AppWords;
import java.util.List;
import javafx.geometry.HPos;
import javafx.geometry.Insets;
import javafx.scene.control.Label;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;

/** Figures before and after, line by line, right-aligned between hairlines. */
final class FiguresTable extends GridPane {

  FiguresTable() {
    ColumnConstraints names = new ColumnConstraints();
    names.setHgrow(Priority.ALWAYS);
    ColumnConstraints right = new ColumnConstraints();
    right.setHalignment(HPos.RIGHT);
    getColumnConstraints().addAll(names, right, right);
    setHgap(12);
    setId("figures");
  }

  /** Shows other figures; none at all leave nothing. */
  void show(List<Tool.Row> rows) {
    getChildren().clear();
    if (rows.isEmpty()) {
      return;
    }
    if (rows.stream().anyMatch(r -> !r.before().isEmpty())) {
      header(AppWords.of("figures.before"), 1);
    }
    header(AppWords.of("figures.after"), 2);
    int y = 1;
    for (Tool.Row r : rows) {
      rule(y++, 1);
      add(new Label(r.name()), 0, y);
      add(figure(r.before()), 1, y);
      Label after = figure(r.after());
      after.setId("after-" + r.id());
      add(after, 2, y++);
    }
    rule(y, 0);
  }

  private void rule(int y, int below) {
    Region rule = FindingsPanel.rule();
    setMargin(rule, new Insets(2 - below, 0, below, 0));
    add(rule, 0, y, 3, 1);
  }

  private void header(String text, int column) {
    Label l = new Label(text);
    l.getStyleClass().addAll("soft", "small");
    add(l, column, 0);
  }

  private static Label figure(String text) {
    Label l = new Label(text);
    l.getStyleClass().add("figure");
    l.setMinWidth(Region.USE_PREF_SIZE);
    return l;
  }
}

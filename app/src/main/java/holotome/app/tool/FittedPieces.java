package holotome.app.tool;

import holotome.app.words.AppWords;
import holotome.core.section.CurveFit;
import holotome.core.unit.Length;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import javafx.scene.control.Label;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.VBox;

/**
 * The lines, arcs and circles that sections are told in, the longest first, each with how far off.
 */
final class FittedPieces extends VBox {
  private static final int SHOWN = 12;
  private String figure;

  FittedPieces() {
    super(4);
    setId("fitted");
    show(null, false);
  }

  /** How many there are and how far off at most; null for none. */
  String figure() {
    return figure;
  }

  /** Shows what was fitted; null or nothing hides the list. */
  void show(List<CurveFit> fits, boolean trueSize) {
    getChildren().clear();
    List<CurveFit.Fitted> all = new ArrayList<>();
    if (fits != null) {
      fits.forEach(f -> all.addAll(f.fitted()));
    }
    setVisible(!all.isEmpty());
    setManaged(!all.isEmpty());
    figure = null;
    if (all.isEmpty()) {
      return;
    }
    long lines = all.stream().filter(CurveFit.Fitted::isLine).count();
    double most = all.stream().mapToDouble(CurveFit.Fitted::off).max().orElse(0);
    figure = AppWords.count("fitted-pieces.pieces", all.size(), Length.format(most, trueSize));
    getChildren()
        .add(
            soft(
                AppWords.of(
                    "fitted-pieces.told-in-lines-and-arcs",
                    lines,
                    all.size() - lines,
                    Length.format(most, trueSize))));
    all.sort(Comparator.comparingDouble(CurveFit.Fitted::length).reversed());
    GridPane grid = new GridPane();
    grid.setHgap(12);
    for (int i = 0; i < Math.min(SHOWN, all.size()); i++) {
      CurveFit.Fitted f = all.get(i);
      String what =
          f.isLine()
              ? AppWords.of("fitted-pieces.line", Length.format(f.length(), trueSize))
              : f.degrees() == 360
                  ? AppWords.of("fitted-pieces.circle-r", Length.format(f.radius(), trueSize))
                  : AppWords.of(
                      "fitted-pieces.arc-r", Length.format(f.radius(), trueSize), f.degrees());
      grid.addRow(
          i,
          figure(what),
          soft(AppWords.of("fitted-pieces.off", Length.format(f.off(), trueSize))));
    }
    getChildren().add(grid);
    if (all.size() > SHOWN) {
      getChildren().add(soft(AppWords.of("fitted-pieces.and-shorter", all.size() - SHOWN)));
    }
  }

  private static Label soft(String text) {
    Label l = new Label(text);
    l.setWrapText(true);
    l.getStyleClass().addAll("soft", "small");
    return l;
  }

  private static Label figure(String text) {
    Label l = new Label(text);
    l.getStyleClass().add("figure");
    return l;
  }
}

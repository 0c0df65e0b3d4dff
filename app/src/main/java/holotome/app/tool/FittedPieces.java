package holotome.app.tool;

import holotome.core.section.CurveFit;
import holotome.core.unit.Length;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
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
    figure =
        String.format(Locale.ROOT, "%,d pieces, ± %s", all.size(), Length.format(most, trueSize));
    getChildren()
        .add(
            soft(
                String.format(
                    Locale.ROOT,
                    "Told in %,d lines and %,d arcs, none more than %s off",
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
              ? "Line " + Length.format(f.length(), trueSize)
              : String.format(
                  Locale.ROOT,
                  f.degrees() == 360 ? "Circle R %s" : "Arc R %s, %.1f°",
                  Length.format(f.radius(), trueSize),
                  f.degrees());
      grid.addRow(i, figure(what), soft("off " + Length.format(f.off(), trueSize)));
    }
    getChildren().add(grid);
    if (all.size() > SHOWN) {
      getChildren().add(soft(String.format(Locale.ROOT, "and %,d shorter", all.size() - SHOWN)));
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

package holotome.app.tool;

import holotome.app.words.AppWords;
import holotome.core.select.Pick;
import holotome.core.task.Failure;
import holotome.core.unwrap.SeamEdit;
import holotome.core.unwrap.SeamEdit.How;
import holotome.core.words.Language;
import java.util.List;
import java.util.Locale;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** The Sheet of {@link SeamsTool}: what is done, what is meant by it now, and the button for it. */
final class SeamsForm {
  private final ChoiceBox<String> how = new ChoiceBox<>();
  private final CheckBox closed = new CheckBox(AppWords.of("seams-form.closed"));
  private final TextField sharp = new TextField("45");
  private final HBox angle;
  private final Label what = new Label();
  private final Button run = new Button();
  private final VBox box = new VBox(8);

  /**
   * @param chose called when something else is meant
   * @param act called to cut or sew
   */
  SeamsForm(Runnable chose, Runnable act) {
    for (How h : How.values()) {
      how.getItems().add(AppWords.of("seams-form." + word(h)));
    }
    how.getSelectionModel().select(0);
    how.setId("seams-how");
    how.setAccessibleText(AppWords.of("seams-form.how"));
    how.setMaxWidth(Double.MAX_VALUE);
    closed.setId("seams-closed");
    sharp.setId("seams-sharp");
    sharp.setPrefColumnCount(6);
    sharp.getStyleClass().add("figure");
    sharp.setAccessibleText(AppWords.of("seams-form.angle"));
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    Label degrees = new Label("°");
    degrees.getStyleClass().add("soft");
    angle = new HBox(6, new Label(AppWords.of("seams-form.angle")), gap, sharp, degrees);
    angle.setAlignment(Pos.CENTER_LEFT);
    what.setId("seams-what");
    what.setWrapText(true);
    what.getStyleClass().addAll("soft", "small");
    run.setId("seams-do");
    run.getStyleClass().setAll("small-button");
    run.setOnAction(e -> act.run());
    box.getChildren().addAll(how, closed, angle, what, run);
    how.getSelectionModel().selectedIndexProperty().addListener((o, was, is) -> chose.run());
    closed.setOnAction(e -> chose.run());
    sharp.textProperty().addListener((o, was, is) -> chose.run());
  }

  private static String word(How h) {
    return h.name().toLowerCase(Locale.ROOT);
  }

  Node node() {
    return box;
  }

  How how() {
    return How.values()[how.getSelectionModel().getSelectedIndex()];
  }

  /**
   * The edit as it stands; null where there is not enough of it yet.
   *
   * @throws Failure where the angle is none
   */
  SeamEdit edit(double[] points, List<Pick> picks) {
    return switch (how()) {
      case WAY -> points.length < 6 ? null : SeamEdit.way(closed.isSelected(), points);
      case RING, SEW -> points.length < 3 ? null : SeamEdit.at(how(), points);
      case SHARP -> SeamEdit.sharp(angle());
      case AROUND -> picks == null ? null : SeamEdit.around(picks);
    };
  }

  private double angle() {
    try {
      double out = Double.parseDouble(Language.typed(sharp.getText().strip()));
      if (out >= 1 && out <= 180) {
        return out;
      }
    } catch (NumberFormatException e) {
      // Said below, as for what is no angle.
    }
    throw Failure.usage(AppWords.of("seams-form.no-angle"));
  }

  /**
   * Says what is meant.
   *
   * @param edges how many are to be cut or sewn; 0 for none yet
   * @param wrong what is wrong; null for nothing
   */
  void show(int edges, String wrong) {
    How h = how();
    boolean isSew = h == How.SEW;
    closed.setVisible(h == How.WAY);
    closed.setManaged(h == How.WAY);
    angle.setVisible(h == How.SHARP);
    angle.setManaged(h == How.SHARP);
    what.setText(
        wrong != null
            ? wrong
            : edges == 0
                ? AppWords.of("seams-form." + word(h) + "-begin")
                : AppWords.count(isSew ? "seams-form.sews" : "seams-form.cuts", edges));
    run.setText(AppWords.of(isSew ? "seams-form.do-sew" : "seams-form.do-cut"));
    run.setDisable(edges == 0);
  }
}

package holotome.app.window;

import holotome.app.model.Insight;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.log.History;
import holotome.core.part.Workpiece;
import holotome.core.ship.WriteAsset;
import holotome.core.step.StepKind;
import holotome.core.words.Language;
import java.util.EnumMap;
import java.util.Map;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** The bar along the top: the stages with their main fact, and the way to find an action. */
final class StageBar extends HBox {
  private final Map<Stage, Button> buttons = new EnumMap<>(Stage.class);
  private final Map<Stage, Label> facts = new EnumMap<>(Stage.class);
  private final Session session;

  StageBar(Session session, Runnable find) {
    this.session = session;
    getStyleClass().add("stage-bar");
    setPrefHeight(44);
    setMinHeight(44);
    setMaxHeight(44);
    setAlignment(Pos.CENTER_LEFT);
    for (Stage s : Stage.values()) {
      Label name = new Label(s.title());
      name.getStyleClass().add("name");
      Label fact = new Label("–");
      fact.getStyleClass().add("fact");
      Button b = new Button();
      b.setGraphic(new VBox(name, fact));
      b.getStyleClass().setAll("stage");
      b.setId("stage-" + s.id());
      b.setPrefWidth(110);
      b.setMinWidth(76);
      b.setMaxHeight(Double.MAX_VALUE);
      b.setOnAction(e -> session.setStage(s));
      b.setAccessibleText(s.title());
      b.setTooltip(new Tooltip(s.title() + " (Alt " + (s.ordinal() + 1) + ")"));
      buttons.put(s, b);
      facts.put(s, fact);
      getChildren().add(b);
    }
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    Label words = new Label(AppWords.of("common.find-an-action"));
    words.getStyleClass().add("soft");
    Label key = new Label(AppWords.keys("Ctrl Space"));
    key.getStyleClass().addAll("figure", "soft");
    HBox inside = new HBox(28, words, key);
    inside.setAlignment(Pos.CENTER);
    Button finder = new Button();
    finder.setGraphic(inside);
    finder.getStyleClass().setAll("find");
    finder.setAccessibleText(AppWords.of("common.find-an-action"));
    finder.setId("find-action");
    finder.setOnAction(e -> find.run());
    finder.setMinWidth(Region.USE_PREF_SIZE);
    HBox.setMargin(finder, new Insets(0, 12, 0, 8));
    getChildren().addAll(gap, finder);
  }

  void update() {
    for (Stage s : Stage.values()) {
      Button b = buttons.get(s);
      b.getStyleClass().removeAll("current", "reached");
      if (s == session.stage()) {
        b.getStyleClass().add("current");
      }
      String fact = session.isOpen() ? fact(s) : "–";
      if (!fact.equals("–")) {
        b.getStyleClass().add("reached");
      }
      facts.get(s).setText(fact);
    }
  }

  private String fact(Stage s) {
    Workpiece w = session.whole();
    Insight i = session.insight();
    return switch (s) {
      case INTAKE -> count(session.scanFile().triangles());
      case TRIM -> entries("trim");
      case MEND ->
          i == null
              ? AppWords.of(
                  session.unmeasured() == null ? "stage-bar.measuring" : "stage-bar.not-measured")
              : i.inspection().boundaryLoops() == 0
                  ? AppWords.of("stage-bar.closed")
                  : AppWords.count("stage-bar.holes", i.inspection().boundaryLoops());
      case DATUM ->
          w.frame().trueSize()
              ? holotome.core.unit.Length.format(w.frame().workBounds(w.current()).height(), true)
              : AppWords.of("stage-bar.no-unit-yet");
      case REDUCE -> w.cast() == null ? "–" : count(w.cast().triangleCount());
      case UNWRAP ->
          w.cast() == null || w.cast().uv() == null ? "–" : AppWords.of("stage-bar.unwrapped");
      case BAKE ->
          w.maps() == null ? "–" : AppWords.count("stage-bar.maps", w.maps().pictures().size());
      case SHIP ->
          session.history().lines().stream().anyMatch(l -> l.entry().step() instanceof WriteAsset)
              ? AppWords.of("stage-bar.written")
              : "–";
    };
  }

  private String entries(String stage) {
    int n = 0;
    for (History.Line l : session.history().lines()) {
      n += StepKind.of(l.entry().step()).stage().equals(stage) ? 1 : 0;
    }
    return n == 0 ? AppWords.of("stage-bar.no-entry") : AppWords.count("common.entries-2", n);
  }

  static String count(int n) {
    return n >= 1_000_000
        ? Language.format("%.2f M", n / 1e6)
        : n >= 10_000 ? Language.format("%.1f k", n / 1e3) : Language.format("%,d", n);
  }
}

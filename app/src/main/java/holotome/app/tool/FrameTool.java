package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.datum.KeepFrame;
import holotome.core.frame.Frame;
import holotome.core.frame.NamedFrame;
import holotome.core.geometry.Similarity;
import holotome.core.log.History;
import holotome.core.step.Step;
import java.util.List;
import java.util.Map;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** Keeps coordinates under names and goes back to them; lists those there are. */
final class FrameTool extends StepTool {
  private final VBox list = new VBox(6);

  FrameTool(Session session) {
    super(session, KeepFrame.class, Stage.DATUM, true, Map.of(), (s, t) -> verb(s), w -> List.of());
    list.setId("frames");
  }

  private static String verb(Step step) {
    if (!(step instanceof KeepFrame k)) {
      return AppWords.of("frame-tool.keep-the-coordinates");
    }
    return switch (k.what()) {
      case KEEP, GIVEN -> AppWords.of("frame-tool.keep-as", k.name());
      case USE -> AppWords.of("frame-tool.use", k.name());
    };
  }

  @Override
  public String verb(History trial) {
    return super.verb(trial);
  }

  @Override
  public String missing() {
    return values().get("name") == null ? AppWords.of("frame-tool.type-a-name-such-as") : null;
  }

  @Override
  public Node details() {
    list.getChildren().clear();
    if (session.current() == null) {
      return list;
    }
    Frame f = session.current().frame();
    list.getChildren().add(card("original", f.toFile(), 0, true));
    list.getChildren().add(card("working", f.toWork(), f.trueSize() ? 1 : 0, false));
    for (NamedFrame n : f.named()) {
      list.getChildren().add(card(n.name(), n.fromBase(), n.unit(), true));
    }
    return list;
  }

  private Node card(String name, Similarity s, double unit, boolean canUse) {
    Label title = new Label(AppWords.has("frame." + name) ? AppWords.of("frame." + name) : name);
    title.getStyleClass().add("heading");
    double[] t = s.shift();
    Label text =
        new Label(
            unit > 0
                ? AppWords.of("frame-tool.one-unit-is-m-scans", unit, t[0], t[1], t[2])
                : AppWords.of("frame-tool.unit-not-known-scans-nought", t[0], t[1], t[2]));
    text.setWrapText(true);
    text.setMinHeight(Region.USE_PREF_SIZE);
    text.getStyleClass().addAll("soft", "small");
    VBox card = new VBox(1, title, text);
    if (canUse) {
      Button use = new Button(AppWords.of("frame-tool.work-in-these"));
      use.getStyleClass().setAll("link");
      use.setOnAction(e -> session.apply(new KeepFrame(KeepFrame.Do.USE, name, null, null)));
      card.getChildren().add(new HBox(use));
    }
    return card;
  }
}

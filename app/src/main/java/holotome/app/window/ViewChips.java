package holotome.app.window;

import holotome.app.model.PartAtHand;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.pane.SpacePane;
import holotome.app.words.AppWords;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/**
 * The small labels along the top of the view: look, way of selecting, what is selected, messages.
 */
final class ViewChips extends VBox {
  /** Of a work that takes less of the view than this, coming closer is offered. */
  private static final double SMALL = 0.3;

  private final Session session;
  private final SpacePane view;
  private final Button look = chip("look");
  private final Button through = chip("through");
  private final Button clip = chip("clip");
  private final Button size = chip("size");
  private final Button compared = chip("compared");
  private final Button part = chip("part");
  private final Button closer = chip("closer");
  private final Label count = new Label();
  private final HBox countChip = new HBox(count);
  private final Button messageChip = new Button();

  ViewChips(Session session, SpacePane view) {
    super(8);
    this.session = session;
    this.view = view;
    setPickOnBounds(false);
    setPadding(new Insets(12, 14, 0, 14));
    setMaxHeight(Region.USE_PREF_SIZE);
    look.setOnAction(e -> view.nextLook());
    through.setOnAction(e -> view.setThrough(!view.isThrough()));
    compared.setOnAction(e -> view.switchCompared());
    part.setOnAction(e -> session.partAtHand().next());
    clip.setOnAction(e -> view.switchClipping());
    size.setOnAction(e -> view.switchSized());
    closer.setOnAction(e -> view.navigation().showAll());
    countChip.getStyleClass().addAll("chip", "selected-count");
    countChip.setId("selected-count");
    HBox row = new HBox(10, look, part, through, size, compared, clip, closer, gap(), countChip);
    row.setPickOnBounds(false);
    row.setAlignment(Pos.TOP_LEFT);
    messageChip.setWrapText(true);
    messageChip.setId("message");
    messageChip.getStyleClass().setAll("chip");
    messageChip.setOnAction(e -> session.dismiss());
    messageChip.setMaxWidth(620);
    messageChip.setMinHeight(Region.USE_PREF_SIZE);
    getChildren().addAll(row, messageChip);
  }

  private static Region gap() {
    Region r = new Region();
    r.setMouseTransparent(true);
    HBox.setHgrow(r, Priority.ALWAYS);
    return r;
  }

  private static Button chip(String id) {
    Button b = new Button();
    b.getStyleClass().setAll("chip");
    b.setId(id);
    // Never cut: the row has room for all that are shown at once.
    b.setMinWidth(Region.USE_PREF_SIZE);
    return b;
  }

  private static void set(Button b, String words, String key) {
    Label w = new Label(words);
    w.getStyleClass().add("small");
    Label k = new Label(key);
    k.getStyleClass().add("key");
    HBox h = new HBox(7, w, k);
    h.setAlignment(Pos.CENTER);
    b.setGraphic(h);
    b.setAccessibleText(words);
    b.setTooltip(new Tooltip(AppWords.of("common.keyed", words, key)));
  }

  void update() {
    boolean open = session.isOpen();
    look.setVisible(open);
    look.setManaged(open);
    boolean trim = session.stage() == Stage.TRIM;
    through.setVisible(open && trim);
    through.setManaged(open && trim);
    boolean sized = open && (session.stage() == Stage.DATUM || view.settings().isSized());
    size.setVisible(sized);
    size.setManaged(sized);
    if (sized) {
      set(
          size,
          view.settings().isSized()
              ? AppWords.of("view-chips.size-is-shown")
              : AppWords.of("view-chips.show-the-size"),
          "M");
    }
    if (open) {
      set(look, view.lookTitle(), "L");
      set(
          through,
          view.isThrough()
              ? AppWords.of("view-chips.selecting-all-the-way-through")
              : AppWords.of("view-chips.selecting-what-is-visible"),
          "V");
    }
    PartAtHand at = session.partAtHand();
    boolean parts = open && at.isOffered() && at.all().size() > 1;
    part.setVisible(parts);
    part.setManaged(parts);
    if (parts) {
      set(part, AppWords.of("view-chips.working-on", PartNames.of(at.part())), "Q");
    }
    boolean lined = open && view.settings().isCompared();
    compared.setVisible(lined);
    compared.setManaged(lined);
    if (lined) {
      set(
          compared,
          session.trials().areSeveral()
              ? AppWords.of("view-chips.trials-compared")
              : AppWords.of("view-chips.before-and-now"),
          "K");
    }
    boolean clipping = open && view.settings().isClipping();
    clip.setVisible(clipping);
    clip.setManaged(clipping);
    if (clipping) {
      set(clip, view.settings().clipText(session.shown().frame().trueSize()), "C");
    }
    boolean small = open && view.navigation().share() < SMALL;
    closer.setVisible(small);
    closer.setManaged(small);
    if (small) {
      set(closer, AppWords.of("view-chips.come-closer"), KeyCombo.of("Home").words());
    }
    boolean selected = session.selected() != null;
    boolean back = session.lookBack() >= 0;
    int charts = selected ? 0 : session.charts().count();
    countChip.setVisible(selected || back || charts > 0);
    countChip.setManaged(countChip.isVisible());
    if (back) {
      count.setText(
          AppWords.of(
              "view-chips.looking-back-at-step-of", session.lookBack(), session.history().size()));
    } else if (selected) {
      boolean trueSize = session.current().frame().trueSize();
      count.setText(AppWords.of("view-chips.selected", session.selected().text(trueSize)));
    } else if (charts > 0) {
      count.setText(AppWords.count("view-chips.charts-chosen", charts));
    }
    boolean trouble = session.failure() != null;
    String text = trouble ? session.failure().getMessage() : session.message();
    messageChip.setVisible(!text.isEmpty());
    messageChip.setText(text);
    messageChip.getStyleClass().setAll("chip", trouble ? "trouble" : "done");
  }
}

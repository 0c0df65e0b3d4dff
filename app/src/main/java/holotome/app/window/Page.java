package holotome.app.window;

import holotome.app.words.AppWords;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** A page over the window, until it is closed: a heading, what it is about, and a foot. */
abstract class Page extends VBox {
  private final Runnable closed;

  /** What else can be done, at the left of the foot. */
  private final HBox offers = new HBox(16);

  private final Label title = new Label();
  private final HBox foot;

  /**
   * @param name the node is "name-page", its closing button "name-close"
   * @param closed is told once it was closed
   */
  Page(String name, String words, Runnable closed) {
    super(12);
    this.closed = closed;
    setId(name + "-page");
    getStyleClass().add("page");
    title.setText(words);
    title.getStyleClass().add("heading");
    LinkButton close = new LinkButton(name + "-close", AppWords.of("common.close-esc"));
    close.setOnAction(e -> close());
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    foot = new HBox(offers, gap, close);
    foot.setAlignment(Pos.CENTER_LEFT);
    setVisible(false);
  }

  /** Puts what it is about between heading and foot. */
  final void hold(Node... nodes) {
    getChildren().setAll(title);
    getChildren().addAll(nodes);
    getChildren().add(foot);
  }

  final void offer(LinkButton button) {
    offers.getChildren().add(button);
  }

  /** Shows things as they are now. */
  abstract void fill();

  void open() {
    fill();
    setVisible(true);
    requestFocus();
  }

  final void close() {
    if (isVisible()) {
      setVisible(false);
      closed.run();
    }
  }
}

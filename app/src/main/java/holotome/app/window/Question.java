package holotome.app.window;

import holotome.app.model.Session;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** Asks before work is left that is not saved, or while something is being written. */
final class Question extends VBox {
  private final Label text = new Label();
  private final HBox answers = new HBox(18);

  Question() {
    super(12);
    setId("question");
    getStyleClass().add("page");
    setMaxHeight(Region.USE_PREF_SIZE);
    text.setWrapText(true);
    text.setId("question-text");
    text.setMinHeight(Region.USE_PREF_SIZE);
    getChildren().addAll(text, answers);
    setVisible(false);
  }

  /** Goes on at once where nothing is at stake. */
  void ask(Session session, Runnable go, Runnable save) {
    boolean writing = session.isOpen() && session.jobs().isBusy();
    boolean unsaved = session.isOpen() && session.isUnsaved() && session.history().size() > 0;
    if (!writing && !unsaved) {
      go.run();
      return;
    }
    Button leave = answer("question-go", writing ? "Cancel it and go on" : "Leave it unsaved");
    leave.setOnAction(
        e -> {
          close();
          session.jobs().cancel();
          go.run();
        });
    Button keep = answer("question-save", "Save it first …");
    keep.setOnAction(
        e -> {
          close();
          save.run();
          if (!session.isUnsaved()) {
            go.run();
          }
        });
    Button stay = answer("question-stay", "Stay here");
    stay.setOnAction(e -> close());
    text.setText(
        writing
            ? session.jobs().title() + " is still running."
            : session.history().size()
                + (session.history().size() == 1 ? " entry is" : " entries are")
                + " not saved in a project. They are kept, and offered when the program starts"
                + " again.");
    answers
        .getChildren()
        .setAll(writing ? java.util.List.of(leave, stay) : java.util.List.of(keep, leave, stay));
    setVisible(true);
    stay.requestFocus();
  }

  private static Button answer(String id, String words) {
    Button b = new Button(words);
    b.setId(id);
    b.getStyleClass().setAll("link");
    return b;
  }

  void close() {
    setVisible(false);
  }
}

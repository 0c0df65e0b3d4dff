package holotome.app.window;

import holotome.app.model.Session;
import holotome.app.words.AppWords;
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
    boolean unsaved =
        session.isOpen() && session.keeping().isUnsaved() && session.history().size() > 0;
    if (!writing && !unsaved) {
      go.run();
      return;
    }
    Button leave =
        new LinkButton(
            "question-go",
            writing
                ? AppWords.of("question.cancel-it-and-go-on")
                : AppWords.of("question.leave-it-unsaved"));
    leave.setOnAction(
        e -> {
          close();
          session.jobs().cancel();
          go.run();
        });
    Button keep = new LinkButton("question-save", AppWords.of("question.save-it-first"));
    keep.setOnAction(
        e -> {
          close();
          save.run();
          if (!session.keeping().isUnsaved()) {
            go.run();
          }
        });
    Button stay = new LinkButton("question-stay", AppWords.of("question.stay-here"));
    stay.setOnAction(e -> close());
    text.setText(
        writing
            ? AppWords.of("question.is-still-running", session.jobs().title())
            : AppWords.count("question.entries-are-not-saved-in", session.history().size()));
    answers
        .getChildren()
        .setAll(writing ? java.util.List.of(leave, stay) : java.util.List.of(keep, leave, stay));
    setVisible(true);
    stay.requestFocus();
  }

  void close() {
    setVisible(false);
  }
}

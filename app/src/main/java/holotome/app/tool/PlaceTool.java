package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.datum.Place;
import holotome.core.geometry.Box;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.log.History;
import holotome.core.part.Workpiece;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.unit.Length;
import holotome.core.unit.RoundLength;
import holotome.core.words.Language;
import java.math.BigDecimal;
import java.math.MathContext;
import java.util.Locale;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.CheckBox;
import javafx.scene.control.TextField;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/**
 * Moves, turns and scales by handles or by figures. The work is shown where it would come to stand;
 * only its placing changes for that, so it follows the pointer at any size.
 */
final class PlaceTool extends Tool {
  private final PlaceHandles handles = new PlaceHandles();
  private double[] move = new double[3];
  private double[] turn = new double[3];
  private double factor = 1;
  private boolean aboutOrigin;
  private double[] loadedAbout;
  private final TextField[] fields = new TextField[7];
  private boolean writing;
  private Place before;
  private History on;
  private String readout;
  private double[] pointer;
  private boolean stepping;

  /** Blank for a round share of the work's size. */
  private String moveStep = "";

  private String turnStep = "15°";

  PlaceTool(Session session) {
    super(session);
  }

  @Override
  public String id() {
    return "place";
  }

  @Override
  public Stage stage() {
    return Stage.DATUM;
  }

  @Override
  public String hint() {
    return AppWords.of("place-tool.drag-a-square-along-its");
  }

  @Override
  public Node form() {
    if (session.reopened() < 0 && session.history() != on) {
      // What was asked for is done, or undone: the next placing begins at nought.
      clear();
    }
    on = session.history();
    VBox box = new VBox(6);
    String[] names = {
      AppWords.of("place-tool.move-x"),
      AppWords.of("place-tool.move-y"),
      AppWords.of("place-tool.move-z"),
      AppWords.of("place-tool.turn-x"),
      AppWords.of("place-tool.turn-y"),
      AppWords.of("place-tool.turn-z"),
      AppWords.of("common.times")
    };
    for (int i = 0; i < 7; i++) {
      int which = i;
      fields[i] =
          Fields.plain("field-" + names[i].toLowerCase(Locale.ROOT).replace(' ', '-'), "", "0");
      fields[i].textProperty().addListener((o, was, is) -> typed(which, is));
      box.getChildren().add(Fields.row(names[i], fields[i]));
    }
    CheckBox about = new CheckBox(AppWords.of("place-tool.turn-and-scale-about-the"));
    about.setId("field-about-origin");
    about.setSelected(aboutOrigin);
    about.setOnAction(
        e -> {
          aboutOrigin = about.isSelected();
          loadedAbout = null;
          edited();
        });
    CheckBox steps = new CheckBox(AppWords.of("place-tool.keep-to-steps-of"));
    steps.setId("field-stepping");
    steps.setSelected(stepping);
    steps.setOnAction(e -> stepping = steps.isSelected());
    TextField far = Fields.plain("field-move-step", moveStep, "");
    far.setAccessibleText(AppWords.of("place-tool.how-far-a-step-moves"));
    far.setPromptText(session.current() == null ? "" : lengthText(roundStep()));
    far.setPrefColumnCount(7);
    far.textProperty().addListener((o, was, is) -> stepTyped(far, is, true));
    TextField wide = Fields.plain("field-turn-step", turnStep, "15°");
    wide.setAccessibleText(AppWords.of("place-tool.how-far-a-step-turns"));
    wide.setPrefColumnCount(4);
    wide.textProperty().addListener((o, was, is) -> stepTyped(wide, is, false));
    HBox both = new HBox(8, steps, far, wide);
    both.setAlignment(javafx.geometry.Pos.CENTER_LEFT);
    box.getChildren().addAll(about, both);
    write();
    return box;
  }

  /** Takes a step over, unless it is none: then the field says so and the last one stays. */
  private void stepTyped(TextField field, String text, boolean length) {
    field.getStyleClass().remove("wrong");
    try {
      if (!text.isBlank() && !(value(length ? 0 : 3, text) > 0)) {
        throw Failure.usage(AppWords.of("place-tool.a-step-is-above-zero"));
      }
      moveStep = length ? text : moveStep;
      turnStep = length ? turnStep : text;
    } catch (Failure f) {
      field.getStyleClass().add("wrong");
    }
  }

  /** Six digits, without noughts at the end. */
  private static String plain(double v) {
    return new BigDecimal(v).round(new MathContext(6)).stripTrailingZeros().toPlainString();
  }

  private String lengthText(double v) {
    return plain(sized() ? 1000 * v : v) + (sized() ? " mm" : "");
  }

  private double roundStep() {
    return RoundLength.below(0.02 * across());
  }

  private boolean sized() {
    return session.current() != null && session.current().frame().trueSize();
  }

  private void typed(int which, String text) {
    if (writing) {
      return;
    }
    fields[which].getStyleClass().remove("wrong");
    try {
      double v = value(which, text);
      if (which < 3) {
        move[which] = v;
      } else if (which < 6) {
        turn[which - 3] = v;
      } else {
        factor = v;
      }
      edited();
    } catch (Failure f) {
      fields[which].getStyleClass().add("wrong");
    }
  }

  private double value(int which, String text) {
    if (text.isBlank()) {
      return which == 6 ? 1 : 0;
    }
    if (which < 3) {
      return Length.parse(text, sized() ? Length.Unit.MM : Length.Unit.M).metres();
    }
    try {
      double d = Double.parseDouble(text.strip().replace("°", "").replace(',', '.').strip());
      if (Double.isFinite(d) && (which < 6 || d > 0)) {
        return d;
      }
    } catch (NumberFormatException e) {
      // Said below.
    }
    throw Failure.usage(AppWords.of("place-tool.is-not-a-number", text));
  }

  private void write() {
    if (fields[0] == null) {
      return;
    }
    writing = true;
    for (int i = 0; i < 7; i++) {
      double v = i < 3 ? move[i] : i < 6 ? turn[i - 3] : factor;
      String text = i < 3 ? lengthText(v) : i < 6 ? plain(v) + "°" : plain(v);
      fields[i].setText(v == (i == 6 ? 1 : 0) ? "" : text);
      fields[i].setPromptText(i == 6 ? "1" : i < 3 && sized() ? "0 mm" : i < 3 ? "0" : "0°");
      fields[i].getStyleClass().remove("wrong");
    }
    writing = false;
  }

  private double[] about() {
    if (loadedAbout != null) {
      return loadedAbout;
    }
    Workpiece w = session.current();
    return aboutOrigin ? new double[3] : w.frame().workBounds(w.current()).centre();
  }

  @Override
  public String missing() {
    boolean nothing =
        factor == 1 && Vec.length(move) == 0 && turn[0] == 0 && turn[1] == 0 && turn[2] == 0;
    return session.current() != null && nothing
        ? AppWords.of("place-tool.drag-a-handle-or-type")
        : null;
  }

  @Override
  public Step step() {
    return new Place(move.clone(), turn.clone(), factor, about());
  }

  @Override
  public void load(Step step) {
    Place p = (Place) step;
    move = p.move().clone();
    turn = p.turn().clone();
    factor = p.factor();
    loadedAbout = p.about();
  }

  @Override
  public String verb(History trial) {
    return AppWords.of("place-tool.place-the-work-so");
  }

  @Override
  public Workpiece shows() {
    Workpiece w = session.current();
    if (w == null || session.reopened() >= 0 || missing() != null) {
      return null;
    }
    return w.withFrame(w.frame().placed(new Place(move, turn, factor, about()).similarity()));
  }

  private void clear() {
    move = new double[3];
    turn = new double[3];
    factor = 1;
    loadedAbout = null;
    readout = null;
    write();
  }

  @Override
  public void end(ViewPort view) {
    clear();
    handles.released();
  }

  @Override
  public void drop(ViewPort view) {
    clear();
    view.refresh();
  }

  private double[] at() {
    return Vec.add(about(), move);
  }

  private double across() {
    Workpiece w = session.current();
    Box b = w.frame().workBounds(w.current());
    return b.diagonal();
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    if (session.current() != null
        && handles.pressed(
            view, e.getX(), e.getY(), at(), PlaceHandles.size(view, at(), across()))) {
      before = new Place(move.clone(), turn.clone(), factor, about());
    }
  }

  @Override
  public void dragged(ViewPort view, MouseEvent e) {
    if (!handles.isHeld()) {
      return;
    }
    pointer = new double[] {e.getX(), e.getY()};
    boolean keep = e.isShiftDown() != stepping;
    double step = !keep ? 0 : moveStep.isBlank() ? roundStep() : value(0, moveStep);
    double wide = !keep ? 0 : turnStep.isBlank() ? 15 : value(3, turnStep);
    PlaceHandles.Drag d = handles.dragged(view, e.getX(), e.getY(), step, wide);
    if (d == null) {
      return;
    }
    double far = Vec.length(d.move());
    if (far > 0) {
      move = Vec.add(before.move(), d.move());
      readout = Length.format(far, sized());
    } else if (d.degrees() != 0) {
      Similarity r = Place.rotation(before.turn()).then(PlaceHandles.turn(d.axis(), d.degrees()));
      turn = Place.angles(r.rotation());
      readout = Language.format("%.1f°", d.degrees());
    } else if (d.factor() != 1) {
      factor = before.factor() * d.factor();
      readout = Language.format("× %.3f", d.factor());
    }
    write();
    view.refresh();
  }

  @Override
  public void released(ViewPort view, MouseEvent e) {
    if (handles.isHeld()) {
      handles.released();
      readout = null;
      edited();
    }
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    if (session.current() == null) {
      return;
    }
    handles.draw(view, g, at(), PlaceHandles.size(view, at(), across()));
    if (readout != null) {
      Marks.slip(g, new double[] {pointer[0], pointer[1] - 26}, readout);
    }
  }
}

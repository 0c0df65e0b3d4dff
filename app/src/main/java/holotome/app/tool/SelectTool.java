package holotome.app.tool;

import holotome.app.model.Figures;
import holotome.app.model.Selected;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.log.History;
import holotome.core.part.Workpiece;
import holotome.core.select.Fence;
import holotome.core.select.Pick;
import holotome.core.select.Reshape;
import holotome.core.step.Step;
import holotome.core.trim.CutSelection;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Tooltip;
import javafx.scene.input.InputEvent;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.VBox;

/**
 * What the tools that select have in common: how a pick joins what is selected, the changes of the
 * selection, those kept under names, and what is done with it in the end.
 */
public abstract class SelectTool extends Tool {
  /** A hint, and how what is picked joins what is selected. */
  static String joining(String hint) {
    return AppWords.of("select-tool.shift-adds-ctrl-takes-away", hint);
  }

  /** So many more islands than before are no longer meant. */
  private static final int MANY_SPECKS = 20;

  private CutSelection loaded;

  protected SelectTool(Session session) {
    super(session);
  }

  @Override
  public Stage stage() {
    return Stage.TRIM;
  }

  @Override
  public Node form() {
    ChoiceBox<String> c = new ChoiceBox<>();
    c.setId("field-then");
    c.getItems()
        .setAll(AppWords.of("select-tool.remove-it"), AppWords.of("select-tool.keep-only-it"));
    c.getSelectionModel().select(then().ordinal());
    c.setOnAction(
        e -> {
          session
              .selecting()
              .setThen(CutSelection.Then.values()[c.getSelectionModel().getSelectedIndex()]);
          edited();
        });
    CheckBox along = new CheckBox(AppWords.of("select-tool.take-along-what-it-cuts"));
    along.setId("field-cut-off");
    along.setSelected(session.selecting().takesAlong());
    along.setTooltip(new Tooltip(AppWords.of("select-tool.of-a-visible-selection-hidden")));
    along.setOnAction(e -> session.selecting().setTakesAlong(along.isSelected()));
    VBox box = new VBox(8);
    box.getChildren().addAll(ownFields());
    box.getChildren()
        .addAll(
            Fields.row(AppWords.of("select-tool.the-selection"), c),
            along,
            new SelectionButtons(session).box());
    return box;
  }

  private CutSelection.Then then() {
    return session.selecting().then();
  }

  /** The tool's own parameters, above those that all have. */
  protected List<Node> ownFields() {
    return List.of();
  }

  /** What is to be done to select with this tool. */
  protected abstract String todo();

  @Override
  public String missing() {
    return session.selected() == null && loaded == null ? todo() : null;
  }

  @Override
  public Step step() {
    Selected s = session.selected();
    return s == null
        ? CutSelection.of(loaded.allPicks(), then())
        : CutSelection.of(s.picks(), then());
  }

  @Override
  public void load(Step step) {
    loaded = (CutSelection) step;
    session.selecting().setThen(loaded.then());
  }

  @Override
  public void end(ViewPort view) {
    loaded = null;
  }

  @Override
  public void drop(ViewPort view) {
    session.select(null);
  }

  @Override
  public String verb(History trial) {
    Selected s = session.selected();
    if (s == null) {
      return then() == CutSelection.Then.REMOVE
          ? AppWords.of("select-tool.remove-the-selection")
          : AppWords.of("select-tool.keep-the-selection");
    }
    return then() == CutSelection.Then.REMOVE
        ? AppWords.count("select-tool.remove-triangles", s.count())
        : AppWords.count("select-tool.keep-only-triangles", s.count());
  }

  @Override
  public String advice(Figures before, Figures after) {
    int along = session.selecting().takenAlong();
    if (along > 0 && then() == CutSelection.Then.REMOVE && session.selected() != null) {
      return AppWords.of("select-tool.hidden-triangles-go-along-that", along);
    }
    int more = after.islands() - before.islands();
    return then() == CutSelection.Then.REMOVE && more > MANY_SPECKS
        ? AppWords.of("select-tool.specks-would-be-left-as", more)
        : null;
  }

  /** How what is picked joins what is selected, by the keys held. */
  static Pick.Join join(MouseEvent e) {
    return join(e.isShiftDown(), e.isControlDown());
  }

  static Pick.Join join(boolean shift, boolean control) {
    return shift
        ? control ? Pick.Join.INTERSECT : Pick.Join.ADD
        : control ? Pick.Join.TAKE : Pick.Join.REPLACE;
  }

  /** Selects what an outline on the view holds: all behind it, or what is visible. */
  protected void selectWithin(ViewPort view, double[] outline, Selected before, Pick.Join join) {
    loaded = null;
    if (view.isThrough()) {
      session.selecting().pickOn(before, Pick.of(join, new Fence(view.toPixels(), outline)));
    } else {
      Workpiece asked = session.current();
      Fence through = new Fence(view.toPixels(), outline);
      view.visibleWithin(
          outline, set -> session.selecting().pickSeen(asked, before, join, set, through));
    }
  }

  protected void pick(Pick pick) {
    loaded = null;
    session.selecting().pick(pick);
  }

  /** A click that selects nothing lets go of what was selected, unless it should join. */
  protected void selectNothing(InputEvent e, Pick.Join join) {
    if (join == Pick.Join.REPLACE) {
      session.select(null);
      edited();
    }
  }

  @Override
  public boolean key(ViewPort view, KeyEvent e) {
    Reshape.How how =
        switch (e.getCode()) {
          case G -> e.isShiftDown() ? Reshape.How.SHRINK : Reshape.How.GROW;
          case S -> Reshape.How.SMOOTH;
          case I -> Reshape.How.INVERT;
          case F -> Reshape.How.FILL;
          case W -> Reshape.How.ISLANDS;
          default -> null;
        };
    if (how == null) {
      return false;
    }
    session.selecting().reshape(how, 1);
    return true;
  }
}

package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.log.History;
import holotome.core.select.Fence;
import holotome.core.step.Step;
import holotome.core.trim.CutFence;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.ChoiceBox;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.VBox;

/** An outline on the view that cuts straight through the mesh along the line of sight. */
public final class FenceTool extends Tool {
  private final OutlineEditor editor = new OutlineEditor(true, this::restored);
  private CutFence.Keep keep = CutFence.Keep.OUTSIDE;
  private Fence fence;

  /** The view that the outline is drawn over, as {@link ViewPort#toPixels}. */
  private double[] drawnIn;

  private History drawnOn;

  public FenceTool(Session session) {
    super(session);
  }

  @Override
  public String id() {
    return "fence";
  }

  @Override
  public Stage stage() {
    return Stage.TRIM;
  }

  @Override
  public String hint() {
    return AppWords.of("fence-tool.draw-a-loop-or-click");
  }

  @Override
  public Node form() {
    if (session.history() != drawnOn) {
      // Applied, undone or another scan: the outline has done its work.
      editor.clear();
      fence = null;
    }
    drawnOn = session.history();
    ChoiceBox<String> c = new ChoiceBox<>();
    c.setId("field-keep");
    c.getItems()
        .setAll(AppWords.of("common.what-is-outside"), AppWords.of("common.what-is-inside"));
    c.getSelectionModel().select(keep.ordinal());
    c.setOnAction(
        e -> {
          keep = CutFence.Keep.values()[c.getSelectionModel().getSelectedIndex()];
          edited();
        });
    return new VBox(6, Fields.row(AppWords.of("common.keep"), c));
  }

  @Override
  public String missing() {
    return fence != null
        ? null
        : editor.isEmpty()
            ? AppWords.of("fence-tool.draw-the-fence-on-the")
            : AppWords.of("common.click-the-first-corner-to");
  }

  @Override
  public Step step() {
    return new CutFence(fence, keep);
  }

  @Override
  public void load(Step step) {
    CutFence c = (CutFence) step;
    fence = c.fence();
    keep = c.keep();
    drawnOn = session.history();
  }

  @Override
  public String verb(History trial) {
    if (trial == null) {
      return AppWords.of("fence-tool.cut-along-the-fence");
    }
    int n = -trial.lines().getLast().effect().change();
    return n > 0
        ? AppWords.of("common.cut-away-triangles", n)
        : AppWords.of("fence-tool.cut-along-the-fence");
  }

  @Override
  public Draft<?> draft() {
    return editor.draft();
  }

  /** The fence is that of the outline as undone or redone. */
  private void restored() {
    fence = editor.isClosed() && drawnIn != null ? new Fence(drawnIn, editor.outline()) : null;
    edited();
  }

  @Override
  public void end(ViewPort view) {
    drop(view);
  }

  @Override
  public void drop(ViewPort view) {
    editor.clear();
    fence = null;
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    editor.pressed(view, e);
  }

  @Override
  public void dragged(ViewPort view, MouseEvent e) {
    editor.dragged(view, e);
  }

  @Override
  public void released(ViewPort view, MouseEvent e) {
    drawnIn = view.toPixels();
    fence =
        editor.released(view, e) || editor.isClosed() ? new Fence(drawnIn, editor.outline()) : null;
    edited();
  }

  @Override
  public void moved(ViewPort view, MouseEvent e) {
    editor.moved(view, e);
  }

  @Override
  public boolean key(ViewPort view, KeyEvent e) {
    if (!editor.key(view, e)) {
      return false;
    }
    fence = null;
    edited();
    return true;
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    editor.draw(view, g);
  }
}

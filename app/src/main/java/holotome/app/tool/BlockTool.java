package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.log.History;
import holotome.core.part.Workpiece;
import holotome.core.proxy.MakeBlock;
import holotome.core.step.Step;
import holotome.core.words.Language;
import java.util.Arrays;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.VBox;

/**
 * Fits a simple body to the Scan or to what is selected, and draws its edges there; for a prism
 * clicks draw an outline that is pulled up instead.
 */
final class BlockTool extends RegionTool {
  private final ClickedPlaces outline = new ClickedPlaces(this::drawn);
  private final OverScan over;
  private final Label said = new Label();
  private final Button clear = new Button(AppWords.of("block-tool.clear"));
  private ViewPort view;

  BlockTool(Session session) {
    super(
        session,
        MakeBlock.class,
        Stage.REDUCE,
        true,
        (s, t) -> AppWords.of("block-tool.make"),
        w -> List.of(new Row("triangles", Language.format("%,d", w.scan().triangleCount()), "")),
        AppWords.of("block-tool.everywhere"));
    over = new OverScan(session);
    said.setWrapText(true);
    said.getStyleClass().addAll("soft", "small");
    clear.setId("clear-outline");
    clear.setOnAction(e -> outline.set(List.of()));
  }

  @Override
  public Node form() {
    Node fields = super.form();
    hide("outline");
    suit();
    return new VBox(10, fields, said, clear);
  }

  private boolean isPrism() {
    return "prism".equals(values().get("form"));
  }

  /** Shows the fields that the form has. */
  private void suit() {
    Object form = values().get("form");
    boolean isSided = !"box".equals(form) && !"plane".equals(form);
    if (isSided && outline.isEmpty()) {
      reveal("sides");
    } else {
      hide("sides");
    }
    if (isPrism() && !outline.isEmpty()) {
      reveal("height");
    } else {
      hide("height");
    }
    int n = outline.count();
    said.setText(
        !isPrism()
            ? ""
            : n == 0 ? AppWords.of("block-tool.draw") : AppWords.count("block-tool.corners", n));
    clear.setVisible(isPrism() && n > 0);
  }

  @Override
  protected void changed() {
    suit();
  }

  private void drawn() {
    suit();
    over.forget();
    edited();
    if (view != null) {
      view.repaint();
    }
  }

  @Override
  public Step step() {
    MakeBlock s = (MakeBlock) super.step();
    boolean isDrawn = s.form() == MakeBlock.Form.PRISM && !outline.isEmpty();
    return s.with(isDrawn ? outline.flat() : null);
  }

  @Override
  public void load(Step step) {
    MakeBlock s = (MakeBlock) step;
    super.load(s.with(null));
    outline.load(s.outline());
  }

  @Override
  public Draft<?> draft() {
    return isPrism() ? outline.draft() : null;
  }

  @Override
  public void begin(ViewPort port) {
    view = port;
  }

  @Override
  public void end(ViewPort port) {
    super.end(port);
    over.end();
    view = null;
  }

  @Override
  public Workpiece shows() {
    return over.shows(this::step);
  }

  @Override
  public void tried(History trial) {
    super.tried(trial);
    over.tried(trial);
  }

  @Override
  public boolean areLinesSeenThrough() {
    return true;
  }

  @Override
  public double[] surfaceLines() {
    return over.lines();
  }

  @Override
  public boolean takesClicks() {
    return isPrism();
  }

  @Override
  public void pressed(ViewPort on, MouseEvent e) {
    outline.pressed(e);
  }

  @Override
  public void released(ViewPort on, MouseEvent e) {
    Workpiece w = session.current();
    if (w == null || !isPrism() || !outline.isClick(e)) {
      return;
    }
    on.pick(
        e.getX(),
        e.getY(),
        p -> {
          if (p != null && w == session.current() && view != null) {
            outline.add(w.frame(), p);
          }
        });
  }

  @Override
  public void draw(ViewPort on, GraphicsContext g) {
    super.draw(on, g);
    Workpiece w = session.current();
    if (w == null || !isPrism() || outline.isEmpty() || over.isDone(this::step)) {
      return;
    }
    double[] open = outline.working(w.frame());
    double[] closed = Arrays.copyOf(open, open.length + 3);
    System.arraycopy(open, 0, closed, open.length, 3);
    outline.draw(on, g, w.frame());
    Marks.line(on, g, closed, Marks.VERDIGRIS);
  }
}

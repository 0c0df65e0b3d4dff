package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.frame.Frame;
import holotome.core.log.History;
import holotome.core.part.Workpiece;
import holotome.core.proxy.MakeBlock;
import holotome.core.step.Step;
import holotome.core.words.Language;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.VBox;

/**
 * Fits a simple body to the Scan or to what is selected, and draws its edges there; for a prism
 * clicks draw an outline that is pulled up instead.
 */
final class BlockTool extends RegionTool {
  /** Presses that are dragged farther than this turn the view. */
  private static final double CLICK = 4;

  private final Draft<List<double[]>> outline = new Draft<>(List.of(), p -> drawn());
  private final OverScan over;
  private final Label said = new Label();
  private final Button clear = new Button(AppWords.of("block-tool.clear"));
  private ViewPort view;
  private double pressedX;
  private double pressedY;

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
    clear.setOnAction(
        e -> {
          outline.set(List.of());
          drawn();
        });
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
    if (isSided && outline.now().isEmpty()) {
      reveal("sides");
    } else {
      hide("sides");
    }
    if (isPrism() && !outline.now().isEmpty()) {
      reveal("height");
    } else {
      hide("height");
    }
    int n = outline.now().size();
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
    List<double[]> points = outline.now();
    if (s.form() != MakeBlock.Form.PRISM || points.isEmpty()) {
      return s.with(null);
    }
    return s.with(points.stream().flatMapToDouble(Arrays::stream).toArray());
  }

  @Override
  public void load(Step step) {
    MakeBlock s = (MakeBlock) step;
    super.load(s.with(null));
    List<double[]> had = new ArrayList<>();
    double[] all = s.outline() == null ? new double[0] : s.outline();
    for (int i = 0; i < all.length; i += 3) {
      had.add(Arrays.copyOfRange(all, i, i + 3));
    }
    outline.begin(List.copyOf(had));
  }

  @Override
  public Draft<?> draft() {
    return isPrism() ? outline : null;
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
    pressedX = e.getX();
    pressedY = e.getY();
  }

  @Override
  public void released(ViewPort on, MouseEvent e) {
    Workpiece w = session.current();
    boolean isClick = Math.hypot(e.getX() - pressedX, e.getY() - pressedY) <= CLICK;
    if (w == null || !isPrism() || e.getButton() != MouseButton.PRIMARY || !isClick) {
      return;
    }
    on.pick(
        e.getX(),
        e.getY(),
        p -> {
          if (p != null && w == session.current() && view != null) {
            Frame f = w.frame();
            List<double[]> next = new ArrayList<>(outline.now());
            next.add(f.toFile().apply(f.toBase(p)));
            outline.set(List.copyOf(next));
            drawn();
          }
        });
  }

  @Override
  public void draw(ViewPort on, GraphicsContext g) {
    super.draw(on, g);
    Workpiece w = session.current();
    List<double[]> points = outline.now();
    if (w == null || !isPrism() || points.isEmpty() || over.isDone(this::step)) {
      return;
    }
    double[] line = new double[3 * points.size() + 3];
    for (int i = 0; i <= points.size(); i++) {
      double[] p = points.get(i % points.size());
      double[] at = w.frame().toWork().apply(w.frame().toFile().inverse().apply(p));
      System.arraycopy(at, 0, line, 3 * i, 3);
      double[] pixel = on.project(at);
      if (pixel != null) {
        Marks.dot(g, pixel);
      }
    }
    Marks.line(on, g, line, Marks.VERDIGRIS);
  }
}

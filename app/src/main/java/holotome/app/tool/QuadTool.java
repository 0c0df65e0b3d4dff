package holotome.app.tool;

import holotome.app.model.Problems;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.frame.Frame;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Guide;
import holotome.core.reduce.MakeQuads;
import holotome.core.reduce.QuadPreview;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.words.Language;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/**
 * Makes quads. How their rows would run is drawn on the Scan beforehand; lines drawn there lead
 * them.
 */
final class QuadTool extends StepTool {
  /** Of larger Scans how quads run is found when asked for. */
  private static final int LARGE = 2_000_000;

  /** Pixels between the points of a line. */
  private static final double STEP = 6;

  private final Draft<List<Guide>> guides = new Draft<>(List.of(), g -> guided());
  private final QuadPreview preview = new QuadPreview();
  private final Label drawn = new Label();
  private final Button clear = new Button(AppWords.of("quad-tool.clear"));
  private final Button show = new Button(AppWords.of("quad-tool.show"));
  private final HBox buttons = new HBox(8, show, clear);
  private ViewPort view;

  /** The line being drawn, in working space; null for none. */
  private List<double[]> line;

  private double lastX;
  private double lastY;
  private double[] flow;
  private Workpiece flowOf;

  QuadTool(Session session) {
    super(
        session,
        MakeQuads.class,
        Stage.REDUCE,
        false,
        Map.of(),
        (s, t) ->
            s instanceof MakeQuads q
                ? AppWords.of("quad-tool.make", q.quads())
                : AppWords.of("quad-tool.make-plain"),
        w -> List.of());
    drawn.setWrapText(true);
    drawn.getStyleClass().addAll("soft", "small");
    show.setId("show-flow");
    show.setOnAction(e -> find());
    clear.setId("clear-guides");
    clear.setOnAction(
        e -> {
          guides.set(List.of());
          guided();
        });
  }

  @Override
  public Node form() {
    Node fields = super.form();
    hide("guides");
    said();
    return new VBox(10, fields, drawn, buttons);
  }

  @Override
  public List<Row> estimate(Workpiece in) {
    String after = "";
    try {
      after = Language.format("%,d", 2L * ((MakeQuads) step()).quads());
    } catch (Failure f) {
      // The Sheet says what is wrong.
    }
    return List.of(new Row("triangles", Language.format("%,d", in.scan().triangleCount()), after));
  }

  @Override
  public void begin(ViewPort port) {
    view = port;
    findIfSmall();
  }

  @Override
  public void end(ViewPort port) {
    super.end(port);
    session.jobs().stopLooking(this);
    preview.clear();
    flow = null;
    flowOf = null;
    line = null;
    view = null;
  }

  @Override
  protected void changed() {
    findIfSmall();
  }

  @Override
  public Step step() {
    MakeQuads s = (MakeQuads) super.step();
    return s.with(guides.now());
  }

  @Override
  public void load(Step step) {
    super.load(((MakeQuads) step).with(null));
    List<Guide> had = ((MakeQuads) step).guides();
    guides.begin(had == null ? List.of() : had);
  }

  @Override
  public Draft<?> draft() {
    return guides;
  }

  /** Once other lines lead. */
  private void guided() {
    said();
    edited();
    findIfSmall();
    if (view != null) {
      view.repaint();
    }
  }

  private void said() {
    int n = guides.now().size();
    drawn.setText(n == 0 ? AppWords.of("quad-tool.draw") : AppWords.count("quad-tool.lines", n));
    Workpiece w = session.current();
    boolean isLarge = w != null && w.scan().triangleCount() > LARGE;
    for (Button b : List.of(show, clear)) {
      boolean isThere = b == show ? isLarge : n > 0;
      b.setVisible(isThere);
      b.setManaged(isThere);
    }
    buttons.setVisible(isLarge || n > 0);
    buttons.setManaged(isLarge || n > 0);
  }

  // --- how quads run -----------------------------------------------------------------------------

  private void findIfSmall() {
    Workpiece w = session.current();
    if (view != null && w != null && w.scan().triangleCount() <= LARGE) {
      find();
    }
  }

  private void find() {
    Workpiece w = session.current();
    MakeQuads s;
    try {
      s = (MakeQuads) step();
    } catch (Failure f) {
      // What is wrong stands on the Sheet; there is nothing to draw until it is right.
      session.jobs().stopLooking(this);
      return;
    }
    String what = AppWords.of("quad-tool.finding");
    session
        .jobs()
        .look(
            this,
            what,
            work -> preview.lines(w, s, work),
            lines -> {
              flow = lines;
              flowOf = w;
              session.changed();
            },
            f -> Problems.note(what, f));
  }

  @Override
  public double[] surfaceLines() {
    return flowOf != null && flowOf == session.current() ? flow : null;
  }

  // --- lines that lead ---------------------------------------------------------------------------

  @Override
  public boolean takesClicks() {
    return true;
  }

  @Override
  public void pressed(ViewPort on, MouseEvent e) {
    line = null;
    if (e.getButton() == MouseButton.PRIMARY && session.current() != null) {
      line = new ArrayList<>();
      ask(on, e);
    }
  }

  @Override
  public void dragged(ViewPort on, MouseEvent e) {
    if (line != null && Math.hypot(e.getX() - lastX, e.getY() - lastY) >= STEP) {
      ask(on, e);
    }
  }

  private void ask(ViewPort on, MouseEvent e) {
    lastX = e.getX();
    lastY = e.getY();
    List<double[]> to = line;
    on.pick(
        lastX,
        lastY,
        p -> {
          if (p != null) {
            to.add(p);
            on.repaint();
          }
        });
  }

  @Override
  public void released(ViewPort on, MouseEvent e) {
    List<double[]> done = line;
    if (done != null) {
      ask(on, e);
      // The last place is told after those asked for before it.
      on.pick(e.getX(), e.getY(), p -> finish(on, done));
    }
  }

  private void finish(ViewPort on, List<double[]> points) {
    if (line == points) {
      line = null;
    }
    Workpiece w = session.current();
    if (w != null && points.size() > 1 && view != null) {
      Frame f = w.frame();
      double[] inFile = new double[3 * points.size()];
      for (int i = 0; i < points.size(); i++) {
        System.arraycopy(f.toFile().apply(f.toBase(points.get(i))), 0, inFile, 3 * i, 3);
      }
      List<Guide> all = new ArrayList<>(guides.now());
      all.add(new Guide(inFile));
      guides.set(List.copyOf(all));
      guided();
    }
    on.repaint();
  }

  @Override
  public void drop(ViewPort on) {
    line = null;
    on.repaint();
  }

  @Override
  public void draw(ViewPort on, GraphicsContext g) {
    super.draw(on, g);
    Workpiece w = session.current();
    if (w == null) {
      return;
    }
    for (Guide guide : guides.now()) {
      Marks.line(on, g, placed(guide.line(), w.frame()), Marks.VERDIGRIS);
    }
    if (line != null && line.size() > 1) {
      Marks.line(on, g, line.stream().flatMapToDouble(Arrays::stream).toArray(), Marks.VERDIGRIS);
    }
  }

  private static double[] placed(double[] inFile, Frame f) {
    double[] out = new double[inFile.length];
    for (int i = 0; i < out.length; i += 3) {
      double[] base = f.toFile().inverse().apply(inFile[i], inFile[i + 1], inFile[i + 2]);
      System.arraycopy(f.toWork().apply(base), 0, out, i, 3);
    }
    return out;
  }
}

package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.geometry.Similarity;
import holotome.core.log.History;
import holotome.core.memory.Claim;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimate;
import holotome.core.reduce.DeviationCurve;
import holotome.core.reduce.DeviationCurve.Point;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import holotome.core.unit.Length;
import holotome.core.words.Language;
import java.lang.ref.WeakReference;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiFunction;
import javafx.scene.Cursor;
import javafx.scene.Node;
import javafx.scene.control.Tooltip;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.VBox;

/**
 * Decimates the Scan. What each number of triangles costs in shape is foretold from a sample and
 * drawn; the choice is marked there and can be dragged.
 */
final class DecimateTool extends StepTool {
  private static final double PATIENCE = 5;

  private final DeviationCanvas canvas = new DeviationCanvas();

  /** Made with the form: a tool is there before there is a window. */
  private Tooltip tooltip;

  private final StepKind kind = StepKind.of(Decimate.class);
  private final SelectedPart selected;
  private DeviationCurve curve;

  /** What it was foretold of; not held on to for that. */
  private WeakReference<Mesh> of = new WeakReference<>(null);

  /** Whether the curve is as good as it gets. */
  private boolean isWhole;

  private Mesh asked;

  DecimateTool(Session session, BiFunction<Step, History, String> verb) {
    super(
        session,
        Decimate.class,
        Stage.REDUCE,
        false,
        Map.of("triangles", 20000),
        verb,
        w -> List.of());
    selected = new SelectedPart(session, kind);
    canvas.setId("deviation-curve");
    canvas.setCursor(Cursor.CROSSHAIR);
    canvas.addEventHandler(MouseEvent.MOUSE_PRESSED, this::choose);
    canvas.addEventHandler(MouseEvent.MOUSE_DRAGGED, this::choose);
  }

  /** What becomes of what is selected, or of textures, is asked only where there is something. */
  @Override
  public Node form() {
    Node form = super.form();
    if (tooltip == null) {
      tooltip = new Tooltip();
      Tooltip.install(canvas, tooltip);
    }
    hide("picks");
    hide(selected.isSome() ? "symmetric" : "selected");
    if (session.current() != null && !session.current().scan().hasTexture()) {
      hide("texture");
    }
    sample();
    show();
    return new VBox(10, canvas, form);
  }

  @Override
  public Step step() {
    Map<String, Object> v = new LinkedHashMap<>(values());
    selected.put(v);
    // One half is mirrored only where all is light alike.
    v.remove(selected.isSome() ? "symmetric" : "selected");
    if (selected.isSome() && "alike".equals(v.getOrDefault("selected", "alike"))) {
      v.remove("picks");
    }
    return kind.create(v);
  }

  @Override
  public void load(Step step) {
    super.load(step);
    selected.load(step);
  }

  @Override
  public void begin(ViewPort view) {
    sample();
  }

  @Override
  public void measured() {
    sample();
    show();
  }

  @Override
  public void end(ViewPort view) {
    session.jobs().stopLooking(this);
    asked = null;
    selected.clear();
  }

  @Override
  protected void changed() {
    show();
  }

  /** Foretells the curve of the Scan at hand: in a moment roughly, then for small numbers too. */
  private void sample() {
    Mesh scan = session.isOpen() ? session.current().scan() : null;
    if (scan == null || scan.isEmpty() || scan == asked) {
      return;
    }
    boolean isKnown = scan == of.get();
    if (isKnown && isWhole) {
      return;
    }
    if (!isKnown) {
      curve = null;
      of = new WeakReference<>(null);
    }
    asked = scan;
    sample(scan, isKnown ? DeviationCurve.THOROUGH : DeviationCurve.QUICK);
  }

  private void sample(Mesh scan, int size) {
    session
        .jobs()
        .look(
            this,
            AppWords.of("decimate-tool.sampling"),
            work -> {
              try (Claim room = Claim.of(scan.triangleCount() / 4L + 300L * size)) {
                room.require(PATIENCE, AppWords.of("decimate-tool.sampling"), work);
                return DeviationCurve.of(scan, size, work);
              }
            },
            found -> {
              if (asked == scan) {
                curve = found;
                of = new WeakReference<>(scan);
                isWhole = size == DeviationCurve.THOROUGH || scan.triangleCount() <= size;
                if (isWhole) {
                  asked = null;
                } else {
                  sample(scan, DeviationCurve.THOROUGH);
                }
                edited();
                show();
              }
            },
            f -> {
              // Without a curve the step is as good; the Sheet has no figure of the deviation then.
              asked = null;
              of = new WeakReference<>(scan);
              isWhole = true;
              show();
            });
  }

  private Point chosen(Workpiece w) {
    Double n = triangles(w);
    return curve == null || n == null || w.scan() != of.get() ? null : curve.at(n);
  }

  /** How many triangles are asked for; null where that is not said. */
  private Double triangles(Workpiece w) {
    double all = w.scan().triangleCount();
    return Tools.stepOf(this) instanceof Decimate d
        ? d.triangles() != null
            ? Double.valueOf(Math.min(all, d.triangles()))
            : d.percent() != null ? Double.valueOf(all * d.percent() / 100) : null
        : null;
  }

  private void show() {
    Workpiece w = session.current();
    boolean known = w != null && curve != null && w.scan() == of.get() && curve.points().size() > 1;
    // It keeps its room while it is on its way: what is below does not jump.
    boolean comes = w != null && asked == w.scan();
    canvas.setVisible(known || comes);
    canvas.setManaged(known || comes);
    if (!known) {
      canvas.say(comes ? AppWords.of("decimate-tool.sampling") : "");
      return;
    }
    Similarity toWork = w.frame().toWork();
    boolean trueSize = w.frame().trueSize();
    Double n = triangles(w);
    Length within = Tools.stepOf(this) instanceof Decimate d ? d.tolerance() : null;
    canvas.setCurve(curve, w.scan().triangleCount());
    canvas.draw(
        n == null ? 0 : n,
        within == null ? 0 : w.frame().toBaseLength(within.metres()),
        toWork.scale(),
        trueSize);
    Point p = chosen(w);
    String words =
        p == null
            ? AppWords.of("decimate-tool.drag")
            : AppWords.of(
                "decimate-tool.about",
                Language.format("%,d", Math.round(p.triangles())),
                about(toWork.scale() * p.rms(), trueSize),
                about(toWork.scale() * p.p95(), trueSize));
    canvas.setAccessibleText(words);
    if (tooltip != null) {
      tooltip.setText(words);
    }
  }

  /** Two digits: more are not known. */
  private static String about(double x, boolean trueSize) {
    if (!(x > 0)) {
      return Length.format(0, trueSize);
    }
    double unit = Math.pow(10, Math.floor(Math.log10(x)) - 1);
    return Length.formatRound(Math.rint(x / unit) * unit, trueSize);
  }

  /** Takes what is under the pointer: a number, or a tolerance where that is what is chosen. */
  private void choose(MouseEvent e) {
    e.consume();
    Workpiece w = session.current();
    if (curve == null || w == null || w.scan() != of.get()) {
      return;
    }
    if (Tools.stepOf(this) instanceof Decimate d && d.tolerance() != null) {
      double off = canvas.deviation(e.getY()) * w.frame().toWork().scale();
      double unit = Math.pow(10, Math.floor(Math.log10(off)) - 1);
      fill("tolerance", Length.typed(Math.rint(off / unit) * unit, w.frame().trueSize()));
      return;
    }
    double n = Math.min(canvas.triangles(e.getX()), w.scan().triangleCount());
    double unit = Math.pow(10, Math.floor(Math.log10(n)) - 1);
    fill("triangles", String.valueOf(Math.max(4, Math.round(n / unit) * (long) unit)));
  }

  @Override
  public List<Row> estimate(Workpiece in) {
    List<Row> rows = new ArrayList<>();
    Double n = triangles(in);
    rows.add(
        new Row(
            "triangles",
            Language.format("%,d", in.scan().triangleCount()),
            n == null ? AppWords.of("tools.by-tolerance") : Language.format("%,d", Math.round(n))));
    Point p = chosen(in);
    if (p != null) {
      boolean trueSize = in.frame().trueSize();
      String off = about(in.frame().toWork().scale() * p.rms(), trueSize);
      rows.add(new Row("deviation", "", AppWords.of("decimate-tool.rms", off)));
    }
    if (Tools.stepOf(this) instanceof Decimate d) {
      long mb = d.memory(in) >> 20;
      // A first small sample is no measure of the time: the program is not warm yet.
      boolean isTimed = p != null && isWhole;
      rows.add(
          isTimed
              ? new Row(
                  "takes", "", AppWords.of("decimate-tool.takes", seconds(curve.seconds()), mb))
              : new Row("memory", "", AppWords.of("tools.about-mb", mb)));
    }
    return rows;
  }

  private static String seconds(double s) {
    return Language.format("%,d", Math.max(1, s < 20 ? Math.round(s) : 10 * Math.round(s / 10)));
  }
}

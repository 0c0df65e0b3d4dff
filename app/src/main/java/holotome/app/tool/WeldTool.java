package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.log.History;
import holotome.core.mend.WeldCurve;
import holotome.core.mend.WeldPoints;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.unit.Length;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import javafx.scene.Cursor;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.VBox;

/**
 * Welds points; the curve of what is left over the distance is drawn, and the distance set on it.
 */
final class WeldTool extends StepTool {
  private final WeldCanvas canvas = new WeldCanvas();
  private final Label said = new Label();
  private final VBox box = new VBox(4, canvas, said);

  /** What the curve is of, or is being worked out for. */
  private Mesh mesh;

  private WeldPoints.Among among;
  private WeldCurve curve;

  WeldTool(Session session) {
    super(session, WeldPoints.class, Stage.MEND, true, Map.of(), (s, t) -> says(t), w -> List.of());
    said.setWrapText(true);
    said.getStyleClass().addAll("soft", "small");
    said.setId("weld-said");
    canvas.setId("weld-curve");
    canvas.setCursor(Cursor.CROSSHAIR);
    canvas.addEventHandler(MouseEvent.MOUSE_PRESSED, this::set);
    canvas.addEventHandler(MouseEvent.MOUSE_DRAGGED, this::set);
  }

  private static String says(History trial) {
    int n = trial == null ? 0 : trial.lines().getLast().effect().amount();
    return n > 0 ? AppWords.count("weld-tool.weld", n) : AppWords.of("weld-tool.weld-plain");
  }

  @Override
  public Node details() {
    show();
    return box;
  }

  /** Without a distance there is a step only once the curve has shown a natural gap. */
  @Override
  public String missing() {
    if (session.current() == null || chosen() > 0) {
      return null;
    }
    show();
    return curve == null
        ? AppWords.of("weld-tool.looking")
        : curve.natural() > 0 ? null : AppWords.of("weld-tool.no-gap");
  }

  @Override
  public void measured() {
    show();
  }

  @Override
  public Step step() {
    Step step = super.step();
    show();
    return step;
  }

  private double scale() {
    return session.current().frame().toWork().scale();
  }

  /** Works the curve out where it is not known, and draws it. */
  private void show() {
    Workpiece w = session.current();
    if (w == null || session.insight() == null) {
      return;
    }
    WeldPoints.Among now =
        "rims".equals(values().get("among")) ? WeldPoints.Among.RIMS : WeldPoints.Among.ALL;
    if (mesh != w.scan() || among != now) {
      mesh = w.scan();
      among = now;
      curve = null;
      Mesh of = mesh;
      said.setText(AppWords.of("weld-tool.looking"));
      session
          .jobs()
          .look(
              this,
              AppWords.of("weld-tool.looking"),
              work -> {
                var points = WeldPoints.points(of, now, work.part(0.2, ""));
                return WeldCurve.of(of, points, work.part(0.8, ""));
              },
              c -> {
                if (mesh == of && among == now) {
                  curve = c;
                  edited();
                  session.changed();
                }
              },
              f -> {
                if (mesh == of) {
                  said.setText(f.getMessage());
                }
              });
    }
    draw();
  }

  private void draw() {
    if (curve == null) {
      canvas.clear();
      return;
    }
    double natural = curve.natural();
    double chosen = chosen();
    canvas.draw(curve, natural, chosen > 0 ? chosen : natural);
    boolean size = session.current().frame().trueSize();
    double at = chosen > 0 ? chosen : natural;
    said.setText(
        at > 0
            ? AppWords.of(
                "weld-tool.said",
                Length.format(at * scale(), size),
                curve.left(at),
                curve.points(),
                curve.broken(at))
            : "");
  }

  /** The distance typed, in base coordinates; 0 for none. */
  private double chosen() {
    if (values().get("distance") == null) {
      return 0;
    }
    try {
      return Length.parse(values().get("distance").toString()).metres() / scale();
    } catch (Failure f) {
      // Half typed: the Sheet says so.
      return 0;
    }
  }

  private void set(MouseEvent e) {
    if (curve == null) {
      return;
    }
    double working = canvas.distance(e.getX(), curve) * scale();
    fill(
        "distance",
        session.current().frame().trueSize()
            ? Length.typed(working)
            : String.format(Locale.ROOT, "%.4g", working));
  }
}

package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.geometry.Vec;
import holotome.core.log.History;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Step;
import holotome.core.swatch.LaySwatch;
import holotome.core.task.Failure;
import java.util.List;
import java.util.Map;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;

/** Lays a Swatch: a click says over what, and where it would lie is drawn once it was tried. */
final class SwatchTool extends StepTool {
  private static final Color OUTLINE = Color.web("#1E7A6C");
  private static final Color APRON = Color.web("#6E7A78");

  /** Larger scans are not looked at on every edit. */
  private static final int LARGE = 2_000_000;

  /** Corners of a Swatch as its mesh has them, all around. */
  private static final int[] AROUND = {0, 1, 3, 2, 0};

  private double[] outline;

  /** The tile within it, without the apron. */
  private double[] inner;

  private Workpiece of;

  SwatchTool(Session session) {
    super(
        session,
        LaySwatch.class,
        Stage.REDUCE,
        true,
        Map.of(),
        (s, t) -> AppWords.of("swatch-tool.lay"),
        w -> List.of());
    triedUpTo(LARGE);
  }

  @Override
  public Step step() {
    if (values().get("point") == null) {
      throw Failure.usage(AppWords.of("swatch-tool.click"));
    }
    return super.step();
  }

  @Override
  public void tried(History trial) {
    super.tried(trial);
    of = session.current();
    Workpiece made = trial.current();
    Mesh cast = made.cast();
    double apron = ((LaySwatch) trial.lines().getLast().entry().step()).apron() / 100;
    outline = around(made, cast, 0);
    inner = apron > 0 ? around(made, cast, apron / (1 + apron)) : null;
    session.changed();
  }

  /**
   * The corners all around, in working space.
   *
   * @param less share of the width and height that is left out on the left and below
   */
  private static double[] around(Workpiece made, Mesh cast, double less) {
    double[] corner = Vec.at(cast.xyz(), 0);
    double[] across = Vec.sub(Vec.at(cast.xyz(), 1), corner);
    double[] up = Vec.sub(Vec.at(cast.xyz(), 2), corner);
    double[] out = new double[3 * AROUND.length];
    for (int i = 0; i < AROUND.length; i++) {
      double u = Math.max(less, AROUND[i] & 1);
      double v = Math.max(less, AROUND[i] >> 1);
      double[] p = Vec.add(corner, Vec.add(Vec.mul(across, u), Vec.mul(up, v)));
      System.arraycopy(made.frame().toWork().apply(p), 0, out, 3 * i, 3);
    }
    return out;
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    if (outline != null && of == session.current()) {
      Marks.line(view, g, outline, inner == null ? OUTLINE : APRON);
      if (inner != null) {
        Marks.line(view, g, inner, OUTLINE);
      }
    }
    super.draw(view, g);
  }

  @Override
  public void end(ViewPort view) {
    super.end(view);
    outline = null;
    of = null;
  }
}

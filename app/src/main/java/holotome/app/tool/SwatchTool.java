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

  /** Larger scans are not looked at on every edit. */
  private static final int LARGE = 2_000_000;

  /** Corners of a Swatch as its mesh has them, all around. */
  private static final int[] AROUND = {0, 1, 3, 2, 0};

  private double[] outline;
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
    outline = new double[3 * AROUND.length];
    for (int i = 0; i < AROUND.length; i++) {
      double[] p = made.frame().toWork().apply(Vec.at(cast.xyz(), AROUND[i]));
      System.arraycopy(p, 0, outline, 3 * i, 3);
    }
    session.changed();
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    if (outline != null && of == session.current()) {
      Marks.line(view, g, outline, OUTLINE);
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

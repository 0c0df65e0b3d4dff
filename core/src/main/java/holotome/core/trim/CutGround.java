package holotome.core.trim;

import holotome.core.mesh.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Vec;
import holotome.core.spatial.PlaneFinder;
import holotome.core.step.Describes;
import holotome.core.step.Length;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.step.Workpiece;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.List;

/** Finds the ground that the subject stands on and cuts just above it. */
@Describes(
    id = "trim.ground",
    title = "Ground",
    help =
        "Finds the largest flat part, the ground or table, and cuts the subject off just above it.")
public record CutGround(
    @Parameter(
            help =
                "How far above the ground's mean plane the cut lies; else one and a half times its roughness (RMS)",
            min = 0,
            optional = true)
        Length margin,
    @Parameter(help = "Whether the cut is left open or closed flat", preset = "flat")
        PlaneCut.Close close)
    implements Step {

  /** A flat part holds at least this share of the area to pass for the ground. */
  private static final double LEAST_SHARE = 0.15;

  /** Clears joints and grain of a paved ground, and leaves a foot of some millimetres its edge. */
  private static final double ROUGHNESS = 1.5;

  @Override
  public Outcome apply(Workpiece in, Run run) {
    PlaneFinder.Flat ground = find(in.scan(), run.work().part(0.2, "Finding the ground"));
    if (ground == null) {
      throw Failure.cannot(
          "No ground is found: no flat part holds 15 % of the surface; cut by a plane instead");
    }
    Frame frame = in.frame();
    double[] up = frame.toWork().direction(ground.normal());
    double above =
        margin != null ? margin.metres() : ROUGHNESS * ground.rms() * frame.toWork().scale();
    double[] point = Vec.add(frame.toWork().apply(ground.point()), Vec.mul(up, above));
    Outcome cut =
        new PlaneCut(point, up, close)
            .apply(in, new Run(run.work().part(0.8, "Cutting"), run.out()));
    List<String> notes = new ArrayList<>(cut.notes());
    notes.addFirst(
        String.format(
            "Ground found: %.1f %% of the surface, flat within %s (RMS)",
            100 * ground.share(),
            Length.format(ground.rms() * frame.toWork().scale(), frame.trueSize())));
    return new Outcome(cut.work(), notes);
  }

  /** The ground as a flat part with its normal towards the subject, or null if there is none. */
  public static PlaneFinder.Flat find(Mesh mesh, Work work) {
    double tolerance = 0.004 * mesh.bounds().diagonal();
    List<PlaneFinder.Flat> found = PlaneFinder.find(mesh, tolerance, 1, work);
    return found.isEmpty() || found.getFirst().share() < LEAST_SHARE ? null : found.getFirst();
  }
}

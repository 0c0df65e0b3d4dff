package holotome.core.trim;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Vec;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.step.Workpiece;
import holotome.core.task.Failure;
import java.util.ArrayList;
import java.util.List;

/** Cuts the Scan by a plane and keeps the side its normal points to. */
@Describes(
    id = "trim.plane",
    title = "Plane cut",
    help =
        "Cuts straight along a plane and keeps the side its normal points to; leaves the cut open or closes it flat.")
public record PlaneCut(
    @Parameter(help = "A point on the plane, x y z in working space") double[] point,
    @Parameter(help = "Its normal, towards what is kept") double[] normal,
    @Parameter(help = "Whether the cut is left open or closed", preset = "open") Close close)
    implements Step {

  /** What is done about the opening. */
  public enum Close {
    OPEN,
    FLAT
  }

  public PlaneCut {
    if (point.length != 3 || normal.length != 3) {
      throw Failure.usage("point and normal need three numbers each");
    }
    if (!(Vec.length(normal) > 0)) {
      throw Failure.usage("the normal must not be null");
    }
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    double[] p = in.frame().toBase(point);
    double[] n = Vec.unit(in.frame().toWork().inverse().direction(normal));
    Mesh mesh = in.scan();
    PlaneSplit split = PlaneSplit.of(mesh, p, n, run.work().part(0.6, "Cutting"));
    if (split.mesh().isEmpty()) {
      throw Failure.cannot(
          "The whole mesh lies behind the plane; turn the plane around or move it");
    }
    List<String> notes = new ArrayList<>();
    notes.add(
        String.format(
            "%,d triangles removed",
            Math.max(0, mesh.triangleCount() - split.mesh().triangleCount())));
    Mesh result = split.mesh();
    if (close == Close.FLAT) {
      PlaneCap cap = PlaneCap.of(split, n, run.work().part(0.4, "Closing the cut"));
      result = cap.mesh();
      notes.add(cap.note());
    }
    return new Outcome(in.withScan(result), notes);
  }
}

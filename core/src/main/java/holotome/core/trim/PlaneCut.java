package holotome.core.trim;

import holotome.core.cut.FieldSplit;
import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Joined;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.topology.Counts;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;

/** Cuts the Scan by a plane and keeps the side its normal points to, or both as pieces. */
@Describes(
    id = "trim.plane",
    title = "Plane cut",
    help =
        "Cuts straight along a plane and keeps the side its normal points to, or both; leaves the cut open or closes it.",
    reads = {"scan", "frame"},
    writes = {"scan"})
public record PlaneCut(
    @Parameter(help = "A point on the plane, x y z in working space") double[] point,
    @Parameter(help = "Its normal, towards what is kept") double[] normal,
    @Parameter(help = "Whether the cut is left open or closed", preset = "open") Close close,
    @Parameter(
            help = "The side the normal points to, or both, parted from each other",
            preset = "front")
        Keep keep)
    implements Step {

  /** What is done about the opening. */
  public enum Close {
    OPEN,
    /** With as few triangles as the outline allows. */
    FLAT,
    /** With triangles as large as their neighbours, the colour carried on. */
    EVEN
  }

  /** Which side is kept. */
  public enum Keep {
    FRONT,
    BOTH
  }

  public PlaneCut {
    if (point.length != 3 || normal.length != 3) {
      throw Failure.usage(CoreWords.of("common.point-and-normal-need-three"));
    }
    if (!(Vec.length(normal) > 0)) {
      throw Failure.usage(CoreWords.of("common.the-normal-must-not-be"));
    }
  }

  public PlaneCut(double[] point, double[] normal, Close close) {
    this(point, normal, close, Keep.FRONT);
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Frame frame = in.frame();
    double[] p = frame.toBase(point);
    double[] n = Vec.unit(frame.toWork().inverse().direction(normal));
    Mesh mesh = in.scan();
    boolean both = keep == Keep.BOTH;
    double share = both ? 0.4 : 0.8;
    Half front =
        half(
            mesh,
            p,
            n,
            close,
            new Run(run.work().part(share, CoreWords.of("work.cutting")), run.out()));
    if (front.open.isEmpty()) {
      throw Failure.cannot(CoreWords.of("plane-cut.the-whole-mesh-lies-behind"));
    }
    List<String> notes = new ArrayList<>();
    Mesh result = front.closed;
    Counts counts = null;
    if (both) {
      Half back =
          half(
              mesh,
              p,
              Vec.mul(n, -1),
              close,
              new Run(run.work().part(share, CoreWords.of("work.cutting")), null));
      if (back.open.isEmpty()) {
        throw Failure.cannot(CoreWords.of("plane-cut.the-whole-mesh-lies-before"));
      }
      result = Joined.of(front.closed, back.closed);
      notes.add(
          CoreWords.of(
              "plane-cut.parted-into-triangles-before-the",
              front.closed.triangleCount(),
              back.closed.triangleCount()));
      notes.addAll(front.note);
      notes.addAll(back.note);
    } else {
      Removal removal =
          Removal.of(
              mesh,
              front.open,
              front.closed,
              frame,
              run.work().part(0.2, CoreWords.of("work.measuring")));
      notes.add(removal.note());
      notes.addAll(front.note);
      counts = removal.counts();
    }
    return new Outcome(in.withScan(result), notes, counts);
  }

  /** What lies before a plane, as cut and with the cut closed. */
  record Half(Mesh open, Mesh closed, List<String> note) {}

  static Half half(Mesh mesh, double[] point, double[] normal, Close close, Run run) {
    FieldSplit split =
        FieldSplit.byPlane(mesh, point, normal, run.work().part(0.6, CoreWords.of("work.cutting")));
    if (close == Close.OPEN || split.mesh().isEmpty()) {
      return new Half(split.mesh(), split.mesh(), List.of());
    }
    PlaneCap cap =
        PlaneCap.of(
            split,
            normal,
            close == Close.EVEN,
            run.work().part(0.4, CoreWords.of("work.closing-the-cut")));
    return new Half(split.mesh(), cap.mesh(), cap.notes());
  }
}

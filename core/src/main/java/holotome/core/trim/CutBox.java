package holotome.core.trim;

import holotome.core.cut.KnifeSplit;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.select.Region;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;

/** Cuts the Scan along the faces of a box. */
@Describes(
    id = "trim.box",
    title = "Box crop",
    help =
        "Cuts straight along the faces of a box and keeps what is inside it or outside; the inside may be closed.",
    reads = {"scan", "frame"},
    writes = {"scan"})
public record CutBox(
    @Parameter(help = "The box") Region box,
    @Parameter(help = "What is kept", preset = "inside") CutFence.Keep keep,
    @Parameter(
            help = "Whether the cuts are left open or closed",
            when = "keep=inside",
            preset = "open")
        PlaneCut.Close close)
    implements Step {

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh mesh = in.scan();
    BoxKnife knife = new BoxKnife(box, in.frame());
    List<String> notes = new ArrayList<>();
    Mesh cut = mesh;
    if (keep == CutFence.Keep.OUTSIDE) {
      cut = KnifeSplit.of(mesh, knife, false, run.work().part(0.8, CoreWords.of("work.cutting")));
    } else {
      // One face after the other: what closes one is cut by the next, and so meets it in an edge.
      for (int f = 0; f < 6 && !cut.isEmpty(); f++) {
        PlaneCut.Half half =
            PlaneCut.half(
                cut,
                knife.point(f),
                Vec.mul(knife.normal(f), -1),
                close,
                new Run(run.work().part(0.8 / 6, CoreWords.of("work.cutting")), null));
        cut = half.closed();
        notes.addAll(half.note());
      }
    }
    if (cut.isEmpty()) {
      throw Failure.cannot(CoreWords.of("cut-box.nothing-would-be-left-move"));
    }
    Removal removal =
        Removal.of(
            mesh, cut, cut, in.frame(), run.work().part(0.2, CoreWords.of("work.measuring")));
    notes.addFirst(removal.note());
    return new Outcome(in.withScan(cut), notes, removal.counts());
  }
}

package holotome.core.trim;

import holotome.core.cut.KnifeSplit;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.select.Fence;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;

/** Cuts straight through the Scan along an outline drawn on a view. */
@Describes(
    id = "trim.fence",
    title = "Fence",
    help =
        "Cuts straight through the mesh along an outline drawn on the view, clean along the line, and keeps what is outside it or inside.",
    reads = {"scan", "frame"},
    writes = {"scan"})
public record CutFence(
    @Parameter(help = "The outline, and the view that it was drawn on") Fence fence,
    @Parameter(help = "What is kept", preset = "outside") Keep keep)
    implements Step {

  /** What is kept. */
  public enum Keep {
    OUTSIDE,
    INSIDE
  }

  public CutFence {
    if (fence.reach() != null) {
      throw Failure.usage(CoreWords.of("cut-fence.a-fence-to-cut-along"));
    }
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh mesh = in.scan();
    OutlineKnife knife = new OutlineKnife(fence, in.frame());
    if (knife.facets() < 3) {
      throw Failure.usage(CoreWords.of("cut-fence.the-fences-outline-has-no"));
    }
    Mesh result =
        KnifeSplit.of(
            mesh, knife, keep == Keep.INSIDE, run.work().part(0.8, CoreWords.of("work.cutting")));
    if (result.isEmpty()) {
      throw Failure.cannot(CoreWords.of("cut-fence.nothing-would-be-left-draw"));
    }
    return Removal.of(
            mesh, result, result, in.frame(), run.work().part(0.2, CoreWords.of("work.measuring")))
        .outcome(in.withScan(result));
  }
}

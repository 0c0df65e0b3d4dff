package holotome.core.mend;

import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;

/** Parts what more than two triangles share, and what touches in a point. */
@Describes(
    id = "mend.manifold",
    title = "Manifold",
    help =
        "Parts edges of more than two triangles and points where separate fans meet, so that what bounds one solid stays together; nothing moves.")
public record MakeManifold() implements Step {

  @Override
  public Outcome apply(Workpiece in, Run run) {
    List<String> notes = new ArrayList<>();
    Mesh out =
        FanSplit.split(in.scan(), notes, run.work().part(1, CoreWords.of("work.parting-fans")));
    if (notes.isEmpty()) {
      notes.add(CoreWords.of("make-manifold.nothing"));
    }
    return new Outcome(in.withScan(out), notes);
  }
}

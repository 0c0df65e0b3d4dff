package holotome.core.mend;

import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.spatial.Outward;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.topology.Orientation;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;

/** Makes neighbours agree on the outside, and each island look outwards. */
@Describes(
    id = "mend.orient",
    title = "Orient",
    help =
        "Makes triangles agree with their neighbours and turns islands over that are inside out; walls of hollows stay as they are.")
public record OrientOut() implements Step {

  @Override
  public long memory(Workpiece in) {
    return 150L * in.scan().triangleCount();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    List<String> notes = new ArrayList<>();
    Mesh agreed =
        Orientation.agree(
            in.scan(), notes, run.work().part(0.3, CoreWords.of("work.turning-triangles")));
    Mesh out =
        Outward.turn(agreed, notes, run.work().part(0.7, CoreWords.of("work.turning-triangles")));
    if (notes.isEmpty()) {
      notes.add(CoreWords.of("orient-out.nothing"));
    }
    return new Outcome(in.withScan(out), notes);
  }
}

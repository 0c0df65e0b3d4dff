package holotome.core.mend;

import holotome.core.attribute.Provenance;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.words.CoreWords;
import java.util.BitSet;

/** Turns every triangle over, so that its back becomes its front. */
@Describes(
    id = "mend.flip",
    title = "Turn over",
    help = "Turns all triangles over: what was the inside becomes the outside.")
public record TurnOver() implements Step {

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh mesh = in.scan();
    int n = mesh.triangleCount();
    int[] corners = mesh.triangles();
    int[] over = new int[corners.length];
    for (int i = 0; i < over.length; i += 3) {
      over[i] = corners[i];
      over[i + 1] = corners[i + 2];
      over[i + 2] = corners[i + 1];
    }
    BitSet all = new BitSet(n);
    all.set(0, n);
    Provenance p = Provenance.of(mesh.vertexCount(), n).turned(all).build();
    Mesh result =
        mesh.derive(p, new float[0], over, run.work().part(1, CoreWords.of("work.turning-over")));
    return Outcome.of(in.withScan(result), CoreWords.of("common.triangles-turned-over", n));
  }
}

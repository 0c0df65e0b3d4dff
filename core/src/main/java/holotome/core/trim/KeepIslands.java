package holotome.core.trim;

import holotome.core.mesh.Islands;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.step.Describes;
import holotome.core.step.Length;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.step.Workpiece;
import holotome.core.task.Failure;
import holotome.core.task.Work;

/** Keeps some islands of the Scan and removes the others. */
@Describes(
    id = "trim.islands",
    title = "Islands",
    help = "Removes loose pieces: keeps the largest, or all that are large enough.")
public record KeepIslands(
    @Parameter(
            help = "The largest island, or every one that is larger than the limits",
            preset = "largest")
        Keep keep,
    @Parameter(
            help = "Islands of at least so many triangles",
            when = "keep=larger",
            min = 1,
            max = 2e9,
            preset = "1")
        int triangles,
    @Parameter(help = "Islands at least so far across", when = "keep=larger", min = 0, preset = "0")
        Length across)
    implements Step {

  /** What is kept. */
  public enum Keep {
    LARGEST,
    LARGER
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh mesh = in.scan();
    Islands islands = Islands.of(mesh, run.work().part(0.5, "Finding islands"));
    boolean[] kept = kept(islands, mesh, in.frame().toBaseLength(across.metres()), run.work());
    int removed = 0;
    for (boolean k : kept) {
      removed += k ? 0 : 1;
    }
    if (removed == kept.length) {
      throw Failure.cannot("No island is that large; nothing would be left. Choose smaller limits");
    }
    int[] of = islands.ofTriangle();
    Mesh result = Submesh.of(mesh, t -> kept[of[t]], run.work().part(0.5, "Removing islands"));
    return Outcome.of(
        in.withScan(result),
        String.format(
            "%,d of %,d islands removed with %,d triangles",
            removed, kept.length, mesh.triangleCount() - result.triangleCount()));
  }

  /** Which islands stay, by their rank. */
  boolean[] kept(Islands islands, Mesh mesh, double baseLength, Work work) {
    boolean[] kept = new boolean[islands.count()];
    double[] across = keep == Keep.LARGER && baseLength > 0 ? islands.diameters(mesh, work) : null;
    for (int i = 0; i < kept.length; i++) {
      kept[i] =
          keep == Keep.LARGEST
              ? i == 0
              : islands.sizes()[i] >= triangles && (across == null || across[i] >= baseLength);
    }
    return kept;
  }
}

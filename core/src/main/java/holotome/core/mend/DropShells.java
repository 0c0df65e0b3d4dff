package holotome.core.mend;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Work;
import holotome.core.topology.Islands;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.List;

/** Removes what is shut in: shells within the surface, and the walls of pockets. */
@Describes(
    id = "mend.shells",
    title = "Inner shells",
    help =
        "Removes islands that are shut in within others: inner shells, and the walls of pockets.",
    reads = {"scan", "frame"},
    writes = {"scan"})
public record DropShells(
    @Parameter(help = "Only those no larger across than this", min = 0, optional = true)
        Length upTo)
    implements Step {

  @Override
  public long memory(Workpiece in) {
    return 20L * in.scan().triangleCount();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh mesh = in.scan();
    Work work = run.work();
    Islands islands = Islands.of(mesh, work.part(0.2, CoreWords.of("work.finding-islands")));
    boolean[] shut =
        ShutIn.of(mesh, islands, work.part(0.6, CoreWords.of("work.finding-shells"))).islands();
    if (upTo != null) {
      double most = in.frame().toBaseLength(upTo.metres());
      double[] across = islands.diameters(mesh, work);
      for (int i = 0; i < shut.length; i++) {
        shut[i] &= across[i] <= most;
      }
    }
    int n = 0;
    for (boolean s : shut) {
      n += s ? 1 : 0;
    }
    if (n == 0) {
      return Outcome.of(in, CoreWords.of("drop-shells.none"));
    }
    int[] of = islands.ofTriangle();
    Mesh left =
        Submesh.of(
            mesh, t -> !shut[of[t]], work.part(0.2, CoreWords.of("work.dropping-triangles")));
    return new Outcome(
        in.withScan(left),
        List.of(
            CoreWords.count("drop-shells.removed", n, mesh.triangleCount() - left.triangleCount())),
        null,
        n);
  }
}

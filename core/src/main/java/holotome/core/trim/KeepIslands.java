package holotome.core.trim;

import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Workpiece;
import holotome.core.select.IslandGaps;
import holotome.core.select.IslandSizes;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Islands;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;

/** Keeps some islands of the Scan and removes the others. */
@Describes(
    id = "trim.islands",
    title = "Islands",
    help = "Removes loose pieces: keeps the largest, or all that are large enough.",
    reads = {"scan", "frame"},
    writes = {"scan"})
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
        Length across,
    @Parameter(
            help = "Islands at most so far from the largest; else any distance",
            when = "keep=larger",
            min = 0,
            optional = true)
        Length near)
    implements Step {

  /** What is kept. */
  public enum Keep {
    LARGEST,
    LARGER
  }

  public KeepIslands(Keep keep, int triangles, Length across) {
    this(keep, triangles, across, null);
  }

  @Override
  public long memory(Workpiece in) {
    return Removal.memory(in.scan());
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh mesh = in.scan();
    Islands islands = Islands.of(mesh, run.work().part(0.5, CoreWords.of("work.finding-islands")));
    boolean[] kept =
        kept(
            islands,
            mesh,
            in.frame(),
            run.work().part(0.1, CoreWords.of("work.measuring-islands")));
    int removed = 0;
    for (boolean k : kept) {
      removed += k ? 0 : 1;
    }
    if (removed == kept.length) {
      throw Failure.cannot(CoreWords.of("keep-islands.no-island-is-that-large"));
    }
    int[] of = islands.ofTriangle();
    Mesh result =
        Submesh.of(
            mesh, t -> kept[of[t]], run.work().part(0.3, CoreWords.of("work.removing-islands")));
    return Removal.of(
            mesh, result, result, in.frame(), run.work().part(0.1, CoreWords.of("work.measuring")))
        .outcome(
            in.withScan(result),
            CoreWords.of("keep-islands.of-islands-removed", removed, kept.length));
  }

  /** Which islands stay, by their rank. */
  public boolean[] kept(Islands islands, Mesh mesh, Frame frame, Work work) {
    if (keep == Keep.LARGEST) {
      boolean[] first = new boolean[islands.count()];
      if (first.length > 0) {
        first[0] = true;
      }
      return first;
    }
    boolean[] kept =
        new IslandSizes(triangles, null, across.metres() > 0 ? across : null, null, null)
            .chosen(islands, mesh, frame, work);
    if (near != null && near.metres() > 0) {
      double limit = frame.toBaseLength(near.metres());
      double[] gap = IslandGaps.of(islands, mesh, 1.05 * limit, work);
      for (int i = 0; i < kept.length; i++) {
        kept[i] &= gap[i] <= limit;
      }
    }
    return kept;
  }
}

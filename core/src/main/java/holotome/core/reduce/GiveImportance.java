package holotome.core.reduce;

import holotome.core.mesh.Importance;
import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.select.Pick;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import holotome.core.words.Language;
import java.util.BitSet;
import java.util.List;
import java.util.Set;

/** Says how much parts of the Scan matter. */
@Describes(
    id = "reduce.importance",
    title = "Importance",
    help =
        "Says how much parts of the surface matter: decimation gives them more or fewer triangles, charts more or fewer texels.",
    reads = {"scan", "frame"},
    writes = {"scan"})
public record GiveImportance(
    @Parameter(
            help =
                "So many times the triangles and texels for the same surface as elsewhere; 1 for as elsewhere",
            min = Importance.LEAST,
            max = Importance.MOST,
            preset = "4")
        double times,
    @Parameter(
            help = "What is selected, one pick after the other; else everything",
            optional = true)
        List<Pick> picks)
    implements Step {

  public GiveImportance {
    if (picks != null) {
      picks = List.copyOf(picks);
      if (picks.isEmpty()) {
        throw Failure.usage(CoreWords.of("common.a-selection-needs-at-least"));
      }
    }
  }

  @Override
  public Set<Part<?>> reads() {
    return picks == null ? Set.of(Part.SCAN) : Set.of(Part.SCAN, Part.FRAME);
  }

  @Override
  public long memory(Workpiece in) {
    return 6L * in.scan().triangleCount();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh scan = in.scan();
    BitSet set = new BitSet();
    set.set(0, scan.triangleCount());
    if (picks != null) {
      set = Pick.all(picks, scan, in.frame(), run.work());
      if (set.isEmpty()) {
        throw Failure.cannot(CoreWords.of("take-noise.nothing-is-selected"));
      }
    }
    return Outcome.of(
        in.withScan(Importance.given(scan, set, times)),
        CoreWords.of("importance.given", set.cardinality(), Language.figure(times)));
  }
}

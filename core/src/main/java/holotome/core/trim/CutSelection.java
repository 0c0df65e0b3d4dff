package holotome.core.trim;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Workpiece;
import holotome.core.select.Fence;
import holotome.core.select.Pick;
import holotome.core.step.Blob;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;

/** Removes or keeps what is selected: by a list of picks, or the short forms of a single one. */
@Describes(
    id = "trim.select",
    title = "Selection",
    help =
        "Removes what is selected, or all else. Picks by geometry or colour fit any scan of the place; a stored set of triangles fits its own mesh only.",
    reads = {"scan", "frame"},
    writes = {"scan"})
public record CutSelection(
    @Parameter(
            help = "What is selected, one pick after the other",
            optional = true,
            oneOf = "selection")
        List<Pick> picks,
    @Parameter(
            help = "A single outline that reaches through the mesh along the line of sight",
            optional = true,
            oneOf = "selection")
        Fence fence,
    @Parameter(
            help = "A single set of triangles of this very mesh, as the window stores it",
            optional = true,
            oneOf = "selection")
        Blob stored,
    @Parameter(help = "What happens to the selection", preset = "remove") Then then)
    implements Step {

  /** What happens to the selected triangles. */
  public enum Then {
    REMOVE,
    KEEP
  }

  public CutSelection {
    if (Stream.of(picks, fence, stored).filter(Objects::nonNull).count() != 1) {
      throw Failure.usage(CoreWords.of("cut-selection.give-one-of-picks-fence"));
    }
    if (picks != null && picks.isEmpty()) {
      throw Failure.usage(CoreWords.of("cut-selection.give-at-least-one-pick"));
    }
  }

  public static CutSelection of(List<Pick> picks, Then then) {
    return new CutSelection(picks, null, null, then);
  }

  /** The picks, the short forms written out. */
  public List<Pick> allPicks() {
    if (picks != null) {
      return picks;
    }
    return List.of(
        fence != null
            ? Pick.of(Pick.Join.ADD, fence)
            : new Pick(
                Pick.Join.ADD, null, null, null, null, null, null, null, null, null, stored, null));
  }

  @Override
  public long memory(Workpiece in) {
    return Removal.memory(in.scan());
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh mesh = in.scan();
    List<Pick> all = allPicks();
    BitSet selected =
        Pick.all(all, mesh, in.frame(), run.work().part(0.4, CoreWords.of("work.selecting")));
    boolean keep = then == Then.KEEP;
    int left = keep ? selected.cardinality() : mesh.triangleCount() - selected.cardinality();
    if (left == 0) {
      throw Failure.cannot(CoreWords.of("cut-selection.nothing-would-be-left-select"));
    }
    Mesh result =
        Submesh.of(
            mesh,
            t -> selected.get(t) == keep,
            run.work().part(0.4, CoreWords.of("work.removing")));
    List<String> notes = new ArrayList<>();
    Removal removal =
        Removal.of(
            mesh, result, result, in.frame(), run.work().part(0.2, CoreWords.of("work.measuring")));
    notes.add(removal.note());
    if (!all.stream().allMatch(Pick::isGeometric)) {
      notes.add(CoreWords.of("cut-selection.selected-triangle-by-triangle-fits"));
    }
    return new Outcome(in.withScan(result), notes, removal.counts());
  }
}

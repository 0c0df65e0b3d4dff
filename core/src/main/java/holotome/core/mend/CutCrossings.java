package holotome.core.mend;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Workpiece;
import holotome.core.select.Rings;
import holotome.core.spatial.SelfIntersections;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Islands;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;

/**
 * Takes crossing and overlapping triangles away with those around them and fills what opens; again
 * with more around them where the filling crosses. All else stays as it is.
 */
@Describes(
    id = "mend.intersections",
    title = "Crossings",
    help =
        "Takes away triangles that cross or overlap, with those around them, and fills what opens; the rest of the surface stays as it is.")
public record CutCrossings() implements Step {
  private static final int ROUNDS = 5;

  /** Pieces cut off with fewer triangles than this go along. */
  private static final int CRUMB = 12;

  /** Borders are filled of which this share lies along what was taken away. */
  private static final double ALONG = 0.9;

  @Override
  public long memory(Workpiece in) {
    return 120L * in.scan().triangleCount();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Work work = run.work();
    Mesh mesh = in.scan();
    long before = -1;
    long left = 0;
    int gone = 0;
    for (int round = 0; round < ROUNDS; round++) {
      SelfIntersections found =
          SelfIntersections.of(
              mesh, work.part(0.12, CoreWords.of("common.looking-for-self-intersections")));
      before = before < 0 ? found.count() : before;
      left = found.count();
      if (left == 0) {
        break;
      }
      BitSet away =
          Rings.grown(
              mesh,
              found.triangles(),
              round + 1,
              work.part(0.01, CoreWords.of("work.dropping-triangles")));
      if (away.cardinality() == mesh.triangleCount()) {
        throw Failure.cannot(CoreWords.of("cut-crossings.everywhere"));
      }
      gone += away.cardinality();
      mesh = replaced(mesh, away, work.part(0.06, CoreWords.of("work.filling-holes")));
    }
    if (before == 0) {
      return Outcome.of(in, CoreWords.of("cut-crossings.none"));
    }
    if (left > 0) {
      left = SelfIntersections.count(mesh, work.part(0.05, CoreWords.of("work.proving")));
    }
    List<String> notes = new ArrayList<>();
    notes.add(CoreWords.of("cut-crossings.resolved", before - left, gone));
    if (left > 0) {
      notes.add(CoreWords.of("cut-crossings.left", left));
    }
    return new Outcome(in.withScan(mesh), notes, null, (int) Math.min(before - left, 1 << 30));
  }

  /** Without some triangles, and what opens filled. */
  private static Mesh replaced(Mesh mesh, BitSet away, Work work) {
    BitSet more = (BitSet) away.clone();
    addCrumbs(mesh, more, work.part(0.4, CoreWords.of("work.finding-islands")));
    return Opening.of(mesh, more, work.part(0.1, CoreWords.of("work.dropping-triangles")))
        .parted(work.part(0.1, CoreWords.of("work.parting-fans")))
        .closed(ALONG, work.part(0.4, CoreWords.of("work.filling-holes")));
  }

  /** Crumbs that the cut leaves go along; small pieces that were there before stay. */
  private static void addCrumbs(Mesh mesh, BitSet away, Work work) {
    Islands whole = Islands.of(mesh, work.part(0.5, CoreWords.of("work.finding-islands")));
    Mesh parted = Submesh.of(mesh, t -> !away.get(t), Work.unwatched());
    Islands pieces = Islands.of(parted, work.part(0.5, CoreWords.of("work.finding-islands")));
    BitSet crumbs = new BitSet();
    int kept = 0;
    for (int t = 0; t < mesh.triangleCount(); t++) {
      if (!away.get(t)) {
        int size = pieces.sizes()[pieces.ofTriangle()[kept++]];
        crumbs.set(t, size < CRUMB && size < whole.sizes()[whole.ofTriangle()[t]]);
      }
    }
    away.or(crumbs);
  }
}

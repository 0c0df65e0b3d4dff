package holotome.core.mend;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Workpiece;
import holotome.core.spatial.SelfIntersections;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
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
      BitSet away = found.triangles();
      for (int k = 0; k <= round; k++) {
        widen(mesh, away);
      }
      if (away.cardinality() == mesh.triangleCount()) {
        throw Failure.cannot(CoreWords.of("cut-crossings.everywhere"));
      }
      gone += away.cardinality();
      mesh = replaced(mesh, away, work.part(0.07, CoreWords.of("work.filling-holes")));
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

  /** Adds all triangles that have a corner in common with what is in the set. */
  private static void widen(Mesh mesh, BitSet set) {
    int[] tri = mesh.triangles();
    BitSet at = new BitSet(mesh.vertexCount());
    for (int t = set.nextSetBit(0); t >= 0; t = set.nextSetBit(t + 1)) {
      at.set(tri[3 * t]);
      at.set(tri[3 * t + 1]);
      at.set(tri[3 * t + 2]);
    }
    for (int t = 0; t < mesh.triangleCount(); t++) {
      if (at.get(tri[3 * t]) || at.get(tri[3 * t + 1]) || at.get(tri[3 * t + 2])) {
        set.set(t);
      }
    }
  }

  private static Mesh replaced(Mesh mesh, BitSet away, Work work) {
    int[] tri = mesh.triangles();
    Islands whole = Islands.of(mesh);
    Mesh parted = without(mesh, away);
    // Crumbs that the cut leaves go along; small pieces that were there stay.
    Islands pieces = Islands.of(parted);
    BitSet more = (BitSet) away.clone();
    int kept = 0;
    for (int t = 0; t < mesh.triangleCount(); t++) {
      if (!away.get(t)) {
        int size = pieces.sizes()[pieces.ofTriangle()[kept++]];
        boolean isCutOff = size < whole.sizes()[whole.ofTriangle()[t]];
        more.set(t, isCutOff && size < CRUMB);
      }
    }
    BitSet rim = new BitSet(mesh.vertexCount());
    for (int t = more.nextSetBit(0); t >= 0; t = more.nextSetBit(t + 1)) {
      for (int k = 0; k < 3; k++) {
        rim.set(tri[3 * t + k]);
      }
    }
    BitSet used = new BitSet(mesh.vertexCount());
    for (int t = 0; t < mesh.triangleCount(); t++) {
      if (!more.get(t)) {
        used.set(tri[3 * t]);
        used.set(tri[3 * t + 1]);
        used.set(tri[3 * t + 2]);
      }
    }
    Mesh open = without(mesh, more);
    // Vertices that stay keep their order.
    BitSet rimNow = new BitSet(open.vertexCount());
    int number = 0;
    for (int v = used.nextSetBit(0); v >= 0; v = used.nextSetBit(v + 1)) {
      rimNow.set(number++, rim.get(v));
    }
    Mesh split = FanSplit.split(open, new ArrayList<>(), Work.unwatched());
    for (int t = 0; t < split.triangleCount(); t++) {
      for (int k = 0; k < 3; k++) {
        int v = split.triangles()[3 * t + k];
        if (rimNow.get(open.triangles()[3 * t + k])) {
          rimNow.set(v);
        }
      }
    }
    return filled(split, rimNow, work);
  }

  private static Mesh without(Mesh mesh, BitSet away) {
    return Submesh.of(mesh, t -> !away.get(t), Work.unwatched());
  }

  /** Fills the borders that lie along what was taken away. */
  private static Mesh filled(Mesh mesh, BitSet rim, Work work) {
    Adjacency adjacency = Adjacency.of(mesh);
    List<HoleFill> fills = new ArrayList<>();
    for (int[] loop : Borders.of(adjacency).loops()) {
      int along = 0;
      for (int h : loop) {
        along += rim.get(mesh.triangles()[h]) ? 1 : 0;
      }
      if (along >= 0.9 * loop.length) {
        HoleFill fill = HoleFill.of(mesh, adjacency, loop, true, Work.unwatched());
        if (fill != null) {
          fills.add(fill);
        }
      }
    }
    return FillHoles.joined(mesh, fills, work);
  }
}

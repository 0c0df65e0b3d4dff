package holotome.core.mend;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Set;

/** Welds points that stand close together: of each set the first one stays where it is. */
@Describes(
    id = "mend.weld",
    title = "Weld",
    help = "Makes one of points that stand close together; triangles that lose an edge go.",
    reads = {"scan", "frame"},
    writes = {"scan"})
public record WeldPoints(
    @Parameter(
            help =
                "How close together; where left out, in the natural gap between doubled points and edges",
            min = 0,
            optional = true)
        Length distance,
    @Parameter(help = "All points, or those on open borders only", preset = "all") Among among)
    implements Step {

  /** Which points may be joined. */
  public enum Among {
    ALL,
    RIMS
  }

  @Override
  public Set<Part<?>> reads() {
    return Set.of(Part.SCAN, Part.FRAME);
  }

  @Override
  public long memory(Workpiece in) {
    return 48L * in.scan().vertexCount() + 24L * in.scan().triangleCount();
  }

  /** The points that may be joined, as a step of this kind takes them; null for all. */
  public static BitSet points(Mesh mesh, Among among, Work work) {
    if (among == Among.ALL) {
      return null;
    }
    BitSet out = new BitSet(mesh.vertexCount());
    int[] twin = Adjacency.of(mesh, work).twin();
    for (int h = 0; h < twin.length; h++) {
      if (twin[h] == Adjacency.BORDER) {
        out.set(mesh.triangles()[h]);
        out.set(mesh.triangles()[Adjacency.next(h)]);
      }
    }
    return out;
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh mesh = in.scan();
    Work work = run.work();
    BitSet points = points(mesh, among, work.part(0.15, CoreWords.of("work.finding-the-borders")));
    double d;
    if (distance != null) {
      d = in.frame().toBaseLength(distance.metres());
    } else {
      d =
          WeldCurve.of(mesh, points, work.part(0.35, CoreWords.of("work.comparing-points")))
              .natural();
      if (!(d > 0)) {
        throw Failure.cannot(CoreWords.of("weld-points.no-gap"));
      }
    }
    PointJoining joining =
        PointJoining.within(mesh, points, d, work.part(0.3, CoreWords.of("work.comparing-points")));
    if (joining == null) {
      throw Failure.cannot(CoreWords.of("weld-points.too-many"));
    }
    if (joining.joined() == 0) {
      return Outcome.of(in, CoreWords.of("weld-points.none", Length.inBase(d)));
    }
    return welded(in, joining, d, work);
  }

  private static Outcome welded(Workpiece in, PointJoining joining, double d, Work work) {
    Mesh mesh = in.scan();
    Mesh whole = joining.joined(mesh, work.part(0.15, CoreWords.of("work.dropping-triangles")));
    if (whole.isEmpty()) {
      throw Failure.cannot(CoreWords.of("weld-points.nothing-left"));
    }
    List<String> notes = new ArrayList<>();
    notes.add(CoreWords.count("weld-points.welded", joining.joined(), Length.inBase(d)));
    int gone = mesh.triangleCount() - whole.triangleCount();
    if (gone > 0) {
      notes.add(CoreWords.count("weld-points.gone", gone));
    }
    notes.add(CoreWords.of("weld-points.moved", Length.inBase(farthest(mesh, joining))));
    return new Outcome(in.withScan(Submesh.used(whole)), notes, null, joining.joined());
  }

  private static double farthest(Mesh mesh, PointJoining joining) {
    double most = 0;
    for (int v = 0; v < mesh.vertexCount(); v++) {
      int to = joining.find(v);
      double sum = 0;
      for (int k = 0; k < 3 && to != v; k++) {
        double by = (double) mesh.xyz()[3 * v + k] - mesh.xyz()[3 * to + k];
        sum += by * by;
      }
      most = Math.max(most, sum);
    }
    return Math.sqrt(most);
  }
}

package holotome.core.mend;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.select.Pick;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.VertexFans;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.BitSet;
import java.util.List;

/**
 * Pulls the surface at a point: what hangs together with it within a radius goes along, less and
 * less towards the rim, so that detail is kept. The fall-off is smooth at both ends (3 w^2 - 2
 * w^3).
 */
@Describes(
    id = "mend.pull",
    title = "Pull",
    help =
        "Pulls the surface at a point: what hangs together with it within a radius goes along, softly, and keeps its detail.",
    reads = {"scan", "frame"},
    writes = {"scan"})
public record PullSurface(
    @Parameter(help = "Where it is pulled, x y z in working space") double[] point,
    @Parameter(help = "How far and whereto, x y z in working space") double[] by,
    @Parameter(help = "How far around goes along", min = 0, preset = "50 mm") Length radius,
    @Parameter(help = "What may move, one pick after the other; else everything", optional = true)
        List<Pick> picks)
    implements Step {
  /** Vertices between two looks for a cancel, less one; a power of two. */
  private static final int OFTEN = (1 << 17) - 1;

  public PullSurface {
    if (point == null || point.length != 3 || by == null || by.length != 3) {
      throw Failure.usage(CoreWords.of("pull-surface.three-numbers"));
    }
    picks = picks == null ? null : List.copyOf(picks);
  }

  @Override
  public long memory(Workpiece in) {
    return 40L * in.scan().triangleCount();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh mesh = in.scan();
    Work work = run.work();
    VertexFans fans = VertexFans.of(mesh, work.part(0.5, CoreWords.of("work.finding-neighbours")));
    double[] at = in.frame().toBase(point);
    double[] to = in.frame().toBase(Vec.add(point, by));
    double[] way = Vec.sub(to, at);
    double reach = in.frame().toBaseLength(radius.metres());
    BitSet may = picks == null ? null : corners(in, work);
    BitSet moves = together(mesh, fans, at, reach, may, work);
    if (moves.isEmpty()) {
      throw Failure.cannot(CoreWords.of("pull-surface.nothing-there"));
    }
    float[] xyz = mesh.xyz().clone();
    for (int v = moves.nextSetBit(0); v >= 0; v = moves.nextSetBit(v + 1)) {
      double near = 1 - Vec.distance(Vec.at(mesh.xyz(), v), at) / reach;
      double w = near * near * (3 - 2 * near);
      for (int k = 0; k < 3; k++) {
        xyz[3 * v + k] = (float) (xyz[3 * v + k] + w * way[k]);
      }
    }
    work.advance(0.4);
    return new Outcome(
        in.withScan(TakeNoise.withNormals(mesh.withPositions(xyz))),
        List.of(
            CoreWords.of(
                "pull-surface.pulled", moves.cardinality(), Length.inBase(Vec.length(way)))));
  }

  private BitSet corners(Workpiece in, Work work) {
    BitSet set =
        Pick.all(picks, in.scan(), in.frame(), work.part(0.1, CoreWords.of("work.selecting")));
    BitSet out = new BitSet(in.scan().vertexCount());
    for (int t = set.nextSetBit(0); t >= 0; t = set.nextSetBit(t + 1)) {
      for (int c = 3 * t; c < 3 * t + 3; c++) {
        out.set(in.scan().triangles()[c]);
      }
    }
    return out;
  }

  /** The vertices within reach that hang together with the nearest one, through such vertices. */
  private static BitSet together(
      Mesh mesh, VertexFans fans, double[] at, double reach, BitSet may, Work work) {
    int n = mesh.vertexCount();
    int nearest = -1;
    double least = reach;
    for (int v = 0; v < n; v++) {
      if ((v & OFTEN) == 0) {
        work.check();
      }
      double d = Vec.distance(Vec.at(mesh.xyz(), v), at);
      if (d < least && fans.count(v) > 0 && (may == null || may.get(v))) {
        least = d;
        nearest = v;
      }
    }
    BitSet out = new BitSet(n);
    if (nearest < 0) {
      return out;
    }
    int[] queue = new int[64];
    int head = 0;
    int tail = 0;
    queue[tail++] = nearest;
    out.set(nearest);
    while (head < tail) {
      if ((head & OFTEN) == 0) {
        work.check();
      }
      int v = queue[head++];
      for (int i = fans.start()[v]; i < fans.start()[v + 1]; i++) {
        int t = 3 * fans.triangles()[i];
        for (int c = t; c < t + 3; c++) {
          int u = mesh.triangles()[c];
          if (!out.get(u)
              && (may == null || may.get(u))
              && Vec.distance(Vec.at(mesh.xyz(), u), at) < reach) {
            out.set(u);
            if (tail == queue.length) {
              queue = java.util.Arrays.copyOf(queue, 2 * tail);
            }
            queue[tail++] = u;
          }
        }
      }
    }
    return out;
  }
}

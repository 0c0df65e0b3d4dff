package holotome.core.trim;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.topology.Adjacency;
import holotome.core.words.CoreWords;
import java.util.BitSet;

/** Takes thin triangles and teeth off the open borders. */
@Describes(
    id = "trim.fringe",
    title = "Fringe",
    help =
        "Evens the open borders out: removes thin triangles along them, and teeth that hang by one edge.",
    reads = {"scan", "frame"},
    writes = {"scan"})
public record TrimFringe(
    @Parameter(
            help =
                "Thinner than this goes: 4 √3 area over the sum of the squared edges, 1 for even triangles",
            min = 0,
            max = 1,
            preset = "0.15")
        double thin,
    @Parameter(help = "Triangles that hang by one edge go as well", preset = "true") boolean teeth,
    @Parameter(help = "So many times", min = 1, max = 100, preset = "3") int rounds)
    implements Step {
  static final double THIN = 0.15;

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh mesh = in.scan();
    Adjacency adjacency =
        Adjacency.of(mesh, run.work().part(0.5, CoreWords.of("work.finding-the-borders")));
    BitSet gone = new BitSet(mesh.triangleCount());
    for (int i = 0; i < rounds; i++) {
      BitSet next = new BitSet();
      for (int t = gone.nextClearBit(0); t < mesh.triangleCount(); t = gone.nextClearBit(t + 1)) {
        int open = openEdges(adjacency, gone, t);
        if (open > 0 && isThin(mesh, t, thin) || teeth && open == 2) {
          next.set(t);
        }
      }
      if (next.isEmpty()) {
        break;
      }
      gone.or(next);
      run.work().advance(0.2 / rounds);
    }
    if (gone.cardinality() == mesh.triangleCount()) {
      throw Failure.cannot(CoreWords.of("trim-fringe.nothing-would-be-left-choose"));
    }
    Mesh result =
        Submesh.of(mesh, t -> !gone.get(t), run.work().part(0.2, CoreWords.of("work.removing")));
    return Removal.of(
            mesh, result, result, in.frame(), run.work().part(0.1, CoreWords.of("work.measuring")))
        .outcome(in.withScan(result));
  }

  private static int openEdges(Adjacency adjacency, BitSet gone, int t) {
    int open = 0;
    for (int h = 3 * t; h < 3 * t + 3; h++) {
      int twin = adjacency.twin()[h];
      open += twin == Adjacency.BORDER || twin >= 0 && gone.get(twin / 3) ? 1 : 0;
    }
    return open;
  }

  /** The thin triangles with an open edge. */
  static BitSet slivers(Mesh mesh, Adjacency adjacency, double thin) {
    BitSet set = new BitSet();
    int[] twin = adjacency.twin();
    for (int h = 0; h < twin.length; h++) {
      if (twin[h] == Adjacency.BORDER && isThin(mesh, h / 3, thin)) {
        set.set(h / 3);
      }
    }
    return set;
  }

  private static boolean isThin(Mesh mesh, int t, double thin) {
    double squares = 0;
    for (int k = 0; k < 3; k++) {
      double d =
          Vec.distance(
              Vec.at(mesh.xyz(), mesh.triangles()[3 * t + k]),
              Vec.at(mesh.xyz(), mesh.triangles()[3 * t + (k + 1) % 3]));
      squares += d * d;
    }
    double twice = Vec.length(holotome.core.mesh.Measures.cross(mesh, t));
    return 2 * Math.sqrt(3) * twice < thin * squares;
  }
}

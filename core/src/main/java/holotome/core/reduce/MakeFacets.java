package holotome.core.reduce;

import holotome.core.attribute.Attribute;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.SelfIntersections;
import holotome.core.spatial.UsualSize;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/** Makes few, even, flat triangles that are meant to be seen. */
@Describes(
    id = "reduce.facets",
    title = "Facets",
    help = "Makes a mesh of few even triangles that are shown flat: the faceted look, on purpose.",
    reads = {"scan"},
    writes = {"scan", "cast", "maps", "stand-in"})
public record MakeFacets(
    @Parameter(help = "About how many facets", min = 4, max = 1e6, preset = "600") int triangles,
    @Parameter(
            help = "What becomes of the result: the Cast, a lighter Scan, or a stand-in beside it",
            preset = "cast")
        Role as)
    implements Step {
  /**
   * Thinned to so many times the facets first: what is thinner than a facet is then still there,
   * and lies between few triangles.
   */
  private static final int FIRST = 4;

  /** The cosine of the turn from which on an edge is kept as a line, if that can be. */
  private static final double SHARP = 0.5;

  private static final int TRIES = 2;

  private static final double MANY = 1.25;

  @Override
  public Set<Part<?>> writes() {
    return as.writes();
  }

  @Override
  public long memory(Workpiece in) {
    return 130L * in.scan().triangleCount();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh scan = in.scan();
    Mesh plain = Lightened.colouredByVertex(scan);
    UsualSize size = UsualSize.of(plain);
    Mesh bare = size.to(new Mesh(plain.xyz(), plain.triangles()));
    Bvh bvh = Bvh.of(bare, run.work().part(0.1, CoreWords.of("work.indexing-the-surface")));
    Work work = run.work().part(0.5, CoreWords.of("work.evening"));
    Mesh best = null;
    int fewest = Integer.MAX_VALUE;
    for (int i = 0; i <= TRIES && (fewest > 0 || best.triangleCount() > MANY * triangles); i++) {
      Work part = work.part(1.0 / (TRIES + 1), CoreWords.of("work.evening"));
      Work making = part.part(0.8, CoreWords.of("work.evening"));
      // Where even triangles cannot do without, ones of several sizes may.
      Mesh made =
          i < TRIES
              ? made(bare, bvh, i == 0, making)
              : Uncrossed.decimate(bare, triangles, Wedges.NONE, making).light().mesh();
      String looking = CoreWords.of("common.looking-for-self-intersections");
      int crossing = SelfIntersections.of(made, part.part(0.2, looking)).triangles().cardinality();
      // Edges that are held need their triangles: too many of them is no answer.
      boolean isFew = made.triangleCount() <= MANY * triangles;
      boolean isBetter = best != null && best.triangleCount() > MANY * triangles;
      if (best == null || isFew && (isBetter || crossing < fewest)) {
        best = made;
        fewest = crossing;
      }
    }
    Mesh carried =
        Lightened.carrying(
            plain.with(plain.attributes().without(Attribute.Kind.UV), plain.materials()),
            size.back(best),
            run.work().part(0.25, CoreWords.of("work.carrying-over")));
    Mesh light = carried.with(flat(carried));
    List<String> notes = new ArrayList<>();
    notes.add(CoreWords.of("facets.made", light.triangleCount(), scan.triangleCount()));
    notes.add(
        Lightened.deviation(
            light, scan, run.work().part(0.15, CoreWords.of("work.measuring-deviation"))));
    if (fewest > 0) {
      notes.add(CoreWords.of("reduce.cross", fewest));
    }
    int open = openEdges(light);
    notes.add(open == 0 ? CoreWords.of("facets.closed") : CoreWords.of("facets.open", open));
    return new Outcome(as.into(in, light), notes);
  }

  private Mesh made(Mesh mesh, Bvh bvh, boolean keepsEdges, Work work) {
    Decimation.Result thin =
        Decimation.of(
            mesh,
            (int) Math.min(mesh.triangleCount(), (double) FIRST * triangles),
            Double.POSITIVE_INFINITY,
            null,
            Wedges.NONE,
            work.part(0.6, CoreWords.of("work.decimating")));
    byte[] lines =
        keepsEdges
            ? Wedges.of(
                    thin.mesh(),
                    false,
                    false,
                    SHARP,
                    work.part(0.1, CoreWords.of("work.finding-seams")))
                .lines()
            : null;
    Remeshing.Result start = new Remeshing.Result(thin.mesh(), thin.root(), lines);
    return Remeshing.toCount(
            mesh, start, triangles, bvh, work.part(0.3, CoreWords.of("work.evening")))
        .mesh();
  }

  private static int openEdges(Mesh mesh) {
    int open = 0;
    for (int twin : Adjacency.of(mesh).twin()) {
      open += twin < 0 ? 1 : 0;
    }
    return open;
  }

  /** Each triangle's own normal at its corners: so it is shown and written flat. */
  private static Attribute flat(Mesh mesh) {
    int n = mesh.triangleCount();
    float[] normals = new float[3 * n];
    int[] of = new int[3 * n];
    double[] cross = new double[3];
    for (int t = 0; t < n; t++) {
      Measures.cross(mesh.xyz(), mesh.triangles(), t, cross);
      double l = Math.sqrt(cross[0] * cross[0] + cross[1] * cross[1] + cross[2] * cross[2]);
      for (int k = 0; k < 3; k++) {
        normals[3 * t + k] = l > 0 ? (float) (cross[k] / l) : k == 2 ? 1 : 0;
        of[3 * t + k] = t;
      }
    }
    return Attribute.of(
        Attribute.NORMAL, Attribute.Kind.NORMAL, Attribute.Domain.CORNER, normals, of);
  }
}

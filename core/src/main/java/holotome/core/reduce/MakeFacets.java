package holotome.core.reduce;

import holotome.core.attribute.Attribute;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.SelfIntersections;
import holotome.core.spatial.SolidProof;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.spatial.UsualSize;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.BitSet;
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
            help =
                "Closed: a surface without holes is laid through the scan first, so that the facets bound a solid, for printing",
            preset = "false")
        boolean closed,
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

  /** Triangles of the closed surface that facets are made of, to each of them, and at least. */
  private static final double CLOSED_FIRST = 60;

  private static final int LEAST_CLOSED = 50_000;

  /** So many times the facets asked for, at most, where fewer would cross. */
  private static final int MOST_MORE = 16;

  /** How closely it follows the scan, beside its normals. */
  private static final double CLOSENESS = 4;

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
    List<String> notes = new ArrayList<>();
    BitSet lost = new BitSet();
    Mesh best =
        closed
            ? laidOnAClosedOne(bare, bvh, size, lost, notes, run)
            : laid(bare, bvh, triangles, run.work().part(0.5, CoreWords.of("work.evening"))).mesh;
    Mesh carried =
        Lightened.carrying(
            plain.with(plain.attributes().without(Attribute.Kind.UV), plain.materials()),
            size.back(best),
            run.work().part(0.25, CoreWords.of("work.carrying-over")));
    Mesh light = carried.with(flat(carried));
    notes.addFirst(CoreWords.of("facets.made", light.triangleCount(), scan.triangleCount()));
    notes.add(deviation(light, scan, lost, run));
    SolidProof proof = SolidProof.of(light, run.work().part(0.05, CoreWords.of("work.proving")));
    if (proof.crossings() > 0) {
      notes.add(CoreWords.count("facets.cross", proof.crossings()));
    }
    if (proof.openEdges() > 0) {
      notes.add(CoreWords.count("facets.open", proof.openEdges()));
    } else {
      notes.add(
          proof.holds()
              ? CoreWords.of("facets.solid")
              : CoreWords.of("facets.no-solid", proof.problem()));
    }
    return new Outcome(as.into(in, light), notes);
  }

  private String deviation(Mesh light, Mesh scan, BitSet lost, Run run) {
    Work work = run.work().part(0.1, CoreWords.of("work.measuring-deviation"));
    if (!closed) {
      return Lightened.deviation(light, scan, work);
    }
    Mesh found = lost.isEmpty() ? scan : Submesh.of(scan, t -> !lost.get(t), work);
    SurfaceDistance off = Lightened.ofScan(found, Bvh.of(light), work);
    return Lightened.inWords(off.rms(), off.max());
  }

  /** Facets of a closed surface through the scan. */
  private Mesh laidOnAClosedOne(
      Mesh bare, Bvh bvh, UsualSize size, BitSet lost, List<String> notes, Run run) {
    Work closing = run.work().part(0.3, CoreWords.of("work.making-the-surface"));
    Mesh ready =
        NewSurface.ready(
            bare, bvh, notes, closing.part(0.3, CoreWords.of("work.turning-triangles")));
    int first = (int) Math.min(1e8, Math.max(LEAST_CLOSED, CLOSED_FIRST * triangles));
    double step = Math.max(NewSurface.fitting(bare), NewSurface.forTriangles(bare, first));
    NewSurface whole =
        NewSurface.of(
            ready,
            bvh,
            step,
            CLOSENESS,
            Double.POSITIVE_INFINITY,
            closing.part(0.7, CoreWords.of("work.making-the-surface")));
    if (whole.bridged() > 0) {
      notes.add(CoreWords.of("make-solid.bridged", Length.inBase(size.back(whole.bridged()))));
    }
    lost.or(whole.lost());
    if (!lost.isEmpty()) {
      notes.add(CoreWords.count("resurface.lost", lost.cardinality()));
    }
    Work evening = run.work().part(0.2, CoreWords.of("work.evening"));
    Laid laid = laid(whole.mesh(), whole.bvh(), triangles, evening.part(0.5, evening.label()));
    // A body with many handles or thin walls needs more of them to lie apart.
    for (int more = 2; laid.crossing > 0 && more <= MOST_MORE; more *= 2) {
      int wanted = (int) Math.min((double) more * triangles, whole.mesh().triangleCount());
      Laid next = laid(whole.mesh(), whole.bvh(), wanted, evening.part(0.1, evening.label()));
      laid = next.crossing < laid.crossing ? next : laid;
    }
    if (laid.mesh.triangleCount() > MANY * triangles) {
      notes.add(CoreWords.of("facets.more", triangles));
    }
    return laid.mesh;
  }

  /**
   * Some facets.
   *
   * @param crossing how many of them cross another
   */
  private record Laid(Mesh mesh, int crossing) {}

  /** Tries until there are few and none crosses another. */
  private static Laid laid(Mesh bare, Bvh bvh, int wanted, Work work) {
    Mesh best = null;
    int fewest = Integer.MAX_VALUE;
    for (int i = 0; i <= TRIES && (fewest > 0 || best.triangleCount() > MANY * wanted); i++) {
      Work part = work.part(1.0 / (TRIES + 1), CoreWords.of("work.evening"));
      Work making = part.part(0.8, CoreWords.of("work.evening"));
      // Where even triangles cannot do without, ones of several sizes may.
      Mesh made =
          i < TRIES
              ? made(bare, bvh, wanted, i == 0, making)
              : Uncrossed.decimate(bare, wanted, Wedges.NONE, making).light().mesh();
      String looking = CoreWords.of("common.looking-for-self-intersections");
      int crossing = SelfIntersections.of(made, part.part(0.2, looking)).triangles().cardinality();
      // Edges that are held need their triangles: too many of them is no answer.
      boolean isFew = made.triangleCount() <= MANY * wanted;
      boolean isBetter = best != null && best.triangleCount() > MANY * wanted;
      if (best == null || isFew && (isBetter || crossing < fewest)) {
        best = made;
        fewest = crossing;
      }
    }
    return new Laid(best, fewest);
  }

  private static Mesh made(Mesh mesh, Bvh bvh, int wanted, boolean keepsEdges, Work work) {
    Decimation.Result thin =
        Decimation.of(
            mesh,
            (int) Math.min(mesh.triangleCount(), (double) FIRST * wanted),
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
    return Remeshing.toCount(mesh, start, wanted, bvh, work.part(0.3, CoreWords.of("work.evening")))
        .mesh();
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

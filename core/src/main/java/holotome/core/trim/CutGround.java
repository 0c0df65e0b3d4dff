package holotome.core.trim;

import holotome.core.cut.FieldSplit;
import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Workpiece;
import holotome.core.spatial.PlaneFinder;
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
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;

/** Finds the ground that the subject stands on and cuts just above it. */
@Describes(
    id = "trim.ground",
    title = "Ground",
    help =
        "Finds the flat parts of the scan and cuts the subject off just above one: straight, or following the ground so that a foot is not cut flat.",
    reads = {"scan", "frame"},
    writes = {"scan"})
public record CutGround(
    @Parameter(
            help =
                "How far above the ground the cut lies; else one and a half times its roughness (RMS)",
            min = 0,
            optional = true)
        Length margin,
    @Parameter(
            help =
                "Along the ground's mean plane, along the ground as it runs around the foot, or along the seam where the foot meets it",
            preset = "plane")
        Along along,
    @Parameter(
            help = "Whether the cut is left open or closed",
            when = "along=plane",
            preset = "flat")
        PlaneCut.Close close,
    @Parameter(
            help = "Which flat part is the ground: 1 is the largest",
            min = 1,
            max = CutGround.MOST,
            preset = "1")
        int candidate)
    implements Step {

  /** So many flat parts are looked for. */
  public static final int MOST = 4;

  /** A flat part holds at least this share of the area to pass for the ground. */
  private static final double LEAST_SHARE = 0.15;

  /** One that was chosen by hand need not be so large. */
  private static final double LEAST_CHOSEN = 0.05;

  /** Clears joints and grain of a paved ground, and leaves a foot of some millimetres its edge. */
  private static final double ROUGHNESS = 1.5;

  /** Pieces that rise less than so many times the roughness above the cut are ground as well. */
  private static final double CRUMBS = 4;

  /** Where the cut runs. */
  public enum Along {
    PLANE,
    GROUND,
    /** Along the seam between ground and foot; triangles stay whole, the foot stays complete. */
    SEAM
  }

  public CutGround(Length margin, PlaneCut.Close close) {
    this(margin, Along.PLANE, close, 1);
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh mesh = in.scan();
    PlaneFinder.Flat ground =
        chosen(mesh, run.work().part(0.2, CoreWords.of("work.finding-the-ground")));
    Frame frame = in.frame();
    double scale = frame.toWork().scale();
    double above = margin != null ? margin.metres() / scale : ROUGHNESS * ground.rms();
    FieldSplit.Field field = field(mesh, ground, above, run.work());
    FieldSplit split = split(mesh, ground, field, above, run.work());
    int crumbs = 0;
    boolean[] loose =
        crumbs(split.mesh(), field, CRUMBS * Math.max(ground.rms(), above), run.work());
    if (loose != null) {
      Islands islands = Islands.of(split.mesh());
      int[] of = islands.ofTriangle();
      boolean[] on = split.onCut();
      int[] tri = split.mesh().triangles();
      int kept = 0;
      for (int t = 0; t < of.length; t++) {
        kept += loose[of[t]] ? 0 : 1;
      }
      if (kept == 0) {
        throw Failure.cannot(CoreWords.of("cut-ground.nothing-stands-on-the-ground"));
      }
      for (boolean l : loose) {
        crumbs += l ? 1 : 0;
      }
      split = without(split.mesh(), on, tri, of, loose, run.work());
    }
    if (split.mesh().isEmpty()) {
      throw Failure.cannot(CoreWords.of("cut-ground.nothing-stands-on-the-ground"));
    }
    List<String> notes = new ArrayList<>();
    notes.add(
        CoreWords.of(
            "cut-ground.ground-found-of-the-surface",
            100 * ground.share(),
            Length.format(ground.rms() * scale, frame.trueSize())));
    Mesh result = split.mesh();
    List<String> closed = List.of();
    if (along == Along.PLANE && close != PlaneCut.Close.OPEN) {
      PlaneCap cap =
          PlaneCap.of(
              split,
              ground.normal(),
              close == PlaneCut.Close.EVEN,
              run.work().part(0.2, CoreWords.of("work.closing-the-cut")));
      result = cap.mesh();
      closed = cap.notes();
    }
    Removal removal =
        Removal.of(
            mesh,
            split.mesh(),
            result,
            frame,
            run.work().part(0.1, CoreWords.of("work.measuring")));
    notes.add(removal.note());
    if (crumbs > 0) {
      notes.add(CoreWords.count("cut-ground.crumbs-of-ground-went-with", crumbs));
    }
    notes.addAll(closed);
    return new Outcome(in.withScan(result), notes, removal.counts());
  }

  /** How far places lie above the cut. */
  private FieldSplit.Field field(Mesh mesh, PlaneFinder.Flat ground, double above, Work work) {
    if (along != Along.PLANE) {
      GroundSurface surface =
          GroundSurface.of(mesh, ground, work.part(0.1, CoreWords.of("work.following-the-ground")));
      return (x, y, z) -> surface.above(x, y, z) - above;
    }
    double[] n = ground.normal();
    double[] p = Vec.add(ground.point(), Vec.mul(n, above));
    return (x, y, z) -> (x - p[0]) * n[0] + (y - p[1]) * n[1] + (z - p[2]) * n[2];
  }

  private FieldSplit split(
      Mesh mesh, PlaneFinder.Flat ground, FieldSplit.Field field, double above, Work work) {
    if (along != Along.SEAM) {
      return FieldSplit.of(mesh, field, work.part(0.3, CoreWords.of("work.cutting")));
    }
    GroundSurface surface =
        GroundSurface.of(mesh, ground, work.part(0.1, CoreWords.of("work.following-the-ground")));
    BitSet standing =
        new GroundSeam(mesh, surface, ground.normal(), ground.rms(), above)
            .standing(work.part(0.2, CoreWords.of("work.following-the-ground")));
    Mesh left = Submesh.of(mesh, standing::get, work.part(0.1, CoreWords.of("work.removing")));
    return new FieldSplit(left, new boolean[left.vertexCount()]);
  }

  /**
   * Which islands rise nowhere above {@code limit} over the cut; null for none. Such are the tops
   * of stones that just reach through.
   */
  private static boolean[] crumbs(Mesh mesh, FieldSplit.Field field, double limit, Work work) {
    Islands islands = Islands.of(mesh, work.part(0.1, CoreWords.of("work.finding-crumbs")));
    boolean[] low = new boolean[islands.count()];
    java.util.Arrays.fill(low, true);
    int[] of = islands.ofTriangle();
    int[] tri = mesh.triangles();
    float[] p = mesh.xyz();
    for (int c = 0; c < tri.length; c++) {
      if (low[of[c / 3]]) {
        int v = 3 * tri[c];
        low[of[c / 3]] = field.at(p[v], p[v + 1], p[v + 2]) <= limit;
      }
    }
    for (boolean l : low) {
      if (l) {
        return low;
      }
    }
    return null;
  }

  private static FieldSplit without(
      Mesh mesh, boolean[] onCut, int[] tri, int[] of, boolean[] loose, Work work) {
    Mesh left =
        Submesh.of(mesh, t -> !loose[of[t]], work.part(0.1, CoreWords.of("work.removing-crumbs")));
    // Vertices keep their order, so that the flags of those left move up.
    boolean[] used = new boolean[onCut.length];
    for (int c = 0; c < tri.length; c++) {
      used[tri[c]] |= !loose[of[c / 3]];
    }
    boolean[] on = new boolean[left.vertexCount()];
    int at = 0;
    for (int v = 0; v < onCut.length; v++) {
      if (used[v]) {
        on[at++] = onCut[v];
      }
    }
    return new FieldSplit(left, on);
  }

  private PlaneFinder.Flat chosen(Mesh mesh, Work work) {
    List<PlaneFinder.Flat> found = candidates(mesh, work);
    if (candidate == 1 && (found.isEmpty() || found.getFirst().share() < LEAST_SHARE)) {
      throw Failure.cannot(CoreWords.of("cut-ground.no-ground-is-found-no"));
    }
    if (candidate > found.size()) {
      throw Failure.cannot(CoreWords.of("cut-ground.only-flat-parts-are-found", found.size()));
    }
    return found.get(candidate - 1);
  }

  /**
   * The flat parts that may be the ground, the largest first; their normals towards the subject.
   */
  public static List<PlaneFinder.Flat> candidates(Mesh mesh, Work work) {
    double tolerance = 0.004 * mesh.bounds().diagonal();
    return PlaneFinder.find(mesh, tolerance, MOST, work).stream()
        .filter(f -> f.share() >= LEAST_CHOSEN)
        .toList();
  }

  /** The ground as a flat part with its normal towards the subject, or null if there is none. */
  public static PlaneFinder.Flat find(Mesh mesh, Work work) {
    return groundAmong(candidates(mesh, work));
  }

  /** The first of the candidates where it is large enough to pass for the ground; else null. */
  public static PlaneFinder.Flat groundAmong(List<PlaneFinder.Flat> found) {
    return found.isEmpty() || found.getFirst().share() < LEAST_SHARE ? null : found.getFirst();
  }
}

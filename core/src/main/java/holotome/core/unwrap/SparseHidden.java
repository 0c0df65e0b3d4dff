package holotome.core.unwrap;

import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Importance;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.spatial.SeenFrom;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import holotome.core.words.Language;
import java.util.BitSet;
import java.util.Set;

/** Finds what is not worth its texels, and gives it fewer. */
@Describes(
    id = "unwrap.hidden",
    title = "Hidden",
    help =
        "Finds what nobody will see of the Cast, or what the scan has no detail for, and gives it less of the texture. Charts are cut along its border and packed by it from then on.",
    reads = {"scan", "cast", "frame"},
    writes = {"cast"})
public record SparseHidden(
    @Parameter(
            help =
                "What is found: what is hidden from all who look, or what the scan has only few, large triangles for, as where no camera saw it",
            preset = "hidden")
        What what,
    @Parameter(
            help =
                "Who looks: from all around, from the sides and above only, or from some directions",
            preset = "around",
            when = "what=hidden")
        From from,
    @Parameter(
            help = "Directions towards those who look, x y z in working space, one after the other",
            optional = true,
            when = "from=views")
        double[] views,
    @Parameter(
            help = "So many times the texels for the same surface as elsewhere",
            min = Importance.LEAST,
            max = 1,
            preset = "0.1")
        double times)
    implements Step {
  /** Directions that are looked from. */
  private static final int DIRECTIONS = 96;

  /** What is found. */
  public enum What {
    HIDDEN,
    BLANK
  }

  /** Who looks. */
  public enum From {
    AROUND,
    SIDES,
    VIEWS
  }

  /** Where no single directions are told. */
  public SparseHidden(What what, From from, double times) {
    this(what, from, null, times);
  }

  public SparseHidden {
    boolean isAsked = what == What.HIDDEN && from == From.VIEWS;
    boolean fits = views != null && views.length > 0 && views.length % 3 == 0;
    for (int i = 0; fits && i < views.length; i += 3) {
      fits = Vec.length(Vec.of(views[i], views[i + 1], views[i + 2])) > 0;
    }
    if (isAsked && !fits) {
      throw Failure.usage(CoreWords.of("hidden.no-views"));
    }
  }

  @Override
  public Set<Part<?>> reads() {
    return what == What.HIDDEN ? Set.of(Part.CAST, Part.FRAME) : Set.of(Part.CAST, Part.SCAN);
  }

  @Override
  public long memory(Workpiece in) {
    Mesh indexed = what == What.HIDDEN ? in.cast() : in.scan();
    return indexed == null ? 0 : 90L * indexed.triangleCount();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh cast = CastAtHand.of(in);
    Work finding = run.work().part(0.95, CoreWords.of("work.looking-from-all-sides"));
    BitSet found =
        what == What.HIDDEN
            ? hidden(cast, in.frame(), finding)
            : BlankSurface.of(cast, in.scan(), finding);
    Specks.fill(cast, found, run.work().part(0.05, CoreWords.of("work.finding-neighbours")));
    double share = share(cast, found);
    if (found.isEmpty()) {
      return Outcome.of(in, CoreWords.of("hidden.nothing"));
    }
    return Outcome.of(
        in.withCast(Importance.given(cast, found, times)),
        CoreWords.of("hidden.found", 100 * share, Language.figure(times)));
  }

  private BitSet hidden(Mesh cast, Frame frame, Work work) {
    double[] up = Vec.unit(frame.toWork().inverse().direction(new double[] {0, 0, 1}));
    double[] directions =
        switch (from) {
          case AROUND -> SeenFrom.around(DIRECTIONS, up, -1);
          case SIDES -> SeenFrom.around(DIRECTIONS, up, 0);
          case VIEWS -> towards(frame);
        };
    BitSet out = SeenFrom.of(cast, directions, work);
    out.flip(0, cast.triangleCount());
    return out;
  }

  private double[] towards(Frame frame) {
    double[] out = new double[views.length];
    for (int i = 0; i < views.length; i += 3) {
      double[] d = {views[i], views[i + 1], views[i + 2]};
      System.arraycopy(Vec.unit(frame.toWork().inverse().direction(d)), 0, out, i, 3);
    }
    return out;
  }

  private static double share(Mesh mesh, BitSet some) {
    double of = 0;
    double all = 0;
    for (int t = 0; t < mesh.triangleCount(); t++) {
      double a = Vec.length(Measures.cross(mesh, t));
      all += a;
      of += some.get(t) ? a : 0;
    }
    return all > 0 ? of / all : 0;
  }
}

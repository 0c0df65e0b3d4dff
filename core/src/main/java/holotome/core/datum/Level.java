package holotome.core.datum;

import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.measure.Hull;
import holotome.core.measure.Patch;
import holotome.core.measure.Resting;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.select.Pick;
import holotome.core.solve.PlaneFit;
import holotome.core.solve.TurnedAxis;
import holotome.core.spatial.PlaneFinder;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.BitSet;
import java.util.List;

/** Turns the work upright. */
@Describes(
    id = "datum.level",
    title = "Level",
    help =
        "Turns the work upright: by its largest flat part, a region, three points, the axis of a turned body, or the way it rests most steadily.",
    reads = {"scan", "frame"},
    writes = {"frame"})
public record Level(
    @Parameter(
            help =
                "The largest flat part (ground, base), the region around a point, three points, what is selected, the axis of a turned body, or a steady way to stand",
            preset = "largest")
        By by,
    @Parameter(
            help = "The region's middle, x y z in working space",
            when = "by=region",
            optional = true)
        double[] point,
    @Parameter(help = "How far the region reaches", when = "by=region", min = 0, optional = true)
        Length radius,
    @Parameter(
            help = "Three points of a plane, nine numbers in working space",
            when = "by=points",
            optional = true)
        double[] points,
    @Parameter(
            help = "What is selected, one pick after the other",
            when = "by=selection",
            optional = true)
        List<Pick> picks,
    @Parameter(
            help = "Which of the ways to stand, the steadiest is 1",
            when = "by=resting",
            min = 1,
            max = 100,
            preset = "1")
        int pose)
    implements Step {
  private static final int AXIS_SAMPLES = 40_000;

  /** What is made level. */
  public enum By {
    LARGEST,
    REGION,
    POINTS,
    SELECTION,
    AXIS,
    RESTING
  }

  public Level(By by, double[] point, Length radius) {
    this(by, point, radius, null, null, 1);
  }

  public Level {
    if (by == By.REGION && (point == null || point.length != 3 || radius == null)) {
      throw Failure.usage(CoreWords.of("level.a-region-needs-a-point"));
    }
    if (by == By.POINTS && (points == null || points.length != 9)) {
      throw Failure.usage(CoreWords.of("level.three-points-need-nine-numbers"));
    }
    if (by == By.SELECTION && (picks == null || picks.isEmpty())) {
      throw Failure.usage(CoreWords.of("common.a-selection-needs-at-least"));
    }
  }

  /**
   * What is to be upright, in base coordinates.
   *
   * @param note what it is, in plain words
   */
  private record Up(double[] direction, double[] place, String note) {}

  @Override
  public long memory(Workpiece in) {
    boolean light = by == By.LARGEST || by == By.POINTS || by == By.AXIS;
    return LITTLE + (light ? 8L : 30L) * in.scan().triangleCount();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    if (in.scan().isEmpty()) {
      throw Failure.cannot(CoreWords.of("common.there-is-no-surface-left"));
    }
    run.work().check();
    Up up =
        switch (by) {
          case LARGEST -> largest(in, run.work());
          case REGION -> region(in, run.work());
          case POINTS -> points(in.frame());
          case SELECTION -> selection(in, run.work());
          case AXIS -> axis(in, run.work());
          case RESTING -> resting(in, run.work());
        };
    double[] now = Vec.unit(in.frame().toWork().direction(up.direction));
    double tilt =
        Math.toDegrees(Math.atan2(Math.hypot(now[0], now[1]), Math.clamp(now[2], -1.0, 1.0)));
    Similarity turn = Upright.bringing(in.frame(), up.direction, up.place);
    return Outcome.of(
        in.withFrame(in.frame().placed(turn)), CoreWords.of("level.turned-by", tilt, up.note));
  }

  private static String flat(Frame f, double rms) {
    return CoreWords.of(
        "level.the-plane-is-flat-within", Length.format(rms * f.toWork().scale(), f.trueSize()));
  }

  private static Up largest(Workpiece in, Work work) {
    Mesh mesh = in.scan();
    double tolerance = 0.004 * mesh.bounds().diagonal();
    List<PlaneFinder.Flat> found = PlaneFinder.find(mesh, tolerance, 1, work);
    if (found.isEmpty() || found.getFirst().share() < 0.02) {
      throw Failure.cannot(CoreWords.of("level.no-flat-part-is-large"));
    }
    // A second look, closer: what is almost in the plane must not pull it.
    double closer = Math.max(3 * found.getFirst().rms(), tolerance / 20);
    List<PlaneFinder.Flat> again = PlaneFinder.find(mesh, Math.min(closer, tolerance), 1, work);
    PlaneFinder.Flat flat =
        !again.isEmpty() && again.getFirst().share() > 0.5 * found.getFirst().share()
            ? again.getFirst()
            : found.getFirst();
    return new Up(flat.normal(), flat.point(), flat(in.frame(), flat.rms()));
  }

  private Up region(Workpiece in, Work work) {
    double[] c = in.frame().toBase(point);
    double r = in.frame().toBaseLength(radius.metres());
    Mesh mesh = in.scan();
    BitSet set = new BitSet();
    int[] tri = mesh.triangles();
    for (int t = 0; t < mesh.triangleCount(); t++) {
      if ((t & 0xffff) == 0) {
        work.check();
      }
      boolean within = true;
      for (int k = 3 * t; k < 3 * t + 3 && within; k++) {
        within = Vec.distance(Vec.at(mesh.xyz(), tri[k]), c) <= r;
      }
      set.set(t, within);
    }
    if (set.isEmpty()) {
      throw Failure.cannot(CoreWords.of("level.no-surface-lies-within-that"));
    }
    return plane(in, set);
  }

  private Up selection(Workpiece in, Work work) {
    BitSet set = Pick.all(picks, in.scan(), in.frame(), work);
    if (set.isEmpty()) {
      throw Failure.cannot(CoreWords.of("level.nothing-is-selected-to-level"));
    }
    return plane(in, set);
  }

  private static Up plane(Workpiece in, BitSet set) {
    PlaneFit fit = Patch.of(in.scan(), set).plane();
    return new Up(fit.normal(), fit.point(), flat(in.frame(), fit.rms()));
  }

  private Up points(Frame frame) {
    double[] a = {points[0], points[1], points[2]};
    double[] b = {points[3], points[4], points[5]};
    double[] c = {points[6], points[7], points[8]};
    double[] n = Vec.cross(Vec.sub(b, a), Vec.sub(c, a));
    if (!(Vec.length(n) > 1e-9 * Vec.distance(a, b) * Vec.distance(a, c))) {
      throw Failure.cannot(CoreWords.of("level.the-three-points-lie-in"));
    }
    // Whichever way round they were picked: up stays up.
    double[] up = Vec.unit(n[2] < 0 ? Vec.mul(n, -1) : n);
    Similarity toBase = frame.toWork().inverse();
    return new Up(
        toBase.direction(up), toBase.apply(a), CoreWords.of("level.the-three-points-lie-level"));
  }

  private static Up axis(Workpiece in, Work work) {
    Mesh mesh = in.scan();
    int n = (int) Math.min(AXIS_SAMPLES, 4L * mesh.triangleCount());
    float[] points = SurfaceDistance.sample(mesh, n);
    int[] of = SurfaceDistance.sampledTriangles(mesh, n);
    work.check();
    double[] p = new double[points.length];
    double[] d = new double[points.length];
    for (int i = 0; i < of.length; i++) {
      double[] normal = Vec.unit(Measures.cross(mesh, of[i]));
      for (int k = 0; k < 3; k++) {
        p[3 * i + k] = points[3 * i + k];
        d[3 * i + k] = normal[k];
      }
    }
    TurnedAxis a = TurnedAxis.of(p, d);
    if (a.off() > 0.2) {
      throw Failure.cannot(CoreWords.of("level.the-surface-is-not-that"));
    }
    // The end that looks up now stays up.
    double up = in.frame().toWork().direction(a.axis())[2];
    return new Up(
        up < 0 ? Vec.mul(a.axis(), -1) : a.axis(),
        a.point(),
        CoreWords.of(
            "level.half-of-its-surface-looks", Math.toDegrees(Math.asin(Math.min(1, a.off())))));
  }

  private Up resting(Workpiece in, Work work) {
    Mesh mesh = in.scan();
    double[] mass = Resting.massCentre(mesh);
    Hull hull = Hull.of(mesh.xyz());
    work.check();
    List<Resting> poses = Resting.of(hull, mass);
    if (poses.size() < pose) {
      throw Failure.cannot(
          poses.isEmpty()
              ? CoreWords.of("level.it-has-no-way-to")
              : CoreWords.of("level.it-has-only-ways-to", poses.size()));
    }
    Resting r = poses.get(pose - 1);
    return new Up(
        Vec.mul(r.down(), -1), mass, CoreWords.of("level.it-stands-until-tipped-by", r.steady()));
  }
}

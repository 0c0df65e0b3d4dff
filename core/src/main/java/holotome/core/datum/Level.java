package holotome.core.datum;

import holotome.core.mesh.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Similarity;
import holotome.core.mesh.Vec;
import holotome.core.solve.PlaneFit;
import holotome.core.spatial.PlaneFinder;
import holotome.core.step.Describes;
import holotome.core.step.Length;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.step.Workpiece;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.util.List;

/** Turns the work upright. */
@Describes(
    id = "datum.level",
    title = "Level",
    help =
        "Turns the work so that its largest flat part, or a region, lies level with the rest above it.")
public record Level(
    @Parameter(
            help = "The largest flat part (ground, base), or the region around a point",
            preset = "largest")
        By by,
    @Parameter(
            help = "The region's middle, x y z in working space",
            when = "by=region",
            optional = true)
        double[] point,
    @Parameter(help = "How far the region reaches", when = "by=region", min = 0, optional = true)
        Length radius)
    implements Step {

  /** What is made level. */
  public enum By {
    LARGEST,
    REGION
  }

  public Level {
    if (by == By.REGION && (point == null || point.length != 3 || radius == null)) {
      throw Failure.usage("a region needs a point of three numbers and a radius");
    }
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh mesh = in.scan();
    PlaneFinder.Flat flat =
        by == By.LARGEST ? largest(mesh, run) : region(mesh, in.frame(), run.work());
    double[] up = in.frame().toWork().direction(flat.normal());
    double tilt = Math.toDegrees(Math.acos(Math.clamp(up[2], -1.0, 1.0)));
    double[] pivot = in.frame().toWork().apply(flat.point());
    Similarity turn =
        Similarity.translation(Vec.mul(pivot, -1))
            .then(Similarity.turningTo(up, Vec.of(0, 0, 1)))
            .then(Similarity.translation(pivot));
    return Outcome.of(
        in.withFrame(in.frame().placed(turn)),
        String.format(
            "Turned by %.2f°; the plane is flat within %s (RMS)",
            tilt, Length.format(flat.rms() * in.frame().toWork().scale(), in.frame().trueSize())));
  }

  private static PlaneFinder.Flat largest(Mesh mesh, Run run) {
    double tolerance = 0.004 * mesh.bounds().diagonal();
    List<PlaneFinder.Flat> found = PlaneFinder.find(mesh, tolerance, 1, run.work());
    if (found.isEmpty() || found.getFirst().share() < 0.02) {
      throw Failure.cannot("No flat part is large enough to level by; give a region instead");
    }
    // A second look, closer: what is almost in the plane must not pull it.
    double closer = Math.max(3 * found.getFirst().rms(), tolerance / 20);
    List<PlaneFinder.Flat> again =
        PlaneFinder.find(mesh, Math.min(closer, tolerance), 1, run.work());
    return !again.isEmpty() && again.getFirst().share() > 0.5 * found.getFirst().share()
        ? again.getFirst()
        : found.getFirst();
  }

  private PlaneFinder.Flat region(Mesh mesh, Frame frame, Work work) {
    double[] c = frame.toBase(point);
    double r = frame.toBaseLength(radius.metres());
    PlaneFit.Sum sum = new PlaneFit.Sum();
    double[] facing = new double[3];
    int[] tri = mesh.triangles();
    for (int t = 0; t < mesh.triangleCount(); t++) {
      if ((t & 0xffff) == 0) {
        work.check();
      }
      double[] p = Vec.at(mesh.xyz(), tri[3 * t]);
      if (Vec.distance(p, c) <= r) {
        double[] n = holotome.core.mesh.Measures.cross(mesh, t);
        sum.add(p[0], p[1], p[2], Vec.length(n));
        facing = Vec.add(facing, n);
      }
    }
    if (!(sum.weight() > 0)) {
      throw Failure.cannot("No surface lies within that region; choose a larger radius");
    }
    PlaneFit fit = sum.fit();
    double[] n = Vec.dot(fit.normal(), facing) < 0 ? Vec.mul(fit.normal(), -1) : fit.normal();
    return new PlaneFinder.Flat(fit.point(), n, 0, fit.rms());
  }
}

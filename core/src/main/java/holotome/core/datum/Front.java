package holotome.core.datum;

import holotome.core.geometry.Box;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.measure.Patch;
import holotome.core.part.Workpiece;
import holotome.core.select.Pick;
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

/** Turns the work about the upright so that it faces the front. */
@Describes(
    id = "datum.front",
    title = "Front",
    help =
        "Turns the work about the upright until its front looks along -Y: by a direction, an edge, a wall, or its plane of symmetry.",
    reads = {"scan", "cast", "frame"},
    writes = {"frame"})
public record Front(
    @Parameter(
            help =
                "A direction that leads to the front, an edge that runs along it, a wall that faces it, what is selected as a wall, or the plane of symmetry",
            preset = "direction")
        By by,
    @Parameter(
            help = "Two points of the direction or edge, six numbers in working space",
            optional = true)
        double[] points,
    @Parameter(
            help = "A point on the wall, x y z in working space",
            when = "by=wall",
            optional = true)
        double[] point,
    @Parameter(help = "How far the wall reaches", when = "by=wall", min = 0, optional = true)
        Length radius,
    @Parameter(
            help = "What is selected, one pick after the other",
            when = "by=selection",
            optional = true)
        List<Pick> picks)
    implements Step {

  /** What tells the front. */
  public enum By {
    DIRECTION,
    EDGE,
    WALL,
    SELECTION,
    SYMMETRY
  }

  public Front {
    boolean line = by == By.DIRECTION || by == By.EDGE;
    if (line && (points == null || points.length != 6)) {
      throw Failure.usage(CoreWords.of("front.a-direction-or-an-edge"));
    }
    if (by == By.WALL && (point == null || point.length != 3 || radius == null)) {
      throw Failure.usage(CoreWords.of("front.a-wall-needs-a-point"));
    }
    if (by == By.SELECTION && (picks == null || picks.isEmpty())) {
      throw Failure.usage(CoreWords.of("common.a-selection-needs-at-least"));
    }
  }

  /** A direction in plan that is to look along -Y, and what it is. */
  private record Ahead(double x, double y, String note) {}

  @Override
  public long memory(Workpiece in) {
    return LITTLE + (by == By.SYMMETRY ? 16L : 30L) * in.scan().triangleCount();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    if (in.scan().isEmpty()) {
      throw Failure.cannot(CoreWords.of("common.there-is-no-surface-left"));
    }
    run.work().check();
    Ahead a =
        switch (by) {
          case DIRECTION ->
              new Ahead(
                  points[3] - points[0],
                  points[4] - points[1],
                  CoreWords.of("front.by-a-direction"));
          case EDGE -> edge();
          case WALL, SELECTION -> wall(in, run.work());
          case SYMMETRY -> symmetry(in, run.work());
        };
    if (!(Math.hypot(a.x, a.y) > 1e-12)) {
      throw Failure.cannot(CoreWords.of("front.that-direction-is-upright-it"));
    }
    double angle = -Math.PI / 2 - Math.atan2(a.y, a.x);
    angle = Math.atan2(Math.sin(angle), Math.cos(angle));
    Box b = in.frame().workBounds(in.current());
    Similarity turn = Upright.about(b.centre(), Similarity.turning(Vec.of(0, 0, 1), angle));
    return Outcome.of(
        in.withFrame(in.frame().placed(turn)),
        CoreWords.of("front.turned-by-about-the-upright", Math.toDegrees(angle), a.note));
  }

  /** An edge lies along X afterwards, by the smaller turn. */
  private Ahead edge() {
    double x = points[3] - points[0];
    double y = points[4] - points[1];
    String how = CoreWords.of("front.along-an-edge");
    return x < 0 ? new Ahead(-y, x, how) : new Ahead(y, -x, how);
  }

  private Ahead wall(Workpiece in, Work work) {
    Patch patch;
    if (by == By.WALL) {
      double[] c = in.frame().toBase(point);
      patch = Patch.around(in.scan(), c, in.frame().toBaseLength(radius.metres()), work);
    } else {
      BitSet set = Pick.all(picks, in.scan(), in.frame(), work);
      if (set.isEmpty()) {
        throw Failure.cannot(CoreWords.of("front.nothing-is-selected-to-face"));
      }
      patch = Patch.of(in.scan(), set);
    }
    var fit = patch.plane();
    double[] n = in.frame().toWork().direction(fit.normal());
    if (Math.hypot(n[0], n[1]) < 0.1) {
      throw Failure.cannot(CoreWords.of("front.that-part-lies-level-it"));
    }
    return new Ahead(
        n[0],
        n[1],
        CoreWords.of(
            "front.by-a-wall-flat-within",
            Length.format(fit.rms() * in.frame().toWork().scale(), in.frame().trueSize())));
  }

  private static Ahead symmetry(Workpiece in, Work work) {
    SymmetryPlane s = SymmetryPlane.upright(in.scan(), in.frame(), work);
    return new Ahead(
        s.alongX(),
        s.alongY(),
        CoreWords.of(
            "front.by-its-plane-of-symmetry", Length.format(s.mean(), in.frame().trueSize())));
  }
}

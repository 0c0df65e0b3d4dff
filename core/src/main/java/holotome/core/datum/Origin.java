package holotome.core.datum;

import holotome.core.frame.Frame;
import holotome.core.geometry.Box;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.measure.Patch;
import holotome.core.measure.Resting;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.solve.CircleFit;
import holotome.core.solve.SphereFit;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;

/** Moves the work so that its origin makes sense. */
@Describes(
    id = "datum.origin",
    title = "Origin",
    help =
        "Puts the origin where it makes sense: the middle of the base or the box, the centre of mass, a corner, or a point; and rests the work on Z = 0.",
    reads = {"scan", "cast", "frame"},
    writes = {"frame"})
public record Origin(
    @Parameter(help = "Where the origin goes", preset = "base-centre") At at,
    @Parameter(
            help = "The point, on the ball or near the hole, x y z in working space",
            when = "at=point|ball-centre|hole-centre",
            optional = true)
        double[] point,
    @Parameter(
            help = "How far around the point the ball's surface is taken in",
            when = "at=ball-centre",
            min = 0,
            optional = true)
        Length radius,
    @Parameter(help = "Which corner of the box", when = "at=corner", preset = "left-front-bottom")
        Corner corner,
    @Parameter(help = "Whether the lowest point comes to rest on Z = 0", preset = "false")
        boolean rest)
    implements Step {

  /** Where the origin goes. */
  public enum At {
    BASE_CENTRE,
    BOX_CENTRE,
    MASS_CENTRE,
    CORNER,
    POINT,
    BALL_CENTRE,
    HOLE_CENTRE,
    KEPT
  }

  /** A corner of the box: X least or most, Y least (front) or most, Z least or most. */
  public enum Corner {
    LEFT_FRONT_BOTTOM,
    RIGHT_FRONT_BOTTOM,
    LEFT_BACK_BOTTOM,
    RIGHT_BACK_BOTTOM,
    LEFT_FRONT_TOP,
    RIGHT_FRONT_TOP,
    LEFT_BACK_TOP,
    RIGHT_BACK_TOP;

    double[] of(Box b) {
      int i = ordinal();
      return Vec.of(
          (i & 1) == 0 ? b.minX() : b.maxX(),
          (i & 2) == 0 ? b.minY() : b.maxY(),
          (i & 4) == 0 ? b.minZ() : b.maxZ());
    }
  }

  public Origin(At at, double[] point) {
    this(at, point, null, Corner.LEFT_FRONT_BOTTOM, false);
  }

  public Origin {
    boolean needsPoint = at == At.POINT || at == At.BALL_CENTRE || at == At.HOLE_CENTRE;
    if (needsPoint && (point == null || point.length != 3)) {
      throw Failure.usage(CoreWords.of("origin.an-origin-there-needs-a"));
    }
    if (at == At.BALL_CENTRE && radius == null) {
      throw Failure.usage(CoreWords.of("origin.the-centre-of-a-ball"));
    }
  }

  @Override
  public long memory(Workpiece in) {
    return LITTLE + (at == At.HOLE_CENTRE ? 40L : 8L) * in.scan().triangleCount();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    if (in.current().isEmpty()) {
      throw Failure.cannot(CoreWords.of("origin.there-is-no-surface-left"));
    }
    Box b = in.frame().workBounds(in.current());
    double[] c = b.centre();
    double[] to =
        switch (at) {
          case BASE_CENTRE -> Vec.of(c[0], c[1], b.minZ());
          case BOX_CENTRE -> c;
          case MASS_CENTRE -> in.frame().toWork().apply(Resting.massCentre(in.current()));
          case CORNER -> corner.of(b);
          case POINT -> point.clone();
          case BALL_CENTRE, HOLE_CENTRE -> fitted(in, run);
          case KEPT -> new double[3];
        };
    run.work().check();
    if (rest) {
      to[2] = b.minZ();
    }
    boolean size = in.frame().trueSize();
    return Outcome.of(
        in.withFrame(in.frame().placed(Similarity.translation(Vec.mul(to, -1)))),
        CoreWords.of(
            "origin.moved-by",
            Length.format(-to[0], size),
            Length.format(-to[1], size),
            Length.format(-to[2], size)));
  }

  /** The centre of the ball, or of the hole's border, by least squares. */
  private double[] fitted(Workpiece in, Run run) {
    Frame f = in.frame();
    Mesh mesh = in.current();
    double[] base = f.toBase(point);
    if (at == At.BALL_CENTRE) {
      double reach = f.toBaseLength(radius.metres());
      Patch patch = Patch.around(mesh, base, reach, run.work());
      return f.toWork().apply(SphereFit.of(patch.thinned()[0]).centre());
    }
    int[] best = null;
    double least = Double.POSITIVE_INFINITY;
    for (int[] loop : Borders.of(Adjacency.of(mesh, run.work())).loops()) {
      for (int v : Borders.vertices(mesh, loop)) {
        double d = Vec.distance(Vec.at(mesh.xyz(), v), base);
        if (d < least) {
          least = d;
          best = Borders.vertices(mesh, loop);
        }
      }
    }
    if (best == null) {
      throw Failure.cannot(CoreWords.of("origin.the-mesh-has-no-hole"));
    }
    double[] points = new double[3 * best.length];
    for (int i = 0; i < best.length; i++) {
      System.arraycopy(Vec.at(mesh.xyz(), best[i]), 0, points, 3 * i, 3);
    }
    return f.toWork().apply(CircleFit.of(points).centre());
  }
}

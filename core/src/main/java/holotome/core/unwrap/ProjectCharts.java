package holotome.core.unwrap;

import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;

/**
 * Lays charts flat as they look from one side, from the sides of a box or from around an axis. Each
 * comes to lie upright, whichever way it was turned, and where it lay; a Cast without charts, or
 * one that is projected as a whole, is packed.
 */
@Describes(
    id = "unwrap.project",
    title = "Project",
    help =
        "Lays charts flat as they look from one side, from the six sides of a box, or unrolled from around an axis; what is turned away lies beside it, as seen from behind or within.",
    reads = {"cast", "frame"},
    writes = {"cast", "maps"})
public record ProjectCharts(
    @Parameter(
            help =
                "From where it is looked at: from one side, from the sides of a box, or from around an axis",
            preset = "box")
        How how,
    @Parameter(
            help =
                "The charts, each by a point of it, x y z in working space, one after the other; else the whole Cast",
            optional = true)
        double[] charts,
    @Parameter(
            help =
                "The direction it is looked from, one that a side of the box faces, or the axis: x y z in working space; else the one that most of it faces, upright, or the axis that it turns about",
            optional = true)
        double[] axis,
    @Parameter(
            help =
                "A second direction, x y z: what is up in the texture, another one that a side of the box faces, or the side along which it is cut open; else upright, or the back",
            optional = true)
        double[] side)
    implements Step {
  /** What no side sees is cut to this stretch. */
  private static final double MOST = 1.5;

  /** So many triangles tell the axis. */
  private static final int SAMPLE = 20_000;

  /** The sine below which two directions are one. */
  private static final double SAME = 1e-3;

  /** From where it is looked at. */
  public enum How {
    FLAT,
    BOX,
    TUBE
  }

  public ProjectCharts {
    if (charts != null && (charts.length == 0 || charts.length % 3 != 0)) {
      throw Failure.usage(CoreWords.of("space.three-numbers"));
    }
    for (double[] d : new double[][] {axis, side}) {
      if (d != null && (d.length != 3 || !(Vec.length(d) > 0))) {
        throw Failure.usage(CoreWords.of("project.no-direction"));
      }
    }
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh cast = CastAtHand.of(in);
    Work work = run.work();
    BitSet which = new BitSet();
    if (charts == null) {
      which.set(0, cast.triangleCount());
    } else {
      Work finds = work.part(0.1, CoreWords.of("work.finding-charts"));
      which = ChartPoints.of(cast, in.frame(), finds).triangles(charts);
    }
    Ground ground = Ground.of(cast, work.part(0.1, CoreWords.of("work.finding-charts")));
    SeamMap map = new SeamMap(ground);
    int[] before = cast.uv() == null ? null : map.charts();
    Projection projection = projection(ground, which, in.frame());
    int[] seen =
        SeenSides.of(
            ground, projection, which, work.part(0.1, CoreWords.of("work.finding-charts")));
    cut(ground, map, projection, seen);
    map.touched().or(which);
    PieceFlattening parting = new PieceFlattening(ground, map.charts(), MOST);
    SeamCharts made = new SeamCharts(ground, map);
    Laying laying = new ProjectedLaying(projection, seen, parting);
    Uv uv = made.laid(before, laying, work.part(0.5, CoreWords.of("work.flattening-charts")));
    Mesh out = made.apart().withUv(uv);
    boolean isPacked = before == null || charts == null;
    if (isPacked) {
      out = PackCharts.first(out, work);
    }
    List<String> notes = new ArrayList<>();
    notes.add(CoreWords.count("seams.laid", made.laid(), Stretch.of(out).mean()));
    if (made.parted() > 0) {
      notes.add(CoreWords.count("project.parted", made.parted()));
    }
    if (!isPacked) {
      notes.add(CoreWords.of("project.where-they-lay"));
    }
    return new Outcome(in.withCast(out), notes);
  }

  /** Seams where the side changes or the surface is cut open, none elsewhere within. */
  private static void cut(Ground ground, SeamMap map, Projection projection, int[] seen) {
    for (int h = 0; h < ground.twin().length; h++) {
      int g = ground.twin()[h];
      if (g > h && seen[h / 3] >= 0 && seen[g / 3] >= 0) {
        int k = seen[h / 3];
        map.set(h, seen[g / 3] != k || projection.isCut(h, g, k));
      }
    }
  }

  private Projection projection(Ground ground, BitSet which, Frame frame) {
    return switch (how) {
      case FLAT -> {
        double[] towards = axis == null ? facing(ground, which, frame) : base(frame, axis);
        yield SideProjection.flat(ground, towards, square(frame, side, towards, 2));
      }
      case BOX -> {
        double[] up = base(frame, axis == null ? Vec.of(0, 0, 1) : axis);
        yield SideProjection.box(ground, up, square(frame, side, up, 1));
      }
      case TUBE -> {
        double[] given = axis == null ? null : base(frame, axis);
        TubeAxis tube = TubeAxis.of(ground, which, given, SAMPLE);
        // Of the two ways along it the upright one.
        double[] up = base(frame, Vec.of(0, 0, 1));
        double[] along =
            Vec.dot(tube.axis(), up) < 0 && axis == null ? Vec.mul(tube.axis(), -1) : tube.axis();
        yield new TubeProjection(ground, tube.point(), along, square(frame, side, along, 1));
      }
    };
  }

  private static double[] base(Frame frame, double[] d) {
    return Vec.unit(frame.toWork().inverse().direction(d));
  }

  /**
   * What is left of a direction square to another; where none is given or nothing is left, of the
   * coordinate's, and then of the next.
   */
  private static double[] square(Frame frame, double[] wanted, double[] to, int coordinate) {
    double[] d = wanted == null ? null : base(frame, wanted);
    for (int k = 0; k < 3; k++) {
      double[] left = d == null ? null : Vec.sub(d, Vec.mul(to, Vec.dot(d, to)));
      if (left != null && Vec.length(left) > SAME) {
        return Vec.unit(left);
      }
      double[] unit = new double[3];
      unit[(coordinate + 2 * k) % 3] = 1;
      d = base(frame, unit);
    }
    return Vec.perpendicular(to);
  }

  /** The way that most of the surface faces; upwards where it faces all ways alike. */
  private static double[] facing(Ground ground, BitSet which, Frame frame) {
    double[] sum = new double[3];
    double all = 0;
    for (int t = which.nextSetBit(0); t >= 0; t = which.nextSetBit(t + 1)) {
      for (int k = 0; k < 3; k++) {
        sum[k] += ground.area()[t] * ground.normal()[3 * t + k];
      }
      all += ground.area()[t];
    }
    return Vec.length(sum) > SAME * all ? Vec.unit(sum) : base(frame, Vec.of(0, 0, 1));
  }

  @Override
  public long memory(Workpiece in) {
    return in.cast() == null ? 0 : 350L * in.cast().triangleCount();
  }
}

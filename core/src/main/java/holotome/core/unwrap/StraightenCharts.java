package holotome.core.unwrap;

import holotome.core.attribute.Attribute;
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
import java.util.Locale;
import java.util.function.Function;

/**
 * Makes charts straight: their rows of four-sided faces, their outlines, all of the outline a
 * rectangle, or what goes around and along a turned body. What lies between goes along as rigidly
 * as it can; a chart that would turn over or lie over itself so is left as it is, and that is said.
 */
@Describes(
    id = "unwrap.straighten",
    title = "Straighten",
    help =
        "Makes outlines of charts straight, level and upright, a chart a rectangle, or its rows of four-sided faces rows in the texture.",
    reads = {"cast", "frame"},
    writes = {"cast", "maps"})
public record StraightenCharts(
    @Parameter(
            help =
                "What is made straight: the outlines, the outline as a rectangle, rows of four-sided faces, or what goes around and along a turned body",
            preset = "outline")
        How how,
    @Parameter(
            help =
                "The charts, each by a point of it, x y z in working space, one after the other; else all",
            optional = true)
        double[] charts,
    @Parameter(
            help = "How far the outline may lie from a straight line, beside the chart's width",
            when = "how=outline",
            unit = "%",
            min = 0,
            max = 50,
            preset = "3")
        double within,
    @Parameter(
            help = "Lines that are so nearly level or upright become exactly so",
            when = "how=outline",
            unit = "°",
            min = 0,
            max = 40,
            preset = "15")
        double angle)
    implements Step {

  /** What is made straight. */
  public enum How {
    OUTLINE,
    RECTANGLE,
    ROWS,
    STRIP
  }

  /** With what is usual. */
  public StraightenCharts(How how, double[] charts) {
    this(how, charts, 3, 15);
  }

  public StraightenCharts {
    if (charts != null && (charts.length == 0 || charts.length % 3 != 0)) {
      throw Failure.usage(CoreWords.of("space.three-numbers"));
    }
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh cast = CastAtHand.withCharts(in);
    Work work = run.work();
    Work finds = work.part(0.3, CoreWords.of("work.finding-charts"));
    Ground ground = Ground.of(cast, finds);
    SeamMap map = new SeamMap(ground);
    if (charts == null) {
      map.touched().set(0, cast.triangleCount());
    } else {
      map.touched().or(ChartPoints.of(cast, in.frame(), finds).triangles(charts));
    }
    BitSet asked = (BitSet) map.touched().clone();
    SeamCharts made = new SeamCharts(ground, map);
    Work lays = work.part(0.7, CoreWords.of("work.flattening-charts"));
    Uv uv = made.laid(map.charts(), new StraightLaying(straight(ground)), lays);
    if (made.laid() == 0) {
      throw Failure.cannot(CoreWords.of("straighten." + how.name().toLowerCase(Locale.ROOT)));
    }
    Mesh out = made.apart().withUv(uv);
    List<String> notes = new ArrayList<>();
    notes.add(CoreWords.count("straighten.made", made.laid(), Stretch.of(out).mean()));
    int left = charts(map, asked) - made.laid();
    if (left > 0) {
      notes.add(CoreWords.count("straighten.left", left));
    }
    return new Outcome(in.withCast(out), notes, null, made.laid());
  }

  private static int charts(SeamMap map, BitSet asked) {
    BitSet out = new BitSet();
    for (int t = asked.nextSetBit(0); t >= 0; t = asked.nextSetBit(t + 1)) {
      out.set(map.charts()[t]);
    }
    return out.cardinality();
  }

  private Function<Piece, Straight> straight(Ground ground) {
    Attribute faces = ground.mesh().attributes().named(Attribute.FACE);
    int[] face = faces == null ? null : faces.ints();
    return switch (how) {
      case OUTLINE -> p -> RimLines.of(p, within / 100, angle);
      case RECTANGLE -> RimRectangle::of;
      case ROWS -> p -> QuadRows.of(p, face);
      case STRIP -> p -> TurnedStrip.straight(ground, p);
    };
  }

  @Override
  public long memory(Workpiece in) {
    return in.cast() == null ? 0 : 350L * in.cast().triangleCount();
  }
}

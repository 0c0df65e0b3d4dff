package holotome.core.unwrap;

import holotome.core.mesh.LaidOver;
import holotome.core.mesh.Mesh;
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
 * Lays charts over another, so that a side without a picture of its own takes that of a good one.
 */
@Describes(
    id = "unwrap.over",
    title = "Lay over",
    help =
        "Lays charts over another, turned or mirrored to fit: they show the texture of that one, and baking asks that one alone. Or takes them off again.",
    reads = {"cast", "frame"},
    writes = {"cast", "maps"})
public record LayOver(
    @Parameter(
            help = "The charts, each by a point of it, x y z in working space, one after the other")
        double[] charts,
    @Parameter(
            help =
                "The chart that leads, by a point of it, x y z in working space; else they are taken off what they lie over",
            optional = true)
        double[] onto,
    @Parameter(
            help =
                "How large they come to lie: small enough to lie within it, as large as they are beside it, or drawn out to its width and height",
            preset = "within")
        Fit fit,
    @Parameter(
            help = "Whether they may be mirrored: where that fits better, never, or in any case",
            preset = "better")
        Mirror mirror)
    implements Step {

  /** How large a chart comes to lie on another. */
  public enum Fit {
    WITHIN,
    SAME,
    DRAWN
  }

  /** Whether it is mirrored. */
  public enum Mirror {
    BETTER,
    NEVER,
    ALWAYS
  }

  public LayOver {
    boolean fits =
        charts != null
            && charts.length > 0
            && charts.length % 3 == 0
            && (onto == null || onto.length == 3);
    if (!fits) {
      throw Failure.usage(CoreWords.of("lay-over.does-not-fit"));
    }
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh cast = CastAtHand.of(in);
    Work work = run.work();
    MovedCharts moved =
        MovedCharts.of(cast, in.frame(), work.part(0.5, CoreWords.of("work.finding-charts")));
    BitSet these = moved.points().charts(charts);
    int[] before = LaidOver.of(cast);
    int[] labels = before == null ? new int[cast.triangleCount()] : before.clone();
    List<String> notes = new ArrayList<>();
    if (onto == null) {
      int off = takeOff(moved, these, labels);
      if (off == 0) {
        throw Failure.cannot(CoreWords.of("lay-over.lies-over-nothing"));
      }
      notes.add(CoreWords.count("lay-over.off", off));
    } else {
      layOn(in, moved, these, labels, notes, work.part(0.5, CoreWords.of("work.finding-charts")));
    }
    Mesh out = LaidOver.with(cast, labels).withUv(moved.uv());
    return new Outcome(in.withCast(out), notes);
  }

  /** How many were taken off; what leads none any more leads no longer. */
  private static int takeOff(MovedCharts moved, BitSet these, int[] labels) {
    int[] of = moved.points().chartOfTriangle();
    BitSet off = new BitSet();
    for (int t = 0; t < labels.length; t++) {
      if (labels[t] < 0 && these.get(of[t])) {
        labels[t] = 0;
        off.set(of[t]);
      }
    }
    dropLeaders(labels);
    return off.cardinality();
  }

  private static void dropLeaders(int[] labels) {
    BitSet led = new BitSet();
    for (int g : labels) {
      if (g < 0) {
        led.set(-g);
      }
    }
    for (int t = 0; t < labels.length; t++) {
      labels[t] = labels[t] > 0 && !led.get(labels[t]) ? 0 : labels[t];
    }
  }

  private void layOn(
      Workpiece in, MovedCharts moved, BitSet these, int[] labels, List<String> notes, Work work) {
    int[] of = moved.points().chartOfTriangle();
    int leader = moved.points().charts(onto).nextSetBit(0);
    these.clear(leader);
    if (these.isEmpty()) {
      throw Failure.cannot(CoreWords.of("lay-over.itself"));
    }
    int group = 0;
    int highest = 0;
    for (int t = 0; t < labels.length; t++) {
      highest = Math.max(highest, Math.abs(labels[t]));
      if (of[t] == leader && labels[t] < 0) {
        throw Failure.cannot(CoreWords.of("lay-over.leader-follows"));
      }
      if (these.get(of[t]) && labels[t] > 0) {
        throw Failure.cannot(CoreWords.of("lay-over.leads"));
      }
      group = of[t] == leader ? Math.max(group, labels[t]) : group;
    }
    group = group == 0 ? highest + 1 : group;
    OverFit fitting = new OverFit(in.cast(), of, leader, in.frame());
    double least = 1;
    int mirrored = 0;
    for (int c = these.nextSetBit(0); c >= 0; c = these.nextSetBit(c + 1)) {
      work.check();
      OverFit.Fitted found = fitting.of(c, fit, mirror);
      moved.put(c, found.by());
      least = Math.min(least, found.share());
      mirrored += found.isMirrored() ? 1 : 0;
    }
    for (int t = 0; t < labels.length; t++) {
      labels[t] = of[t] == leader ? group : these.get(of[t]) ? -group : labels[t];
    }
    dropLeaders(labels);
    notes.add(CoreWords.count("lay-over.laid", these.cardinality(), 100 * least));
    if (mirrored > 0) {
      notes.add(CoreWords.count("lay-over.mirrored", mirrored));
    }
  }

  @Override
  public long memory(Workpiece in) {
    return in.cast() == null ? 0 : 120L * in.cast().triangleCount();
  }
}

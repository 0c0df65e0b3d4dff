package holotome.core.unwrap;

import holotome.core.mesh.Importance;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.select.Pick;
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
import java.util.List;

/** Says how much of the texture parts of the Cast are to have. */
@Describes(
    id = "unwrap.space",
    title = "Space",
    help =
        "Gives charts, or a part of the surface, more or less of the texture than the rest. Charts are cut along its border and packed by it from then on.",
    reads = {"cast", "frame"},
    writes = {"cast"})
public record GiveSpace(
    @Parameter(
            help = "So many times the texels for the same surface as elsewhere; 1 for as elsewhere",
            min = Importance.LEAST,
            max = Importance.MOST,
            preset = "4")
        double times,
    @Parameter(
            help =
                "Charts, each by a point of it, x y z in working space, one after the other; else what is selected, or everything",
            optional = true)
        double[] charts,
    @Parameter(help = "What is selected, one pick after the other", optional = true)
        List<Pick> picks)
    implements Step {

  public GiveSpace {
    if (charts != null && (charts.length == 0 || charts.length % 3 != 0)) {
      throw Failure.usage(CoreWords.of("space.three-numbers"));
    }
    picks = picks == null ? null : List.copyOf(picks);
    if (picks != null && (picks.isEmpty() || charts != null)) {
      throw Failure.usage(CoreWords.of("space.charts-or-picks"));
    }
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh cast = CastAtHand.of(in);
    BitSet set = new BitSet();
    set.set(0, cast.triangleCount());
    if (charts != null) {
      set = ChartPoints.of(cast, in.frame(), run.work()).triangles(charts);
    } else if (picks != null) {
      set = selected(in, run.work());
    }
    return Outcome.of(
        in.withCast(Importance.given(cast, set, times)),
        CoreWords.of("importance.given", set.cardinality(), Language.figure(times)));
  }

  /** What was selected on the Scan means the same place on the Cast, but for stored triangles. */
  private BitSet selected(Workpiece in, Work work) {
    if (picks.stream().anyMatch(p -> !p.isGeometric())) {
      throw Failure.cannot(CoreWords.of("space.stored"));
    }
    BitSet set = Pick.all(picks, in.cast(), in.frame(), work);
    if (set.isEmpty()) {
      throw Failure.cannot(CoreWords.of("take-noise.nothing-is-selected"));
    }
    return set;
  }

  @Override
  public long memory(Workpiece in) {
    return in.cast() == null ? 0 : 90L * in.cast().triangleCount();
  }
}

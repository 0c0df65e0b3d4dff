package holotome.core.datum;

import holotome.core.geometry.Box;
import holotome.core.geometry.Similarity;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;

/** Says what one unit of the file is. */
@Describes(
    id = "datum.unit",
    title = "Unit",
    help = "Says which unit the file's coordinates are in, where that is known.",
    reads = {"scan", "cast", "frame"},
    writes = {"frame"})
public record DeclareUnit(@Parameter(help = "The file's unit", preset = "mm") Length.Unit unit)
    implements Step {

  @Override
  public long memory(Workpiece in) {
    return LITTLE;
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    // Whatever was scaled before is taken back: the file's own unit is what is declared.
    double factor = unit.metres() / (in.frame().toWork().scale() / in.frame().toFile().scale());
    Workpiece out = in.withFrame(in.frame().placed(Similarity.scaling(factor)).withTrueSize());
    Box b = out.frame().workBounds(in.current());
    return Outcome.of(
        out,
        CoreWords.of(
            "declare-unit.one-unit-is-1",
            unit.symbol(),
            Length.format(b.width(), true),
            Length.format(b.depth(), true),
            Length.format(b.height(), true)));
  }
}

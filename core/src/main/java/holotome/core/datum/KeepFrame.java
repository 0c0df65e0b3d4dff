package holotome.core.datum;

import holotome.core.frame.Frame;
import holotome.core.frame.NamedFrame;
import holotome.core.geometry.Similarity;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Keeps coordinates under a name, or goes back to ones that were kept. */
@Describes(
    id = "datum.frame",
    title = "Frames",
    help =
        "Keeps the coordinates as they stand under a name, takes further ones in by a matrix, or goes back to ones that were kept. Any mesh can be written in any of them.",
    reads = {"frame"},
    writes = {"frame"})
public record KeepFrame(
    @Parameter(
            help = "Keep the present ones, keep ones given by a matrix, or use ones that were kept",
            preset = "keep")
        Do what,
    @Parameter(help = "Their name; \"original\" are the scan file's own") String name,
    @Parameter(
            help =
                "Sixteen numbers by rows that take the scan file's coordinates to these; turned, scaled and moved only",
            when = "what=given",
            optional = true)
        double[] matrix,
    @Parameter(help = "What one unit of these is", when = "what=given", preset = "m")
        Length.Unit unit)
    implements Step {

  /** What is done. */
  public enum Do {
    KEEP,
    GIVEN,
    USE
  }

  public KeepFrame {
    if (name.isBlank() || name.length() > 100) {
      throw Failure.usage(CoreWords.of("keep-frame.a-frame-needs-a-name"));
    }
    boolean reserved = name.equals("original") || name.equals("working");
    if (what != Do.USE && reserved) {
      throw Failure.usage(CoreWords.of("keep-frame.is-always-there-choose-another", name));
    }
    if (what == Do.GIVEN) {
      if (matrix == null) {
        throw Failure.usage(CoreWords.of("keep-frame.frames-that-are-given-need"));
      }
      similarity(matrix);
    }
  }

  @Override
  public long memory(Workpiece in) {
    return LITTLE;
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    run.work().check();
    Frame f = in.frame();
    return switch (what) {
      case KEEP ->
          Outcome.of(
              in.withFrame(f.keeping(new NamedFrame(name, f.toWork(), f.trueSize() ? 1 : 0))),
              CoreWords.of("keep-frame.kept-as", name));
      case GIVEN ->
          Outcome.of(
              in.withFrame(
                  f.keeping(
                      new NamedFrame(name, f.toFile().then(similarity(matrix)), unit.metres()))),
              CoreWords.of("keep-frame.kept-as-one-unit", name, unit.symbol()));
      case USE -> use(in);
    };
  }

  private Outcome use(Workpiece in) {
    Frame f = in.frame();
    if (name.equals("original")) {
      // What one of its units is stays as it was found out.
      double k = f.toWork().scale() / f.toFile().scale();
      return Outcome.of(
          in.withFrame(f.working(f.toFile().then(Similarity.scaling(k)), f.trueSize())),
          CoreWords.of("keep-frame.back-in-the-files-own"));
    }
    NamedFrame kept = f.named(name);
    if (kept == null) {
      throw Failure.cannot(
          CoreWords.of(
              "common.no-frame-is-kept-under",
              name,
              Stream.concat(Stream.of("original"), f.named().stream().map(NamedFrame::name))
                  .collect(Collectors.joining(", "))));
    }
    double k = kept.unit() > 0 ? kept.unit() : 1;
    return Outcome.of(
        in.withFrame(f.working(kept.fromBase().then(Similarity.scaling(k)), kept.unit() > 0)),
        CoreWords.of("keep-frame.in-the-coordinates-of", name));
  }

  private static Similarity similarity(double[] m) {
    if (m.length != 16) {
      throw Failure.usage(CoreWords.of("keep-frame.a-matrix-needs-sixteen-numbers", m.length));
    }
    Similarity s = Similarity.ofMatrix(m);
    if (s == null) {
      throw Failure.usage(CoreWords.of("keep-frame.the-matrix-must-turn-scale"));
    }
    return s;
  }
}

package holotome.core.datum;

import holotome.core.geometry.Box;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;

/** Gives the work its true size: from known lengths, a size it must have, or a factor. */
@Describes(
    id = "datum.scale",
    title = "Scale",
    help =
        "Sets the true size: from lengths that are known (with several, the factor that fits them best), from a size it must have, or by a factor.",
    reads = {"scan", "cast", "frame"},
    writes = {"frame"})
public record Scale(
    @Parameter(
            help = "Pairs of points and the true distance between them",
            optional = true,
            oneOf = "how")
        List<KnownLength> lengths,
    @Parameter(
            help = "The size it must have",
            optional = true,
            oneOf = "how",
            min = Double.MIN_VALUE)
        Length size,
    @Parameter(
            help = "A factor for the working space as it stands",
            optional = true,
            oneOf = "how",
            min = Double.MIN_VALUE)
        Double factor,
    @Parameter(help = "Which measure the size is", preset = "height", when = "size") Along along)
    implements Step {

  /** A measure of the box around the work. */
  public enum Along {
    HEIGHT,
    WIDTH,
    DEPTH,
    LONGEST
  }

  public Scale(List<KnownLength> lengths) {
    this(lengths, null, null, Along.HEIGHT);
  }

  public Scale {
    if (Stream.of(lengths, size, factor).filter(Objects::nonNull).count() != 1) {
      throw Failure.usage(CoreWords.of("scale.give-one-of-lengths-size"));
    }
    if (lengths != null && lengths.isEmpty()) {
      throw Failure.usage(CoreWords.of("scale.give-at-least-one-known"));
    }
    if (lengths != null) {
      lengths = List.copyOf(lengths);
      lengths.forEach(Scale::check);
    }
    if (size != null && !(size.metres() > 0) || factor != null && !(factor > 0)) {
      throw Failure.usage(CoreWords.of("scale.a-size-and-a-factor"));
    }
  }

  private static void check(KnownLength k) {
    if (k.from().length != 3 || k.to().length != 3) {
      throw Failure.usage(CoreWords.of("scale.each-end-of-a-known"));
    }
    if (!(k.is().metres() > 0)) {
      throw Failure.usage(CoreWords.of("scale.a-known-length-must-be"));
    }
    if (!(Vec.distance(k.from(), k.to()) > 0)) {
      throw Failure.usage(CoreWords.of("scale.the-two-ends-of-a"));
    }
  }

  /** The factor for a work of this size. */
  public double factorFor(Box b) {
    if (factor != null) {
      return factor;
    }
    if (lengths != null) {
      return ScaleFit.of(lengths).factor();
    }
    double now =
        switch (along) {
          case HEIGHT -> b.height();
          case WIDTH -> b.width();
          case DEPTH -> b.depth();
          case LONGEST -> Math.max(b.width(), Math.max(b.depth(), b.height()));
        };
    if (!(now > 0)) {
      throw Failure.cannot(
          switch (along) {
            case HEIGHT -> CoreWords.of("scale.the-work-has-no-height");
            case WIDTH -> CoreWords.of("scale.the-work-has-no-width");
            case DEPTH -> CoreWords.of("scale.the-work-has-no-depth");
            case LONGEST -> CoreWords.of("scale.the-work-has-no-size");
          });
    }
    return size.metres() / now;
  }

  @Override
  public long memory(Workpiece in) {
    return LITTLE;
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    double by = factorFor(in.frame().workBounds(in.current()));
    Workpiece out = in.withFrame(in.frame().placed(Similarity.scaling(by)).withTrueSize());
    List<String> notes = new ArrayList<>();
    Box b = out.frame().workBounds(in.current());
    notes.add(
        CoreWords.of(
            "scale.scaled-by-to",
            by,
            Length.format(b.width(), true),
            Length.format(b.depth(), true),
            Length.format(b.height(), true)));
    if (lengths != null) {
      notes.addAll(told(ScaleFit.of(lengths)));
    }
    return new Outcome(out, notes);
  }

  private List<String> told(ScaleFit fit) {
    List<String> notes = new ArrayList<>();
    for (int i = 0; lengths.size() > 1 && i < lengths.size(); i++) {
      double off = fit.off()[i];
      double percent = 100 * off / lengths.get(i).is().metres();
      notes.add(
          fit.outlier() == i
              ? CoreWords.of("scale.length-is-off-by-mm", i + 1, 1000 * off, percent)
              : CoreWords.of("scale.length-is-off-by-mm-2", i + 1, 1000 * off, percent));
    }
    if (!Double.isNaN(fit.precision())) {
      notes.add(CoreWords.of("scale.right-within-one-sigma", 100 * fit.precision()));
    }
    return notes;
  }
}

package holotome.core.datum;

import holotome.core.mesh.Box;
import holotome.core.mesh.Similarity;
import holotome.core.mesh.Vec;
import holotome.core.step.Describes;
import holotome.core.step.KnownLength;
import holotome.core.step.Length;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.step.Workpiece;
import holotome.core.task.Failure;
import java.util.ArrayList;
import java.util.List;

/** Gives the work its true size from known lengths. */
@Describes(
    id = "datum.scale",
    title = "Scale",
    help =
        "Sets the true size from one or more lengths that are known; with several, the factor that fits them best.")
public record Scale(
    @Parameter(help = "Pairs of points and the true distance between them")
        List<KnownLength> lengths)
    implements Step {

  public Scale {
    if (lengths.isEmpty()) {
      throw Failure.usage("give at least one known length");
    }
    for (KnownLength k : lengths) {
      if (k.from().length != 3 || k.to().length != 3) {
        throw Failure.usage("each end of a known length needs three numbers");
      }
      if (!(k.is().metres() > 0)) {
        throw Failure.usage("a known length must be above zero");
      }
      if (!(Vec.distance(k.from(), k.to()) > 0)) {
        throw Failure.usage("the two ends of a known length are the same point");
      }
    }
  }

  /** The factor with the least sum of squared errors of the lengths. */
  public double factor() {
    double up = 0;
    double down = 0;
    for (KnownLength k : lengths) {
      double d = Vec.distance(k.from(), k.to());
      up += d * k.is().metres();
      down += d * d;
    }
    return up / down;
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    double factor = factor();
    Workpiece out = in.withFrame(in.frame().placed(Similarity.scaling(factor)).withTrueSize());
    List<String> notes = new ArrayList<>();
    Box b = out.frame().workBounds(in.current());
    notes.add(
        String.format(
            "Scaled by %.6g to %s × %s × %s",
            factor,
            Length.format(b.width(), true),
            Length.format(b.depth(), true),
            Length.format(b.height(), true)));
    if (lengths.size() > 1) {
      for (int i = 0; i < lengths.size(); i++) {
        KnownLength k = lengths.get(i);
        double off = factor * Vec.distance(k.from(), k.to()) - k.is().metres();
        notes.add(
            String.format(
                "Length %d is off by %.3f mm (%.2f %%)",
                i + 1, 1000 * off, 100 * off / k.is().metres()));
      }
    }
    return new Outcome(out, notes);
  }
}

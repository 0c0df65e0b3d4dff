package holotome.core.unwrap;

import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attributes;
import holotome.core.mesh.LaidOver;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.topology.Charts;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;

/**
 * Keeps the charts of the Cast as a second set of texture coordinates while others are cut, or
 * takes it back. Every step that changes the Cast carries it along; GLB files have it beside the
 * first.
 */
@Describes(
    id = "unwrap.keep",
    title = "Keep",
    help =
        "Keeps the charts that the Cast has as a second set, as they are, while others are cut; it is written beside the first into GLB files, and can be taken back.",
    reads = {"cast"},
    writes = {"cast", "maps"})
public record KeepCharts(
    @Parameter(
            help =
                "What is done: the charts are kept as a second set too, the second set becomes the charts, both change places, or the second set is let go",
            preset = "second")
        How how)
    implements Step {

  /** What is done. */
  public enum How {
    SECOND,
    RETURN,
    SWAP,
    DROP
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh cast = CastAtHand.of(in);
    Attribute second = cast.attributes().named(Attribute.UV_SECOND);
    if (how != How.SECOND && second == null) {
      throw Failure.cannot(CoreWords.of("keep-charts.no-second"));
    }
    if ((how == How.SECOND || how == How.SWAP) && cast.uv() == null) {
      throw Failure.cannot(CoreWords.of("pack-charts.no-charts"));
    }
    Uv first = cast.uv();
    Uv kept = second == null ? null : new Uv(second.floats(), second.index());
    List<String> notes = new ArrayList<>();
    Mesh out =
        switch (how) {
          case SECOND -> cast.with(first.attribute(Attribute.UV_SECOND));
          case RETURN -> without(LaidOver.without(cast)).withUv(kept);
          case SWAP ->
              LaidOver.without(cast).with(first.attribute(Attribute.UV_SECOND)).withUv(kept);
          case DROP -> without(cast);
        };
    Mesh counted = how == How.DROP ? null : how == How.SECOND ? cast : out;
    if (counted == null) {
      notes.add(CoreWords.of("keep-charts.dropped"));
    } else {
      int n = Charts.of(counted, run.work()).count();
      notes.add(CoreWords.count(how == How.SECOND ? "keep-charts.kept" : "keep-charts.back", n));
    }
    if (counted == out && cast.hasTexture()) {
      out = CastAtHand.withoutPictures(out);
      notes.add(CoreWords.of("pack-charts.pictures"));
    }
    return new Outcome(in.withCast(out), notes);
  }

  private static Mesh without(Mesh mesh) {
    Attributes left = mesh.attributes().without(Attribute.UV_SECOND);
    return mesh.with(left, mesh.materials());
  }

  @Override
  public long memory(Workpiece in) {
    return in.cast() == null ? 0 : 24L * in.cast().triangleCount();
  }
}

package holotome.core.bake;

import holotome.core.image.Image;
import holotome.core.map.MapKind;
import holotome.core.part.Coverage;
import holotome.core.part.Maps;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.BitSet;

/** Takes the light of the day of the capture out of the colours. */
@Describes(
    id = "bake.even-light",
    title = "Even light",
    help =
        "Takes the light of the capture out of the colour map: estimated from the colours against the directions that the surface faces, and what lies in hollows.",
    reads = {"cast", "maps"},
    writes = {"maps"})
public record EvenLight(
    @Parameter(
            help = "How much of the light is taken out",
            unit = "%",
            min = 0,
            max = 100,
            preset = "100")
        double strength,
    @Parameter(
            help = "How much of what hollows lost is given back",
            unit = "%",
            min = 0,
            max = 100,
            preset = "50")
        double hollows)
    implements Step {

  @Override
  public long memory(Workpiece in) {
    return in.maps() == null ? 0 : 4L * in.maps().missed().width() * in.maps().missed().height();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Maps maps = in.maps();
    if (maps == null || in.cast() == null || in.cast().uv() == null) {
      throw Failure.cannot(CoreWords.of("bake.there-are-no-maps"));
    }
    Image colour = maps.pictures().get(MapKind.COLOUR);
    Image normals = maps.pictures().get(MapKind.OBJECT_NORMAL);
    if (colour == null || normals == null) {
      throw Failure.cannot(CoreWords.of("even-light.needs"));
    }
    Image occlusion = maps.pictures().get(MapKind.OCCLUSION);
    Work work = run.work();
    BitSet covered = Coverage.of(in.cast(), maps);
    if (covered.isEmpty()) {
      throw Failure.cannot(CoreWords.of("bake.there-are-no-maps"));
    }
    Irradiance light =
        Irradiance.fitted(
            colour,
            normals,
            occlusion,
            covered,
            work.part(0.5, CoreWords.of("even-light.estimating")));
    Image evened =
        light.without(
            colour,
            normals,
            occlusion,
            strength / 100,
            hollows / 100,
            work.part(0.5, CoreWords.of("even-light.evening")));
    return Outcome.of(
        in.withMaps(maps.with(MapKind.COLOUR, evened)),
        CoreWords.of("even-light.done", light.contrast(), 100 * light.hollow()),
        occlusion == null
            ? CoreWords.of("even-light.without-occlusion")
            : CoreWords.of("even-light.with-occlusion"));
  }
}

package holotome.core.bake;

import holotome.core.map.MapKind;
import holotome.core.mesh.Mesh;
import holotome.core.part.Maps;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.util.List;

/** Bakes the Scan's detail into pictures for the Cast. */
@Describes(
    id = "bake.maps",
    title = "Bake",
    help =
        "Takes colour and surface detail from the Scan into pictures for the Cast, by rays from the Cast.",
    reads = {"scan", "cast"},
    writes = {"maps"})
public record BakeMaps(
    @Parameter(help = "Which pictures", preset = "colour, normal") List<MapKind> maps,
    @Parameter(
            help = "Width and height of the pictures",
            unit = "px",
            min = 16,
            max = 16384,
            preset = "2048")
        int size,
    @Parameter(help = "Rays per pixel: 1, 4 or 16", min = 1, max = 16, preset = "4") int samples,
    @Parameter(
            help = "How far colours run on past the charts' borders",
            unit = "px",
            min = 0,
            max = 256,
            preset = "8")
        int padding)
    implements Step {

  public BakeMaps {
    if (samples != 1 && samples != 4 && samples != 16) {
      throw Failure.usage(CoreWords.of("bake-maps.samples-must-be-1-4"));
    }
    if (maps.isEmpty()) {
      throw Failure.usage(CoreWords.of("bake-maps.name-at-least-one-map"));
    }
  }

  @Override
  public long memory(Workpiece in) {
    return 130L * in.scan().triangleCount() + 20L * size * size;
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh cast = in.cast();
    if (cast == null) {
      throw Failure.cannot(CoreWords.of("bake-maps.there-is-no-cast-to"));
    }
    if (cast.uv() == null) {
      throw Failure.cannot(CoreWords.of("bake-maps.the-cast-has-no-texture"));
    }
    Maps baked =
        Baking.run(in.scan(), cast, maps, size, (int) Math.sqrt(samples), padding, run.work());
    return Outcome.of(
        in.withMaps(baked),
        CoreWords.of(
            "bake-maps.maps-of-px-of-texels",
            maps.size(),
            size,
            size,
            baked.missedCount(),
            baked.covered(),
            100 * baked.missedShare()));
  }
}

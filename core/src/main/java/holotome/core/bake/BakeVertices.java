package holotome.core.bake;

import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attribute.Domain;
import holotome.core.attribute.Attribute.Kind;
import holotome.core.image.LinearLight;
import holotome.core.map.MapKind;
import holotome.core.map.MapRule.Values;
import holotome.core.map.MapSettings;
import holotome.core.mesh.Mesh;
import holotome.core.part.Maps;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** Takes colours, shares and measures onto the Cast's vertices. */
@Describes(
    id = "bake.vertices",
    title = "To vertices",
    help =
        "Takes colours, shares and measures onto the Cast's vertices: from the Scan, by a ray from each, or from the maps.",
    reads = {"scan", "cast", "maps", "frame"},
    writes = {"cast", "maps"})
public record BakeVertices(
    @Parameter(
            help =
                "What is taken: colours, shares and measures, no directions, places or numbers of things",
            preset = "colour")
        List<MapKind> maps,
    @Parameter(help = "From the Scan, or from the maps that were baked", preset = "scan") From from,
    @Parameter(
            help = "How far occlusion and thickness look; else a tenth of the Scan's size",
            optional = true,
            when = "maps=occlusion|thickness")
        Length sight,
    @Parameter(
            help = "Rays from each vertex for occlusion and thickness",
            min = 1,
            max = 4096,
            preset = "64",
            when = "maps=occlusion|thickness")
        int rays)
    implements Step {

  /** Where it is taken from. */
  public enum From {
    SCAN,
    MAPS
  }

  public BakeVertices {
    if (maps.isEmpty()) {
      throw Failure.usage(CoreWords.of("bake-maps.name-at-least-one-map"));
    }
    for (MapKind k : maps) {
      Values v = k.rule().values();
      boolean isNumber =
          v == Values.COLOUR || v == Values.SHARE || v == Values.LENGTH || v == Values.BEND;
      if (!isNumber || k == MapKind.MASK) {
        throw Failure.usage(CoreWords.of("bake-vertices.not-on-vertices", k.fileName()));
      }
    }
    if (sight != null && sight.metres() <= 0) {
      throw Failure.usage(CoreWords.of("bake-maps.above-0"));
    }
  }

  @Override
  public Set<Part<?>> reads() {
    Set<Part<?>> out = new HashSet<>(Step.super.reads());
    if (sight == null) {
      out.remove(Part.FRAME);
    }
    return out;
  }

  @Override
  public long memory(Workpiece in) {
    return 110L * in.scan().triangleCount();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh cast = in.cast();
    if (cast == null) {
      throw Failure.cannot(CoreWords.of("bake-maps.there-is-no-cast-to"));
    }
    List<MapKind> kinds = maps.stream().distinct().sorted().toList();
    float[][] taken =
        from == From.MAPS
            ? VertexBaking.fromMaps(cast, baked(in, kinds), kinds)
            : VertexBaking.fromScan(in.scan(), cast, kinds, settings(in), run.work());
    Mesh out = cast;
    for (int k = 0; k < kinds.size(); k++) {
      out = out.with(attribute(kinds.get(k), taken[k]));
    }
    // Nothing moved: what was baked onto it is its still.
    return Outcome.of(
        in.withCast(out).withMaps(in.maps()),
        CoreWords.of("bake-vertices.done", kinds.size(), cast.vertexCount()));
  }

  private MapSettings settings(Workpiece in) {
    double far =
        sight == null
            ? BakeMaps.USUAL_SIGHT * in.scan().bounds().diagonal()
            : in.frame().toBaseLength(sight.metres());
    return new MapSettings(far, rays, true, null);
  }

  private static Maps baked(Workpiece in, List<MapKind> kinds) {
    for (MapKind k : kinds) {
      if (in.maps() == null || in.cast().uv() == null || !in.maps().pictures().containsKey(k)) {
        throw Failure.cannot(CoreWords.of("bake-vertices.no-such-map", k.fileName()));
      }
    }
    return in.maps();
  }

  /** Colours go where a mesh's colours are, all else under the kind's own name. */
  private static Attribute attribute(MapKind k, float[] values) {
    if (k.rule().values() != Values.COLOUR) {
      Kind kind = k.rule().values() == Values.SHARE ? Kind.MASK : Kind.WEIGHT;
      return Attribute.of(k.fileName(), kind, Domain.VERTEX, values, null);
    }
    int[] colours = new int[values.length / 3];
    for (int v = 0; v < colours.length; v++) {
      colours[v] =
          0xff000000
              | LinearLight.storedByte(values[3 * v]) << 16
              | LinearLight.storedByte(values[3 * v + 1]) << 8
              | LinearLight.storedByte(values[3 * v + 2]);
    }
    return Attribute.of(Attribute.COLOUR, Kind.COLOUR, Domain.VERTEX, colours, null);
  }
}

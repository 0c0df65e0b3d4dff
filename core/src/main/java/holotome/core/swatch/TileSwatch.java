package holotome.core.swatch;

import holotome.core.image.Image;
import holotome.core.map.MapKind;
import holotome.core.map.MapRule.Values;
import holotome.core.map.Range;
import holotome.core.mesh.Mesh;
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
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/** Makes the maps of a Swatch go on in themselves on all sides. */
@Describes(
    id = "swatch.tile",
    title = "Tile",
    help =
        "Makes the maps of a Swatch tile: what lies beyond its left and lower side is cut over into the right and upper one where it shows least, on all maps at once. The Cast becomes the flat tile of the size that was asked for.",
    reads = {"cast", "maps"},
    writes = {"cast", "maps"})
public record TileSwatch(
    @Parameter(
            help = "Whether what opposite sides differ by in light and height is taken out first",
            preset = "true")
        boolean level,
    @Parameter(
            help = "Over how many pixels both sides are mixed along the cut",
            unit = "px",
            min = 0,
            max = 256,
            preset = "6")
        double soft)
    implements Step {

  @Override
  public long memory(Workpiece in) {
    long texels = in.maps() == null ? 0 : (long) in.maps().size() * in.maps().size();
    return 24 * texels;
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh cast = in.cast();
    double share = cast == null ? 0 : LaidRectangle.apron(cast);
    Rectangle flat = share > 0 ? LaidRectangle.tileOf(cast, share) : null;
    if (flat == null) {
      throw Failure.cannot(CoreWords.of("tile.nothing-laid"));
    }
    Maps maps = in.maps();
    if (maps == null) {
      throw Failure.cannot(CoreWords.of("bake.there-are-no-maps"));
    }
    int tile = (int) Math.round(maps.size() / (1 + share));
    int over = maps.size() - tile;
    if (over < 2 || over >= tile || maps.columns() > 1 || maps.rows() > 1) {
      throw Failure.cannot(CoreWords.of("tile.apron-too-small"));
    }
    Work work = run.work();
    Map<MapKind, TilePicture> pictures = new EnumMap<>(MapKind.class);
    maps.pictures()
        .forEach(
            (k, p) -> {
              // Where a place lies is no matter of a material that is put anywhere.
              if (k.rule().values() != Values.PLACE) {
                pictures.put(k, new TilePicture(p, k.rule().values(), tile));
              }
            });
    TileCut cut = new TileCut(maps.size(), tile, level, soft);
    pictures.forEach((k, p) -> cut.add(p, range(maps, k)));
    cut.make(work.part(0.6, CoreWords.of("tile.cutting")));
    Map<MapKind, Image> made = new EnumMap<>(MapKind.class);
    List<String> notes = new ArrayList<>();
    notes.add(CoreWords.of("tile.made", tile, tile, pictures.size()));
    for (Map.Entry<MapKind, TilePicture> e : pictures.entrySet()) {
      Work part = work.part(0.4 / pictures.size(), CoreWords.of("tile.making"));
      Image out = e.getValue().made(part);
      made.put(e.getKey(), out);
      if (e.getKey() == MapKind.COLOUR) {
        double[] steps = TilePicture.steps(out);
        notes.add(CoreWords.of("tile.steps", steps[0], steps[1]));
      }
    }
    if (pictures.size() < maps.pictures().size()) {
      notes.add(CoreWords.of("tile.no-places"));
    }
    Image missed = Image.blank(tile, tile, 1, Image.Sample.BYTE, Image.Space.LINEAR);
    Maps tiled = new Maps(tile, made, ranges(maps, made), missed, tile * tile, 0, List.of());
    return new Outcome(in.withCast(flat.mesh()).withMaps(tiled), notes, null, tile);
  }

  private static Map<MapKind, Range> ranges(Maps maps, Map<MapKind, Image> made) {
    Map<MapKind, Range> out = new EnumMap<>(MapKind.class);
    maps.ranges()
        .forEach(
            (k, r) -> {
              if (made.containsKey(k)) {
                out.put(k, r);
              }
            });
    return out;
  }

  /** What the values of a map go over: light from 0 to 1, what is stored, or its own range. */
  private static double range(Maps maps, MapKind kind) {
    Range r = maps.ranges().get(kind);
    if (r != null) {
      return r.high() - r.low();
    }
    return kind.rule().values() == Values.COLOUR ? 1 : maps.pictures().get(kind).sample().one();
  }
}

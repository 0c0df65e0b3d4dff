package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.attribute.Attribute;
import holotome.core.bake.BakeMaps;
import holotome.core.bake.BakeVertices;
import holotome.core.bake.EvenLight;
import holotome.core.bake.PaintCage;
import holotome.core.bake.SetTone;
import holotome.core.bake.TouchUp;
import holotome.core.map.MapKind;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimate;
import holotome.core.step.Step;
import holotome.core.swatch.LaySwatch;
import holotome.core.swatch.TileSwatch;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** The tools of Bake. */
final class BakeTools {
  private final Map<Class<? extends Step>, Tool> all = new LinkedHashMap<>();

  BakeTools(Session session) {
    all.put(BakeMaps.class, new BakeTool(session));
    all.put(PaintCage.class, new CageTool(session));
    StepTool light =
        new StepTool(
            session,
            EvenLight.class,
            Stage.BAKE,
            true,
            Map.of(),
            (s, t) -> AppWords.of("bake-tools.even-light"),
            w -> List.of());
    all.put(EvenLight.class, needing(light.showing(), MapKind.COLOUR, MapKind.OBJECT_NORMAL));
    all.put(SetTone.class, needing(new ToneTool(session).showing(), MapKind.COLOUR));
    all.put(TouchUp.class, new TouchTool(session));
    StepTool vertices =
        new StepTool(
            session,
            BakeVertices.class,
            Stage.BAKE,
            false,
            Map.of(),
            (s, t) -> AppWords.of("bake-tools.to-vertices"),
            w -> List.of());
    vertices.needs(
        w -> w.cast() == null ? AppWords.of("tools.there-is-no-cast-to-2") : null,
        w -> new Tool.Way(AppWords.of("common.make-a-cast"), Decimate.class));
    all.put(BakeVertices.class, vertices);
    StepTool tile =
        new StepTool(
            session,
            TileSwatch.class,
            Stage.BAKE,
            false,
            Map.of(),
            (s, t) -> AppWords.of("bake-tools.tile"),
            w -> List.of());
    tile.needs(
        w ->
            w.cast() == null || w.cast().attributes().named(Attribute.APRON) == null
                ? AppWords.of("bake-tools.no-swatch")
                : w.maps() == null ? AppWords.of("bake-tools.no-maps") : null,
        w ->
            w.cast() == null || w.cast().attributes().named(Attribute.APRON) == null
                ? new Tool.Way(AppWords.of("swatch-tool.lay"), LaySwatch.class)
                : new Tool.Way(AppWords.of("findings.bake"), BakeMaps.class));
    all.put(TileSwatch.class, tile);
  }

  Map<Class<? extends Step>, Tool> all() {
    return all;
  }

  /** Says which maps are still to be baked. */
  private static StepTool needing(StepTool tool, MapKind... kinds) {
    return tool.needs(
        w -> missing(w, kinds), w -> new Tool.Way(AppWords.of("findings.bake"), BakeMaps.class));
  }

  private static String missing(Workpiece w, MapKind... kinds) {
    for (MapKind k : kinds) {
      if (w.maps() == null || !w.maps().pictures().containsKey(k)) {
        return AppWords.of("bake-tools.no-map", k.rule().title());
      }
    }
    return null;
  }
}

package holotome.core.log;

import holotome.core.Datasets;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.io.MeshWriter;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.task.Work;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Stream;

/** Every step as a Log would state it, and the mesh that each is tried on. */
final class GivenSteps {
  private GivenSteps() {}

  /** A step as a Log would state it, and the entries that come before it. */
  record Given(Map<String, Object> entry, List<Map<String, Object>> before) {
    @Override
    public String toString() {
      return entry.toString();
    }
  }

  private static final Map<String, Object> TIDY = Map.of("do", "mend.tidy");
  private static final Map<String, Object> CAST = Map.of("do", "reduce.decimate", "triangles", 800);
  private static final Map<String, Object> CHARTS = Map.of("do", "unwrap.charts", "size", 256);
  private static final Map<String, Object> BAKED =
      Map.of("do", "bake.maps", "size", 256, "samples", 4);
  private static final Map<String, Object> SWATCH =
      Map.of(
          "do", "swatch.lay", "point", List.of(0.8, 0.9, 0), "width", "80 cm", "height", "60 cm");

  /** A place on four sides of what floats about, in the file's coordinates. */
  private static final List<Double> CRATE =
      List.of(
          4e5 + 1,
          5e6 + 1,
          101.25,
          4e5 + 1,
          5e6 + 0.95,
          101.2,
          4e5 + 0.95,
          5e6 + 1,
          101.2,
          4e5 + 1.05,
          5e6 + 1,
          101.2);

  private static final List<Double> FOOT =
      List.of(4e5, 5e6, 100.5, 4e5 + 0.5, 5e6, 100.5, 4e5, 5e6 + 0.5, 100.5);

  private static final Map<String, Object> SQUARES =
      Map.of("do", "unwrap.pack", "size", 128, "squares", 2, "alone", List.of(0, 0, 0.5));
  private static final Map<String, Object> TOUCHES =
      Map.of(
          "do",
          "bake.touch",
          "touches",
          List.of(
              touch("copy", Map.of("from", List.of(4e5 + 0.4, 5e6, 100.9))),
              touch("fit", Map.of("from", List.of(4e5, 5e6 + 0.4, 100.9), "turn", 30)),
              touch("blend", Map.of()),
              touch("fill", Map.of("strength", 80)),
              touch("soften", Map.of()),
              touch("restore", Map.of())));

  private static Map<String, ?> touch(String how, Map<String, ?> more) {
    Map<String, Object> out = new HashMap<>(more);
    out.put("how", how);
    out.put("line", List.of(4e5, 5e6, 101.1, 4e5 + 0.1, 5e6 + 0.1, 101.08));
    out.put("radius", 0.1);
    return out;
  }

  private static final Map<String, Object> ALL_MAPS =
      Map.of(
          "do",
          "bake.maps",
          "size",
          128,
          "filter",
          "sharp",
          "sight",
          "20 cm",
          "maps",
          List.of(
              "colour",
              "normal",
              "object-normal",
              "occlusion",
              "bent-normal",
              "height",
              "curvature",
              "thickness",
              "position",
              "facing",
              "distance",
              "island"));
  private static final Map<String, Object> FENCE =
      Map.of(
          "view",
          List.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1),
          "outline",
          List.of(0.2, -2, 2, -2, 2, 2, 0.2, 2));

  /** A light mesh in a file of its own, in working coordinates. */
  private static final String OUTSIDE = outside();

  private static String outside() {
    try {
      Path f = Files.createTempFile("outside", ".ply");
      f.toFile().deleteOnExit();
      Mesh ball = Shapes.moved(Shapes.sphere(0.6, 3), 0, 0, 0.5);
      MeshWriter.write(f, ball, Similarity.IDENTITY, Work.unwatched());
      return f.toString();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  static Stream<Given> steps() {
    return Stream.of(
        given(Map.of("do", "intake.cast", "file", OUTSIDE)),
        given(
            Map.of(
                "do",
                "reduce.decimate",
                "triangles",
                900,
                "selected",
                "finer",
                "picks",
                List.of(Map.of("height", Map.of("from", "30 cm"))))),
        given(Map.of("do", "trim.select", "fence", FENCE, "then", "remove")),
        given(Map.of("do", "trim.islands", "keep", "largest")),
        given(Map.of("do", "trim.islands", "keep", "larger", "across", "30 cm")),
        given(
            Map.of(
                "do",
                "trim.select",
                "picks",
                List.of(
                    Map.of("height", Map.of("from", "10 cm")),
                    Map.of("join", "take", "facing", Map.of("towards", List.of(0, 0, 1))),
                    Map.of("change", Map.of("how", "grow", "times", 2))),
                "then",
                "keep")),
        given(Map.of("do", "trim.fence", "fence", FENCE, "keep", "inside")),
        given(
            Map.of(
                "do",
                "trim.box",
                "box",
                Map.of("centre", List.of(0, 0, 0.3), "size", List.of(0.7, 0.7, 0.5)),
                "close",
                "even")),
        given(
            Map.of(
                "do",
                "trim.box",
                "box",
                Map.of("centre", List.of(0.2, 0, 0.3), "size", List.of(0.5, 0.7, 0.5)),
                "keep",
                "outside")),
        given(Map.of("do", "trim.fringe", "thin", 0.9)),
        given(Map.of("do", "mend.flip")),
        given(Map.of("do", "mend.orient")),
        given(Map.of("do", "mend.manifold")),
        given(Map.of("do", "mend.spikes")),
        given(Map.of("do", "mend.intersections"), List.of(TIDY)),
        given(Map.of("do", "mend.shells")),
        given(
            Map.of(
                "do",
                "mend.pull",
                "point",
                List.of(0, 0, 0.3),
                "by",
                List.of(0, 0, 0.1),
                "radius",
                "60 cm")),
        given(
            Map.of(
                "do",
                "mend.overhang",
                "picks",
                List.of(Map.of("height", Map.of("to", "60 cm"))),
                "angle",
                30)),
        given(Map.of("do", "mend.base", "height", "5 cm"), List.of(TIDY)),
        given(
            Map.of("do", "mend.base", "height", "9 cm", "steps", 3, "ledge", "4 cm"),
            List.of(TIDY)),
        given(
            Map.of("do", "mend.fill", "how", "bridge", "at", List.of(0, 0, 1.1, 3, 3, 0)),
            List.of(TIDY)),
        given(
            Map.of("do", "mend.hollow", "wall", "5 cm"),
            List.of(Map.of("do", "mend.solid", "how", "new", "detail", "5 cm"))),
        given(
            Map.of("do", "mend.hollow", "wall", "5 cm", "drain", "5 cm", "at", List.of(0, 0, 1.1)),
            List.of(Map.of("do", "mend.solid", "how", "new", "detail", "5 cm"))),
        given(
            Map.of(
                "do",
                "mend.patch",
                "shape",
                "ball",
                "picks",
                List.of(Map.of("height", Map.of("from", "75 cm")))),
            List.of(TIDY)),
        given(Map.of("do", "mend.handles", "girth", "20 cm"), List.of(TIDY)),
        given(Map.of("do", "mend.edit", "edits", edits())),
        given(Map.of("do", "mend.solid", "how", "new", "triangles", 3000)),
        given(
            Map.of(
                "do",
                "mend.solid",
                "how",
                "new",
                "detail",
                Datasets.times(10, 4) + " cm",
                "as",
                "cast")),
        given(Map.of("do", "mend.noise")),
        given(Map.of("do", "mend.weld", "distance", "4 mm")),
        given(Map.of("do", "mend.weld", "distance", "4 mm", "among", "rims")),
        given(Map.of("do", "mend.noise", "how", "plain", "rounds", 3)),
        given(Map.of("do", "trim.ground")),
        given(Map.of("do", "trim.ground", "along", "ground", "margin", "5 mm")),
        given(
            Map.of(
                "do",
                "trim.plane",
                "point",
                List.of(0, 0, 0.3),
                "normal",
                List.of(0.2, 0.1, 1),
                "close",
                "flat")),
        given(Map.of("do", "mend.tidy")),
        given(Map.of("do", "mend.fill", "how", "smooth"), List.of(TIDY)),
        given(Map.of("do", "mend.fill", "how", "flat"), List.of(TIDY)),
        given(Map.of("do", "mend.fill", "how", "by-rim", "at", List.of(0, 0, 0)), List.of(TIDY)),
        given(Map.of("do", "datum.unit", "unit", "cm")),
        given(
            Map.of(
                "do",
                "datum.scale",
                "lengths",
                List.of(
                    Map.of("from", List.of(0, 0, 0), "to", List.of(1, 0, 0), "is", "19.7 in")))),
        given(Map.of("do", "datum.level")),
        given(
            Map.of(
                "do", "datum.level", "by", "region", "point", List.of(1.5, 1.5, 0), "radius", 0.5)),
        given(Map.of("do", "datum.turn", "axis", "x", "angle", 12.5)),
        given(Map.of("do", "datum.turn", "axis", "z", "angle", 90, "about", "centre")),
        given(Map.of("do", "datum.scale", "size", "64 cm", "along", "longest")),
        given(Map.of("do", "datum.scale", "factor", 0.25)),
        given(
            Map.of(
                "do",
                "datum.level",
                "by",
                "points",
                "points",
                List.of(0, 0, 0, 1, 0, 0.1, 0, 1, 0))),
        given(
            Map.of(
                "do",
                "datum.level",
                "by",
                "selection",
                "picks",
                List.of(Map.of("height", Map.of("from", "-1 cm", "to", "1 cm"))))),
        given(Map.of("do", "datum.level", "by", "resting")),
        given(Map.of("do", "datum.front", "points", List.of(0, 0, 0, 1, 1, 0))),
        given(Map.of("do", "datum.front", "by", "edge", "points", List.of(0, 0, 0, 1, 1, 0))),
        given(Map.of("do", "datum.origin", "at", "mass-centre", "rest", true)),
        given(
            Map.of("do", "datum.origin", "at", "hole-centre", "point", List.of(0, 0, 0)),
            List.of(TIDY)),
        given(Map.of("do", "datum.origin", "at", "corner", "corner", "right-back-top")),
        given(
            Map.of(
                "do",
                "datum.place",
                "move",
                List.of(1, 2, 3),
                "turn",
                List.of(10, 20, 30),
                "factor",
                2)),
        given(Map.of("do", "datum.frame", "name", "site")),
        given(
            Map.of("do", "datum.frame", "what", "use", "name", "original"),
            List.of(Map.of("do", "datum.turn", "angle", 30))),
        given(
            Map.of(
                "do",
                "datum.section",
                "point",
                List.of(0, 0, 0),
                "normal",
                List.of(0, -1, 0),
                "draw",
                "outline",
                "tolerance",
                "1 mm")),
        given(
            Map.of(
                "do",
                "datum.section",
                "point",
                List.of(0, 0, 0.2),
                "count",
                3,
                "step",
                "5 cm",
                "tolerance",
                "1 mm",
                "format",
                List.of("dxf", "svg", "csv"))),
        given(Map.of("do", "datum.origin", "at", "box-centre")),
        given(CAST),
        given(Map.of("do", "reduce.decimate", "percent", 20, "as", "scan")),
        given(Map.of("do", "reduce.decimate", "tolerance", "2 mm")),
        given(Map.of("do", "reduce.decimate", "triangles", 800, "symmetric", "left")),
        given(Map.of("do", "reduce.remesh", "triangles", 800, "as", "stand-in")),
        given(Map.of("do", "reduce.remesh", "edge", "9 cm", "sizes", "curvature")),
        given(Map.of("do", "reduce.remesh", "tolerance", "1 cm", "as", "scan")),
        given(Map.of("do", "reduce.resurface")),
        given(
            Map.of("do", "reduce.resurface", "detail", "9 cm", "reach", "1 cm", "as", "stand-in")),
        given(Map.of("do", "reduce.resurface", "triangles", 900, "beyond", "closed", "as", "scan")),
        given(Map.of("do", "reduce.facets", "triangles", 120)),
        given(Map.of("do", "reduce.quads", "quads", 800)),
        given(
            Map.of("do", "reduce.quads", "quads", 200, "symmetric", "left", "sizes", "curvature")),
        given(Map.of("do", "reduce.levels", "percent", 50, "count", 2)),
        given(Map.of("do", "proxy.planes", "places", CRATE, "within", "5 mm")),
        given(
            Map.of(
                "do",
                "proxy.block",
                "form",
                "prism",
                "outline",
                FOOT,
                "height",
                "40 cm",
                "where",
                "beside"),
            List.of(CAST)),
        given(Map.of("do", "proxy.settle", "along", "nearest", "divide", 1), List.of(CAST)),
        given(
            Map.of(
                "do",
                "proxy.edit",
                "edits",
                List.of(
                    Map.of("how", "cut", "at", List.of(4e5, 5e6, 100.9), "by", List.of(0, 0, 1)))),
            List.of(CAST)),
        given(SWATCH),
        given(
            Map.of(
                "do",
                "swatch.lay",
                "point",
                List.of(0.8, 0.9, 0),
                "find",
                "pattern",
                "width",
                "50 cm",
                "height",
                "40 cm")),
        given(
            Map.of("do", "swatch.settle", "reach", "15 cm", "tolerance", "2 mm"), List.of(SWATCH)),
        given(Map.of("do", "swatch.tile"), List.of(SWATCH, BAKED)),
        given(CHARTS, List.of(CAST)),
        given(Map.of("do", "unwrap.pack", "size", 256), List.of(CAST, CHARTS)),
        given(Map.of("do", "unwrap.pack", "density", 90), List.of(CAST, CHARTS)),
        given(
            Map.of("do", "unwrap.pack", "size", 128, "squares", 3, "by", "importance"),
            List.of(CAST, CHARTS)),
        given(
            Map.of("do", "unwrap.pack", "size", 512, "density", 60, "follows", "squares"),
            List.of(CAST, CHARTS)),
        given(BAKED, List.of(CAST, CHARTS, SQUARES)),
        given(
            Map.of("do", "unwrap.pack", "size", 256, "stay", List.of(0, 0, 0.5)),
            List.of(CAST, CHARTS)),
        given(
            Map.of(
                "do",
                "reduce.importance",
                "times",
                3,
                "picks",
                List.of(Map.of("height", Map.of("from", "30 cm"))))),
        given(
            Map.of("do", "unwrap.space", "times", 2, "charts", List.of(0, 0, 0.5)),
            List.of(CAST, CHARTS)),
        given(
            Map.of(
                "do", "unwrap.space", "picks", List.of(Map.of("height", Map.of("from", "30 cm")))),
            List.of(CAST)),
        given(Map.of("do", "unwrap.hidden", "from", "sides"), List.of(CAST)),
        given(
            Map.of(
                "do",
                "unwrap.arrange",
                "edits",
                List.of(Map.of("charts", List.of(0, 0, 0.5), "move", List.of(0.1, 0), "turn", 30))),
            List.of(CAST, CHARTS)),
        given(Map.of("do", "unwrap.hidden", "what", "blank"), List.of(CAST)),
        given(Map.of("do", "unwrap.project"), List.of(CAST)),
        given(
            Map.of(
                "do",
                "unwrap.project",
                "how",
                "flat",
                "charts",
                List.of(0, 0, 0.5),
                "axis",
                List.of(1, 0, 0.2)),
            List.of(CAST, CHARTS)),
        given(Map.of("do", "unwrap.straighten"), List.of(CAST, CHARTS)),
        given(Map.of("do", "unwrap.keep"), List.of(CAST, CHARTS)),
        given(
            Map.of("do", "unwrap.seams", "edits", List.of(Map.of("how", "sharp", "sharp", 20))),
            List.of(CAST, CHARTS)),
        given(
            Map.of(
                "do",
                "unwrap.over",
                "charts",
                List.of(0, 0, 0.5),
                "onto",
                List.of(0, 0, -0.5),
                "fit",
                "same"),
            List.of(CAST, CHARTS)),
        given(BAKED, List.of(CAST, CHARTS)),
        given(ALL_MAPS, List.of(CAST, CHARTS)),
        given(
            Map.of("do", "bake.vertices", "maps", List.of("colour", "occlusion", "curvature")),
            List.of(CAST)),
        given(Map.of("do", "bake.even-light"), List.of(CAST, CHARTS, ALL_MAPS)),
        given(
            Map.of("do", "bake.tone", "exposure", 0.5, "grey", List.of(90, 80, 70), "sharpen", 50),
            List.of(CAST, CHARTS, BAKED)),
        given(
            Map.of(
                "do",
                "bake.tone",
                "exposure",
                1,
                "soft",
                "5 cm",
                "picks",
                List.of(Map.of("height", Map.of("from", "30 cm")))),
            List.of(CAST, CHARTS, BAKED)),
        given(
            Map.of(
                "do",
                "bake.cage",
                "edits",
                List.of(Map.of("line", List.of(4e5, 5e6, 101.1), "radius", 0.5, "times", 3))),
            List.of(CAST)),
        given(TOUCHES, List.of(CAST, CHARTS, ALL_MAPS)),
        given(
            Map.of("do", "ship.write", "for", "engine", "name", "a"), List.of(CAST, CHARTS, BAKED)),
        given(
            Map.of("do", "ship.write", "for", "render", "name", "b"), List.of(CAST, CHARTS, BAKED)),
        given(
            Map.of("do", "ship.write", "for", "engine", "name", "s"),
            List.of(CAST, CHARTS, SQUARES, BAKED)),
        given(Map.of("do", "ship.write", "for", "print", "name", "c")),
        given(Map.of("do", "ship.write", "for", "capture", "name", "d")),
        given(
            Map.of(
                "do",
                "ship.write",
                "for",
                "render",
                "name",
                "e",
                "axes",
                "centimetres-z-up-left-handed",
                "frame-file",
                true)));
  }

  /** A triangle split, an edge split, a point deleted with all around it. */
  private static List<Map<String, Object>> edits() {
    Mesh m = start(4, 60).scan();
    List<Map<String, Object>> out = new ArrayList<>();
    for (int[] of : new int[][] {{300, 3}, {400, 2}}) {
      List<Float> at = new ArrayList<>();
      for (int i = 0; i < 3 * of[1]; i++) {
        at.add(m.xyz()[3 * m.triangles()[3 * of[0] + i / 3] + i % 3]);
      }
      out.add(Map.of("how", "split", "at", at));
    }
    out.add(Map.of("how", "delete", "at", List.of(0, 0, 1.1)));
    return out;
  }

  private static Given given(Map<String, Object> entry) {
    return new Given(entry, List.of());
  }

  private static Given given(Map<String, Object> entry, List<Map<String, Object>> before) {
    return new Given(entry, before);
  }

  /** A ball with a hole standing in a wide sheet, a piece of debris, doubled points, colours. */
  static Workpiece start() {
    return start(4, 60);
  }

  /**
   * @param ball how often the ball's triangles are parted in four
   * @param sheet squares along each side of the ground
   */
  static Workpiece start(int ball, int sheet) {
    Mesh whole = Shapes.moved(Shapes.sphere(0.6, ball), 0, 0, 0.5);
    Mesh holed = Submesh.of(whole, t -> t % 1280 > 9, Work.unwatched());
    Mesh ground = Shapes.moved(Shapes.sheet(6, sheet), -3, -3, 0);
    Mesh debris = Shapes.moved(Shapes.cube(0.1), 1, 1, 1.2);
    return Workpiece.of(
        Shapes.coloured(Shapes.together(ground, holed, debris, debris)),
        Frame.ofOffset(new double[] {4e5, 5e6, 100}));
  }

  private static final Map<List<Map<String, Object>>, Workpiece> BEFORE = new ConcurrentHashMap<>();

  /** What a step is given; steps that are given the same are given the very same. */
  static Workpiece before(Given given) {
    return BEFORE.computeIfAbsent(given.before(), b -> before(given, start()));
  }

  static Workpiece before(Given given, Workpiece start) {
    Workpiece w = start;
    for (Map<String, Object> e : given.before()) {
      w = Catalogue.create(e).apply(w, Run.unwatched()).work();
    }
    return w;
  }
}

package holotome.core.log;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import holotome.core.Datasets;
import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.image.Image;
import holotome.core.io.MeshWriter;
import holotome.core.map.MapKind;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Counts;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** What holds for each step there is, on a workpiece with something to do for all of them. */
class EveryStepTest {
  @TempDir private Path dir;

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
        given(Map.of("do", "reduce.levels", "percent", 50, "count", 2)),
        given(CHARTS, List.of(CAST)),
        given(Map.of("do", "unwrap.pack", "size", 256), List.of(CAST, CHARTS)),
        given(Map.of("do", "unwrap.pack", "density", 90), List.of(CAST, CHARTS)),
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
        given(
            Map.of("do", "ship.write", "for", "engine", "name", "a"), List.of(CAST, CHARTS, BAKED)),
        given(
            Map.of("do", "ship.write", "for", "render", "name", "b"), List.of(CAST, CHARTS, BAKED)),
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
  private static Workpiece start() {
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

  private static Workpiece before(Given given) {
    return before(given, start());
  }

  static Workpiece before(Given given, Workpiece start) {
    Workpiece w = start;
    for (Map<String, Object> e : given.before()) {
      w = Catalogue.create(e).apply(w, Run.unwatched()).work();
    }
    return w;
  }

  private Outcome apply(Given given, Workpiece w, Work work, String into) {
    return Catalogue.create(given.entry()).apply(w, new Run(work, dir.resolve(into)));
  }

  @Test
  void noStepIsForgottenHere() {
    Set<String> tested =
        steps().map(g -> g.entry().get("do").toString()).collect(Collectors.toSet());
    assertThat(tested)
        .isEqualTo(Catalogue.all().stream().map(StepKind::id).collect(Collectors.toSet()));
  }

  @ParameterizedTest
  @MethodSource("steps")
  void sameOnOneThreadAndMany(Given given) throws Exception {
    Workpiece w = before(given);
    Outcome many = apply(given, w, Work.unwatched(), "many");
    Parallel.limitThreads(1);
    try {
      assertSame(apply(given, w, Work.unwatched(), "one").work(), many.work());
    } finally {
      Parallel.limitThreads(64);
    }
    for (String f : files("many")) {
      assertThat(dir.resolve("one").resolve(f))
          .hasSameBinaryContentAs(dir.resolve("many").resolve(f));
    }
  }

  private List<String> files(String directory) throws Exception {
    if (!Files.exists(dir.resolve(directory))) {
      return List.of();
    }
    try (Stream<Path> s = Files.list(dir.resolve(directory))) {
      return s.map(p -> p.getFileName().toString()).sorted().toList();
    }
  }

  static void assertSame(Workpiece a, Workpiece b) {
    assertThat(a.scan().sameAs(b.scan())).isTrue();
    assertThat(a.frame()).isEqualTo(b.frame());
    assertThat(a.cast() == null).isEqualTo(b.cast() == null);
    if (a.cast() != null) {
      assertThat(a.cast().sameAs(b.cast())).isTrue();
    }
    assertThat(a.maps() == null).isEqualTo(b.maps() == null);
    if (a.maps() != null) {
      for (MapKind k : MapKind.values()) {
        Image p = a.maps().pictures().get(k);
        Image q = b.maps().pictures().get(k);
        assertThat(p == null ? q == null : p.sameAs(q)).isTrue();
      }
    }
  }

  @ParameterizedTest
  @MethodSource("steps")
  void leavesWhatItWasGivenAloneAndGivesASoundMesh(Given given) {
    Workpiece w = before(given);
    float[] xyz = w.scan().xyz().clone();
    int[] triangles = w.scan().triangles().clone();
    int[] colours = w.scan().colours().clone();
    int[] cast = w.cast() == null ? null : w.cast().triangles().clone();
    Work work = new Work();
    Outcome o = apply(given, w, work, "out");
    assertThat(w.scan().xyz()).isEqualTo(xyz);
    assertThat(w.scan().triangles()).isEqualTo(triangles);
    assertThat(w.scan().colours()).isEqualTo(colours);
    assertThat(w.cast() == null ? null : w.cast().triangles()).isEqualTo(cast);
    Naive.assertSound(o.work().scan());
    assertThat(o.work().scan().colours()).hasSize(o.work().scan().vertexCount());
    if (o.work().cast() != null) {
      Naive.assertSound(o.work().cast());
    }
    if (o.counts() != null) {
      assertThat(o.counts()).isEqualTo(Counts.of(o.work().scan(), Work.unwatched()));
    }
    assertThat(o.counts() != null)
        .isEqualTo(
            given.entry().get("do").toString().startsWith("trim.")
                && !"both".equals(given.entry().get("keep")));
    assertThat(o.notes()).isNotEmpty().allSatisfy(n -> assertThat(n).doesNotContain("\n", "null"));
    assertThat(work.fraction()).as("progress when done").isLessThanOrEqualTo(1.0);
  }

  /** Cancelled before it begins and while it runs: no result, no file, nothing changed. */
  @ParameterizedTest
  @MethodSource("steps")
  void cancelledItLeavesNothingBehind(Given given) throws Exception {
    Workpiece w = before(given);
    int[] triangles = w.scan().triangles().clone();
    Work whole = new Work();
    long start = System.nanoTime();
    apply(given, w, whole, "whole");
    long took = System.nanoTime() - start;
    int cancelled = 0;
    for (double share : new double[] {0, 0.2, 0.5}) {
      Work work = new Work();
      Thread canceller =
          new Thread(
              () -> {
                try {
                  Thread.sleep((long) (share * took / 1e6));
                } catch (InterruptedException e) {
                  return;
                }
                work.cancel();
              });
      if (share == 0) {
        work.cancel();
      } else {
        canceller.start();
      }
      String into = "cancelled-" + share;
      try {
        apply(given, w, work, into);
        // It was through before the cancel came.
      } catch (Failure f) {
        assertThat(f.kind()).isEqualTo(Failure.Kind.CANCELLED);
        assertThat(files(into)).isEmpty();
        cancelled++;
      } finally {
        canceller.interrupt();
        canceller.join();
      }
      assertThat(w.scan().triangles()).isEqualTo(triangles);
    }
    boolean instant =
        given.entry().get("do").toString().matches("datum\\.(unit|scale|turn|origin)");
    assertThat(cancelled).isGreaterThanOrEqualTo(instant ? 0 : 1);
  }

  /** What a step says it reads and writes is what it does read and write. */
  @ParameterizedTest
  @MethodSource("steps")
  void itReadsAndWritesTheStatedPartsOnly(Given given) {
    Workpiece w = before(given);
    Set<Part<?>> read = new HashSet<>();
    Step step = Catalogue.create(given.entry());
    Workpiece after = apply(given, w.watched(read), Work.unwatched(), "out").work();
    assertThat(step.reads()).as("reads").containsAll(read);
    Set<Part<?>> changed = new HashSet<>(w.parts().keySet());
    changed.addAll(after.parts().keySet());
    changed.removeIf(p -> Objects.equals(w.parts().get(p), after.parts().get(p)));
    assertThat(step.writes()).as("writes").containsAll(changed);
    // What can do with less than its kind may need says so.
    assertThat(Arrays.asList(step.getClass().getAnnotation(Describes.class).reads()))
        .containsAll(step.reads().stream().map(Part::name).toList());
  }

  @ParameterizedTest
  @MethodSource("steps")
  void writtenIntoALogItComesBackTheSame(Given given) {
    Step step = Catalogue.create(given.entry());
    LogFile back = LogFile.parse(new LogFile(List.of(Entry.of(step)), null).text(), "log");
    Step again = back.entries().getFirst().step();
    assertThat(StepKind.of(again).values(again).toString())
        .isEqualTo(StepKind.of(step).values(step).toString());
  }

  /** One triangle and rubbish: a plain refusal or a sound mesh, never anything else. */
  @ParameterizedTest
  @MethodSource("steps")
  void onTheLeastAndTheWorstOfMeshesItIsSoundOrSaysWhyNot(Given given) {
    Mesh one = new Mesh(new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0}, new int[] {0, 1, 2});
    Mesh line = new Mesh(new float[] {0, 0, 0, 1, 0, 0, 2, 0, 0}, new int[] {0, 1, 2});
    for (Mesh m : List.of(one, line, Shapes.mess(60, 5), Shapes.mess(200, 9), Shapes.cube(1e-6))) {
      Workpiece w = Workpiece.of(m, Frame.PLAIN).withCast(m);
      try {
        Outcome o = apply(given, w, Work.unwatched(), "worst");
        Naive.assertSound(o.work().scan());
        assertThat(o.work().scan().isEmpty()).isFalse();
      } catch (Failure f) {
        assertThat(f.getMessage()).doesNotStartWith("Internal error").doesNotContain("\n");
      }
    }
  }

  @Test
  void anUnknownParameterIsNamed() {
    for (StepKind k : Catalogue.all()) {
      assertThatThrownBy(() -> Catalogue.create(Map.of("do", k.id(), "colour-of-sky", 1)))
          .isInstanceOf(Failure.class)
          .hasMessageContaining("colour-of-sky");
    }
    assertThat(Arrays.stream(MapKind.values()).map(MapKind::fileName)).doesNotHaveDuplicates();
  }
}

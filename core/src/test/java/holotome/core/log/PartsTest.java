package holotome.core.log;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.step.StepKind;
import holotome.core.task.Failure;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Steps on named parts: after a revision only what depends on it runs again. */
class PartsTest {
  @TempDir private Path dir;

  private static final List<Map<String, Object>> JOB =
      List.of(
          Map.of("do", "mend.tidy"),
          Map.of("do", "trim.islands", "keep", "largest"),
          Map.of("do", "datum.scale", "factor", 0.5),
          Map.of(
              "do", "datum.level", "by", "points", "points", List.of(0, 0, 0, 1, 0, 0.1, 0, 1, 0)),
          Map.of("do", "datum.origin", "at", "base-centre"),
          Map.of("do", "reduce.decimate", "triangles", 600),
          Map.of("do", "unwrap.charts", "size", 256),
          Map.of("do", "bake.maps", "size", 128),
          Map.of("do", "datum.turn", "axis", "z", "angle", 30));

  private History begin() {
    return History.of(GivenSteps.start(3, 30), new Checkpoints(1L << 30, dir.resolve("states")));
  }

  private static List<Entry> entries(List<Map<String, Object>> of) {
    return of.stream().map(m -> Entry.of(Catalogue.create(m))).toList();
  }

  /** The lines whose seconds are those of a line of another History were taken over, not run. */
  private static List<String> ranAgain(History before, History after) {
    List<String> out = new ArrayList<>();
    for (History.Line l : after.lines()) {
      boolean known =
          before.lines().stream()
              .anyMatch(
                  b ->
                      b.entry().step() == l.entry().step()
                          && b.effect().seconds() == l.effect().seconds());
      if (!known) {
        out.add(StepKind.of(l.entry().step()).id());
      }
    }
    return out;
  }

  @Test
  void anotherScaleNeitherDecimatesNorBakesAnew() {
    History h = begin().replay(entries(JOB), Run.unwatched());
    History again =
        h.revise(2, Catalogue.create(Map.of("do", "datum.scale", "factor", 0.25)), Run.unwatched());
    assertThat(ranAgain(h, again))
        .containsExactly("datum.scale", "datum.level", "datum.origin", "datum.turn");
    assertThat(again.current().cast()).isSameAs(h.current().cast());
    assertThat(again.current().maps()).isSameAs(h.current().maps());
    assertThat(again.current().frame().toWork().scale())
        .isEqualTo(h.current().frame().toWork().scale() / 2);
    // What it says of the deviation is told in the new scale.
    String before = h.lines().get(5).effect().notes().get(1);
    String after = again.lines().get(5).effect().notes().get(1);
    assertThat(before).contains("deviation").isNotEqualTo(after);
    EveryStepTest.assertSame(
        again.current(), begin().replay(again.entries(), Run.unwatched()).current());
    assertThat(again.lines().get(5).effect().notes())
        .isEqualTo(
            begin().replay(again.entries(), Run.unwatched()).lines().get(5).effect().notes());
  }

  @Test
  void withAToleranceInMillimetresItDoesDecimateAnew() {
    List<Map<String, Object>> job = new ArrayList<>(JOB);
    job.set(5, Map.of("do", "reduce.decimate", "tolerance", "5 mm"));
    History h = begin().replay(entries(job), Run.unwatched());
    History again =
        h.revise(2, Catalogue.create(Map.of("do", "datum.scale", "factor", 0.25)), Run.unwatched());
    assertThat(ranAgain(h, again)).contains("reduce.decimate", "bake.maps");
    EveryStepTest.assertSame(
        again.current(), begin().replay(again.entries(), Run.unwatched()).current());
  }

  /** Any row of revisions leads where running the same entries from the start leads. */
  @Test
  void revisedHoweverItIsWhatAFreshRunGives() {
    Random r = new Random(11);
    List<Map<String, Object>> more =
        List.of(
            Map.of("do", "datum.scale", "factor", 2),
            Map.of("do", "datum.turn", "axis", "x", "angle", 20),
            Map.of("do", "mend.flip"),
            Map.of("do", "datum.origin", "at", "mass-centre"),
            Map.of("do", "reduce.decimate", "triangles", 300),
            Map.of("do", "mend.fill", "how", "flat", "upTo", "40 cm"));
    History h = begin().replay(entries(JOB), Run.unwatched());
    for (int i = 0; i < 14; i++) {
      int at = r.nextInt(h.size());
      History from = h;
      try {
        h =
            switch (r.nextInt(4)) {
              case 0 -> h.setOn(at, !h.entries().get(at).on(), Run.unwatched());
              case 1 -> h.size() > 4 ? h.remove(at, Run.unwatched()) : h;
              case 2 ->
                  h.apply(Catalogue.create(more.get(r.nextInt(more.size()))), Run.unwatched());
              default ->
                  h.revise(at, Catalogue.create(more.get(r.nextInt(more.size()))), Run.unwatched());
            };
      } catch (Failure f) {
        // Without a Cast nothing is unwrapped: nothing changed.
        h = from;
      }
      EveryStepTest.assertSame(h.current(), begin().replay(h.entries(), Run.unwatched()).current());
    }
  }

  @Test
  void aStepCanBeAskedToWorkOnAnyMesh() {
    String text =
        """
        {"holotome": 1, "entries": [
          {"do": "mend.tidy"},
          {"do": "reduce.decimate", "triangles": 600},
          {"do": "mend.flip", "part": "cast"},
          {"do": "trim.islands", "keep": "largest", "part": "cast"}]}
        """;
    LogFile log = LogFile.parse(text, "a log");
    History h = begin().replay(log.entries(), Run.unwatched());
    Workpiece made = h.stateAfter(2);
    Workpiece after = h.current();
    assertThat(after.scan()).isSameAs(made.scan());
    Mesh flipped = h.stateAfter(3).cast();
    assertThat(flipped.triangles()[1]).isEqualTo(made.cast().triangles()[2]);
    assertThat(after.cast().triangleCount()).isLessThan(flipped.triangleCount());
    assertThat(LogFile.parse(new LogFile(h.entries(), null).text(), "back").entries())
        .isEqualTo(log.entries());
    // Revising what only the Cast is worked on by leaves the decimation alone.
    History off = h.setOn(2, false, Run.unwatched());
    assertThat(ranAgain(h, off)).containsExactly("mend.flip", "trim.islands");
  }

  @Test
  void whatIsNoMeshPartIsRefusedInWords() {
    assertThatThrownBy(
            () ->
                LogFile.parse(
                    "{\"holotome\": 1, \"entries\": [{\"do\": \"bake.maps\", \"part\": \"cast\"}]}",
                    "a log"))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("entry 1")
        .hasMessageContaining("bake.maps works on no other mesh");
    assertThatThrownBy(() -> Part.mesh("frame")).isInstanceOf(Failure.class);
    assertThatThrownBy(() -> Part.mesh("No such")).hasMessageContaining("no name of a mesh");
    List<Entry> one =
        List.of(new Entry(Catalogue.create(Map.of("do", "mend.flip")), true, Part.CAST));
    assertThatThrownBy(() -> begin().replay(one, Run.unwatched()))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("no mesh called cast");
  }

  /** The files of a Log are written anew whenever it is run for them, and never while trying. */
  @Test
  void filesAreWrittenAgainAfterARevisionAndNotWhileTrying() throws Exception {
    List<Map<String, Object>> job =
        List.of(
            Map.of("do", "datum.scale", "factor", 1),
            Map.of("do", "ship.write", "for", "render", "name", "a"));
    Path out = dir.resolve("out");
    History h = begin().replay(entries(job), new Run(Run.unwatched().work(), out));
    byte[] first = java.nio.file.Files.readAllBytes(out.resolve("a.obj"));
    var other = Catalogue.create(Map.of("do", "datum.scale", "factor", 2));
    History tried = h.revise(0, other, Run.unwatched());
    assertThat(java.nio.file.Files.readAllBytes(out.resolve("a.obj"))).isEqualTo(first);
    assertThat(tried.lines().getLast().effect().notes())
        .containsExactly("Not written while trying");
    h.revise(0, other, new Run(Run.unwatched().work(), out));
    assertThat(java.nio.file.Files.readAllBytes(out.resolve("a.obj"))).isNotEqualTo(first);
  }
}

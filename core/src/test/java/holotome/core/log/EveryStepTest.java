package holotome.core.log;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.image.Image;
import holotome.core.map.MapKind;
import holotome.core.mesh.Mesh;
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
import java.nio.file.Files;
import java.nio.file.Path;
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

  private Outcome apply(GivenSteps.Given given, Workpiece w, Work work, String into) {
    return Catalogue.create(given.entry()).apply(w, new Run(work, dir.resolve(into)));
  }

  @Test
  void noStepIsForgottenHere() {
    Set<String> tested =
        GivenSteps.steps().map(g -> g.entry().get("do").toString()).collect(Collectors.toSet());
    assertThat(tested)
        .isEqualTo(Catalogue.all().stream().map(StepKind::id).collect(Collectors.toSet()));
  }

  @ParameterizedTest
  @MethodSource("holotome.core.log.GivenSteps#steps")
  void sameOnOneThreadAndMany(GivenSteps.Given given) throws Exception {
    Workpiece w = GivenSteps.before(given);
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
  @MethodSource("holotome.core.log.GivenSteps#steps")
  void leavesWhatItWasGivenAloneAndGivesASoundMesh(GivenSteps.Given given) {
    Workpiece w = GivenSteps.before(given);
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
  @MethodSource("holotome.core.log.GivenSteps#steps")
  void cancelledItLeavesNothingBehind(GivenSteps.Given given) throws Exception {
    Workpiece w = GivenSteps.before(given);
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
  @MethodSource("holotome.core.log.GivenSteps#steps")
  void itReadsAndWritesTheStatedPartsOnly(GivenSteps.Given given) {
    Workpiece w = GivenSteps.before(given);
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
  @MethodSource("holotome.core.log.GivenSteps#steps")
  void writtenIntoALogItComesBackTheSame(GivenSteps.Given given) {
    Step step = Catalogue.create(given.entry());
    LogFile back = LogFile.parse(new LogFile(List.of(Entry.of(step)), null).text(), "log");
    Step again = back.entries().getFirst().step();
    assertThat(StepKind.of(again).values(again).toString())
        .isEqualTo(StepKind.of(step).values(step).toString());
  }

  /** One triangle and rubbish: a plain refusal or a sound mesh, never anything else. */
  @ParameterizedTest
  @MethodSource("holotome.core.log.GivenSteps#steps")
  void onTheLeastAndTheWorstOfMeshesItIsSoundOrSaysWhyNot(GivenSteps.Given given) {
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

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
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** What holds for each step there is, on a workpiece with something to do for all of them. */
class EveryStepTest {
  /** One run of a step on all threads, of which all is asked that is asked of a whole run. */
  private record Ran(
      Workpiece given,
      int sum,
      Outcome outcome,
      Work work,
      Set<Part<?>> read,
      Path out,
      long nanos) {}

  private static final Map<GivenSteps.Given, Ran> RAN = new ConcurrentHashMap<>();
  private static final AtomicInteger RUNS = new AtomicInteger();
  @TempDir private static Path whole;
  @TempDir private Path dir;

  @AfterAll
  static void letGo() {
    RAN.clear();
  }

  private static Ran ran(GivenSteps.Given given) {
    return RAN.computeIfAbsent(given, EveryStepTest::run);
  }

  private static Ran run(GivenSteps.Given given) {
    Workpiece w = GivenSteps.before(given);
    int sum = sum(w);
    Set<Part<?>> read = ConcurrentHashMap.newKeySet();
    Work work = new Work();
    Step step = Catalogue.create(given.entry());
    Path out = whole.resolve("run-" + RUNS.incrementAndGet());
    long start = System.nanoTime();
    Outcome o = step.apply(w.watched(read), new Run(work, out));
    long nanos = System.nanoTime() - start;
    // What is asked of the outcome later is not what the step read.
    return new Ran(w, sum, o, work, Set.copyOf(read), out, nanos);
  }

  private static int sum(Workpiece w) {
    return 31 * sum(w.scan()) + (w.cast() == null ? 0 : sum(w.cast()));
  }

  private static int sum(Mesh m) {
    return Objects.hash(
        Arrays.hashCode(m.xyz()), Arrays.hashCode(m.triangles()), Arrays.hashCode(m.colours()));
  }

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
    Ran many = ran(given);
    Parallel.limitThreads(1);
    try {
      assertSame(apply(given, many.given(), Work.unwatched(), "one").work(), many.outcome().work());
    } finally {
      Parallel.limitThreads(64);
    }
    List<String> written = files(many.out());
    assertThat(files(dir.resolve("one"))).isEqualTo(written);
    for (String f : written) {
      assertThat(dir.resolve("one").resolve(f)).hasSameBinaryContentAs(many.out().resolve(f));
    }
  }

  private static List<String> files(Path directory) throws Exception {
    if (!Files.exists(directory)) {
      return List.of();
    }
    try (Stream<Path> s = Files.list(directory)) {
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
    Ran ran = ran(given);
    Outcome o = ran.outcome();
    assertThat(sum(ran.given())).as("what it was given").isEqualTo(ran.sum());
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
    assertThat(ran.work().fraction()).as("progress when done").isLessThanOrEqualTo(1.0);
  }

  /** Cancelled before it begins and while it runs: no result, no file, nothing changed. */
  @ParameterizedTest
  @MethodSource("holotome.core.log.GivenSteps#steps")
  void cancelledItLeavesNothingBehind(GivenSteps.Given given) throws Exception {
    Workpiece w = ran(given).given();
    long took = ran(given).nanos();
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
        assertThat(files(dir.resolve(into))).isEmpty();
        cancelled++;
      } finally {
        canceller.interrupt();
        canceller.join();
      }
      assertThat(sum(w)).as("what it was given").isEqualTo(ran(given).sum());
    }
    boolean instant =
        given.entry().get("do").toString().matches("datum\\.(unit|scale|turn|origin)");
    assertThat(cancelled).isGreaterThanOrEqualTo(instant ? 0 : 1);
  }

  /** What a step says it reads and writes is what it does read and write. */
  @ParameterizedTest
  @MethodSource("holotome.core.log.GivenSteps#steps")
  void itReadsAndWritesTheStatedPartsOnly(GivenSteps.Given given) {
    Workpiece w = ran(given).given();
    Workpiece after = ran(given).outcome().work();
    Step step = Catalogue.create(given.entry());
    assertThat(step.reads()).as("reads").containsAll(ran(given).read());
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

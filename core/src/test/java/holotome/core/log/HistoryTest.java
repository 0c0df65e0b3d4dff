package holotome.core.log;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import holotome.core.Shapes;
import holotome.core.attribute.Attributes;
import holotome.core.bake.BakeMaps;
import holotome.core.datum.Origin;
import holotome.core.datum.Place;
import holotome.core.datum.Scale;
import holotome.core.datum.Turn;
import holotome.core.frame.Frame;
import holotome.core.frame.NamedFrame;
import holotome.core.geometry.Similarity;
import holotome.core.map.MapKind;
import holotome.core.mend.Tidy;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimate;
import holotome.core.reduce.Role;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.trim.KeepIslands;
import holotome.core.trim.PlaneCut;
import holotome.core.unwrap.MakeCharts;
import java.io.IOException;
import java.lang.ref.Reference;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.mockito.Mockito;

class HistoryTest {
  @TempDir private Path dir;

  private static final Step CUT =
      new PlaneCut(new double[] {0, 0, 0.1}, new double[] {0, 0, 1}, PlaneCut.Close.FLAT);
  private static final Step DECIMATE = new Decimate(300, null, null, Role.CAST);

  private static Workpiece twoPieces() {
    return Workpiece.of(
        Shapes.coloured(
            Shapes.together(Shapes.sphere(1, 4), Shapes.moved(Shapes.cube(0.2), 3, 0, 0))),
        Frame.PLAIN);
  }

  private static Step largest() {
    return Catalogue.create(Map.of("do", "trim.islands", "keep", "largest"));
  }

  private History begin(long budget) {
    return History.of(twoPieces(), new Checkpoints(budget, dir.resolve("states")));
  }

  private static Run run() {
    return Run.unwatched();
  }

  private static void assertSame(Workpiece a, Workpiece b) {
    assertThat(a.scan().sameAs(b.scan())).isTrue();
    assertThat(a.cast() == null).isEqualTo(b.cast() == null);
    if (a.cast() != null) {
      assertThat(a.cast().sameAs(b.cast())).isTrue();
    }
    assertThat(a.frame()).isEqualTo(b.frame());
  }

  @Test
  void goingBackIsKeepingTheOldValue() {
    History a = begin(1 << 30);
    History b = a.apply(largest(), run());
    assertThat(a.size()).isZero();
    assertThat(a.current().scan().triangleCount()).isEqualTo(5120 + 12);
    assertThat(b.current().scan().triangleCount()).isEqualTo(5120);
    assertThat(b.lines().getFirst().effect().change()).isEqualTo(-12);
    assertThat(b.stateAfter(0)).isEqualTo(a.current());
  }

  @Test
  void revisingRunsWhatFollowsAgain() {
    History h = begin(1 << 30).apply(largest(), run()).apply(CUT, run()).apply(DECIMATE, run());
    Step lower =
        new PlaneCut(new double[] {0, 0, -0.5}, new double[] {0, 0, 1}, PlaneCut.Close.FLAT);
    History revised = h.revise(1, lower, run());
    History fresh =
        begin(1 << 30).apply(largest(), run()).apply(lower, run()).apply(DECIMATE, run());
    assertSame(revised.current(), fresh.current());
    assertThat(revised.lines().getFirst()).isSameAs(h.lines().getFirst());
    assertThat(revised.size()).isEqualTo(3);
  }

  @Test
  void switchedOffAnEntryHasNoEffectAndComesBack() {
    History h = begin(1 << 30).apply(largest(), run()).apply(CUT, run());
    History off = h.setOn(0, false, run());
    assertThat(off.entries().getFirst().on()).isFalse();
    assertSame(off.current(), begin(1 << 30).apply(CUT, run()).current());
    assertSame(off.setOn(0, true, run()).current(), h.current());
    assertSame(h.remove(1, run()).current(), h.stateAfter(1));
  }

  @Test
  void aStepThatFailsChangesNothing() {
    History h = begin(1 << 30).apply(largest(), run());
    Workpiece before = h.current();
    assertThatThrownBy(() -> h.apply(new MakeCharts(512, 4, 1.1, 0, 180), run()))
        .isInstanceOf(Failure.class)
        .hasMessageStartingWith("unwrap.charts: ");
    assertThat(h.current()).isEqualTo(before);
    assertThat(h.size()).isEqualTo(1);
  }

  @Test
  void aStepThatDoesNotFitInMemoryIsRefusedBeforeItBegins() {
    Runnable applied = Mockito.mock(Runnable.class);
    assertThatThrownBy(() -> LogRun.apply(Entry.of(new Greedy(applied)), twoPieces(), run()))
        .isInstanceOfSatisfying(
            Failure.class, f -> assertThat(f.kind()).isEqualTo(Failure.Kind.MEMORY))
        .hasMessageStartingWith("test.greedy needs about ");
    Mockito.verifyNoInteractions(applied);
  }

  /** A step that asks for more memory than any machine has. */
  @Describes(id = "test.greedy", title = "Greedy", help = "For a test.")
  record Greedy(@Parameter(help = "Told when it runs") Runnable applied) implements Step {
    @Override
    public Outcome apply(Workpiece in, Run run) {
      applied.run();
      return Outcome.of(in);
    }

    @Override
    public long memory(Workpiece in) {
      return Long.MAX_VALUE / 2;
    }
  }

  @Test
  void cancelledWorkLeavesTheHistoryAsItWas() {
    History h = begin(1 << 30).apply(largest(), run());
    Work work = new Work();
    work.cancel();
    assertThatThrownBy(() -> h.apply(DECIMATE, Run.of(work)))
        .isInstanceOfSatisfying(
            Failure.class, f -> assertThat(f.kind()).isEqualTo(Failure.Kind.CANCELLED));
    assertThat(h.size()).isEqualTo(1);
  }

  @Test
  void statesBeyondTheBudgetGoToDiskAndComeBackTheSame() throws IOException {
    Checkpoints small = new Checkpoints(1000, dir.resolve("states"));
    History h = History.of(twoPieces(), small);
    h =
        h.apply(largest(), run())
            .apply(DECIMATE, run())
            .apply(new MakeCharts(128, 2, 1.1, 0, 180), run());
    h = h.apply(new BakeMaps(List.of(MapKind.COLOUR, MapKind.NORMAL), 128, 4, 4), run());
    History full = begin(1 << 30);
    full =
        full.apply(largest(), run())
            .apply(DECIMATE, run())
            .apply(new MakeCharts(128, 2, 1.1, 0, 180), run());
    full = full.apply(new BakeMaps(List.of(MapKind.COLOUR, MapKind.NORMAL), 128, 4, 4), run());
    for (int i = 0; i <= 4; i++) {
      Workpiece spilled = h.stateAfter(i);
      Workpiece kept = full.stateAfter(i);
      assertSame(spilled, kept);
      assertThat(spilled.maps() == null).isEqualTo(kept.maps() == null);
      if (kept.maps() != null) {
        for (MapKind k : kept.maps().pictures().keySet()) {
          assertThat(spilled.maps().pictures().get(k).sameAs(kept.maps().pictures().get(k)))
              .isTrue();
        }
        assertThat(spilled.maps().missed().sameAs(kept.maps().missed())).isTrue();
        assertThat(spilled.maps().patches()).isEqualTo(kept.maps().patches());
      }
    }
    h.stateAfter(0);
    // Two Scans, two Casts, the maps: all but the first of them are not needed now.
    assertThat(filesOfStates()).isEqualTo(5);
    // Files of states that nobody can reach any more go: they are counted while h is in use.
    Reference.reachabilityFence(h);
  }

  private long filesOfStates() throws IOException {
    try (var files = Files.list(dir.resolve("states"))) {
      return files.count();
    }
  }

  @Test
  void aMeshThatManyStatesShareIsWrittenOnceAndStaysOne() throws IOException {
    Checkpoints small = new Checkpoints(1000, dir.resolve("states"));
    History h = History.of(Workpiece.of(Shapes.sphere(1, 4), Frame.PLAIN), small);
    for (int i = 0; i < 4; i++) {
      h = h.apply(new Turn(Turn.Axis.X, 10 * i), run());
    }
    h = h.apply(CUT, run());
    small.letGo();
    assertThat(filesOfStates()).isEqualTo(1);
    assertThat(h.stateAfter(0).scan()).isSameAs(h.stateAfter(4).scan());
  }

  @Test
  void framesThatWerePutAsideComeBackTheSame() {
    Frame frame =
        new Frame(
                Similarity.translation(new double[] {4e6, -3e5, 17}).then(Similarity.scaling(0.3)),
                Similarity.turning(new double[] {0, 0.6, 0.8}, 1.1),
                true)
            .ofLeftHandedFile()
            .keeping(new NamedFrame("site", Similarity.scaling(1000), 0.001))
            .keeping(new NamedFrame("no unit", Similarity.IDENTITY, 0));
    History h =
        History.of(
            Workpiece.of(Shapes.sphere(1, 4), frame), new Checkpoints(1000, dir.resolve("states")));
    for (int i = 0; i < 6; i++) {
      h = h.apply(new Turn(Turn.Axis.X, 10 * i), run());
    }
    assertThat(h.stateAfter(0).frame()).isEqualTo(frame);
    for (int i = 0; i < 6; i++) {
      Frame f = h.stateAfter(i + 1).frame();
      assertThat(f.leftHandedFile()).isTrue();
      assertThat(f.named()).isEqualTo(frame.named());
      assertThat(f.toFile()).isEqualTo(frame.toFile());
    }
  }

  @Test
  void statesGoToDiskWhereMemoryIsShortAndComeBack() throws IOException {
    Checkpoints all = new Checkpoints(1 << 30, dir.resolve("states"));
    History h = History.of(twoPieces(), all).apply(largest(), run()).apply(CUT, run());
    Workpiece first = h.stateAfter(0);
    h.current();
    long before = all.bytesHeld();
    all.letGo();
    assertThat(all.bytesHeld()).isLessThan(before).isPositive();
    assertThat(filesOfStates()).isEqualTo(2);
    assertThat(h.atHand(2)).isEqualTo(h.current());
    // While anyone else holds the mesh, that one is given and nothing is read.
    assertThat(h.stateAfter(0).scan()).isSameAs(first.scan());
    Workpiece copy = Workpiece.of(copyOf(first.scan()), first.frame());
    first = null;
    System.gc();
    assertThat(h.atHand(0)).isNull();
    assertSame(h.stateAfter(0), copy);
  }

  private static Mesh copyOf(Mesh m) {
    return new Mesh(m.xyz().clone(), m.triangles().clone(), m.colours().clone());
  }

  @Test
  void placingIsNotRefusedForWantOfMemory() {
    // It touches no triangle: however large the scan, it takes next to nothing.
    Workpiece large = Mockito.mock(Workpiece.class);
    Mesh mesh = Mockito.mock(Mesh.class);
    Mockito.when(large.scan()).thenReturn(mesh);
    Mockito.when(mesh.triangleCount()).thenReturn(500_000_000);
    Mockito.when(mesh.attributes()).thenReturn(Attributes.NONE);
    assertThat(new Turn(Turn.Axis.Z, 90).memory(large)).isLessThan(1 << 21);
    assertThat(new Scale(null, null, 2.0, Scale.Along.HEIGHT).memory(large)).isLessThan(1 << 21);
    assertThat(new Place(new double[3], new double[3], 2, new double[3]).memory(large))
        .isLessThan(1 << 21);
    assertThat(DECIMATE.memory(large)).isGreaterThan(1L << 33);
  }

  @Test
  void aStateThatCannotBePutAsideStaysInMemory() throws IOException {
    Path file = Files.writeString(dir.resolve("in-the-way"), "a file where a directory should be");
    Checkpoints small = new Checkpoints(1000, file.resolve("states"));
    History h = History.of(twoPieces(), small).apply(largest(), run());
    assertThat(h.stateAfter(0).scan().triangleCount()).isEqualTo(5132);
    assertThat(small.bytesHeld()).isGreaterThan(1000);
  }

  @Test
  void sharedArraysCountOnce() {
    Checkpoints c = new Checkpoints(1 << 30, dir);
    Mesh m = Shapes.sphere(1, 4);
    Workpiece w = Workpiece.of(m, Frame.PLAIN);
    Checkpoint first = c.keep(w);
    long one = c.bytesHeld();
    Checkpoint second = c.keep(new Origin(Origin.At.BASE_CENTRE, null).apply(w, run()).work());
    assertThat(c.bytesHeld()).isEqualTo(one);
    assertThat(first.get().scan()).isSameAs(second.get().scan());
  }

  @Test
  void anyWayOfGoingBackAndForthAgreesWithDoingItAfresh() {
    Random r = new Random(11);
    Step[] steps = {largest(), CUT, new Tidy(), new Origin(Origin.At.BASE_CENTRE, null)};
    History h = begin(300_000);
    for (int i = 0; i < 40; i++) {
      int n = h.size();
      switch (n == 0 ? 0 : r.nextInt(5)) {
        case 0, 1 -> h = n < 5 ? h.apply(steps[r.nextInt(steps.length)], run()) : h;
        case 2 -> {
          int at = r.nextInt(n);
          h = h.setOn(at, !h.entries().get(at).on(), run());
        }
        case 3 -> h = h.remove(r.nextInt(n), run());
        default -> h = h.revise(r.nextInt(n), steps[r.nextInt(steps.length)], run());
      }
      Workpiece fresh = twoPieces();
      for (Entry e : h.entries()) {
        fresh = e.on() ? e.step().apply(fresh, run()).work() : fresh;
      }
      assertSame(h.current(), fresh);
    }
  }

  @Test
  void aLogIsWrittenAndReadBack() {
    History h = begin(1 << 30).apply(largest(), run()).apply(CUT, run()).setOn(0, false, run());
    LogFile log = new LogFile(h.entries(), "scan.ply");
    LogFile back = LogFile.parse(log.text(), "test");
    assertThat(back.text()).isEqualTo(log.text());
    assertThat(back.source()).isEqualTo("scan.ply");
    assertThat(back.entries().getFirst().on()).isFalse();
    assertThat(back.entries().getFirst().step()).isInstanceOf(KeepIslands.class);
    assertSame(begin(1 << 30).replay(back.entries(), run()).current(), h.current());
  }

  @Test
  void whatIsWrongWithALogIsNamedWithItsPlace() {
    assertThatThrownBy(() -> LogFile.parse("{ \"holotome\": 1,\n \"entries\": [ }", "my.json"))
        .hasMessageStartingWith("my.json: line 2: not valid JSON");
    assertThatThrownBy(() -> LogFile.parse("{}", "my.json")).hasMessageContaining("no Log");
    assertThatThrownBy(() -> LogFile.parse("{\"holotome\": 9, \"entries\": []}", "my.json"))
        .hasMessageContaining("version 9");
    assertThatThrownBy(
            () ->
                LogFile.parse(
                    "{\"holotome\": 1, \"entries\": [{\"do\": \"mend.tidy\"}, {\"do\": \"mend.tydy\"}]}",
                    "my.json"))
        .hasMessageStartingWith("my.json: entry 2: there is no step \"mend.tydy\"");
    assertThatThrownBy(() -> LogFile.read(dir.resolve("gone.json")))
        .hasMessageContaining("no such Log");
  }
}

package holotome.core.bake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.image.Image;
import holotome.core.log.Checkpoints;
import holotome.core.log.History;
import holotome.core.map.MapKind;
import holotome.core.part.Maps;
import holotome.core.part.Workpiece;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.touch.Touch;
import holotome.core.touch.Touch.How;
import holotome.core.touch.TwoChartSheet;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Sittings of touches as entries of the Log. */
class TouchUpTest {
  @TempDir private Path dir;

  private final TwoChartSheet sheet =
      new TwoChartSheet(
          (x, y) -> new double[] {0.5 + 0.3 * Math.sin(5 * x), 0.4, 0.3 + 0.2 * y},
          (x, y) -> new double[] {0.2 * Math.sin(7 * x), 0, 1},
          (x, y) -> new double[] {0.01 * x});

  private Workpiece work(Frame frame) {
    return Workpiece.of(sheet.mesh, frame).withCast(sheet.mesh).withMaps(sheet.maps);
  }

  private static Touch dab(How how, double x, double y) {
    double[] from = how.copies() ? new double[] {0.4, 0.5, 0} : null;
    return new Touch(how, new double[] {x, y, 0}, false, 0.08, 50, 100, from, null, 0, null);
  }

  private static Outcome made(Workpiece w, Touch... touches) {
    return new TouchUp(List.of(touches)).apply(w, Run.unwatched());
  }

  private static void assertSame(Maps a, Maps b) {
    for (MapKind k : a.pictures().keySet()) {
      assertThat(a.pictures().get(k).sameAs(b.pictures().get(k))).as("%s", k).isTrue();
    }
  }

  @Test
  void placesAreTheFilesHoweverTheWorkIsPlaced() {
    Touch touch = dab(How.COPY, 1, 0.5);
    Maps plain = made(work(Frame.PLAIN), touch).work().maps();
    Similarity tenfold =
        Similarity.scaling(10).then(Similarity.translation(new double[] {5, -3, 2}));
    assertSame(made(work(Frame.PLAIN.placed(tenfold)), touch).work().maps(), plain);
    // Read with an offset taken away: the file's own coordinates lie elsewhere.
    Frame shifted = Frame.ofOffset(new double[] {100, 200, 300});
    Touch there = touch.moved(Similarity.translation(new double[] {100, 200, 300}));
    assertSame(made(work(shifted), there).work().maps(), plain);
  }

  @Test
  void aSittingThatGoesOnMakesOnlyWhatIsNew() {
    Workpiece w = work(Frame.PLAIN);
    Maps two = made(w, dab(How.COPY, 1, 0.5), dab(How.SOFTEN, 0.5, 0.5)).work().maps();
    Maps again = made(w, dab(How.COPY, 1, 0.5), dab(How.SOFTEN, 0.5, 0.5)).work().maps();
    assertThat(again).isSameAs(two);
    Maps three =
        made(w, dab(How.COPY, 1, 0.5), dab(How.SOFTEN, 0.5, 0.5), dab(How.FILL, 1.5, 0.5))
            .work()
            .maps();
    Image colour = two.pictures().get(MapKind.COLOUR);
    assertThat(three.pictures().get(MapKind.COLOUR).tilesSharedWith(colour))
        .isGreaterThan(colour.tileCount() / 2);
    assertThat(three.bytesBeside(two)).isLessThan(three.bytes() / 2);
  }

  @Test
  void manyStatesOfASittingAreCountedByWhatEachAdds() {
    Checkpoints kept = new Checkpoints(1L << 30, dir);
    History h = History.of(work(Frame.PLAIN), kept);
    long one = kept.bytesHeld();
    List<Touch> touches = new ArrayList<>(List.of(dab(How.SOFTEN, 0.3, 0.3)));
    h = h.apply(new TouchUp(touches), Run.unwatched());
    List<History> all = new ArrayList<>(List.of(h));
    for (int i = 0; i < 10; i++) {
      touches.add(dab(How.SOFTEN, 0.3 + 0.01 * i, 0.3));
      all.add(all.getLast().revise(0, new TouchUp(touches), Run.unwatched()));
    }
    assertThat(all.getLast().lines().getFirst().effect().amount()).isEqualTo(11);
    // Eleven states more, each with at most nine squares of four pictures of its own.
    long most = 11L * 9 * Image.TILE * Image.TILE * (3 + 6 + 6 + 4);
    assertThat(kept.bytesHeld() - one).isBetween(1L, most);
  }

  @Test
  void whatCannotBeDoneIsLeftOutAndSaid() {
    Touch none =
        new Touch(
            How.SOFTEN,
            new double[] {1, 0.5, 0},
            false,
            0.1,
            50,
            100,
            null,
            null,
            0,
            List.of(MapKind.MASK));
    Outcome out = made(work(Frame.PLAIN), none, dab(How.SOFTEN, 1, 0.5));
    assertThat(out.amount()).isEqualTo(1);
    assertThat(out.notes()).anyMatch(n -> n.contains("Change 1 was left out"));
    assertThatThrownBy(() -> made(work(Frame.PLAIN), none)).isInstanceOf(Failure.class);
    Workpiece bare = Workpiece.of(sheet.mesh, Frame.PLAIN).withCast(sheet.mesh);
    assertThatThrownBy(() -> made(bare, dab(How.SOFTEN, 1, 0.5)))
        .hasMessageContaining("bake them first");
    assertThatThrownBy(() -> new TouchUp(List.of())).isInstanceOf(Failure.class);
  }

  @Test
  void aTouchCancelledLeavesNothing() {
    Run run = Run.unwatched();
    run.work().cancel();
    assertThatThrownBy(
            () -> new TouchUp(List.of(dab(How.FILL, 1.2, 0.4))).apply(work(Frame.PLAIN), run))
        .isInstanceOfSatisfying(
            Failure.class, f -> assertThat(f.kind()).isEqualTo(Failure.Kind.CANCELLED));
  }
}

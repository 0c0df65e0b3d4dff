package holotome.core.bake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.image.Image;
import holotome.core.map.MapKind;
import holotome.core.map.Missed;
import holotome.core.map.MissedPatch;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Maps;
import holotome.core.part.Workpiece;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Missed rays provoked one by one, and what else can happen to a bake. */
class MissedRaysTest {
  private static final int SIZE = 64;

  private static Mesh square(double z) {
    float[] p = {0, 0, (float) z, 1, 0, (float) z, 1, 1, (float) z, 0, 1, (float) z};
    int[] t = {0, 1, 2, 0, 2, 3};
    return new Mesh(p, t).withUv(new Uv(new float[] {0, 0, 1, 0, 1, 1, 0, 1}, t));
  }

  private static BakeMaps step(Double cage, BakeMaps.Fill fill, Filter filter) {
    return new BakeMaps(
        List.of(MapKind.COLOUR, MapKind.HEIGHT),
        SIZE,
        4,
        filter,
        2,
        true,
        Along.SMOOTH,
        cage == null ? null : new Length(cage),
        fill,
        null,
        16,
        8,
        null);
  }

  private static Outcome bake(Mesh scan, Mesh cast, BakeMaps step) {
    return step.apply(Workpiece.of(scan, Frame.PLAIN).withCast(cast), Run.unwatched());
  }

  private static int texels(Maps m, Missed reason) {
    return m.patches().stream()
        .filter(p -> p.reason() == reason)
        .mapToInt(MissedPatch::texels)
        .sum();
  }

  /** A sheet with a square hole of 0.2 in its middle. */
  private static Mesh holed() {
    return Submesh.of(
        Shapes.sheet(1, 100),
        t -> Math.abs(t / 2 % 100 - 49.5) > 10 || Math.abs(t / 2 / 100 - 49.5) > 10,
        Work.unwatched());
  }

  @Test
  void aHoleIsCalledOne() {
    Outcome o = bake(holed(), square(0), step(0.02, BakeMaps.Fill.NEAREST, Filter.BOX));
    Maps m = o.work().maps();
    assertThat(m.missedShare()).isCloseTo(0.04, within(0.006));
    assertThat(texels(m, Missed.HOLE)).isEqualTo(m.missedCount());
    MissedPatch p = m.patches().getFirst();
    assertThat(m.patches()).hasSize(1);
    assertThat((double) p.u()).isCloseTo(0.5, within(0.02));
    assertThat((double) p.v()).isCloseTo(0.5, within(0.02));
    assertThat(p.triangle()).isBetween(0, 1);
    assertThat(String.join(" ", o.stated())).contains("hole");
  }

  @Test
  void whatIsMissedIsFilledFromAroundWhereThatIsAskedFor() {
    int[] colours = new int[holed().vertexCount()];
    java.util.Arrays.fill(colours, 0xff4080c0);
    Mesh scan = new Mesh(holed().xyz(), holed().triangles(), colours);
    Image c =
        bake(scan, square(0), step(0.02, BakeMaps.Fill.AROUND, Filter.BOX))
            .work()
            .maps()
            .pictures()
            .get(MapKind.COLOUR);
    assertThat(c.argb(SIZE / 2, SIZE / 2)).isEqualTo(0xff4080c0);
  }

  @Test
  void theInsideIsCalledSo() {
    Mesh sheet = Shapes.sheet(1, 20);
    int[] back = sheet.triangles().clone();
    for (int t = 0; t < back.length; t += 3) {
      int b = back[t + 1];
      back[t + 1] = back[t + 2];
      back[t + 2] = b;
    }
    Maps m =
        bake(new Mesh(sheet.xyz(), back), square(0), step(0.02, BakeMaps.Fill.NEAREST, Filter.BOX))
            .work()
            .maps();
    assertThat(texels(m, Missed.INSIDE)).isEqualTo(SIZE * SIZE);
    assertThat(m.missedCount()).isEqualTo(SIZE * SIZE);
  }

  /** Two plates, each with its Cast, nearer to one another than the cage reaches. */
  @Test
  void anotherPartInTheWayIsPassedBy() {
    Mesh low = Shapes.sheet(1, 40);
    Mesh high = Shapes.moved(Shapes.sheet(1, 40), 0.5, 0, 0.1);
    Mesh scan = Shapes.together(low, high);
    // The Cast of both: the upper plate's texture lies beside the picture's left half.
    Mesh a = square(0);
    float[] p = new float[24];
    System.arraycopy(a.xyz(), 0, p, 0, 12);
    for (int v = 0; v < 4; v++) {
      p[12 + 3 * v] = a.xyz()[3 * v] + 0.5f;
      p[13 + 3 * v] = a.xyz()[3 * v + 1];
      p[14 + 3 * v] = 0.1f;
    }
    int[] t = {0, 1, 2, 0, 2, 3, 4, 5, 6, 4, 6, 7};
    float[] uv = {0, 0, 0.5f, 0, 0.5f, 1, 0, 1, 0.5f, 0, 1, 0, 1, 1, 0.5f, 1};
    Mesh cast = new Mesh(p, t).withUv(new Uv(uv, t));
    Maps m = bake(scan, cast, step(0.3, BakeMaps.Fill.NEAREST, Filter.BOX)).work().maps();
    // Under the upper plate: half of the lower one, a quarter of the picture.
    assertThat(texels(m, Missed.OTHER) / (double) (SIZE * SIZE)).isCloseTo(0.25, within(0.01));
    assertThat(m.missedCount()).isZero();
    // And what lies behind is what was taken: it is level with the Cast.
    Image height = m.pictures().get(MapKind.HEIGHT);
    for (int i = 0; i < SIZE * SIZE; i++) {
      assertThat(height.value(i % SIZE, i / SIZE, 0)).isCloseTo(0, within(1e-5));
    }
  }

  /** A wall thinner than the cage: its far side faces away and is not taken for the near one. */
  @Test
  void aThinWallIsNotSeenThrough() {
    Mesh near = Shapes.sheet(1, 40);
    Mesh far = Shapes.moved(Shapes.sheet(1, 40), 0, 0, -0.02);
    int[] back = far.triangles().clone();
    for (int t = 0; t < back.length; t += 3) {
      int b = back[t + 1];
      back[t + 1] = back[t + 2];
      back[t + 2] = b;
    }
    Mesh scan = Shapes.together(near, new Mesh(far.xyz(), back));
    Maps m = bake(scan, square(0), step(0.2, BakeMaps.Fill.NEAREST, Filter.BOX)).work().maps();
    assertThat(m.missedCount()).isZero();
    assertThat(m.ranges().get(MapKind.HEIGHT).high()).isLessThan(1e-5f);
  }

  @Test
  void aScanOfAnotherSizeIsSaidToBeOne() {
    Mesh large = Shapes.sheet(1, 40);
    float[] xyz = large.xyz().clone();
    for (int i = 0; i < xyz.length; i++) {
      xyz[i] = 100 * xyz[i] + (i % 3 == 2 ? 5 : 0);
    }
    Outcome o =
        bake(
            new Mesh(xyz, large.triangles()),
            square(0),
            step(null, BakeMaps.Fill.NEAREST, Filter.BOX));
    assertThat(String.join(" ", o.stated())).contains("100 times as large");
    assertThat(texels(o.work().maps(), Missed.NOTHING)).isEqualTo(SIZE * SIZE);
  }

  /** Charts in several squares of the texture come out as they would in one. */
  @Test
  void chartsInSeveralSquares() {
    Mesh scan = Shapes.coloured(Shapes.sheet(1, 60));
    Mesh one = square(0);
    float[] uv = one.uv().coords().clone();
    for (int i = 0; i < uv.length; i += 2) {
      uv[i] += 1;
      uv[i + 1] += 2;
    }
    Mesh beside = one.withUv(new Uv(uv, one.uv().corners()));
    BakeMaps step = step(0.02, BakeMaps.Fill.NEAREST, Filter.SHARP);
    Maps a = bake(scan, one, step).work().maps();
    Maps b = bake(scan, beside, step).work().maps();
    assertThat(b.columns()).isEqualTo(2);
    assertThat(b.rows()).isEqualTo(3);
    for (int i = 0; i < SIZE * SIZE; i++) {
      int x = i % SIZE;
      int y = i / SIZE;
      assertThat(b.pictures().get(MapKind.COLOUR).argb(SIZE + x, y))
          .isEqualTo(a.pictures().get(MapKind.COLOUR).argb(x, y));
    }
  }

  @Test
  void allKindsAreTheSameOnOneThreadAndMany() {
    Mesh scan = Shapes.laden(Shapes.coloured(Shapes.sphere(1, 5)));
    Mesh cast = Shapes.sphere(1, 2);
    Workpiece in =
        new holotome.core.unwrap.MakeCharts(SIZE, 3, 1.2, 0, 180)
            .apply(Workpiece.of(scan, Frame.PLAIN).withCast(cast), Run.unwatched())
            .work();
    for (Filter f : Filter.values()) {
      BakeMaps step =
          new BakeMaps(
              List.of(MapKind.values()),
              SIZE,
              9,
              f,
              2,
              true,
              Along.SHADED,
              null,
              BakeMaps.Fill.NEAREST,
              null,
              8,
              16,
              weight(scan));
      Maps many = step.apply(in, Run.unwatched()).work().maps();
      assertThat(many.pictures()).hasSize(MapKind.values().length);
      Parallel.limitThreads(1);
      try {
        Maps one = step.apply(in, Run.unwatched()).work().maps();
        for (MapKind k : MapKind.values()) {
          assertThat(one.pictures().get(k).sameAs(many.pictures().get(k))).as(k.name()).isTrue();
        }
        assertThat(one.ranges()).isEqualTo(many.ranges());
        assertThat(one.patches()).isEqualTo(many.patches());
      } finally {
        Parallel.limitThreads(64);
      }
    }
  }

  private static String weight(Mesh m) {
    for (holotome.core.attribute.Attribute a : m.attributes()) {
      if (a.kind() == holotome.core.attribute.Attribute.Kind.WEIGHT) {
        return a.name();
      }
    }
    throw new AssertionError("no weight");
  }

  @Test
  void aMaskThatIsNotThereIsRefusedWithThoseThatAre() {
    BakeMaps step =
        new BakeMaps(
            List.of(MapKind.MASK),
            SIZE,
            1,
            Filter.BOX,
            2,
            true,
            Along.SMOOTH,
            null,
            BakeMaps.Fill.NEAREST,
            null,
            8,
            8,
            "rust");
    Mesh scan = Shapes.laden(Shapes.sheet(1, 10));
    assertThatThrownBy(() -> bake(scan, square(0), step))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("rust")
        .hasMessageContaining(weight(scan));
  }

  @ParameterizedTest
  @ValueSource(doubles = {0.05, 0.4, 0.8})
  void aCancelledBakeStops(double at) throws InterruptedException {
    Mesh scan = Shapes.coloured(Shapes.sheet(1, 300));
    Workpiece in = Workpiece.of(scan, Frame.PLAIN).withCast(square(0));
    BakeMaps step = new BakeMaps(List.of(MapKind.COLOUR, MapKind.OCCLUSION), 512, 16, 8);
    Work work = new Work();
    Thread watch =
        Thread.ofPlatform()
            .start(
                () -> {
                  while (work.fraction() < at && !work.isCancelled()) {
                    Thread.onSpinWait();
                  }
                  work.cancel();
                });
    assertThatThrownBy(() -> step.apply(in, Run.of(work)))
        .isInstanceOfSatisfying(
            Failure.class, f -> assertThat(f.kind()).isEqualTo(Failure.Kind.CANCELLED));
    work.cancel();
    watch.join();
  }

  /** Texels that come while it goes on are those that are there in the end. */
  @Test
  void thePictureFillsInWhileItRuns() throws Exception {
    Mesh scan = Shapes.coloured(Shapes.sheet(1, 200));
    Mesh cast = square(0);
    Workpiece in = Workpiece.of(scan, Frame.PLAIN).withCast(cast);
    BakeMaps step = new BakeMaps(List.of(MapKind.COLOUR), 512, 36, 8);
    Work work = new Work();
    int[] seen = new int[512 * 512];
    int[] some = {0};
    Thread watch =
        Thread.ofPlatform()
            .start(
                () -> {
                  while (work.fraction() < 0.5 && !work.isCancelled()) {
                    Thread.onSpinWait();
                  }
                  if (work.offered() instanceof holotome.core.part.GrowingMaps g
                      && g.cast() == cast) {
                    Image now = g.maps().pictures().get(MapKind.COLOUR);
                    for (int i = 0; i < seen.length; i++) {
                      seen[i] = now.argb(i % 512, i / 512);
                      some[0] += (seen[i] & 0xffffff) != 0 ? 1 : 0;
                    }
                  }
                });
    Image done = step.apply(in, Run.of(work)).work().maps().pictures().get(MapKind.COLOUR);
    work.cancel();
    watch.join();
    assertThat(some[0]).isBetween(seen.length / 10, seen.length - 1);
    int same = 0;
    for (int i = 0; i < seen.length; i++) {
      same += (seen[i] & 0xffffff) != 0 && seen[i] == done.argb(i % 512, i / 512) ? 1 : 0;
    }
    // Those that were read while they were written may be half of it.
    assertThat(same).isGreaterThan(some[0] * 99 / 100);
  }

  /** Every map is made of finite numbers, or refused where points of the Scan are not. */
  @ParameterizedTest
  @ValueSource(strings = {"mess", "one", "nan", "infinite", "far", "flat"})
  void anyScanAtAll(String kind) {
    Mesh sheet = Shapes.sheet(1, 20);
    float[] p = sheet.xyz().clone();
    switch (kind) {
      case "nan" -> java.util.Arrays.fill(p, 300, 303, Float.NaN);
      case "infinite" -> p[301] = Float.POSITIVE_INFINITY;
      case "far" -> {
        for (int i = 0; i < p.length; i++) {
          p[i] += 1e6f;
        }
      }
      case "flat" -> java.util.Arrays.fill(p, 0);
      default -> {}
    }
    Mesh scan =
        kind.equals("mess")
            ? Shapes.mess(2000, 5)
            : kind.equals("one")
                ? new Mesh(new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0}, new int[] {0, 1, 2})
                : new Mesh(p, sheet.triangles());
    List<MapKind> all = new java.util.ArrayList<>(List.of(MapKind.values()));
    all.remove(MapKind.MASK);
    Workpiece in = Workpiece.of(scan, Frame.PLAIN).withCast(square(0));
    BakeMaps step = new BakeMaps(all, SIZE, 4, 2);
    if (kind.equals("nan") || kind.equals("infinite")) {
      assertThatThrownBy(() -> step.apply(in, Run.unwatched()))
          .isInstanceOf(Failure.class)
          .hasMessageContaining("no numbers: 1;");
      BakeVertices vertices =
          new BakeVertices(List.of(MapKind.COLOUR), BakeVertices.From.SCAN, null, 4);
      assertThatThrownBy(() -> vertices.apply(in, Run.unwatched()))
          .isInstanceOf(Failure.class)
          .hasMessageContaining("no numbers: 1;");
      return;
    }
    Maps m = step.apply(in, Run.unwatched()).work().maps();
    assertThat(m.covered()).isEqualTo(SIZE * SIZE);
    for (MapKind k : all) {
      Image picture = m.pictures().get(k);
      for (int i = 0; i < SIZE * SIZE; i++) {
        for (int c = 0; c < picture.channels(); c++) {
          assertThat(picture.stored(i % SIZE, i / SIZE, c)).as(k.name()).isFinite();
        }
      }
    }
  }
}

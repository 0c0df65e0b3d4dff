package holotome.core.unwrap;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.mesh.Importance;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.UvSquares;
import holotome.core.part.Workpiece;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Charts;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Charts shared out among several squares of the texture. */
class PackSquaresTest {
  private static final int SIZE = 512;
  private static final double[] TOP = {0, 0, 1};

  private static Workpiece cut(Mesh m, double crease) {
    Workpiece in = Workpiece.of(m, Frame.PLAIN).withCast(m);
    return new MakeCharts(SIZE, 3, 1.05, 0, crease).apply(in, Run.unwatched()).work();
  }

  private static Workpiece cube() {
    return cut(Shapes.cube(2), 45);
  }

  private static PackCharts into(int squares, PackCharts.By by, double[] alone) {
    return new PackCharts(SIZE, 3, squares, by, alone);
  }

  /** Area in the texture of each chart, and the square that all of it lies in. */
  private record Lying(double[] area, int[] square, UvSquares squares) {
    static Lying of(Mesh m) {
      Charts charts = Charts.of(m, Work.unwatched());
      UvSquares squares = UvSquares.of(m.uv());
      double[] area = new double[charts.count()];
      int[] square = new int[area.length];
      Arrays.fill(square, -1);
      Mesh flat = charts.flat();
      for (int t = 0; t < m.triangleCount(); t++) {
        int c = charts.ofTriangle()[t];
        area[c] +=
            holotome.core.geometry.Vec.length(holotome.core.mesh.Measures.cross(flat, t)) / 2;
        assertThat(squares.of()[t]).isNotNegative();
        assertThat(square[c]).isIn(-1, squares.of()[t]);
        square[c] = squares.of()[t];
      }
      return new Lying(area, square, squares);
    }
  }

  private static void isSound(Mesh m) {
    Charts of = Charts.of(m, Work.unwatched());
    assertThat(ChartFaults.of(of, null, SIZE, 2, Work.unwatched()).isEmpty()).isTrue();
  }

  /**
   * Closed form: the six sides of a cube, of which one square of the texture takes no more than
   * four: in three squares each has two, in six one, at twice the size.
   */
  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3, 6, 12})
  void aCubeInSeveralSquares(int count) {
    Outcome out = into(count, PackCharts.By.ROOM, null).apply(cube(), Run.unwatched());
    Mesh m = out.work().cast();
    Lying lying = Lying.of(m);
    assertThat(lying.area).hasSize(6);
    for (double a : lying.area) {
      assertThat(a).isCloseTo(lying.area[0], within(1e-5));
    }
    int used = Math.min(count, 6);
    assertThat(lying.squares.count()).isEqualTo(used);
    int[] per = new int[lying.squares.columns() * lying.squares.rows()];
    for (int s : lying.square) {
      per[s]++;
    }
    assertThat(Arrays.stream(per).max().orElse(0)).isEqualTo(6 / used);
    double side = Math.sqrt(lying.area[0]);
    // A side of the cube has what is left of the square's beside gutters.
    double most = count >= 6 ? 1 : count == 1 ? 1.0 / 3 : 0.5;
    assertThat(side).isBetween(0.93 * most, most);
    isSound(m);
    assertThat(String.join("; ", out.notes()).contains("squares of 512 px")).isEqualTo(count > 1);
  }

  /** More squares than stand in a row go into the row above, and are numbered so. */
  @Test
  void theNumbering() {
    assertThat(UvSquares.number(0, 0)).isEqualTo(1001);
    assertThat(UvSquares.number(9, 0)).isEqualTo(1010);
    assertThat(UvSquares.number(1, 2)).isEqualTo(1022);
    Workpiece w = cut(Shapes.together(Shapes.cube(2), Shapes.moved(Shapes.cube(2), 9, 0, 0)), 45);
    Mesh two = into(12, PackCharts.By.ROOM, null).apply(w, Run.unwatched()).work().cast();
    Lying lying = Lying.of(two);
    assertThat(lying.squares.columns()).isEqualTo(10);
    assertThat(lying.squares.rows()).isEqualTo(2);
    assertThat(lying.squares.number(10)).isEqualTo(1011);
    assertThat(lying.squares.count()).isEqualTo(12);
    isSound(two);
  }

  /** What matters sixteen times as much, first; the sizes are those that it asks for. */
  @Test
  void whatMattersMostComesIntoTheFirst() {
    Mesh m = cut(Shapes.together(Shapes.cube(2), Shapes.moved(Shapes.cube(2), 5, 0, 0)), 45).cast();
    BitSet good = new BitSet();
    good.set(12, 24);
    m = Importance.given(m, good, 16);
    Workpiece in = Workpiece.of(m, Frame.PLAIN).withCast(m);
    Outcome out = into(10, PackCharts.By.IMPORTANCE, null).apply(in, Run.unwatched());
    Lying lying = Lying.of(out.work().cast());
    int[] of = Charts.of(out.work().cast(), Work.unwatched()).ofTriangle();
    int lastGood = 0;
    int firstPoor = 9;
    for (int t = 0; t < 24; t++) {
      int square = lying.square[of[t]];
      if (t >= 12) {
        lastGood = Math.max(lastGood, square);
      } else {
        firstPoor = Math.min(firstPoor, square);
      }
    }
    assertThat(lastGood).isLessThan(firstPoor);
    assertThat(lying.area[of[12]]).isCloseTo(16 * lying.area[of[0]], within(1e-3));
    isSound(out.work().cast());
    Outcome alike = into(3, PackCharts.By.IMPORTANCE, null).apply(cube(), Run.unwatched());
    assertThat(String.join("; ", alike.notes())).contains("no chart matters more");
  }

  /** One of six fills the last of three squares; five share the others. */
  @Test
  void oneHasTheLastToItself() {
    Workpiece in = cube();
    Outcome out = into(3, PackCharts.By.ROOM, TOP).apply(in, Run.unwatched());
    Mesh m = out.work().cast();
    Lying lying = Lying.of(m);
    int[] of = Charts.of(m, Work.unwatched()).ofTriangle();
    BitSet top = new BitSet();
    for (int t = 0; t < 12; t++) {
      boolean isTop = true;
      for (int k = 0; k < 3; k++) {
        isTop &= m.xyz()[3 * m.triangles()[3 * t + k] + 2] == 1;
      }
      top.set(of[t], top.get(of[t]) || isTop);
    }
    assertThat(top.cardinality()).isEqualTo(1);
    for (int c = 0; c < 6; c++) {
      assertThat(lying.square[c] == 2).isEqualTo(top.get(c));
    }
    assertThat(Math.sqrt(lying.area[top.nextSetBit(0)])).isBetween(0.93, 1.0);
    assertThat(Math.sqrt(lying.area[top.nextClearBit(0)])).isBetween(0.46, 0.5);
    assertThat(String.join("; ", out.notes()))
        .contains("3 squares of 512 px, 1001 to 1003")
        .contains("one chart has square 1003 to itself");
    isSound(m);

    // It stays there while another gets a fourth to itself.
    double[] front = {0, -1, 0};
    PackCharts next =
        new PackCharts(
            SIZE,
            3,
            true,
            TOP,
            null,
            null,
            null,
            4,
            PackCharts.By.ROOM,
            front,
            PackCharts.Follows.SIZE);
    Mesh more = next.apply(out.work(), Run.unwatched()).work().cast();
    Lying now = Lying.of(more);
    assertThat(now.square[top.nextSetBit(0)]).isEqualTo(2);
    assertThat(now.area[top.nextSetBit(0)]).isEqualTo(lying.area[top.nextSetBit(0)]);
    assertThat(Arrays.stream(now.square).filter(s -> s == 3).count()).isEqualTo(1);
    isSound(more);
    assertThatThrownBy(() -> into(1, PackCharts.By.ROOM, TOP)).isInstanceOf(Failure.class);
  }

  /** Closed form: a side of 2 m at 200 px/m is 400 pixels of 512: one to a square; at 100 four. */
  @Test
  void theNumberFollowsFromADensityAskedFor() {
    double[] asked = {50, 100, 200};
    int[] squares = {1, 2, 6};
    for (int i = 0; i < 3; i++) {
      PackCharts pack = counted(asked[i], null);
      Outcome out = pack.apply(cube(), Run.unwatched());
      Lying lying = Lying.of(out.work().cast());
      assertThat(lying.squares.count()).as("at %f", asked[i]).isEqualTo(squares[i]);
      assertThat(out.amount()).isEqualTo(SIZE);
      assertThat(SIZE * Math.sqrt(lying.area[0]) / 2).isGreaterThanOrEqualTo(asked[i]);
    }
    Outcome own = counted(100, TOP).apply(cube(), Run.unwatched());
    assertThat(Lying.of(own.work().cast()).squares.count()).isEqualTo(3);
    for (double[] alone : new double[][] {null, TOP}) {
      assertThatThrownBy(() -> counted(300, alone).apply(cube(), Run.unwatched()))
          .hasMessageContaining("do not fit into squares of 512");
    }
    PackCharts huge = new PackCharts(16384, 3, 9, PackCharts.By.ROOM, null);
    assertThatThrownBy(() -> huge.apply(cube(), Run.unwatched()))
        .hasMessageContaining("9 squares of 16,384 pixels");
  }

  private static PackCharts counted(double density, double[] alone) {
    return new PackCharts(
        SIZE,
        3,
        true,
        null,
        null,
        null,
        density,
        1,
        PackCharts.By.ROOM,
        alone,
        PackCharts.Follows.SQUARES);
  }

  /** Round and ragged charts: all squares alike full, and no worse than one of them by itself. */
  @Test
  void allAreFilledAlike() {
    Mesh both =
        Shapes.together(Shapes.torus(2, 0.6, 60, 24), Shapes.moved(Shapes.sphere(1, 4), 5, 0, 0));
    Workpiece whole = Workpiece.of(both, Frame.PLAIN).withCast(both);
    Workpiece in = new MakeCharts(SIZE, 3, 1.002, 0, 180).apply(whole, Run.unwatched()).work();
    Mesh out = into(4, PackCharts.By.ROOM, null).apply(in, Run.unwatched()).work().cast();
    Lying lying = Lying.of(out);
    double[] full = new double[4];
    for (int c = 0; c < lying.area.length; c++) {
      full[lying.square[c]] += lying.area[c];
    }
    assertThat(Arrays.stream(full).min().orElse(0))
        .isGreaterThan(0.6 * Arrays.stream(full).max().orElse(1));
    Mesh one = into(1, PackCharts.By.ROOM, null).apply(in, Run.unwatched()).work().cast();
    double single = Arrays.stream(Lying.of(one).area).sum();
    // Small ones fill what large ones leave; here there are few for as many large.
    assertThat(Arrays.stream(full).sum()).isGreaterThan(4 * 0.75 * single);
    isSound(out);
  }

  @Test
  void theSameOnOneThreadAndMany() {
    Mesh m = cut(Shapes.mess(100, 3), 180).cast();
    Workpiece in = Workpiece.of(m, Frame.PLAIN).withCast(m);
    PackCharts pack = into(3, PackCharts.By.ROOM, null);
    Mesh many = pack.apply(in, Run.unwatched()).work().cast();
    int threads = Parallel.threads();
    Parallel.limitThreads(1);
    Mesh one = pack.apply(in, Run.unwatched()).work().cast();
    Parallel.limitThreads(threads);
    assertThat(one.uv().coords()).isEqualTo(many.uv().coords());
    assertThat(List.of(Lying.of(many).squares.count())).containsExactly(3);
  }
}

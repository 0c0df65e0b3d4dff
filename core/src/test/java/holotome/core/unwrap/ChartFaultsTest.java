package holotome.core.unwrap;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.task.Work;
import holotome.core.topology.Charts;
import java.util.BitSet;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/** What is wrong with how charts lie: squares in known places, and charts that were packed well. */
class ChartFaultsTest {
  private static final int SIZE = 512;

  /**
   * Squares of the texture, each a chart.
   *
   * @param places low u, low v, side, in turn; a negative side is a square that lies on its back
   */
  private static Charts squares(double... places) {
    int n = places.length / 3;
    Mesh[] sheets = new Mesh[n];
    for (int i = 0; i < n; i++) {
      sheets[i] = Shapes.moved(Shapes.sheet(1, 4), 3 * i, 0, 0);
    }
    Mesh all = Shapes.together(sheets);
    float[] uv = new float[2 * all.vertexCount()];
    for (int v = 0; v < all.vertexCount(); v++) {
      int i = (int) (all.xyz()[3 * v] / 3 + 0.1);
      double side = Math.abs(places[3 * i + 2]);
      double x = all.xyz()[3 * v] - 3 * i;
      uv[2 * v] = (float) (places[3 * i] + side * (places[3 * i + 2] < 0 ? 1 - x : x));
      uv[2 * v + 1] = (float) (places[3 * i + 1] + side * all.xyz()[3 * v + 1]);
    }
    return Charts.of(all.withUv(new Uv(uv, all.triangles())), Work.unwatched());
  }

  private static ChartFaults faults(Charts charts, int apart) {
    return ChartFaults.of(charts, null, SIZE, apart, Work.unwatched());
  }

  private static BitSet bits(int... set) {
    BitSet out = new BitSet();
    for (int i : set) {
      out.set(i);
    }
    return out;
  }

  @Test
  void whatLiesApartIsInOrder() {
    assertThat(faults(squares(0.1, 0.1, 0.3, 0.5, 0.1, 0.3, 0.1, 0.5, 0.3), 8).isEmpty()).isTrue();
  }

  /** Two squares of a quarter's side that share a sixteenth of the square. */
  @Test
  void whatLiesOverAnother() {
    ChartFaults f = faults(squares(0, 0, 0.5, 0.25, 0.25, 0.5, 0.8, 0.8, 0.1), 2);
    assertThat(f.over()).isEqualTo(bits(0, 1));
    assertThat(f.overShare()).isCloseTo(1.0 / 16, within(1e-3));
    assertThat(f.flipped()).isEqualTo(bits());
    assertThat(f.outside()).isEqualTo(bits());
  }

  @Test
  void whatLiesOnItsBackOrOutside() {
    ChartFaults f = faults(squares(0.1, 0.1, -0.3, 0.6, 0.6, 0.5, 0.5, 0.1, 0.2), 2);
    assertThat(f.flipped()).isEqualTo(bits(0));
    assertThat(f.outside()).isEqualTo(bits(1));
    assertThat(f.over()).isEqualTo(bits());
  }

  /** Eight pixels lie free between two squares: enough for eight, not for nine. */
  @ParameterizedTest
  @CsvSource({"8, 0", "9, 2", "1, 0", "40, 2"})
  void howNearIsTooNear(int apart, int found) {
    double px = 1.0 / SIZE;
    Charts two = squares(10 * px, 10 * px, 100 * px, 118 * px, 10 * px, 100 * px);
    assertThat(faults(two, apart).near().cardinality()).isEqualTo(found);
    Charts corner = squares(10 * px, 10 * px, 100 * px, 118 * px, 118 * px, 100 * px);
    assertThat(faults(corner, apart).near().cardinality()).isEqualTo(found);
  }

  static Stream<Mesh> meshes() {
    return Stream.of(
        Shapes.sphere(1, 4),
        Shapes.torus(2, 0.6, 60, 24),
        Shapes.mess(300, 3),
        Shapes.together(Shapes.cube(1), Shapes.moved(Shapes.sphere(0.3, 3), 3, 0, 0)));
  }

  /** What is packed has none; the distance kept is that asked for. */
  @ParameterizedTest
  @MethodSource("meshes")
  void packedChartsHaveNone(Mesh m) {
    Workpiece in = Workpiece.of(m, Frame.PLAIN).withCast(m);
    Mesh out = new MakeCharts(SIZE, 4, 1.05, 0, 180).apply(in, Run.unwatched()).work().cast();
    assertThat(faults(Charts.of(out, Work.unwatched()), 4).isEmpty()).isTrue();
  }
}

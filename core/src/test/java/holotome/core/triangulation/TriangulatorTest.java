package holotome.core.triangulation;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

class TriangulatorTest {
  private static double[] circle(double r, int n, boolean clockwise) {
    double[] p = new double[2 * n];
    for (int i = 0; i < n; i++) {
      double a = (clockwise ? -1 : 1) * 2 * Math.PI * i / n;
      p[2 * i] = r * Math.cos(a);
      p[2 * i + 1] = r * Math.sin(a);
    }
    return p;
  }

  private static int[] numbers(int from, int n) {
    int[] out = new int[n];
    for (int i = 0; i < n; i++) {
      out[i] = from + i;
    }
    return out;
  }

  private static double area(List<double[]> rings, int[] tri) {
    List<double[]> points = new ArrayList<>();
    for (double[] r : rings) {
      for (int i = 0; i < r.length; i += 2) {
        points.add(new double[] {r[i], r[i + 1]});
      }
    }
    double sum = 0;
    for (int i = 0; i < tri.length; i += 3) {
      double[] a = points.get(tri[i]);
      double[] b = points.get(tri[i + 1]);
      double[] c = points.get(tri[i + 2]);
      double t = (b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1]);
      assertThat(t).isGreaterThanOrEqualTo(0);
      sum += t / 2;
    }
    return sum;
  }

  @Test
  void ringWithAHoleHasItsArea() {
    List<double[]> rings = List.of(circle(2, 60, false), circle(1, 40, true));
    int[] tri = Triangulator.triangulate(rings, List.of(numbers(0, 60), numbers(60, 40)));
    double expected = Triangulator.area(rings.get(0)) + Triangulator.area(rings.get(1));
    assertThat(area(rings, tri)).isCloseTo(expected, within(1e-9));
    // A ring of n + m corners takes n + m triangles.
    assertThat(tri).hasSize(3 * 100);
  }

  @Test
  void cornersOnStraightLinesAreUsed() {
    double[] square = new double[80];
    for (int i = 0; i < 40; i++) {
      double t = i % 10 / 10.0;
      double[][] p = {{t, 0}, {1, t}, {1 - t, 1}, {0, 1 - t}};
      square[2 * i] = p[i / 10][0];
      square[2 * i + 1] = p[i / 10][1];
    }
    int[] tri = Triangulator.triangulate(List.of(square), List.of(numbers(0, 40)));
    assertThat(tri).isNotNull().hasSize(3 * 38);
    assertThat(area(List.of(square), tri)).isCloseTo(1, within(1e-12));
  }

  /** All corners on the lines of one grid: edges pass over corners of other rings as well. */
  @Test
  void cornersOfHolesOnTheSameLinesAreUsed() {
    Random random = new Random(8);
    for (int i = 0; i < 200; i++) {
      int n = 6 + random.nextInt(20);
      List<double[]> rings = new ArrayList<>(List.of(square(0, 0, n, false)));
      List<int[]> numbers = new ArrayList<>(List.of(numbers(0, 4 * n)));
      int at = 4 * n;
      for (int x = 1; x + 2 < n; x += 3) {
        int side = 1 + random.nextInt(2);
        rings.add(square(x, 1 + random.nextInt(n - side - 1), side, true));
        numbers.add(numbers(at, 4 * side));
        at += 4 * side;
      }
      int[] tri = Triangulator.triangulate(rings, numbers);
      assertThat(tri).isNotNull().hasSize(3 * (at + 2 * (rings.size() - 1) - 2));
      double expected = rings.stream().mapToDouble(Triangulator::area).sum();
      assertThat(area(rings, tri)).isCloseTo(expected, within(1e-9));
    }
  }

  private static double[] square(double x, double y, int side, boolean clockwise) {
    double[] out = new double[8 * side];
    for (int i = 0; i < 4 * side; i++) {
      int k = clockwise ? 4 * side - 1 - i : i;
      int t = k % side;
      int[][] p = {{t, 0}, {side, t}, {side - t, side}, {0, side - t}};
      out[2 * i] = x + p[k / side][0];
      out[2 * i + 1] = y + p[k / side][1];
    }
    return out;
  }

  @Test
  void islandInAHoleIsAnOutlineOfItsOwn() {
    List<double[]> rings = List.of(circle(3, 30, false), circle(2, 30, true), circle(1, 30, false));
    int[] tri =
        Triangulator.triangulate(rings, List.of(numbers(0, 30), numbers(30, 30), numbers(60, 30)));
    double expected = rings.stream().mapToDouble(Triangulator::area).sum();
    assertThat(area(rings, tri)).isCloseTo(expected, within(1e-9));
  }

  @Test
  void raggedOutlinesKeepTheirArea() {
    Random r = new Random(9);
    for (int round = 0; round < 20; round++) {
      int n = 200;
      double[] p = circle(1, n, false);
      for (int i = 0; i < n; i++) {
        double k = 0.6 + 0.4 * r.nextDouble();
        p[2 * i] *= k;
        p[2 * i + 1] *= k;
      }
      int[] tri = Triangulator.triangulate(List.of(p), List.of(numbers(0, n)));
      assertThat(tri).hasSize(3 * (n - 2));
      assertThat(area(List.of(p), tri)).isCloseTo(Triangulator.area(p), within(1e-9));
    }
  }

  @Test
  void outlineThatCrossesItselfIsRefused() {
    double[] bow = {0, 0, 1, 1, 1, 0, 0, 1.5};
    assertThat(Triangulator.triangulate(List.of(bow), List.of(numbers(0, 4)))).isNull();
  }
}

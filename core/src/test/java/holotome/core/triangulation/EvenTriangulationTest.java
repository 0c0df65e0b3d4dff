package holotome.core.triangulation;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Refined triangulations keep their outline and area, and have even triangles. */
class EvenTriangulationTest {

  private record Made(double[] xy, int[] triangles, int given) {
    double twiceArea(int t) {
      int a = 2 * triangles[3 * t];
      int b = 2 * triangles[3 * t + 1];
      int c = 2 * triangles[3 * t + 2];
      return (xy[b] - xy[a]) * (xy[c + 1] - xy[a + 1]) - (xy[c] - xy[a]) * (xy[b + 1] - xy[a + 1]);
    }
  }

  private static Made make(List<double[]> rings, double length) {
    int n = rings.stream().mapToInt(r -> r.length / 2).sum();
    double[] xy = new double[2 * n];
    List<int[]> numbers = new java.util.ArrayList<>();
    int at = 0;
    for (double[] r : rings) {
      System.arraycopy(r, 0, xy, 2 * at, r.length);
      int[] number = new int[r.length / 2];
      Arrays.setAll(number, i -> i);
      int from = at;
      Arrays.setAll(number, i -> from + i);
      numbers.add(number);
      at += number.length;
    }
    int[] tri = Triangulator.triangulate(rings, numbers);
    double[] lengths = new double[n];
    Arrays.fill(lengths, length);
    EvenTriangulation.Result even = EvenTriangulation.refine(xy, lengths, tri, Work.unwatched());
    double[] all = Arrays.copyOf(xy, xy.length + even.xy().length);
    System.arraycopy(even.xy(), 0, all, xy.length, even.xy().length);
    return new Made(all, even.triangles(), n);
  }

  private static double[] circle(double radius, int n, boolean left) {
    double[] r = new double[2 * n];
    for (int i = 0; i < n; i++) {
      double a = 2 * Math.PI * (left ? i : n - i) / n;
      r[2 * i] = radius * Math.cos(a);
      r[2 * i + 1] = radius * Math.sin(a);
    }
    return r;
  }

  private static void assertEven(Made m, double area, double length) {
    double sum = 0;
    int fair = 0;
    int n = m.triangles.length / 3;
    for (int t = 0; t < n; t++) {
      double twice = m.twiceArea(t);
      assertThat(twice).isPositive();
      sum += twice / 2;
      double squares = 0;
      for (int k = 0; k < 3; k++) {
        int a = 2 * m.triangles[3 * t + k];
        int b = 2 * m.triangles[3 * t + (k + 1) % 3];
        squares += Math.pow(m.xy[a] - m.xy[b], 2) + Math.pow(m.xy[a + 1] - m.xy[b + 1], 2);
      }
      fair += 2 * Math.sqrt(3) * twice / squares > 0.5 ? 1 : 0;
    }
    assertThat(sum).isCloseTo(area, within(1e-9 * Math.abs(area)));
    assertThat((double) fair / n).isGreaterThan(0.9);
    double wanted = area / (Math.sqrt(3) / 4 * length * length);
    assertThat((double) n).isBetween(0.4 * wanted, 2.5 * wanted);
    Adjacency a = Adjacency.of(new Mesh(new float[m.xy.length / 2 * 3], m.triangles));
    assertThat(a.borderEdges()).isEqualTo(m.given);
    assertThat(a.crowdedEdges() + a.misfitEdges()).isZero();
  }

  @Test
  void aDiscIsFilledEvenly() {
    double[] ring = circle(1, 120, true);
    double length = 2 * Math.PI / 120;
    assertEven(make(List.of(ring), length), Triangulator.area(ring), length);
  }

  @Test
  void aRingKeepsItsHole() {
    double[] outer = circle(1, 120, true);
    double[] inner = circle(0.5, 60, false);
    double length = 2 * Math.PI / 120;
    double area = Triangulator.area(outer) + Triangulator.area(inner);
    assertEven(make(List.of(outer, inner), length), area, length);
  }

  @Test
  void aRaggedOutlineIsFilledAsWell() {
    Random r = new Random(4);
    for (int round = 0; round < 20; round++) {
      int n = 80;
      double[] ring = circle(1, n, true);
      for (int i = 0; i < n; i++) {
        double f = 0.7 + 0.3 * r.nextDouble();
        ring[2 * i] *= f;
        ring[2 * i + 1] *= f;
      }
      Made m = make(List.of(ring), 2 * Math.PI / n);
      double sum = 0;
      for (int t = 0; t < m.triangles.length / 3; t++) {
        assertThat(m.twiceArea(t)).isPositive();
        sum += m.twiceArea(t) / 2;
      }
      assertThat(sum).isCloseTo(Triangulator.area(ring), within(1e-9));
    }
  }

  /** Every edge inside is locally Delaunay: no neighbour's corner in a triangle's circle. */
  @Test
  void insideEdgesAreDelaunay() {
    Made m = make(List.of(circle(1, 90, true)), 2 * Math.PI / 90);
    int[] twin = Adjacency.of(new Mesh(new float[m.xy.length / 2 * 3], m.triangles)).twin();
    for (int h = 0; h < twin.length; h++) {
      if (twin[h] >= 0) {
        double[] c = circumcircle(m, h / 3);
        int d = 2 * m.triangles[Adjacency.previous(twin[h])];
        assertThat(Math.hypot(m.xy[d] - c[0], m.xy[d + 1] - c[1])).isGreaterThan(c[2] * (1 - 1e-6));
      }
    }
  }

  private static double[] circumcircle(Made m, int t) {
    double[] p = new double[6];
    for (int k = 0; k < 3; k++) {
      p[2 * k] = m.xy[2 * m.triangles[3 * t + k]];
      p[2 * k + 1] = m.xy[2 * m.triangles[3 * t + k] + 1];
    }
    double bx = p[2] - p[0];
    double by = p[3] - p[1];
    double cx = p[4] - p[0];
    double cy = p[5] - p[1];
    double d = 2 * (bx * cy - by * cx);
    double x = (cy * (bx * bx + by * by) - by * (cx * cx + cy * cy)) / d;
    double y = (bx * (cx * cx + cy * cy) - cx * (bx * bx + by * by)) / d;
    return new double[] {x + p[0], y + p[1], Math.hypot(x, y)};
  }
}

package holotome.core.proxy;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.geometry.Vec;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Cells that fill a box, by closed formulas. */
class ArrangementTest {
  private static final double[][] AXES = {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}};

  private static Arrangement box() {
    return new Arrangement(AXES, new double[] {-1, -1, -1}, new double[] {1, 1, 1});
  }

  private static Wall plane(double x, double y, double z, double offset) {
    return new Wall(Vec.unit(new double[] {x, y, z}), offset, List.of());
  }

  /** Volume of a cell by its facets as seen from its inside (Gauss's theorem). */
  private static double volume(Arrangement a, int cell) {
    double sum = 0;
    for (Arrangement.Facet f : a.cell(cell)) {
      double[] p = a.at(f.corners[0]);
      for (int i = 1; i + 1 < f.corners.length; i++) {
        double[] q = a.at(f.corners[i]);
        double[] r = a.at(f.corners[i + 1]);
        sum += (f.back == cell ? 1 : -1) * Vec.dot(p, Vec.cross(q, r)) / 6;
      }
    }
    return sum;
  }

  /** Points - edges + facets - cells, which is 1 for whatever fills a ball. */
  private static int euler(Arrangement a) {
    Set<Integer> points = new HashSet<>();
    Set<Long> edges = new HashSet<>();
    for (Arrangement.Facet f : a.facets()) {
      for (int i = 0; i < f.corners.length; i++) {
        int p = f.corners[i];
        int q = f.corners[(i + 1) % f.corners.length];
        points.add(p);
        edges.add((long) Math.min(p, q) << 32 | Math.max(p, q));
      }
    }
    return points.size() - edges.size() + a.facets().size() - a.cellCount();
  }

  private static void fills(Arrangement a) {
    double sum = 0;
    for (int c = 0; c < a.cellCount(); c++) {
      double v = volume(a, c);
      assertThat(v).isPositive();
      sum += v;
    }
    assertThat(sum).isCloseTo(8, within(1e-9));
    assertThat(euler(a)).isEqualTo(1);
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3, 5, 10, 20, 40})
  void planesByChance(int n) {
    SplittableRandom random = new SplittableRandom(n);
    Arrangement a = box();
    for (int i = 0; i < n; i++) {
      a.cut(
          i,
          plane(
              random.nextDouble(-1, 1),
              random.nextDouble(-1, 1),
              random.nextDouble(-1, 1),
              random.nextDouble(-0.8, 0.8)));
    }
    fills(a);
  }

  @Test
  void aGridHasAsManyCellsAsItHas() {
    Arrangement a = box();
    int n = 0;
    for (double at : new double[] {-0.5, 0, 0.5}) {
      for (double[] axis : AXES) {
        a.cut(n++, new Wall(axis, at, List.of()));
      }
    }
    assertThat(a.cellCount()).isEqualTo(64);
    fills(a);
  }

  /** n planes through one line make 2 n wedges; through one point n² - n + 2 cones. */
  @Test
  void planesThroughOneLineAndThroughOnePoint() {
    Arrangement line = box();
    for (int i = 0; i < 7; i++) {
      double turn = 0.1 + i * 0.43;
      line.cut(i, plane(Math.cos(turn), Math.sin(turn), 0, 0));
    }
    assertThat(line.cellCount()).isEqualTo(14);
    fills(line);
    Arrangement point = box();
    SplittableRandom random = new SplittableRandom(9);
    for (int i = 0; i < 8; i++) {
      double[] n = {random.nextDouble(-1, 1), random.nextDouble(-1, 1), random.nextDouble(-1, 1)};
      point.cut(i, plane(n[0], n[1], n[2], Vec.dot(Vec.unit(n), new double[] {0.1, 0.2, -0.1})));
    }
    assertThat(point.cellCount()).isEqualTo(8 * 8 - 8 + 2);
    fills(point);
  }

  @Test
  void thePlaneOfASideAndTheSamePlaneAgainPartNothing() {
    Arrangement a = box();
    a.cut(0, plane(0, 0, 1, 1));
    a.cut(1, plane(1, 1, 0, 0));
    a.cut(2, plane(1, 1, 0, 0));
    a.cut(3, plane(-1, -1, 0, 1e-13));
    assertThat(a.cellCount()).isEqualTo(2);
    fills(a);
    List<Integer> planes = new ArrayList<>();
    a.facets().forEach(f -> planes.add(f.plane));
    assertThat(planes).contains(1).doesNotContain(2, 3);
  }
}

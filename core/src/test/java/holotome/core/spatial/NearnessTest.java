package holotome.core.spatial;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Against distances of many points of each triangle, each to all triangles, in doubles. */
class NearnessTest {
  private static boolean[] notShown(Mesh from, Mesh to, double distance) {
    return Nearness.notShown(from, to, Bvh.of(to, Work.unwatched()), distance, Work.unwatched());
  }

  private static int count(boolean[] some) {
    int n = 0;
    for (boolean b : some) {
      n += b ? 1 : 0;
    }
    return n;
  }

  @Test
  void sheetsSideBySide() {
    Mesh a = Shapes.sheet(10, 12);
    Mesh b = Shapes.moved(Shapes.sheet(10, 5), 0, 0, 0.1);
    assertThat(count(notShown(a, b, 0.101))).isZero();
    assertThat(count(notShown(a, b, 0.0999))).isEqualTo(a.triangleCount());
    // Of what reaches over the edge only that is not shown.
    Mesh wide = Shapes.moved(Shapes.sheet(10, 10), 5, 0, 0.1);
    assertThat(count(notShown(wide, a, 0.2))).isEqualTo(wide.triangleCount() / 2);
  }

  @Test
  void nothingIsNearNothingAndNoDistanceIsTooSmallToBeRefused() {
    Mesh a = Shapes.sphere(1, 2);
    assertThat(count(notShown(a, new Mesh(new float[0], new int[0]), 1))).isEqualTo(320);
    assertThat(count(notShown(a, a, 0))).isEqualTo(320);
    assertThat(count(notShown(a, a, 1e-5))).isZero();
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4})
  void whatIsShownIsNearAndWhatIsClearlyNearIsShown(long seed) {
    Random r = new Random(seed);
    Mesh to = seed % 2 == 0 ? Shapes.mess(60, seed) : Shapes.sphere(1, 2);
    Mesh from = seed % 2 == 0 ? Shapes.mess(40, seed + 50) : Shapes.sphere(1.02, 3);
    double distance = seed % 2 == 0 ? 0.1 + 0.3 * r.nextDouble() : 0.02 + 0.03 * r.nextDouble();
    boolean[] far = notShown(from, to, distance);
    for (int t = 0; t < from.triangleCount(); t++) {
      double most = 0;
      for (int i = 0; i <= 8; i++) {
        for (int j = 0; j <= 8 - i; j++) {
          double[] p = new double[3];
          for (int k = 0; k < 3; k++) {
            double a = from.xyz()[3 * from.triangles()[3 * t] + k];
            double b = from.xyz()[3 * from.triangles()[3 * t + 1] + k];
            double c = from.xyz()[3 * from.triangles()[3 * t + 2] + k];
            p[k] = a + i / 8.0 * (b - a) + j / 8.0 * (c - a);
          }
          most = Math.max(most, Naive.distance(p, to));
        }
      }
      if (!far[t]) {
        assertThat(most).isLessThanOrEqualTo(distance);
      }
      if (most < 0.8 * distance) {
        assertThat(far[t]).isFalse();
      }
    }
  }
}

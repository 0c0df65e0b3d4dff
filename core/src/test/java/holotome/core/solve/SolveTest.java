package holotome.core.solve;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.geometry.Vec;
import holotome.core.task.Work;
import java.util.Random;
import org.junit.jupiter.api.Test;

class SolveTest {
  @Test
  void poissonOnALineHasItsParabola() {
    // -u'' = 1 on 0..1 with u = 0 at both ends: u = x (1 - x) / 2, exact in finite differences.
    int n = 99;
    double h = 1.0 / (n + 1);
    int[] start = new int[n + 1];
    int[] column = new int[3 * n];
    double[] value = new double[3 * n];
    int at = 0;
    double[] b = new double[n];
    for (int i = 0; i < n; i++) {
      for (int j = Math.max(0, i - 1); j <= Math.min(n - 1, i + 1); j++) {
        column[at] = j;
        value[at++] = (j == i ? 2 : -1) / (h * h);
      }
      start[i + 1] = at;
      b[i] = 1;
    }
    double[] x = new double[n];
    SparseSystem system = new SparseSystem(start, column, value);
    assertThat(system.solve(b, new double[n], 1e-12, 3, Work.unwatched()).converged()).isFalse();
    SparseSystem.Solution s0 = system.solve(b, x, 1e-12, 1000, Work.unwatched());
    assertThat(s0.converged()).isTrue();
    assertThat(s0.iterations()).isLessThan(200);
    for (int i = 0; i < n; i++) {
      double s = (i + 1) * h;
      assertThat(x[i]).isCloseTo(s * (1 - s) / 2, within(1e-9));
    }
  }

  @Test
  void planeIsFoundFarFromTheOrigin() {
    Random r = new Random(1);
    for (int round = 0; round < 50; round++) {
      double[] n = Vec.unit(Vec.of(r.nextGaussian(), r.nextGaussian(), r.nextGaussian()));
      double[] u = Vec.perpendicular(n);
      double[] v = Vec.cross(n, u);
      PlaneFit.Sum sum = new PlaneFit.Sum();
      for (int i = 0; i < 500; i++) {
        double[] p = Vec.add(Vec.mul(u, r.nextGaussian()), Vec.mul(v, r.nextGaussian()));
        double noise = 0.01 * r.nextGaussian();
        sum.add(
            1e6 + p[0] + noise * n[0], -2e6 + p[1] + noise * n[1], 5e5 + p[2] + noise * n[2], 1);
      }
      PlaneFit f = sum.fit();
      assertThat(Math.abs(Vec.dot(f.normal(), n))).isGreaterThan(0.99999);
      assertThat(f.rms()).isCloseTo(0.01, within(0.002));
    }
  }
}

package holotome.core.spatial;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;

class DeviationFieldTest {
  private static DeviationField of(Mesh from, Mesh to) {
    return DeviationField.of(from, to, Work.unwatched());
  }

  /** A sheet that rises by h over another: mean h / 2, root of the mean square h / sqrt 3. */
  @Test
  void aTiltedSheetInClosedForm() {
    Mesh flat = Shapes.sheet(10, 30);
    float[] p = flat.xyz().clone();
    double low = flat.bounds().min()[0];
    for (int v = 0; v < flat.vertexCount(); v++) {
      p[3 * v + 2] += (float) (0.05 * (p[3 * v] - low));
    }
    Mesh tilted = flat.withPositions(p);
    // From the tilted one straight down onto the flat one, which is as wide.
    DeviationField.Summary s = of(tilted, flat).summary();
    assertThat(s.mean()).isCloseTo(0.25, within(1e-5));
    assertThat(s.rms()).isCloseTo(0.5 / Math.sqrt(3), within(1e-5));
    assertThat(s.p95()).isCloseTo(0.475, within(0.01));
    assertThat(s.max()).isCloseTo(0.5, within(1e-5));
    assertThat(s.bias()).isCloseTo(0.25, within(1e-5));
    assertThat(s.at()[0] - low).isCloseTo(10, within(1e-4));
  }

  @Test
  void outsideIsAboveNoughtAndInsideBelow() {
    Mesh ball = Shapes.sphere(1, 5);
    DeviationField out = of(Shapes.sphere(1.1, 4), ball);
    for (float d : out.signed()) {
      assertThat((double) d).isCloseTo(0.1, within(0.002));
    }
    DeviationField in = of(Shapes.sphere(0.9, 4), ball);
    for (float d : in.signed()) {
      assertThat((double) d).isCloseTo(-0.1, within(0.002));
    }
    assertThat(in.summary().bias()).isCloseTo(-in.summary().mean(), within(1e-9));
    double[] shares = out.histogram(Shapes.sphere(1.1, 4), 4, 0, 0.2);
    assertThat(Arrays.stream(shares).sum()).isCloseTo(1, within(1e-9));
    assertThat(shares[0] + shares[3]).isZero();
  }

  /** Against distances taken the slow way: every vertex to every triangle. */
  @Test
  void distancesAreThoseToAllTriangles() {
    Random r = new Random(3);
    for (int seed = 1; seed <= 3; seed++) {
      Mesh a = Shapes.mess(200, seed);
      Mesh b = Shapes.mess(150, seed + 10);
      DeviationField f = of(a, b);
      for (int i = 0; i < 150; i++) {
        int v = a.triangles()[r.nextInt(a.triangles().length)];
        double[] p = {a.xyz()[3 * v], a.xyz()[3 * v + 1], a.xyz()[3 * v + 2]};
        assertThat((double) Math.abs(f.signed()[v])).isCloseTo(Naive.distance(p, b), within(1e-5));
      }
    }
  }

  @Test
  void theWorseOfBothWaysIsToldWithItsPlace() {
    Mesh ball = Shapes.sphere(1, 4);
    Mesh two = Shapes.together(ball, Shapes.moved(Shapes.sphere(0.1, 3), 5, 0, 0));
    DeviationField.Summary near = of(ball, two).summary();
    DeviationField.Summary far = of(two, ball).summary();
    assertThat(near.max()).isZero();
    DeviationField.Summary worse = near.worse(far);
    assertThat(worse.max()).isCloseTo(4.1, within(0.01));
    assertThat(worse.at()[0]).isCloseTo(5.1, within(0.01));
  }

  @Test
  void oneThreadAndManyGiveTheSame() {
    Mesh a = Shapes.torus(3, 1, 200, 60);
    Mesh b = Shapes.torus(3, 1.02, 90, 40);
    DeviationField many = of(a, b);
    Parallel.limitThreads(1);
    try {
      DeviationField one = of(a, b);
      assertThat(one.signed()).isEqualTo(many.signed());
      assertThat(one.summary().rms()).isEqualTo(many.summary().rms());
      assertThat(one.summary().at()).isEqualTo(many.summary().at());
    } finally {
      Parallel.limitThreads(64);
    }
  }
}

package holotome.core.spatial;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

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
    // Every distance up to the largest is as frequent.
    Spread spread = of(tilted, flat).spread();
    assertThat(spread.share(0.1, 0.2)).isCloseTo(0.2, within(0.02));
    assertThat(spread.share(-0.5, 0.25)).isCloseTo(0.5, within(0.02));
    assertThat(spread.share(-1, 1)).isCloseTo(1, within(1e-12));
    assertThat(spread.upTo(0.5)).isCloseTo(0.25, within(0.02));
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
    assertThat(out.spread().share(0.09, 0.11)).isCloseTo(1, within(1e-9));
    assertThat(out.spread().share(-1, 0.05)).isZero();
    assertThat(in.spread().share(-0.11, -0.09)).isCloseTo(1, within(1e-9));
    assertThat(in.spread().share(0, 1)).isZero();
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
    assertThat(near.max()).isLessThan(1e-7);
    DeviationField.Summary worse = near.worse(far);
    assertThat(worse.max()).isCloseTo(4.1, within(0.01));
    assertThat(worse.at()[0]).isCloseTo(5.1, within(0.01));
  }

  @Test
  void whatLiesOnItselfIsNowhereOff() {
    Mesh ball = Shapes.sphere(1, 3);
    Deviation d = Deviation.of(ball, ball, Work.unwatched());
    assertThat(d.both().max()).isLessThan(1e-7);
    assertThat(d.both().p95()).isLessThan(1e-7);
    assertThat(d.forth().spread().share(-1, 1)).isCloseTo(1, within(1e-9));
    assertThatThrownBy(
            () -> Deviation.of(ball, new Mesh(new float[0], new int[0]), Work.unwatched()))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("without triangles");
  }

  /**
   * Squares of such distances are no floats any more: the same as of a usual size, power by power.
   */
  @ParameterizedTest
  @ValueSource(ints = {60, -60})
  void vastAndTinyAreAsUsual(int power) {
    Mesh a = Shapes.torus(3, 1, 40, 20);
    Mesh b = Shapes.torus(3, 1.1, 30, 20);
    DeviationField usual = of(a, b);
    DeviationField other = of(scaled(a, power), scaled(b, power));
    for (int v = 0; v < usual.signed().length; v++) {
      assertThat(other.signed()[v]).isEqualTo(Math.scalb(usual.signed()[v], power));
    }
    assertThat(other.summary().rms()).isEqualTo(Math.scalb(usual.summary().rms(), power));
    assertThat(other.summary().p95()).isEqualTo(Math.scalb(usual.summary().p95(), power));
    double far = Math.scalb(0.1, power);
    assertThat(other.spread().share(-far, far)).isEqualTo(usual.spread().share(-0.1, 0.1));
  }

  private static Mesh scaled(Mesh m, int power) {
    float[] p = m.xyz().clone();
    for (int i = 0; i < p.length; i++) {
      p[i] = Math.scalb(p[i], power);
    }
    return m.withPositions(p);
  }

  @Test
  void roughMeshesHaveFiguresOrSayWhyNot() {
    Mesh ball = Shapes.sphere(1, 3);
    Mesh one = new Mesh(new float[] {0, 0, 2, 1, 0, 2, 0, 1, 2}, new int[] {0, 1, 2});
    Mesh line = new Mesh(new float[] {0, 0, 2, 1, 0, 2, 2, 0, 2}, new int[] {0, 1, 2});
    Mesh spot = new Mesh(new float[] {0, 0, 2, 0, 0, 2, 0, 0, 2}, new int[] {0, 1, 2});
    for (Mesh m : List.of(one, line, spot, Shapes.mess(60, 5), Shapes.moved(ball, 1e6, 0, 0))) {
      DeviationField.Summary s = Deviation.of(m, ball, Work.unwatched()).both();
      assertThat(s.rms()).isFinite().isNotNegative();
      assertThat(s.max()).isGreaterThanOrEqualTo(s.rms());
      assertThat(s.p95()).isLessThanOrEqualTo(s.max());
      assertThat(s.at()).hasSize(3).doesNotContain(Double.NaN);
    }
    float[] part = ball.xyz().clone();
    part[0] = Float.NaN;
    DeviationField holed = of(ball.withPositions(part), ball);
    assertThat(holed.signed()[0]).isNaN();
    assertThat(holed.summary().rms()).isFinite();
    float[] none = new float[9];
    Arrays.fill(none, Float.NaN);
    assertThatThrownBy(() -> of(one.withPositions(none), ball)).isInstanceOf(Failure.class);
  }

  @Test
  void itCanBeCancelledHalfWay() throws Exception {
    Mesh a = Shapes.torus(3, 1, 600, 300);
    Work work = new Work();
    Thread stop =
        new Thread(
            () -> {
              while (work.fraction() < 0.3) {
                Thread.onSpinWait();
              }
              work.cancel();
            });
    stop.start();
    assertThatThrownBy(() -> Deviation.of(a, Shapes.torus(3, 1.01, 500, 300), work))
        .isInstanceOfSatisfying(
            Failure.class, f -> assertThat(f.kind()).isEqualTo(Failure.Kind.CANCELLED));
    stop.join();
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

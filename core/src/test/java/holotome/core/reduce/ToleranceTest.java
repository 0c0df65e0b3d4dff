package holotome.core.reduce;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.mend.Tidy;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.Random;
import org.assertj.core.api.Assertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The tolerance against distances that are taken otherwise: many points, each to all triangles. */
class ToleranceTest {
  private static Mesh within(Mesh m, double tolerance) {
    Mesh out = Tolerance.within(m, tolerance, Wedges.NONE, Work.unwatched());
    Naive.assertSound(out);
    assertNear(out, m, tolerance);
    assertNear(m, out, tolerance);
    return out;
  }

  private static void assertNear(Mesh from, Mesh to, double tolerance) {
    float[] points = SurfaceDistance.sample(from, 600);
    for (int i = 0; i < points.length; i += 3) {
      double[] p = {points[i], points[i + 1], points[i + 2]};
      assertThat(Naive.distance(p, to)).isLessThanOrEqualTo(tolerance);
    }
  }

  private static Mesh rough(Mesh m, double by) {
    Random r = new Random(1);
    float[] p = m.xyz().clone();
    for (int i = 0; i < p.length; i++) {
      p[i] += (float) (by * r.nextGaussian());
    }
    return m.withPositions(p);
  }

  @ParameterizedTest
  @ValueSource(doubles = {0.003, 0.01, 0.03})
  void aRoughBall(double tolerance) {
    Mesh ball = rough(Shapes.sphere(1, 4), 0.0005);
    Mesh light = within(ball, tolerance);
    assertThat(Naive.closedAndOriented(light)).isTrue();
    // Triangles of side s that meet the ball half outside and half inside leave it by s^2 / 12: the
    // fewest that can be are 16 pi / (12 sqrt 3 tolerance). Twice as many in each direction is
    // good.
    double fewest = 16 * Math.PI / (12 * Math.sqrt(3) * tolerance);
    assertThat((double) light.triangleCount()).isLessThan(Math.min(4 * fewest, 5120));
  }

  @Test
  void aSheetKeepsItsBorderWithin() {
    Mesh light = within(rough(Shapes.sheet(10, 40), 0.01), 0.1);
    assertThat(light.triangleCount()).isLessThan(300);
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3})
  void anyMess(long seed) {
    within(Shapes.mess(300, seed), 0.05);
    within(Tidy.tidy(Shapes.mess(300, seed), new ArrayList<>(), Work.unwatched()), 0.2);
  }

  /** Two walls nearer to each other than the tolerance: neither is lost for it. */
  @Test
  void thinWallsStay() {
    Mesh plate =
        Shapes.together(Shapes.sheet(10, 20), Shapes.moved(Shapes.sheet(10, 20), 0, 0, 0.01));
    Mesh light = within(plate, 0.05);
    assertThat(Naive.islands(light)).isEqualTo(2);
  }

  @Test
  void whatCannotBeWithinStaysAsItIs() {
    Mesh ball = rough(Shapes.sphere(1, 3), 0.01);
    assertThat(Tolerance.within(ball, 1e-9, Wedges.NONE, Work.unwatched()).sameAs(ball)).isTrue();
  }

  @Test
  void oneThreadAndManyGiveTheSame() {
    Mesh s = rough(Shapes.torus(2, 0.8, 150, 60), 0.002);
    Mesh many = Tolerance.within(s, 0.02, Wedges.NONE, Work.unwatched());
    Parallel.limitThreads(1);
    try {
      assertThat(Tolerance.within(s, 0.02, Wedges.NONE, Work.unwatched()).sameAs(many)).isTrue();
    } finally {
      Parallel.limitThreads(64);
    }
  }

  @Test
  void isCancelled() {
    Work work = new Work();
    work.cancel();
    Assertions.assertThatThrownBy(
            () -> Tolerance.within(Shapes.sphere(1, 4), 0.01, Wedges.NONE, work))
        .isInstanceOf(Failure.class);
  }

  /** A size whose squares no float holds: exactly the same, by a power of two. */
  @ParameterizedTest
  @ValueSource(ints = {-100, 90})
  void vastAndTinyOnesAreProvedToo(int power) {
    // Its diagonal, 1.73, is what others are brought near to.
    Mesh ball = rough(Shapes.sphere(0.5, 3), 0.0002);
    float[] p = ball.xyz().clone();
    for (int i = 0; i < p.length; i++) {
      p[i] = Math.scalb(p[i], power);
    }
    Mesh usual = Tolerance.within(ball, 0.01, Wedges.NONE, Work.unwatched());
    double tolerance = Math.scalb(0.01, power);
    Mesh other = Tolerance.within(ball.withPositions(p), tolerance, Wedges.NONE, Work.unwatched());
    assertThat(usual.triangleCount()).isLessThan(ball.triangleCount() / 2);
    assertThat(other.triangles()).isEqualTo(usual.triangles());
    for (int i = 0; i < other.xyz().length; i++) {
      assertThat(other.xyz()[i]).isEqualTo(Math.scalb(usual.xyz()[i], power));
    }
  }

  @Test
  void whereNothingCanGoNothingMoves() {
    Mesh mess = Shapes.mess(300, 4);
    assertThat(Tolerance.within(mess, 0.05, Wedges.NONE, Work.unwatched())).isSameAs(mess);
    assertThat(Decimation.run(mess, 20, Double.POSITIVE_INFINITY, Work.unwatched()).triangleCount())
        .isEqualTo(300);
  }
}

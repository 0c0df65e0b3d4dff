package holotome.core.reduce;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import holotome.core.Shapes;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class DeviationCurveTest {
  private static DeviationCurve of(Mesh m, int size) {
    return DeviationCurve.of(m, size, Work.unwatched());
  }

  private static Mesh rough(Mesh m, double by) {
    Random r = new Random(2);
    float[] p = m.xyz().clone();
    for (int i = 0; i < p.length; i++) {
      p[i] += (float) (by * r.nextGaussian());
    }
    return m.withPositions(p);
  }

  /** Against what decimating in earnest comes to: the whole as a sample, and a fifth of it. */
  @ParameterizedTest
  @ValueSource(ints = {200_000, 20_000})
  void itForetellsWhatComes(int size) {
    Mesh m = rough(Shapes.torus(3, 1, 320, 160), 0.001);
    DeviationCurve c = of(m, size);
    int[] counts =
        size > m.triangleCount() ? new int[] {30_000, 8_000, 2_000} : new int[] {30_000, 8_000};
    for (int n : counts) {
      Mesh light = Decimation.run(m, n, Double.POSITIVE_INFINITY, Work.unwatched());
      SurfaceDistance off = SurfaceDistance.of(m, light, 30_000, Work.unwatched());
      assertThat(c.at(n).rms()).as("rms of " + n).isBetween(0.5 * off.rms(), 2 * off.rms());
      assertThat(c.at(n).p95()).as("p95 of " + n).isBetween(0.5 * off.p95(), 2 * off.p95());
    }
    assertThat(c.seconds()).isPositive();
  }

  @Test
  void fewerTrianglesAreNeverNearer() {
    DeviationCurve c = of(rough(Shapes.sphere(1, 6), 0.0005), DeviationCurve.QUICK);
    List<DeviationCurve.Point> points = c.points();
    assertThat(points.size()).isGreaterThan(4);
    for (int i = 1; i < points.size(); i++) {
      assertThat(points.get(i).triangles()).isLessThan(points.get(i - 1).triangles());
      assertThat(points.get(i).rms()).isGreaterThanOrEqualTo(points.get(i - 1).rms());
    }
    for (double n = 50; n < 200_000; n *= 1.7) {
      assertThat(c.at(n * 1.7).rms()).isLessThanOrEqualTo(c.at(n).rms());
    }
    assertThat(c.at(0)).isNull();
  }

  @Test
  void oneThreadAndManyGiveTheSame() {
    Mesh m = rough(Shapes.torus(3, 1, 200, 100), 0.001);
    DeviationCurve many = of(m, 8_000);
    Parallel.limitThreads(1);
    try {
      assertThat(of(m, 8_000).points()).isEqualTo(many.points());
    } finally {
      Parallel.limitThreads(64);
    }
  }

  @Test
  void theLeastAndTheWorstOfMeshesHaveACurveOrNone() {
    assertThat(of(new Mesh(new float[0], new int[0]), 1000).points()).isEmpty();
    assertThat(of(Shapes.cube(1), 1000).at(6)).isNull();
    DeviationCurve mess = of(Shapes.mess(5000, 3), 1000);
    mess.points().forEach(p -> assertThat(p.rms()).isNotNaN());
    float[] vast = Shapes.sphere(1, 5).xyz().clone();
    for (int i = 0; i < vast.length; i++) {
      vast[i] *= 1e30f;
    }
    DeviationCurve far = of(Shapes.sphere(1, 5).withPositions(vast), 50_000);
    assertThat(far.at(500).rms()).isBetween(1e26, 1e29);
    Mesh line = new Mesh(new float[] {0, 0, 0, 1, 0, 0, 2, 0, 0}, new int[] {0, 1, 2});
    assertThat(of(line, 1000).points()).isEmpty();
  }

  @Test
  void itCanBeCancelled() {
    Work work = new Work();
    work.cancel();
    assertThatThrownBy(() -> DeviationCurve.of(Shapes.sphere(1, 5), 1000, work))
        .isInstanceOfSatisfying(
            Failure.class, f -> assertThat(f.kind()).isEqualTo(Failure.Kind.CANCELLED));
  }
}

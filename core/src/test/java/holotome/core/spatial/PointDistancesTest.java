package holotome.core.spatial;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.Random;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class PointDistancesTest {
  @AfterEach
  void allThreads() {
    Parallel.limitThreads(Integer.MAX_VALUE);
  }

  private static float[] points(int n, double spread, long seed) {
    Random random = new Random(seed);
    float[] p = new float[3 * n];
    for (int i = 0; i < p.length; i++) {
      p[i] = (float) (spread * random.nextGaussian());
    }
    return p;
  }

  private static float[] indexed(Mesh m, float[] p) {
    return SurfaceDistance.distances(p, Bvh.of(m), Work.unwatched());
  }

  /** The same but for roundings, which are of the size of the coordinates. */
  private static void assertAlike(float[] is, float[] wanted, double size) {
    assertThat(is).hasSameSizeAs(wanted);
    for (int i = 0; i < is.length; i++) {
      assertThat((double) is[i]).isCloseTo(wanted[i], within(2e-6 * (1 + size)));
    }
  }

  /** The triangles in any order: neighbours do not follow one another. */
  private static Mesh shuffled(Mesh m, long seed) {
    Random random = new Random(seed);
    int n = m.triangleCount();
    int[] tri = m.triangles().clone();
    for (int i = n - 1; i > 0; i--) {
      int j = random.nextInt(i + 1);
      for (int k = 0; k < 3; k++) {
        int x = tri[3 * i + k];
        tri[3 * i + k] = tri[3 * j + k];
        tri[3 * j + k] = x;
      }
    }
    return new Mesh(m.xyz(), tri);
  }

  /** Near the surface, far from it and on it: what an index of all triangles finds. */
  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3, 5, 64, 500})
  void theyAreWhatAnIndexFinds(int n) {
    Mesh ball = Shapes.sphere(1, 6);
    Mesh[] meshes = {
      ball,
      shuffled(ball, 5),
      Shapes.mess(4100, 7),
      Shapes.sheet(2, 100),
      Shapes.torus(1, 0.3, 120, 60)
    };
    for (Mesh m : meshes) {
      for (double spread : new double[] {0.001, 0.6, 50}) {
        float[] p = points(n, spread, n);
        assertAlike(PointDistances.to(m, p, Work.unwatched()), indexed(m, p), spread);
      }
      float[] on = SurfaceDistance.sample(m, n);
      assertAlike(PointDistances.to(m, on, Work.unwatched()), indexed(m, on), 1);
    }
  }

  @Test
  void theyAreRight() {
    Mesh m = Shapes.torus(1, 0.3, 120, 60);
    float[] p = points(60, 0.8, 3);
    float[] d = PointDistances.to(m, p, Work.unwatched());
    for (int i = 0; i < d.length; i++) {
      double[] at = {p[3 * i], p[3 * i + 1], p[3 * i + 2]};
      assertThat((double) d[i]).isCloseTo(Naive.distance(at, m), within(1e-5));
    }
  }

  /** Points that are nowhere, points on one spot, none at all. */
  @Test
  void roughInput() {
    Mesh ball = Shapes.sphere(1, 6);
    float[] broken = ball.xyz().clone();
    for (int v = 0; v < 40; v++) {
      broken[3 * v + v % 3] = v % 2 == 0 ? Float.NaN : Float.POSITIVE_INFINITY;
    }
    float[] p = points(200, 0.6, 9);
    float[] d = PointDistances.to(ball.withPositions(broken), p, Work.unwatched());
    assertThat(d).hasSize(200);
    for (float x : d) {
      assertThat(x).isBetween(0f, 5f);
    }
    float[] one = new float[3 * 500];
    assertAlike(PointDistances.to(ball, one, Work.unwatched()), indexed(ball, one), 1);
    assertThat(PointDistances.to(ball, new float[0], Work.unwatched())).isEmpty();
  }

  @Test
  void theSameOnOneThreadAndMany() {
    Mesh m = Shapes.mess(10_000, 11);
    float[] p = points(900, 0.7, 4);
    float[] many = PointDistances.to(m, p, Work.unwatched());
    Parallel.limitThreads(1);
    assertThat(PointDistances.to(m, p, Work.unwatched())).containsExactly(many);
  }
}

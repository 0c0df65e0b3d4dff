package holotome.core.spatial;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.Shapes;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class SampledTrianglesTest {
  /** Each where the sum of the areas before it reaches its share, over several chunks. */
  @ParameterizedTest
  @ValueSource(ints = {1, 7, 500, 200_000})
  void pointsFollowTheArea(int samples) {
    Mesh ball = Shapes.sphere(1, 7);
    float[] p = ball.xyz().clone();
    // Some areas far larger than others, some none.
    for (int i = 0; i < p.length; i += 3) {
      p[i] = p[i] > 0 ? 40 * p[i] : p[i];
      p[i + 2] = p[i + 2] < -0.5 ? -0.5f : p[i + 2];
    }
    for (Mesh m : new Mesh[] {ball.withPositions(p), Shapes.sheet(1, 200), Shapes.cube(1)}) {
      int[] of = SurfaceDistance.sampledTriangles(m, samples);
      double all = 0;
      for (int t = 0; t < m.triangleCount(); t++) {
        all += Vec.length(Measures.cross(m, t));
      }
      double before = 0;
      int t = 0;
      for (int i = 0; i < samples; i++) {
        double share = (i + 0.5) / samples * all;
        assertThat(of[i]).isGreaterThanOrEqualTo(t);
        while (t < of[i]) {
          before += Vec.length(Measures.cross(m, t++));
        }
        double slack = 1e-9 * all;
        assertThat(before).isLessThanOrEqualTo(share + slack);
        assertThat(before + Vec.length(Measures.cross(m, t))).isGreaterThanOrEqualTo(share - slack);
      }
    }
  }
}

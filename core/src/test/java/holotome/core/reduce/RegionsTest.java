package holotome.core.reduce;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.Shapes;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import java.util.BitSet;
import org.junit.jupiter.api.Test;

class RegionsTest {
  private static Regions of(Mesh m, int size, int round) {
    return new Regions(m.xyz(), m.triangles(), size, round, Work.unwatched());
  }

  @Test
  void eachVertexAndTriangleIsDealtOutOnceAndRimsAreLocked() {
    Mesh m = Shapes.torus(3, 1, 120, 60);
    Regions r = of(m, 500, 0);
    assertThat(r.count).isEqualTo((7200 + 511) / 512);
    BitSet vertices = new BitSet();
    BitSet triangles = new BitSet();
    for (int g = 0; g <= r.count; g++) {
      for (int i = 0; g < r.count && i < r.vertices(g); i++) {
        int v = r.order[r.firstVertex(g) + i];
        assertThat(vertices.get(v)).isFalse();
        vertices.set(v);
        assertThat(r.place[v]).isEqualTo(r.firstVertex(g) + i);
      }
      for (int i = 0; i < r.triangles(g); i++) {
        int t = r.triangles.order()[r.firstTriangle(g) + i];
        assertThat(triangles.get(t)).isFalse();
        triangles.set(t);
        int same = 0;
        for (int k = 0; k < 3; k++) {
          int v = m.triangles()[3 * t + k];
          same += r.place[v] >> r.bits == g ? 1 : 0;
          assertThat(g < r.count || r.isLocked(v)).isTrue();
        }
        assertThat(same == 3).isEqualTo(g < r.count);
      }
    }
    assertThat(vertices.cardinality()).isEqualTo(m.vertexCount());
    assertThat(triangles.cardinality()).isEqualTo(m.triangleCount());
  }

  /** What is locked in one round is mostly free in the next. */
  @Test
  void rimsLieElsewhereEachRound() {
    Mesh m = Shapes.torus(3, 1, 200, 100);
    int both = 0;
    int one = 0;
    for (int round = 0; round < 4; round++) {
      Regions a = of(m, 1024, round);
      Regions b = of(m, 1024, round + 1);
      for (int v = 0; v < m.vertexCount(); v++) {
        one += a.isLocked(v) ? 1 : 0;
        both += a.isLocked(v) && b.isLocked(v) ? 1 : 0;
      }
    }
    assertThat(one / 4.0).isLessThan(0.35 * m.vertexCount());
    assertThat(both).isLessThan(one / 2);
  }

  /** One point a thousand times as far off as the rest is wide: regions are still near together. */
  @Test
  void aFarPointDoesNotMakeRegionsCoarse() {
    Mesh torus = Shapes.torus(3, 1, 200, 100);
    Mesh far = Shapes.moved(Shapes.cube(1), 8000, 0, 0);
    Mesh m = Shapes.together(torus, far);
    int locked = 0;
    Regions r = of(m, 1024, 0);
    for (int v = 0; v < m.vertexCount(); v++) {
      locked += r.isLocked(v) ? 1 : 0;
    }
    assertThat(locked).isLessThan((int) (0.35 * m.vertexCount()));
  }

  @Test
  void pointsThatNoTriangleUsesAreInNone() {
    Mesh ball = Shapes.sphere(1, 2);
    float[] xyz = java.util.Arrays.copyOf(ball.xyz(), ball.xyz().length + 30);
    Regions r = of(new Mesh(xyz, ball.triangles()), 1 << 14, 0);
    assertThat(r.order).hasSize(ball.vertexCount());
    assertThat(r.count).isEqualTo(1);
    assertThat(of(new Mesh(new float[9], new int[0]), 64, 0).count).isZero();
  }
}

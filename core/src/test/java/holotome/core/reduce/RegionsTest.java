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
    assertThat(r.count).isBetween((7200 + 499) / 500, 4 * 7200 / 500);
    BitSet vertices = new BitSet();
    BitSet triangles = new BitSet();
    for (int g = 0; g <= r.count; g++) {
      assertThat(g == r.count || r.vertices(g) > 0 && r.vertices(g) <= 500).isTrue();
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
          same += r.regionOf(v) == g ? 1 : 0;
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

  /**
   * In the same grid regions far from a change are the same: only those around it are dealt anew.
   */
  @Test
  void aChangeSomewhereLeavesRegionsElsewhere() {
    Mesh m = Shapes.torus(3, 1, 200, 100);
    double[] extent = Regions.extent(m.xyz(), m.triangles());
    float[] more = java.util.Arrays.copyOf(m.xyz(), m.xyz().length + 3 * 900);
    int[] tri = java.util.Arrays.copyOf(m.triangles(), m.triangles().length + 3 * 300);
    for (int i = 0; i < 900; i++) {
      int v = m.vertexCount() + i;
      more[3 * v] = 4;
      more[3 * v + 1] = 0.001f * i;
      tri[m.triangles().length + i] = v;
    }
    Regions before = new Regions(m.xyz(), m.triangles(), 500, 1, extent, Work.unwatched());
    Regions after = new Regions(more, tri, 500, 1, extent, Work.unwatched());
    assertThat(after.count).isGreaterThan(before.count);
    int same = 0;
    for (int v = 0; v < m.vertexCount(); v++) {
      if (m.xyz()[3 * v] < -1) {
        same++;
        int a = before.regionOf(v);
        int b = after.regionOf(v);
        assertThat(after.vertices(b)).isEqualTo(before.vertices(a));
        assertThat(after.place[v] - after.firstVertex(b))
            .isEqualTo(before.place[v] - before.firstVertex(a));
      }
    }
    assertThat(same).isGreaterThan(5000);
  }
}

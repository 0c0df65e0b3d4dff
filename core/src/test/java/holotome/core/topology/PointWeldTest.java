package holotome.core.topology;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import org.junit.jupiter.api.Test;

class PointWeldTest {
  @Test
  void findsTheFirstPointOnEachSpot() {
    float[] xyz = {1, 2, 3, 0f, 0, 0, 1, 2, 3, -0f, 0, 0, 1, 2, 3.0000002f};
    assertThat(PointWeld.representatives(xyz, Work.unwatched())).containsExactly(0, 1, 0, 1, 4);
  }

  @Test
  void countsAgreeWithTheNaiveOne() {
    for (long seed = 0; seed < 5; seed++) {
      Mesh m = Shapes.mess(3000, seed);
      int[] first = PointWeld.representatives(m.xyz(), Work.unwatched());
      int doubled = 0;
      for (int v = 0; v < first.length; v++) {
        doubled += first[v] == v ? 0 : 1;
        assertThat(first[first[v]]).isEqualTo(first[v]);
      }
      assertThat(doubled).isEqualTo(Naive.doubledPoints(m));
    }
  }

  @Test
  void soupOfASphereBecomesClosedAgain() {
    Mesh s = Shapes.sphere(1, 3);
    float[] soup = new float[3 * s.triangles().length];
    for (int i = 0; i < s.triangles().length; i++) {
      System.arraycopy(s.xyz(), 3 * s.triangles()[i], soup, 3 * i, 3);
    }
    Mesh m = PointWeld.ofSoup(soup, Work.unwatched());
    assertThat(m.vertexCount()).isEqualTo(s.vertexCount());
    assertThat(Naive.closedAndOriented(m)).isTrue();
  }
}

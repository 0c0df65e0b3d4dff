package holotome.core.spatial;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Shapes;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import org.junit.jupiter.api.Test;

class ClusteredMeshTest {
  @Test
  void aBallStaysABall() {
    Mesh ball = Shapes.sphere(1, 6);
    Mesh light = ClusteredMesh.of(ball, 10_000, Work.unwatched());
    assertThat(light.triangleCount()).isBetween(3_000, 12_000);
    assertThat(Measures.area(light)).isCloseTo(4 * Math.PI, within(0.06));
    BvhQuery near = new BvhQuery(Bvh.of(ball));
    for (int v = 0; v < light.vertexCount(); v++) {
      float[] p = light.xyz();
      near.closest(p[3 * v], p[3 * v + 1], p[3 * v + 2], Float.POSITIVE_INFINITY);
      assertThat(near.distance).isLessThan(0.004f);
    }
  }

  @Test
  void aLightMeshIsItself() {
    Mesh m = Shapes.torus(1, 0.3, 40, 20);
    assertThat(ClusteredMesh.of(m, 1_600, Work.unwatched())).isSameAs(m);
  }

  @Test
  void theSameForAnyNumberOfThreads() {
    Mesh m = Shapes.mess(60_000, 5);
    Mesh a = ClusteredMesh.of(m, 2_000, Work.unwatched());
    Parallel.limitThreads(1);
    try {
      Mesh b = ClusteredMesh.of(m, 2_000, Work.unwatched());
      assertThat(b.xyz()).isEqualTo(a.xyz());
      assertThat(b.triangles()).isEqualTo(a.triangles());
    } finally {
      Parallel.limitThreads(1 << 10);
    }
    for (int t = 0; t < a.triangleCount(); t++) {
      int[] tri = a.triangles();
      assertThat(tri[3 * t]).isNotEqualTo(tri[3 * t + 1]).isNotEqualTo(tri[3 * t + 2]);
    }
  }

  @Test
  void allInOnePlaceLeavesNothing() {
    Mesh m = new Mesh(new float[9_000], new int[9_000]);
    assertThat(ClusteredMesh.of(m, 10, Work.unwatched()).triangleCount()).isZero();
  }

  @Test
  void itCanBeCancelled() {
    Work work = new Work();
    work.cancel();
    assertThatThrownBy(() -> ClusteredMesh.of(Shapes.sphere(1, 5), 100, work))
        .isInstanceOf(Failure.class);
  }
}

package holotome.core.topology;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Islands join by edges; counted beside a plain flood from triangle to triangle. */
class IslandsTest {

  /** Points on one spot made one vertex. */
  private static Mesh welded(Mesh m) {
    int[] first = PointWeld.representatives(m.xyz(), Work.unwatched());
    int[] tri = Arrays.stream(m.triangles()).map(v -> first[v]).toArray();
    return new Mesh(m.xyz(), tri);
  }

  @Test
  void whatHangsByAPointIsAPieceOfItsOwn() {
    Mesh two = welded(Shapes.together(Shapes.cube(2), Shapes.moved(Shapes.cube(2), 2, 2, 2)));
    Islands i = Islands.of(two);
    assertThat(i.count()).isEqualTo(2);
    assertThat(i.sizes()).containsExactly(12, 12);
    assertThat(
            Islands.of(
                    welded(Shapes.together(Shapes.cube(2), Shapes.moved(Shapes.cube(2), 2, 2, 0))))
                .count())
        .as("cubes along one edge")
        .isEqualTo(1);
  }

  @Test
  void asAPlainFloodFindsThem() {
    Random r = new Random(4);
    for (int round = 0; round < 60; round++) {
      int n = 1 + r.nextInt(300);
      int vertices = 3 + r.nextInt(round % 2 == 0 ? 200 : 2000);
      int[] tri = new int[3 * n];
      Arrays.setAll(tri, i -> r.nextInt(vertices));
      Mesh m = new Mesh(new float[3 * vertices], tri);
      Islands i = Islands.of(m);
      assertThat(i.count()).isEqualTo(Naive.islands(m));
      Islands known = Islands.of(Adjacency.of(m), Work.unwatched());
      assertThat(known.ofTriangle()).isEqualTo(i.ofTriangle());
      assertThat(known.sizes()).isEqualTo(i.sizes());
      assertThat(Arrays.stream(i.sizes()).sum()).isEqualTo(n);
      for (int k = 1; k < i.count(); k++) {
        assertThat(i.sizes()[k]).isLessThanOrEqualTo(i.sizes()[k - 1]);
      }
    }
  }

  /** A fan of many triangles around one vertex, with every tenth left out. */
  @Test
  void manyEdgesAtOneVertex() {
    int n = 5000;
    float[] xyz = new float[3 * (n + 1)];
    int[] tri = new int[3 * n];
    int count = 0;
    for (int i = 0; i < n; i++) {
      if (i % 10 != 9) {
        tri[3 * count] = 0;
        tri[3 * count + 1] = 1 + i;
        tri[3 * count++ + 2] = 1 + (i + 1) % n;
      }
    }
    Mesh m = new Mesh(xyz, Arrays.copyOf(tri, 3 * count));
    assertThat(Islands.of(m).count()).isEqualTo(n / 10);
  }

  @Test
  void theSameOnOneThreadAndMany() {
    Mesh m = Shapes.together(Shapes.sphere(1, 6), Shapes.moved(Shapes.sphere(1, 6), 3, 0, 0));
    // More vertices than one share holds.
    for (int i = 0; i < 4; i++) {
      m = Shapes.together(m, Shapes.moved(m, 0, 9 * (i + 1), 0));
    }
    Islands many = Islands.of(m);
    Parallel.limitThreads(1);
    try {
      Islands one = Islands.of(m);
      assertThat(one.ofTriangle()).isEqualTo(many.ofTriangle());
      assertThat(one.count()).isEqualTo(32);
    } finally {
      Parallel.limitThreads(64);
    }
  }

  /** Sound pieces that hang together along edges of three and four triangles. */
  @Test
  void edgesOfManyTrianglesJoin() {
    Mesh[] cubes = new Mesh[12];
    for (int i = 0; i < cubes.length; i++) {
      // Along edges in threes, apart from the next three.
      cubes[i] = Shapes.moved(Shapes.cube(2), 2 * (i % 3) + 10.0 * (i / 3), 2 * (i % 3), 0);
    }
    Mesh m =
        welded(Shapes.together(Shapes.together(cubes), Shapes.moved(Shapes.sphere(1, 3), 0, 0, 9)));
    Adjacency adjacency = Adjacency.of(m);
    assertThat(adjacency.crowdedEdges()).isEqualTo(8);
    Islands known = Islands.of(adjacency, Work.unwatched());
    assertThat(known.count()).isEqualTo(5);
    assertThat(known.ofTriangle()).isEqualTo(Islands.of(m).ofTriangle());
  }
}

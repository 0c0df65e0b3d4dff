package holotome.core.measure;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Datasets;
import holotome.core.Shapes;
import holotome.core.geometry.Placing;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.io.MeshReader;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.Arrays;
import java.util.Comparator;
import java.util.PriorityQueue;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;

/** What must hold of measurements on any mesh, tried on the bunny and on messes. */
class MeasurePropertiesTest {
  private static Mesh bunny() {
    return MeshReader.read(Datasets.file("bunny.obj"), Work.unwatched()).mesh();
  }

  /** The way along edges alone, by Dijkstra's method in its plainest form. */
  private static double alongEdges(Mesh mesh, int from, int to) {
    int n = mesh.vertexCount();
    double[] so = new double[n];
    Arrays.fill(so, Double.POSITIVE_INFINITY);
    so[from] = 0;
    int[][] near = new int[n][0];
    int[] tri = mesh.triangles();
    for (int h = 0; h < tri.length; h++) {
      int b = tri[h % 3 == 2 ? h - 2 : h + 1];
      near[tri[h]] = Arrays.copyOf(near[tri[h]], near[tri[h]].length + 1);
      near[tri[h]][near[tri[h]].length - 1] = b;
      near[b] = Arrays.copyOf(near[b], near[b].length + 1);
      near[b][near[b].length - 1] = tri[h];
    }
    PriorityQueue<double[]> open = new PriorityQueue<>(Comparator.comparingDouble(x -> x[0]));
    open.add(new double[] {0, from});
    while (!open.isEmpty()) {
      double[] next = open.poll();
      int v = (int) next[1];
      if (next[0] > so[v]) {
        continue;
      }
      for (int u : near[v]) {
        double d = so[v] + Vec.distance(Vec.at(mesh.xyz(), v), Vec.at(mesh.xyz(), u));
        if (d < so[u]) {
          so[u] = d;
          open.add(new double[] {d, u});
        }
      }
    }
    return so[to];
  }

  @Test
  void aWayIsNoShorterThanStraightNorLongerThanAlongEdgesAndLiesOnTheSurface() {
    Mesh mesh = bunny();
    BvhQuery query = new BvhQuery(Bvh.of(mesh));
    SplittableRandom random = new SplittableRandom(12);
    double size = mesh.bounds().diagonal();
    int tried = 0;
    while (tried < 14) {
      int a = random.nextInt(mesh.vertexCount());
      int b = random.nextInt(mesh.vertexCount());
      double edges = alongEdges(mesh, a, b);
      if (a == b || Double.isInfinite(edges)) {
        continue;
      }
      tried++;
      double[] p = Vec.at(mesh.xyz(), a);
      double[] q = Vec.at(mesh.xyz(), b);
      SurfacePath way = SurfacePath.between(mesh, p, q, Work.unwatched());
      assertThat(way.length()).isGreaterThanOrEqualTo(Vec.distance(p, q) * (1 - 1e-9));
      assertThat(way.length()).isLessThanOrEqualTo(edges * (1 + 1e-9));
      for (int i = 0; i < way.points().length; i += 3) {
        query.closest(
            (float) way.points()[i],
            (float) way.points()[i + 1],
            (float) way.points()[i + 2],
            Float.POSITIVE_INFINITY);
        assertThat((double) query.distance).isLessThan(1e-5 * size);
      }
    }
  }

  @Test
  void theHullReachesAsFarAsThePointsInEveryDirection() {
    SplittableRandom random = new SplittableRandom(5);
    for (Mesh mesh : new Mesh[] {bunny(), Shapes.mess(2000, 9), Shapes.torus(1, 0.2, 70, 30)}) {
      Hull hull = Hull.of(mesh.xyz());
      double size = mesh.bounds().diagonal();
      for (int i = 0; i < 60; i++) {
        double[] d =
            Vec.unit(Vec.of(random.nextGaussian(), random.nextGaussian(), random.nextGaussian()));
        double points = Double.NEGATIVE_INFINITY;
        for (int v = 0; v < mesh.vertexCount(); v++) {
          points = Math.max(points, Vec.dot(Vec.at(mesh.xyz(), v), d));
        }
        double corners = Double.NEGATIVE_INFINITY;
        for (int c = 0; c < hull.cornerCount(); c++) {
          corners = Math.max(corners, Vec.dot(hull.corner(c), d));
        }
        assertThat(corners).isCloseTo(points, within(1e-6 * size));
      }
    }
  }

  @Test
  void theSmallestBoxHoldsAllAndIsNoLargerThanThePlainOne() {
    SplittableRandom random = new SplittableRandom(6);
    Mesh mesh = bunny();
    double least = Double.POSITIVE_INFINITY;
    double most = 0;
    for (int i = 0; i < 5; i++) {
      double[] axis =
          Vec.unit(Vec.of(random.nextGaussian(), random.nextGaussian(), random.nextGaussian()));
      float[] turned = Placing.apply(mesh.xyz(), Similarity.turning(axis, 3 * random.nextDouble()));
      SmallestBox box = SmallestBox.of(Hull.of(turned));
      for (int v = 0; v < mesh.vertexCount(); v += 3) {
        double[] p = Vec.sub(Vec.at(turned, v), box.centre());
        for (int k = 0; k < 3; k++) {
          double[] a = Arrays.copyOfRange(box.axes(), 3 * k, 3 * k + 3);
          assertThat(Math.abs(Vec.dot(p, a)))
              .isLessThanOrEqualTo(box.size()[k] / 2 + 1e-5 * box.size()[0]);
        }
      }
      var b = mesh.withPositions(turned).bounds();
      assertThat(box.volume()).isLessThanOrEqualTo(b.width() * b.depth() * b.height() * (1 + 1e-6));
      least = Math.min(least, box.volume());
      most = Math.max(most, box.volume());
    }
    // However the mesh lies, the same box is found, or one as good within a hundredth.
    assertThat(most).isLessThan(1.01 * least);
  }

  @Test
  void oneThreadAndManyMeasureTheSame() {
    Mesh mesh = bunny();
    double[] p = Vec.at(mesh.xyz(), 100);
    double reach = 0.1 * mesh.bounds().diagonal();
    Patch many = Patch.around(mesh, p, reach, Work.unwatched());
    Parallel.limitThreads(1);
    try {
      Patch one = Patch.around(mesh, p, reach, Work.unwatched());
      assertThat(one.triangles()).isEqualTo(many.triangles());
      assertThat(one.plane().normal()).isEqualTo(many.plane().normal());
    } finally {
      Parallel.limitThreads(1 << 10);
    }
  }
}

package holotome.core.spatial;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.Datasets;
import holotome.core.Shapes;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.Arrays;
import java.util.Random;
import java.util.SplittableRandom;
import java.util.concurrent.atomic.AtomicLong;
import org.junit.jupiter.api.Test;

/** Eight at once answer as one after the other, and nothing slips between triangles. */
class LanesTest {
  private static final BvhQuery.Facing[] FACINGS = BvhQuery.Facing.values();

  private static Mesh[] meshes() {
    Mesh ball = Shapes.sphere(1, 4);
    float[] far = ball.xyz().clone();
    for (int i = 0; i < far.length; i++) {
      far[i] += 1e6f;
    }
    return new Mesh[] {
      ball,
      Shapes.mess(3000, 9),
      Shapes.torus(3, 1, 200, 60),
      Shapes.sheet(2, 30),
      Shapes.cube(1),
      ball.withPositions(far)
    };
  }

  private static float[] ray(Mesh m, Random r) {
    float[] out = new float[6];
    int v = 3 * r.nextInt(m.vertexCount());
    for (int k = 0; k < 3; k++) {
      out[k] = m.xyz()[v + k] + (float) (r.nextInt(3) * r.nextGaussian());
      // Along an axis, aimed at a vertex, or anywhere.
      out[3 + k] = (float) (r.nextInt(4) == 0 ? 0 : r.nextGaussian());
    }
    return out;
  }

  /** The vectors are there in tests: the build starts them with the module. */
  @Test
  void theFastWayIsTheOneThatIsTested() {
    boolean isWide = jdk.incubator.vector.FloatVector.SPECIES_PREFERRED.length() >= Bvh.WIDE;
    assertThat(Lanes.best() instanceof VectorLanes).isEqualTo(isWide);
  }

  @Test
  void bothWaysAnswerTheSameToTheLastBit() {
    Random random = new Random(3);
    for (Mesh m : meshes()) {
      Bvh bvh = Bvh.of(m);
      BvhQuery fast = new BvhQuery(bvh, Lanes.best());
      BvhQuery plain = new BvhQuery(bvh, new PlainLanes());
      for (int i = 0; i < 20_000; i++) {
        float[] r = ray(m, random);
        float from = random.nextInt(2) * random.nextFloat();
        float to = random.nextInt(2) == 0 ? Float.POSITIVE_INFINITY : 3 * random.nextFloat();
        BvhQuery.Facing facing = FACINGS[i % 3];
        boolean hit = fast.ray(r[0], r[1], r[2], r[3], r[4], r[5], from, to, facing);
        assertThat(plain.ray(r[0], r[1], r[2], r[3], r[4], r[5], from, to, facing)).isEqualTo(hit);
        if (hit) {
          same(fast, plain);
        }
        for (BvhQuery q : new BvhQuery[] {fast, plain}) {
          assertThat(q.isBlocked(r[0], r[1], r[2], r[3], r[4], r[5], from, to, facing))
              .isEqualTo(hit);
        }
        hit = fast.closest(r[0], r[1], r[2], to);
        assertThat(plain.closest(r[0], r[1], r[2], to)).isEqualTo(hit);
        if (hit) {
          same(fast, plain);
        }
      }
    }
  }

  private static void same(BvhQuery a, BvhQuery b) {
    assertThat(b.triangle).isEqualTo(a.triangle);
    assertThat(b.distance).isEqualTo(a.distance);
    assertThat(b.u).isEqualTo(a.u);
    assertThat(b.v).isEqualTo(a.v);
  }

  @Test
  void bothWaysPartBoxesAlike() {
    Random random = new Random(4);
    for (int count : new int[] {9, 40, 300, 5000}) {
      for (int kind = 0; kind < 3; kind++) {
        float[] boxes = new float[BvhSplitter.BOX * count];
        for (int i = 0; i < count; i++) {
          for (int k = 0; k < 3; k++) {
            float at = kind == 1 && k > 0 ? 1 : kind == 2 ? i % 2 : (float) random.nextGaussian();
            boxes[BvhSplitter.BOX * i + k] = at;
            boxes[BvhSplitter.BOX * i + BvhSplitter.HIGH + k] = -at - random.nextInt(2) * 0.1f;
          }
        }
        int[] ids = new int[count];
        int[] weights = new int[count];
        Arrays.setAll(ids, i -> i);
        Arrays.setAll(weights, i -> 1 + random.nextInt(50));
        for (int[] w : new int[][] {null, weights}) {
          int[] one = ids.clone();
          int[] other = ids.clone();
          BvhNodes a = new BvhNodes(1);
          BvhNodes b = new BvhNodes(1);
          tree(a, new PlainSplitter(one, boxes.clone(), w), 0);
          tree(b, BvhSplitter.of(other, boxes.clone(), w), 0);
          assertThat(Arrays.equals(other, one)).isTrue();
          assertThat(Arrays.equals(b.planes, a.planes)).isTrue();
          assertThat(Arrays.equals(b.frames, a.frames)).isTrue();
        }
      }
    }
  }

  private static void tree(BvhNodes nodes, BvhSplitter splitter, int base) {
    int most = splitter.weights == null ? Bvh.WIDE : 100;
    new BvhTree(nodes, splitter, most).make(0, splitter.ids.length, base);
  }

  /** A stray triangle far off makes one cell of all the rest; the tree is as good. */
  @Test
  void aStrayTriangleFarOff() {
    Mesh torus = Shapes.torus(3, 1, 400, 120);
    Mesh both = Shapes.together(torus, Shapes.moved(Shapes.cube(1), 1e5, 0, 0));
    Bvh bvh = Bvh.of(both);
    BvhQuery with = new BvhQuery(bvh);
    BvhQuery without = new BvhQuery(Bvh.of(torus));
    Random random = new Random(7);
    for (int i = 0; i < 5000; i++) {
      float[] r = ray(torus, random);
      boolean hit = without.ray(r[0], r[1], r[2], r[3], r[4], r[5], 0, 100, BvhQuery.Facing.ANY);
      assertThat(with.ray(r[0], r[1], r[2], r[3], r[4], r[5], 0, 100, BvhQuery.Facing.ANY))
          .isEqualTo(hit);
      if (hit) {
        assertThat(with.distance).isEqualTo(without.distance);
      }
    }
  }

  /** Places that are no numbers, endless or huge: nothing fails, and sound triangles are found. */
  @Test
  void roughPlaces() {
    Mesh ball = Shapes.sphere(1, 4);
    for (float bad : new float[] {Float.NaN, Float.POSITIVE_INFINITY, 1e38f, -3e30f}) {
      for (int every : new int[] {1, 7, 3000}) {
        float[] xyz = ball.xyz().clone();
        for (int i = 0; i < xyz.length; i += every) {
          xyz[i] = bad;
        }
        BvhQuery q = new BvhQuery(Bvh.of(ball.withPositions(xyz)));
        q.ray(0, 0, 5, 0, 0, -1, 0, 100, BvhQuery.Facing.ANY);
        q.isBlocked(0, 0, 5, 0.1f, 0, -1, 0, 100, BvhQuery.Facing.ANY);
        q.closest(0, 0, 5, 100);
      }
    }
    Mesh one = new Mesh(new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0}, new int[] {0, 1, 2, 0, 0, 0});
    float[] far = {0, 0, 0, 1, 0, 0, 0, 1, 0, 1e30f, 0, 0, 0, 1e30f, 0, Float.NaN, 0, 0};
    Mesh rough = new Mesh(far, new int[] {3, 4, 5, 0, 1, 2, 3, 4, 0});
    for (Mesh m : new Mesh[] {one, rough}) {
      BvhQuery q = new BvhQuery(Bvh.of(m));
      assertThat(q.ray(0.2f, 0.2f, 1, 0, 0, -1, 0, 9, BvhQuery.Facing.FRONT)).isTrue();
      assertThat(q.distance).isEqualTo(1);
      assertThat(q.closest(0.2f, 0.2f, 1, 9)).isTrue();
      assertThat(q.distance).isEqualTo(1);
    }
  }

  /** The same nodes and order, whatever the number of threads. */
  @Test
  void theTreeDoesNotDependOnThreads() {
    Mesh m = Shapes.torus(3, 1, 700, 200);
    Bvh many = new BvhBuilder(m).build(Work.unwatched());
    Parallel.limitThreads(1);
    Bvh one = new BvhBuilder(m).build(Work.unwatched());
    Parallel.limitThreads(Runtime.getRuntime().availableProcessors());
    assertThat(Arrays.equals(one.ids, many.ids)).isTrue();
    assertThat(Arrays.equals(one.children, many.children)).isTrue();
    assertThat(Arrays.equals(one.planes, many.planes)).isTrue();
    assertThat(Arrays.equals(one.corners, many.corners)).isTrue();
  }

  /** Every triangle once, within the boxes of all nodes above it. */
  @Test
  void boxesHoldWhatLiesBelow() {
    for (Mesh m : meshes()) {
      Bvh bvh = new BvhBuilder(m).build(Work.unwatched());
      int[] sorted = bvh.ids.clone();
      Arrays.sort(sorted);
      for (int t = 0; t < sorted.length; t++) {
        assertThat(sorted[t]).isEqualTo(t);
      }
      assertThat(below(bvh, 0, new double[6])).isEqualTo(m.triangleCount());
    }
  }

  private static int below(Bvh bvh, int node, double[] out) {
    int count = 0;
    Arrays.fill(out, 0, 3, Double.POSITIVE_INFINITY);
    Arrays.fill(out, 3, 6, Double.NEGATIVE_INFINITY);
    for (int i = 0; i < Bvh.WIDE && bvh.children[Bvh.WIDE * node + i] != Bvh.NONE; i++) {
      int ref = bvh.children[Bvh.WIDE * node + i];
      double[] b = new double[6];
      if (ref >= 0) {
        count += below(bvh, ref, b);
      } else {
        int n = Bvh.countOf(ref);
        count += n;
        Arrays.fill(b, 0, 3, Double.POSITIVE_INFINITY);
        Arrays.fill(b, 3, 6, Double.NEGATIVE_INFINITY);
        for (int j = 0; j < 9 * n; j++) {
          int axis = j / n % 3;
          float x = bvh.corners[9 * Bvh.firstOf(ref) + j];
          b[axis] = Math.min(b[axis], x);
          b[3 + axis] = Math.max(b[3 + axis], x);
        }
      }
      for (int k = 0; k < 3; k++) {
        double step = bvh.frames[6 * node + 3 + k];
        double origin = bvh.frames[6 * node + k];
        double low = origin + bvh.planes[48 * node + 8 * k + i] * step;
        double high = origin + bvh.planes[48 * node + 24 + 8 * k + i] * step;
        assertThat(low).isLessThan(b[k]);
        assertThat(high).isGreaterThan(b[3 + k]);
        out[k] = Math.min(out[k], b[k]);
        out[3 + k] = Math.max(out[3 + k], b[3 + k]);
      }
    }
    return count;
  }

  /**
   * From within closed meshes at vertices, along edges and anywhere else: no ray gets out. A
   * million rays, a hundred million at length.
   */
  @Test
  void noRayLeaks() {
    Mesh[] closed = {
      Shapes.sphere(1, 5), Shapes.torus(3, 1, 120, 40), Shapes.cube(2), Shapes.gridCube(12)
    };
    float[][] inside = {{0.1f, 0.2f, -0.1f}, {3.1f, 0.2f, 0.1f}, {0.3f, 0.1f, 0.2f}, null};
    int each = Datasets.times(250_000, 25_000_000);
    for (int i = 0; i < closed.length; i++) {
      Mesh m = closed[i];
      Bvh bvh = Bvh.of(m);
      float[] b = bvh.bounds();
      float[] from =
          inside[i] == null
              ? new float[] {(b[0] + b[3]) / 2, (b[1] + b[4]) / 2 + 1e-3f, (b[2] + b[5]) / 2}
              : inside[i];
      AtomicLong leaks = new AtomicLong();
      Parallel.range(
          each,
          1 << 14,
          Work.unwatched(),
          (first, end) -> {
            BvhQuery q = new BvhQuery(bvh);
            SplittableRandom r = new SplittableRandom(first);
            float[] d = new float[3];
            for (int k = first; k < end; k++) {
              aim(m, from, r, d);
              boolean hit =
                  q.isBlocked(
                      from[0], from[1], from[2], d[0], d[1], d[2], 0, 1e9f, BvhQuery.Facing.ANY);
              leaks.addAndGet(hit ? 0 : 1);
            }
          });
      assertThat(leaks.get()).isZero();
    }
  }

  /** Towards a vertex, a place on an edge, or a place on a triangle. */
  private static void aim(Mesh m, float[] from, SplittableRandom r, float[] d) {
    int t = 3 * r.nextInt(m.triangleCount());
    int kind = r.nextInt(3);
    double s = kind == 0 ? 0 : r.nextDouble();
    double u = kind < 2 ? 0 : (1 - s) * r.nextDouble();
    for (int k = 0; k < 3; k++) {
      double a = m.xyz()[3 * m.triangles()[t] + k];
      double b = m.xyz()[3 * m.triangles()[t + 1] + k];
      double c = m.xyz()[3 * m.triangles()[t + 2] + k];
      d[k] = (float) (a + s * (b - a) + u * (c - a) - from[k]);
    }
  }

  /** The index of a mesh is kept as long as its places and triangles are the same. */
  @Test
  void theIndexIsKept() {
    Mesh m = Shapes.sphere(1, 3);
    Bvh first = Bvh.of(m);
    assertThat(Bvh.of(m)).isSameAs(first);
    assertThat(Bvh.of(Shapes.coloured(m).with(m.attributes(), m.materials()))).isNotNull();
    assertThat(Bvh.of(m.withPositions(m.xyz().clone()))).isNotSameAs(first);
    assertThat(Bvh.of(m)).isSameAs(first);
  }
}

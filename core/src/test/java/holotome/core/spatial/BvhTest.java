package holotome.core.spatial;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Shapes;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Rays and closest points against a look at every triangle. */
class BvhTest {
  private static final Mesh[] MESHES = {
    Shapes.sphere(1, 3),
    Shapes.torus(2, 0.5, 40, 20),
    Shapes.mess(500, 4),
    Shapes.cube(1),
    Shapes.sheet(2, 1)
  };

  /** The first hit along a ray by Cramer's rule in double precision on every triangle. */
  private static double nearest(Mesh m, double[] o, double[] d) {
    double best = Double.POSITIVE_INFINITY;
    for (int t = 0; t < m.triangleCount(); t++) {
      double[] a = Vec.at(m.xyz(), m.triangles()[3 * t]);
      double[] u = Vec.sub(Vec.at(m.xyz(), m.triangles()[3 * t + 1]), a);
      double[] v = Vec.sub(Vec.at(m.xyz(), m.triangles()[3 * t + 2]), a);
      double[] n = Vec.cross(u, v);
      double down = Vec.dot(n, d);
      if (down == 0) {
        continue;
      }
      double k = Vec.dot(n, Vec.sub(a, o)) / down;
      double[] p = Vec.sub(Vec.add(o, Vec.mul(d, k)), a);
      double nn = Vec.dot(n, n);
      double b = Vec.dot(Vec.cross(p, v), n) / nn;
      double c = Vec.dot(Vec.cross(u, p), n) / nn;
      if (k >= 0 && b >= 0 && c >= 0 && b + c <= 1) {
        best = Math.min(best, k);
      }
    }
    return best;
  }

  @Test
  void raysMeetWhatALookAtEveryTriangleMeets() {
    Random r = new Random(11);
    for (Mesh m : MESHES) {
      BvhQuery q = new BvhQuery(Bvh.of(m));
      int different = 0;
      for (int i = 0; i < 2000; i++) {
        double[] o = {
          (float) (4 * r.nextGaussian()),
          (float) (4 * r.nextGaussian()),
          (float) (4 * r.nextGaussian())
        };
        double[] to = {r.nextGaussian(), r.nextGaussian(), r.nextGaussian()};
        double[] d = Vec.unit(Vec.sub(to, o));
        for (int k = 0; k < 3; k++) {
          d[k] = (float) d[k];
        }
        double expected = nearest(m, o, d);
        boolean hit =
            q.ray(
                (float) o[0],
                (float) o[1],
                (float) o[2],
                (float) d[0],
                (float) d[1],
                (float) d[2],
                0,
                Float.POSITIVE_INFINITY,
                BvhQuery.Facing.ANY);
        if (hit != Double.isFinite(expected)
            || hit && Math.abs(q.distance - expected) > 1e-4 * (1 + expected)) {
          different++;
        }
      }
      // A ray that grazes an edge within a float's rounding may go either way.
      assertThat(different).isLessThanOrEqualTo(4);
    }
  }

  @Test
  void facingChoosesTheSide() {
    BvhQuery q = new BvhQuery(Bvh.of(Shapes.sphere(1, 3)));
    assertThat(q.ray(0.1f, 0.2f, 5, 0, 0, -1, 0, 100, BvhQuery.Facing.FRONT)).isTrue();
    assertThat(q.distance).isBetween(4f, 4.1f);
    assertThat(q.ray(0.1f, 0.2f, 5, 0, 0, -1, 0, 100, BvhQuery.Facing.BACK)).isTrue();
    assertThat(q.distance).isBetween(5.9f, 6f);
    assertThat(q.ray(0.1f, 0.2f, 5, 0, 0, -1, 0, 3.9f, BvhQuery.Facing.ANY)).isFalse();
  }

  @Test
  void noRaySlipsThroughAClosedMesh() {
    Random r = new Random(12);
    Mesh m = Shapes.sphere(1, 4);
    BvhQuery q = new BvhQuery(Bvh.of(m));
    for (int i = 0; i < 20_000; i++) {
      // From the inside, aimed at vertices and edge middles: where cracks would be.
      int t = r.nextInt(m.triangleCount());
      double[] a = Vec.at(m.xyz(), m.triangles()[3 * t]);
      double[] b = Vec.at(m.xyz(), m.triangles()[3 * t + 1]);
      double[] d = i % 2 == 0 ? a : Vec.mul(Vec.add(a, b), 0.5);
      assertThat(
              q.ray(0, 0, 0, (float) d[0], (float) d[1], (float) d[2], 0, 10, BvhQuery.Facing.ANY))
          .isTrue();
    }
  }

  @Test
  void closestPointsOfASphereAreRadial() {
    Random r = new Random(13);
    BvhQuery q = new BvhQuery(Bvh.of(Shapes.sphere(1, 5)));
    for (int i = 0; i < 5000; i++) {
      double[] p = Vec.of(2 * r.nextGaussian(), 2 * r.nextGaussian(), 2 * r.nextGaussian());
      q.closest((float) p[0], (float) p[1], (float) p[2], Float.POSITIVE_INFINITY);
      assertThat((double) q.distance).isCloseTo(Math.abs(Vec.length(p) - 1), within(1e-3));
    }
  }

  @Test
  void closestAgreesWithEveryTriangleAskedAlone() {
    Random r = new Random(14);
    Mesh m = Shapes.mess(200, 6);
    BvhQuery q = new BvhQuery(Bvh.of(m));
    BvhQuery[] single = new BvhQuery[m.triangleCount()];
    for (int t = 0; t < single.length; t++) {
      int[] c = {m.triangles()[3 * t], m.triangles()[3 * t + 1], m.triangles()[3 * t + 2]};
      single[t] = new BvhQuery(Bvh.of(new Mesh(m.xyz(), c)));
    }
    for (int i = 0; i < 300; i++) {
      float x = 6 * r.nextFloat() - 1;
      float y = 6 * r.nextFloat() - 1;
      float z = 6 * r.nextFloat() - 1;
      float best = Float.POSITIVE_INFINITY;
      for (BvhQuery s : single) {
        if (s.closest(x, y, z, Float.POSITIVE_INFINITY)) {
          best = Math.min(best, s.distance);
        }
      }
      q.closest(x, y, z, Float.POSITIVE_INFINITY);
      assertThat(q.distance).isCloseTo(best, within(1e-5f));
    }
  }

  @Test
  void emptyMeshAnswersNothing() {
    BvhQuery q = new BvhQuery(Bvh.of(new Mesh(new float[0], new int[0])));
    assertThat(q.ray(0, 0, 0, 1, 0, 0, 0, 1, BvhQuery.Facing.ANY)).isFalse();
    assertThat(q.closest(0, 0, 0, 1)).isFalse();
  }

  @Test
  void distanceOfParallelSheetsIsTheirGap() {
    Mesh a = Shapes.sheet(1, 4);
    Mesh b = Shapes.moved(Shapes.sheet(1, 7), 0, 0, 0.25);
    SurfaceDistance d = SurfaceDistance.of(a, b, 10_000, Work.unwatched());
    assertThat(d.rms()).isCloseTo(0.25, within(1e-6));
    assertThat(d.max()).isCloseTo(0.25, within(1e-6));
    assertThat(d.p95()).isCloseTo(0.25, within(1e-6));
  }

  @Test
  void selfIntersectionsOfCrossingSheets() {
    Mesh sphere = Shapes.sphere(1, 3);
    assertThat(SelfIntersections.count(sphere, Work.unwatched())).isZero();
    float[] flat = {-1, -1, 0, 1, -1, 0, 0, 1, 0, -0.1f, 0, -1, 0.1f, 0, -1, 0, 0.1f, 1};
    assertThat(
            SelfIntersections.count(new Mesh(flat, new int[] {0, 1, 2, 3, 4, 5}), Work.unwatched()))
        .isEqualTo(1);
    Mesh two = Shapes.together(sphere, Shapes.moved(sphere, 0.9, 0.03, 0.05));
    assertThat(SelfIntersections.count(two, Work.unwatched())).isGreaterThan(20);
  }

  @Test
  void planesOfACubeAreFoundWithTheirShares() {
    Mesh m =
        Shapes.together(
            Shapes.moved(Shapes.sheet(4, 10), -2, -2, 0),
            Shapes.moved(Shapes.sphere(0.5, 3), 0, 0, 1));
    var found = PlaneFinder.find(m, 0.01, 1, Work.unwatched());
    assertThat(found).hasSize(1);
    double sheet = 16 / (16 + Math.PI);
    assertThat(found.getFirst().share()).isCloseTo(sheet, within(0.01));
    assertThat(found.getFirst().normal()[2]).isCloseTo(1, within(1e-9));
  }
}

package holotome.core.spatial;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Shapes;
import holotome.core.geometry.Vec;
import holotome.core.intake.Inspection;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Queries and findings against formulas, and against looking at everything one by one. */
class TruthTest {
  /** Whether segment p q pierces triangle a b c, in doubles, away from borders. */
  private static boolean pierces(double[] p, double[] q, double[] a, double[] b, double[] c) {
    double[] n = Vec.cross(Vec.sub(b, a), Vec.sub(c, a));
    double dp = Vec.dot(n, Vec.sub(p, a));
    double dq = Vec.dot(n, Vec.sub(q, a));
    if (dp * dq >= 0) {
      return false;
    }
    double[] x = Vec.add(p, Vec.mul(Vec.sub(q, p), dp / (dp - dq)));
    double s = Vec.dot(n, Vec.cross(Vec.sub(b, a), Vec.sub(x, a)));
    double t = Vec.dot(n, Vec.cross(Vec.sub(c, b), Vec.sub(x, b)));
    double u = Vec.dot(n, Vec.cross(Vec.sub(a, c), Vec.sub(x, c)));
    return s > 0 && t > 0 && u > 0;
  }

  private static double[][] corners(Mesh m, int t) {
    double[][] c = new double[3][];
    for (int k = 0; k < 3; k++) {
      c[k] = Vec.at(m.xyz(), m.triangles()[3 * t + k]);
    }
    return c;
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5})
  void selfIntersectionsAreThosePairsWhereAnEdgePiercesATriangle(long seed) {
    // Loose triangles with corners of their own, so that no two share a vertex.
    Random r = new Random(seed);
    int n = 120;
    float[] xyz = new float[9 * n];
    int[] tri = new int[3 * n];
    for (int t = 0; t < n; t++) {
      double[] at = {r.nextDouble(), r.nextDouble(), r.nextDouble()};
      for (int i = 0; i < 9; i++) {
        xyz[9 * t + i] = (float) (at[i % 3] + 0.25 * r.nextGaussian());
      }
      for (int k = 0; k < 3; k++) {
        tri[3 * t + k] = 3 * t + k;
      }
    }
    Mesh m = new Mesh(xyz, tri);
    long pairs = 0;
    for (int i = 0; i < n; i++) {
      double[][] a = corners(m, i);
      for (int j = i + 1; j < n; j++) {
        double[][] b = corners(m, j);
        boolean cut = false;
        for (int k = 0; k < 3; k++) {
          cut |= pierces(a[k], a[(k + 1) % 3], b[0], b[1], b[2]);
          cut |= pierces(b[k], b[(k + 1) % 3], a[0], a[1], a[2]);
        }
        pairs += cut ? 1 : 0;
      }
    }
    assertThat(pairs).isPositive();
    assertThat(SelfIntersections.count(m, Work.unwatched())).isEqualTo(pairs);
  }

  @Test
  void neighboursOfACleanMeshDoNotCountAsIntersections() {
    for (Mesh m : List.of(Shapes.sphere(1, 4), Shapes.torus(2, 0.5, 40, 20), Shapes.cube(1))) {
      assertThat(SelfIntersections.count(m, Work.unwatched())).isZero();
    }
    Mesh crossed =
        Shapes.together(Shapes.sphere(1, 3), Shapes.moved(Shapes.sphere(1, 3), 1, 0.031, 0.017));
    long count = SelfIntersections.count(crossed, Work.unwatched());
    // The circle where they cross has radius sqrt(3)/2; each triangle along it meets a few others.
    assertThat(count).isBetween(80L, 400L);
  }

  /** Two balls about one centre stand apart by the difference of their radii, all around. */
  @Test
  void distanceOfConcentricBallsIsTheDifferenceOfRadii() {
    Mesh inner = Shapes.sphere(1, 6);
    Mesh outer = Shapes.sphere(1.25, 6);
    for (Mesh[] pair : new Mesh[][] {{inner, outer}, {outer, inner}}) {
      SurfaceDistance d = SurfaceDistance.of(pair[0], pair[1], 20_000, Work.unwatched());
      assertThat(d.rms()).isCloseTo(0.25, within(0.001));
      assertThat(d.mean()).isCloseTo(0.25, within(0.001));
      assertThat(d.max()).isCloseTo(0.25, within(0.002));
      assertThat(d.p95()).isLessThanOrEqualTo(d.max());
    }
    SurfaceDistance same = SurfaceDistance.of(inner, inner, 20_000, Work.unwatched());
    assertThat(same.max()).isLessThan(1e-6);
  }

  @Test
  void samplesAreSpreadByArea() {
    // A sheet of area 1 and one of area 9: samples fall as 1 to 9.
    Mesh m = Shapes.together(Shapes.sheet(1, 3), Shapes.moved(Shapes.sheet(3, 40), 10, 0, 0));
    float[] p = SurfaceDistance.sample(m, 20_000);
    int small = 0;
    for (int i = 0; i < p.length; i += 3) {
      small += p[i] < 5 ? 1 : 0;
    }
    assertThat((double) small / (p.length / 3.0)).isCloseTo(0.1, within(0.01));
  }

  /** A plane under noise and clutter: found within the error that least squares leaves. */
  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3})
  void groundUnderNoiseIsFound(long seed) {
    Random r = new Random(seed);
    Mesh sheet = Shapes.sheet(10, 120);
    float[] xyz = sheet.xyz().clone();
    double noise = 0.01;
    for (int i = 2; i < xyz.length; i += 3) {
      xyz[i] = (float) (0.3 * xyz[i - 2] - 0.1 * xyz[i - 1] + 2 + noise * r.nextGaussian());
    }
    Mesh m =
        Shapes.together(sheet.withPositions(xyz), Shapes.moved(Shapes.sphere(1.5, 4), 5, 5, 4.5));
    PlaneFinder.Flat f = PlaneFinder.find(m, 0.05, 1, Work.unwatched()).getFirst();
    double[] truth = Vec.unit(new double[] {-0.3, 0.1, 1});
    double off = Math.toDegrees(Math.acos(Math.min(1, Math.abs(Vec.dot(truth, f.normal())))));
    assertThat(off).isLessThan(0.05);
    // It faces what stands on it, the ball above.
    assertThat(Vec.dot(truth, f.normal())).isPositive();
    assertThat(f.rms()).isBetween(0.5 * noise, 1.5 * noise);
    assertThat(f.share()).isBetween(0.7, 0.95);
    Parallel.limitThreads(1);
    try {
      PlaneFinder.Flat one = PlaneFinder.find(m, 0.05, 1, Work.unwatched()).getFirst();
      assertThat(one.normal()).isEqualTo(f.normal());
    } finally {
      Parallel.limitThreads(64);
    }
  }

  @Test
  void doubledPointsTearWhereBordersLieOnEachOther() {
    Mesh whole = Shapes.sheet(1, 10);
    assertThat(Inspection.of(whole, false, Work.unwatched()).tornEdges()).isZero();
    // The same sheet as loose triangles: each inner edge is torn, seen from both sides.
    float[] soup = new float[3 * whole.triangles().length];
    int[] own = new int[whole.triangles().length];
    for (int i = 0; i < own.length; i++) {
      own[i] = i;
      System.arraycopy(whole.xyz(), 3 * whole.triangles()[i], soup, 3 * i, 3);
    }
    Inspection torn = Inspection.of(new Mesh(soup, own), false, Work.unwatched());
    int inner = (3 * whole.triangleCount() - 40) / 2;
    assertThat(torn.tornEdges()).isEqualTo(2 * inner);
    // Two balls that touch at a point share a doubled point, but nothing is torn.
    Mesh touching = Shapes.together(Shapes.cube(2), Shapes.moved(Shapes.cube(2), 2, 2, 2));
    Inspection apart = Inspection.of(touching, false, Work.unwatched());
    assertThat(apart.duplicateVertices()).isEqualTo(1);
    assertThat(apart.tornEdges()).isZero();
  }
}

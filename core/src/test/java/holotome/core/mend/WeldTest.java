package holotome.core.mend;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.spatial.NearPairs;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import java.util.HashSet;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

/** Points that stand nearly on the same spot, counted by brute force. */
class WeldTest {
  /** Each triangle with corners of its own, each moved a little. */
  private static Mesh torn(Mesh m, double by) {
    float[] xyz = new float[3 * m.triangles().length];
    int[] tri = new int[m.triangles().length];
    Random random = new Random(11);
    for (int h = 0; h < tri.length; h++) {
      tri[h] = h;
      for (int k = 0; k < 3; k++) {
        xyz[3 * h + k] =
            (float) (m.xyz()[3 * m.triangles()[h] + k] + by * (random.nextDouble() - 0.5));
      }
    }
    return new Mesh(xyz, tri);
  }

  private static Outcome weld(Mesh m, Length d, WeldPoints.Among among) {
    return new WeldPoints(d, among).apply(Workpiece.of(m, Frame.PLAIN), Run.unwatched());
  }

  private static double distance(float[] p, int a, int b) {
    return Math.sqrt(
        Math.pow(p[3 * a] - p[3 * b], 2)
            + Math.pow(p[3 * a + 1] - p[3 * b + 1], 2)
            + Math.pow(p[3 * a + 2] - p[3 * b + 2], 2));
  }

  @Test
  void pairsAreThoseThatCountingOneByOneFinds() {
    Random random = new Random(5);
    float[] xyz = new float[900];
    for (int i = 0; i < xyz.length; i++) {
      xyz[i] = (float) (random.nextDouble() * 2 - 1);
    }
    for (double d : new double[] {0.01, 0.1, 0.25}) {
      Set<Long> expected = new HashSet<>();
      for (int a = 0; a < 300; a++) {
        for (int b = a + 1; b < 300; b++) {
          if (distance(xyz, a, b) <= d) {
            expected.add((long) a << 32 | b);
          }
        }
      }
      NearPairs pairs = NearPairs.within(xyz, null, d, Work.unwatched());
      Set<Long> found = new HashSet<>();
      for (int i = 0; i < pairs.count(); i++) {
        found.add((long) pairs.a()[i] << 32 | pairs.b()[i]);
        assertThat(i == 0 || pairs.distance()[i - 1] <= pairs.distance()[i]).isTrue();
      }
      assertThat(found).hasSize(pairs.count()).isEqualTo(expected);
    }
  }

  @Test
  void aSphereTornTriangleByTriangleIsWholeAgainInTheNaturalGap() {
    Mesh sphere = Shapes.sphere(1, 4);
    Mesh torn = torn(sphere, 1e-4);
    Mesh out = weld(torn, null, WeldPoints.Among.ALL).work().scan();
    assertThat(out.vertexCount()).isEqualTo(sphere.vertexCount());
    assertThat(out.triangleCount()).isEqualTo(sphere.triangleCount());
    assertThat(Naive.closedAndOriented(out)).isTrue();
  }

  @Test
  void theCurveSaysWhatWeldingDoes() {
    Mesh torn = torn(Shapes.sphere(1, 3), 0.02);
    WeldCurve curve = WeldCurve.of(torn, null, Work.unwatched());
    for (double d : new double[] {0.002, 0.006, 0.012, 0.03}) {
      Mesh out = weld(torn, new Length(d), WeldPoints.Among.ALL).work().scan();
      assertThat(curve.left(d)).as("left at %s", d).isEqualTo(out.vertexCount());
    }
    assertThat(curve.left(0)).isEqualTo(torn.vertexCount());
    assertThat(curve.broken(0.03)).isZero();
    assertThat(curve.natural()).isBetween(0.02, curve.limit());
  }

  @Test
  void beyondTheEdgesTrianglesGoAndItIsSaid() {
    Mesh sphere = Shapes.sphere(1, 4);
    WeldCurve curve = WeldCurve.of(sphere, null, Work.unwatched());
    assertThat(curve.natural()).isZero();
    // A vertex pulled close to its neighbour: one edge is short.
    float[] xyz = sphere.xyz().clone();
    int a = sphere.triangles()[0];
    int b = sphere.triangles()[1];
    for (int k = 0; k < 3; k++) {
      xyz[3 * a + k] = 0.999f * xyz[3 * b + k] + 0.001f * xyz[3 * a + k];
    }
    Outcome o = weld(sphere.withPositions(xyz), new Length(0.001), WeldPoints.Among.ALL);
    assertThat(o.work().scan().vertexCount()).isEqualTo(sphere.vertexCount() - 1);
    assertThat(o.work().scan().triangleCount()).isEqualTo(sphere.triangleCount() - 2);
    assertThat(o.notes()).anyMatch(n -> n.startsWith("2 triangles"));
    Naive.assertSound(o.work().scan());
  }

  @Test
  void onlyRimsAreJoinedWhereThatIsAsked() {
    Mesh left = Shapes.sheet(1, 10);
    Mesh both = Shapes.together(left, Shapes.moved(left, 1.0005, 0, 0));
    Mesh out = weld(both, new Length(0.002), WeldPoints.Among.RIMS).work().scan();
    assertThat(out.vertexCount()).isEqualTo(both.vertexCount() - 11);
    assertThat(Naive.islands(out)).isEqualTo(1);
  }

  @Test
  void aRowOfPointsDoesNotRunTogether() {
    Mesh sheet = Shapes.sheet(1, 50);
    Outcome o = weld(sheet, new Length(0.03), WeldPoints.Among.RIMS);
    Mesh out = o.work().scan();
    // Of the 200 points of the rim, 0.02 apart, no more than every second goes.
    assertThat(sheet.vertexCount() - out.vertexCount()).isBetween(60, 100);
    float[] p = out.xyz();
    double most = 0;
    for (int v = 0; v < out.vertexCount(); v++) {
      most = Math.max(most, Math.max(p[3 * v], p[3 * v + 1]));
    }
    assertThat(most).isGreaterThan(0.96);
  }

  /**
   * No distance, a spot with very many points, and places far off: none takes long or is missed.
   */
  @Test
  @Timeout(20)
  void roughInputIsTakenInItsStride() {
    int n = 200_000;
    float[] xyz = new float[3 * n];
    int[] tri = new int[n];
    for (int v = 0; v < n; v++) {
      tri[v % tri.length] = v;
      // All on one spot but for every hundredth, and those in three places far off.
      xyz[3 * v] = v % 100 == 0 ? 3e30f * (v / 100 % 3) : 1;
    }
    Mesh heap = new Mesh(xyz, java.util.Arrays.copyOf(tri, n / 3 * 3));
    assertThatThrownBy(() -> weld(heap, new Length(0), WeldPoints.Among.ALL))
        .isInstanceOf(Failure.class);
    Mesh soup = torn(Shapes.sphere(1e6, 5), 0);
    Mesh out = weld(soup, new Length(0), WeldPoints.Among.ALL).work().scan();
    assertThat(out.vertexCount()).isEqualTo(Shapes.sphere(1e6, 5).vertexCount());
    assertThat(Naive.closedAndOriented(out)).isTrue();
    float[] one = {0, 0, 0, 1, 0, 0, 0, 1, 0};
    Mesh single = new Mesh(one, new int[] {0, 1, 2});
    assertThat(weld(single, new Length(0.1), WeldPoints.Among.RIMS).work().scan()).isSameAs(single);
    Mesh empty = new Mesh(new float[0], new int[0]);
    assertThat(weld(empty, new Length(0.1), WeldPoints.Among.ALL).work().scan()).isSameAs(empty);
    assertThatThrownBy(() -> weld(empty, null, WeldPoints.Among.ALL)).isInstanceOf(Failure.class);
  }

  @Test
  void nothingToWeldIsSaidAndTooFarRefused() {
    Mesh sphere = Shapes.sphere(1, 4);
    assertThat(weld(sphere, new Length(1e-6), WeldPoints.Among.ALL).notes().getFirst())
        .startsWith("No points");
    assertThatThrownBy(() -> weld(sphere, null, WeldPoints.Among.ALL))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("natural gap");
    assertThatThrownBy(() -> weld(sphere, new Length(1.5), WeldPoints.Among.ALL))
        .isInstanceOf(Failure.class);
  }

  @Test
  void theSameOnOneThreadAndMany() {
    Mesh torn = torn(Shapes.sphere(1, 5), 1e-3);
    Mesh many = weld(torn, new Length(0.002), WeldPoints.Among.ALL).work().scan();
    int threads = Parallel.threads();
    try {
      Parallel.limitThreads(1);
      assertThat(weld(torn, new Length(0.002), WeldPoints.Among.ALL).work().scan().sameAs(many))
          .isTrue();
    } finally {
      Parallel.limitThreads(threads);
    }
  }
}

package holotome.core.reduce;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.image.Colours;
import holotome.core.mend.Tidy;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.unit.Length;
import java.util.ArrayList;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class DecimationTest {
  private static Mesh run(Mesh m, int target) {
    Mesh out = Decimation.run(m, target, Double.POSITIVE_INFINITY, Work.unwatched());
    Naive.assertSound(out);
    return out;
  }

  @ParameterizedTest
  @ValueSource(ints = {10_000, 2_000, 500, 100, 20})
  void sphereStaysASphere(int target) {
    Mesh s = Shapes.sphere(1, 5);
    Mesh m = run(s, target);
    assertThat(m.triangleCount()).isBetween(target - 2, target);
    assertThat(Naive.closedAndOriented(m)).isTrue();
    assertThat(m.vertexCount() - Adjacency.of(m).edgeCount() + m.triangleCount()).isEqualTo(2);
    // No triangle turned over: every one still faces away from the middle.
    for (int t = 0; t < m.triangleCount(); t++) {
      double[] c = new double[3];
      for (int k = 0; k < 9; k++) {
        c[k % 3] += m.xyz()[3 * m.triangles()[3 * t + k / 3] + k % 3];
      }
      assertThat(Vec.dot(Measures.cross(m, t), c)).isPositive();
    }
    // Equilateral triangles on a sphere of radius 1 sink below it by about their edge squared / 6.
    double edge2 = 4 * Math.PI / target * 4 / Math.sqrt(3);
    assertThat(SurfaceDistance.of(m, s, 20_000, Work.unwatched()).max()).isLessThan(0.5 * edge2);
  }

  @Test
  void torusKeepsItsHole() {
    Mesh m = run(Shapes.torus(3, 1, 120, 60), 300);
    assertThat(m.vertexCount() - Adjacency.of(m).edgeCount() + m.triangleCount()).isZero();
    assertThat(Measures.volume(m)).isCloseTo(2 * Math.PI * Math.PI * 3, within(2.0));
  }

  @Test
  void flatSheetKeepsItsOutlineExactly() {
    Mesh m = run(Shapes.sheet(10, 40), 40);
    assertThat(m.triangleCount()).isLessThanOrEqualTo(40);
    assertThat(Measures.area(m)).isCloseTo(100, within(0.05));
    assertThat(m.bounds().maxX()).isCloseTo(10, within(0.01));
    assertThat(m.bounds().maxZ()).isCloseTo(0, within(1e-5));
  }

  @Test
  void cubeOfManyTrianglesBecomesACubeOfTwelve() {
    // A cube whose faces are finely divided has no error at all until its corners go.
    Mesh m = Shapes.cube(2);
    for (int i = 0; i < 4; i++) {
      m = divided(m);
    }
    Mesh out = run(m, 12);
    assertThat(out.triangleCount()).isEqualTo(12);
    assertThat(Measures.volume(out)).isCloseTo(8, within(1e-3));
  }

  private static Mesh divided(Mesh m) {
    float[] soup = new float[9 * 4 * m.triangleCount()];
    int at = 0;
    for (int t = 0; t < m.triangleCount(); t++) {
      double[] a = Vec.at(m.xyz(), m.triangles()[3 * t]);
      double[] b = Vec.at(m.xyz(), m.triangles()[3 * t + 1]);
      double[] c = Vec.at(m.xyz(), m.triangles()[3 * t + 2]);
      double[] ab = Vec.mul(Vec.add(a, b), 0.5);
      double[] bc = Vec.mul(Vec.add(b, c), 0.5);
      double[] ca = Vec.mul(Vec.add(c, a), 0.5);
      for (double[] p : new double[][] {a, ab, ca, b, bc, ab, c, ca, bc, ab, bc, ca}) {
        for (int k = 0; k < 3; k++) {
          soup[at++] = (float) p[k];
        }
      }
    }
    return holotome.core.topology.PointWeld.ofSoup(soup, Work.unwatched());
  }

  /** Large enough for many regions, to a little and to a lot. */
  @ParameterizedTest
  @ValueSource(ints = {250_000, 60_000, 9_000, 400})
  void regionsSideBySideMakeOneWhole(int target) {
    Mesh torus = Shapes.coloured(Shapes.torus(2, 0.8, 700, 300));
    Mesh m = run(torus, target);
    // Each region gives an even number.
    assertThat(m.triangleCount()).isBetween(target - 2 * (420_000 / 8192 + 1), target);
    assertThat(Naive.closedAndOriented(m)).isTrue();
    assertThat(m.vertexCount() - Adjacency.of(m).edgeCount() + m.triangleCount()).isZero();
    // The volume of a torus by formula; what is inscribed lacks about that of its flat sides.
    double volume = 2 * Math.PI * Math.PI * 2 * 0.64;
    assertThat(Measures.volume(m)).isCloseTo(volume, within(volume * (0.0005 + 10.0 / target)));
    // No rim of a region is left as it was: triangles are of about one size all over.
    double most = 0;
    double mean = Measures.area(m) / m.triangleCount();
    for (int t = 0; t < m.triangleCount(); t++) {
      most = Math.max(most, Vec.length(Measures.cross(m, t)) / 2);
    }
    assertThat(most).isLessThan(12 * mean);
    Mesh fresh = Shapes.coloured(m);
    double off = 0;
    for (int v = 0; v < m.vertexCount(); v++) {
      off += Math.abs((m.colours()[v] >> 16 & 255) - (fresh.colours()[v] >> 16 & 255));
    }
    assertThat(off / m.vertexCount()).isLessThan(target > 1000 ? 3 : 12);
  }

  @Test
  void regionsOfAnOpenSheetKeepItsOutline() {
    Mesh m = run(Shapes.sheet(10, 250), 2_000);
    assertThat(m.triangleCount()).isLessThanOrEqualTo(2_000);
    assertThat(Measures.area(m)).isCloseTo(100, within(0.02));
    assertThat(Naive.crowded(m)).isZero();
  }

  /** A fin as thin as paper keeps its length: its sides say nothing of where it ends. */
  @Test
  void thinFinsAreNotEatenAway() {
    float[] xyz = Shapes.sphere(5, 5).xyz().clone();
    for (int i = 2; i < xyz.length; i += 3) {
      xyz[i] *= 0.002f;
    }
    Mesh fin = Shapes.sphere(5, 5).withPositions(xyz);
    Mesh light = run(fin, 200);
    assertThat(SurfaceDistance.of(fin, light, 20_000, Work.unwatched()).max()).isLessThan(0.2);
  }

  @Test
  void oneThreadAndManyGiveTheSameInRegions() {
    Mesh s = Shapes.laden(Shapes.torus(2, 0.8, 400, 200));
    Mesh many = run(s, 30_000);
    Parallel.limitThreads(1);
    try {
      assertThat(run(s, 30_000).sameAs(many)).isTrue();
    } finally {
      Parallel.limitThreads(64);
    }
  }

  @Test
  void oneThreadAndManyGiveTheSame() {
    Mesh s = Shapes.coloured(Shapes.torus(2, 0.8, 200, 90));
    Mesh many = run(s, 3000);
    Parallel.limitThreads(1);
    try {
      assertThat(run(s, 3000).sameAs(many)).isTrue();
    } finally {
      Parallel.limitThreads(64);
    }
  }

  @Test
  void coloursFollowThePlace() {
    Mesh m = run(Shapes.coloured(Shapes.sphere(1, 5)), 800);
    Mesh fresh = Shapes.coloured(m);
    double sum = 0;
    for (int v = 0; v < m.vertexCount(); v++) {
      sum += Math.abs((m.colours()[v] >> 16 & 255) - (fresh.colours()[v] >> 16 & 255));
    }
    assertThat(sum / m.vertexCount()).isLessThan(6);
    assertThat(Colours.mix(0xff000000, 0xffffffff, 0.5f)).isEqualTo(0xff808080);
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6})
  void anyTidiedMessStaysSound(long seed) {
    Mesh m = Tidy.tidy(Shapes.mess(400, seed), new ArrayList<>(), Work.unwatched());
    long crowded = Naive.crowded(m);
    Mesh out = run(m, 40);
    assertThat(Naive.crowded(out)).isLessThanOrEqualTo(crowded);
    assertThat(Naive.duplicateTriangles(out)).isZero();
  }

  @Test
  void untidyMessIsNoHarmEither() {
    for (long seed = 20; seed < 30; seed++) {
      Naive.assertSound(run(Shapes.mess(300, seed), 30));
    }
  }

  @Test
  void toleranceBoundsTheDeviation() {
    Random r = new Random(1);
    Mesh s = Shapes.sphere(1, 6);
    float[] rough = s.xyz().clone();
    for (int i = 0; i < rough.length; i++) {
      rough[i] += (float) (0.0005 * r.nextGaussian());
    }
    Workpiece in = Workpiece.of(s.withPositions(rough), Frame.PLAIN);
    int last = Integer.MAX_VALUE;
    for (double tolerance : new double[] {0.001, 0.003, 0.01}) {
      Mesh cast =
          new Decimate(null, null, new Length(tolerance), Role.CAST)
              .apply(in, Run.unwatched())
              .work()
              .cast();
      assertThat(cast.triangleCount()).isLessThan(last);
      last = cast.triangleCount();
      assertThat(SurfaceDistance.of(cast, in.scan(), 30_000, Work.unwatched()).max())
          .isLessThan(tolerance);
      assertThat(SurfaceDistance.of(in.scan(), cast, 30_000, Work.unwatched()).max())
          .isLessThan(tolerance);
    }
    assertThat(last).isLessThan(in.scan().triangleCount() / 20);
  }

  @Test
  void castOrScanAsAsked() {
    Workpiece in = Workpiece.of(Shapes.sphere(1, 4), Frame.PLAIN);
    Workpiece cast = new Decimate(500, null, null, Role.CAST).apply(in, Run.unwatched()).work();
    assertThat(cast.scan()).isSameAs(in.scan());
    assertThat(cast.cast().triangleCount()).isLessThanOrEqualTo(500);
    Workpiece scan = new Decimate(null, 10.0, null, Role.SCAN).apply(in, Run.unwatched()).work();
    assertThat(scan.cast()).isNull();
    assertThat(scan.scan().triangleCount()).isBetween(510, 512);
    assertThatThrownBy(() -> new Decimate(null, null, null, Role.CAST)).isInstanceOf(Failure.class);
  }
}

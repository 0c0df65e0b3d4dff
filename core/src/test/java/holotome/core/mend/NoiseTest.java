package holotome.core.mend;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.select.Pick;
import holotome.core.select.Region;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.VertexFans;
import holotome.core.unit.Length;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.function.ToDoubleFunction;
import org.junit.jupiter.api.Test;

/** Noise of a known strength, put on bodies whose true surface has a formula, and taken off. */
class NoiseTest {
  private static final Length NONE = new Length(0);

  /** Each vertex moved along its normal by a normally distributed length. */
  private static Mesh noisy(Mesh m, double sigma) {
    float[] normals = Measures.vertexNormals(m);
    float[] xyz = m.xyz().clone();
    Random random = new Random(7);
    for (int v = 0; v < m.vertexCount(); v++) {
      double by = sigma * random.nextGaussian();
      for (int k = 0; k < 3; k++) {
        xyz[3 * v + k] += (float) (by * normals[3 * v + k]);
      }
    }
    return m.withPositions(xyz);
  }

  private static double rms(Mesh m, ToDoubleFunction<double[]> off) {
    double sum = 0;
    for (int v = 0; v < m.vertexCount(); v++) {
      double d =
          off.applyAsDouble(new double[] {m.xyz()[3 * v], m.xyz()[3 * v + 1], m.xyz()[3 * v + 2]});
      sum += d * d;
    }
    return Math.sqrt(sum / m.vertexCount());
  }

  private static Outcome outcome(Mesh m, TakeNoise step) {
    return step.apply(Workpiece.of(m, Frame.PLAIN), Run.unwatched());
  }

  private static Mesh without(Mesh m, Length strength) {
    return outcome(m, new TakeNoise(TakeNoise.How.EDGES_KEPT, strength, 10, null, NONE))
        .work()
        .scan();
  }

  private static double onSphere(double[] p) {
    return Math.sqrt(p[0] * p[0] + p[1] * p[1] + p[2] * p[2]) - 1;
  }

  /** Signed distance to a cube of half side 1 about the origin (from memory: the usual formula). */
  private static double onCube(double[] p) {
    double x = Math.abs(p[0]) - 1;
    double y = Math.abs(p[1]) - 1;
    double z = Math.abs(p[2]) - 1;
    double out = Math.sqrt(sq(Math.max(x, 0)) + sq(Math.max(y, 0)) + sq(Math.max(z, 0)));
    return out + Math.min(0, Math.max(x, Math.max(y, z)));
  }

  private static double sq(double x) {
    return x * x;
  }

  /** A cube of half side 1 with a grid of n x n squares on each side. */
  private static Mesh gridCube(int n) {
    Mesh[] sides = new Mesh[6];
    int s = 0;
    for (int axis = 0; axis < 3; axis++) {
      for (int sign = -1; sign <= 1; sign += 2) {
        float[] xyz = new float[3 * (n + 1) * (n + 1)];
        int[] tri = new int[6 * n * n];
        for (int j = 0; j <= n; j++) {
          for (int i = 0; i <= n; i++) {
            int v = 3 * (j * (n + 1) + i);
            xyz[v + axis] = sign;
            xyz[v + (axis + 1) % 3] = (float) (2.0 * i / n - 1);
            xyz[v + (axis + 2) % 3] = (float) (2.0 * j / n - 1);
          }
        }
        int at = 0;
        for (int j = 0; j < n; j++) {
          for (int i = 0; i < n; i++) {
            int a = j * (n + 1) + i;
            int[] quad =
                (i + j) % 2 == 0
                    ? new int[] {a, a + 1, a + n + 2, a, a + n + 2, a + n + 1}
                    : new int[] {a, a + 1, a + n + 1, a + 1, a + n + 2, a + n + 1};
            for (int k = 0; k < 6; k += 3) {
              tri[at++] = quad[k];
              tri[at++] = quad[sign > 0 ? k + 1 : k + 2];
              tri[at++] = quad[sign > 0 ? k + 2 : k + 1];
            }
          }
        }
        sides[s++] = new Mesh(xyz, tri);
      }
    }
    Mesh apart = Shapes.together(sides);
    return new Tidy().apply(Workpiece.of(apart, Frame.PLAIN), Run.unwatched()).work().scan();
  }

  @Test
  void noiseIsMeasuredAsItIs() {
    Mesh sphere = Shapes.sphere(1, 6);
    for (double sigma : new double[] {0.0005, 0.002, 0.006}) {
      Mesh m = noisy(sphere, sigma);
      double measured =
          NoiseLevel.of(m, VertexFans.of(m.vertexCount(), m.triangles(), Work.unwatched()));
      assertThat(measured).as("of %s", sigma).isCloseTo(sigma, within(0.12 * sigma));
    }
    VertexFans fans = VertexFans.of(sphere.vertexCount(), sphere.triangles(), Work.unwatched());
    assertThat(NoiseLevel.of(sphere, fans)).isLessThan(5e-5);
  }

  @Test
  void aSphereComesOutRoundAndAsLargeAsItWas() {
    Mesh sphere = Shapes.sphere(1, 6);
    for (double sigma : new double[] {0.001, 0.004}) {
      Mesh m = noisy(sphere, sigma);
      Mesh out = without(m, null);
      assertThat(rms(out, NoiseTest::onSphere))
          .as("of %s", sigma)
          .isLessThan(0.5 * rms(m, NoiseTest::onSphere));
      assertThat(Measures.volume(out))
          .isCloseTo(Measures.volume(sphere), within(0.001 * Measures.volume(sphere)));
    }
  }

  @Test
  void aCubeKeepsItsEdges() {
    int n = 40;
    Mesh cube = gridCube(n);
    assertThat(Naive.closedAndOriented(cube)).isTrue();
    double sigma = 0.1 * 2 / n;
    Mesh m = noisy(cube, sigma);
    Mesh out = without(m, null);
    assertThat(rms(out, NoiseTest::onCube)).isLessThan(0.5 * rms(m, NoiseTest::onCube));
    assertThat(Measures.volume(out)).isCloseTo(8, within(0.008));
    // The sides meet at a right angle: normals away from the edges by more than their triangles.
    double worst = 0;
    for (int t = 0; t < out.triangleCount(); t++) {
      double[] c = Measures.cross(out, t);
      double l = Math.sqrt(sq(c[0]) + sq(c[1]) + sq(c[2]));
      double along = Math.max(Math.abs(c[0]), Math.max(Math.abs(c[1]), Math.abs(c[2]))) / l;
      if (l > 1e-9) {
        worst += Math.toDegrees(Math.acos(Math.min(1, along)));
      }
    }
    assertThat(worst / out.triangleCount()).as("mean tilt of a side's triangles").isLessThan(1);
  }

  private static final int SIDES = 12;

  /** A closed twelve-sided prism: in-circle 1, half height 1, sides of n squares across. */
  private static Mesh prism(int n) {
    int around = SIDES * n;
    double edge = 2 * Math.tan(Math.PI / SIDES) / n;
    int up = (int) Math.round(2 / edge);
    int in = (int) Math.round(1 / edge);
    int rings = up + 1 + 2 * (in - 1);
    float[] xyz = new float[3 * (rings * around + 2)];
    for (int r = 0; r < rings; r++) {
      double share = r < in - 1 ? (r + 1.0) / in : r < in + up ? 1 : (rings - r) / (double) in;
      double z = r < in - 1 ? -1 : r < in + up ? -1 + 2.0 * (r - in + 1) / up : 1;
      for (int i = 0; i < around; i++) {
        double turn = 2 * Math.PI * (i / n) / SIDES;
        double t = share * Math.tan(Math.PI / SIDES) * (2.0 * (i % n) / n - 1);
        int v = 3 * (r * around + i);
        xyz[v] = (float) (share * Math.cos(turn) - t * Math.sin(turn));
        xyz[v + 1] = (float) (share * Math.sin(turn) + t * Math.cos(turn));
        xyz[v + 2] = (float) z;
      }
    }
    int low = rings * around;
    xyz[3 * low + 2] = -1;
    xyz[3 * low + 5] = 1;
    int[] tri = new int[6 * around * rings];
    int c = 0;
    for (int i = 0; i < around; i++) {
      int j = (i + 1) % around;
      int top = (rings - 1) * around;
      for (int v : new int[] {low, j, i, low + 1, top + i, top + j}) {
        tri[c++] = v;
      }
      for (int r = 0; r + 1 < rings; r++) {
        int a = r * around;
        int b = a + around;
        for (int v : new int[] {a + i, a + j, b + j, a + i, b + j, b + i}) {
          tri[c++] = v;
        }
      }
    }
    return new Mesh(xyz, tri);
  }

  private static double onPrism(double[] p) {
    double most = Math.abs(p[2]) - 1;
    for (int s = 0; s < SIDES; s++) {
      double a = 2 * Math.PI * s / SIDES;
      most = Math.max(most, p[0] * Math.cos(a) + p[1] * Math.sin(a) - 1);
    }
    return most;
  }

  /** Edges of only 30 degrees stay: each side keeps its own direction up to its last triangles. */
  @Test
  void aPrismKeepsItsBluntEdges() {
    int n = 12;
    Mesh prism = prism(n);
    assertThat(Naive.closedAndOriented(prism)).isTrue();
    double sigma = 0.05 * 2 * Math.tan(Math.PI / SIDES) / n;
    Mesh m = noisy(prism, sigma);
    Mesh out = without(m, null);
    // In the middle of its ends points stand closer than the noise is high: left out.
    Mesh even = clear(out, prism);
    assertThat(rms(even, NoiseTest::onPrism))
        .isLessThan(0.3 * rms(clear(m, prism), NoiseTest::onPrism));
    double volume = Measures.volume(prism);
    assertThat(Measures.volume(out)).isCloseTo(volume, within(0.001 * volume));
    double[][] rows = new double[2][4];
    for (int t = 0; t < out.triangleCount(); t++) {
      double[] p = centre(prism, t);
      double side = Math.toDegrees(Math.atan2(p[1], p[0]));
      double off = side - 30 * Math.rint(side / 30);
      if (Math.abs(p[2]) > 0.9 || Math.hypot(p[0], p[1]) < 0.99) {
        continue;
      }
      // The rows beside an edge, and the middle of a side.
      int row = Math.abs(off) > 12.5 ? 0 : 1;
      double[] c = Measures.cross(out, t);
      double a = Math.toRadians(side - off);
      double l = Math.sqrt(sq(c[0]) + sq(c[1]) + sq(c[2]));
      double along = (c[0] * Math.cos(a) + c[1] * Math.sin(a)) / l;
      double across = -c[0] * Math.sin(a) + c[1] * Math.cos(a);
      rows[row][0] += Math.toDegrees(Math.acos(Math.min(1, along)));
      rows[row][1] += Math.toDegrees(Math.asin(across / l)) * Math.signum(off);
      rows[row][2]++;
    }
    // A rounded edge would turn the triangles beside it towards its other side.
    assertThat(Math.abs(rows[0][1] / rows[0][2])).as("mean turn beside edges").isLessThan(1);
    assertThat(rows[1][0] / rows[1][2]).as("mean tilt in the middle").isLessThan(1.5);
  }

  /** The points that were not near the middle of the prism's ends, alone. */
  private static Mesh clear(Mesh m, Mesh prism) {
    float[] p = prism.xyz();
    float[] out = new float[m.xyz().length];
    int n = 0;
    for (int v = 0; v < m.vertexCount(); v++) {
      if (Math.hypot(p[3 * v], p[3 * v + 1]) > 0.5) {
        System.arraycopy(m.xyz(), 3 * v, out, n, 3);
        n += 3;
      }
    }
    return new Mesh(Arrays.copyOf(out, n), new int[0]);
  }

  private static double[] centre(Mesh m, int t) {
    double[] out = new double[3];
    for (int c = 3 * t; c < 3 * t + 3; c++) {
      for (int k = 0; k < 3; k++) {
        out[k] += m.xyz()[3 * m.triangles()[c] + k] / 3.0;
      }
    }
    return out;
  }

  @Test
  void plainSmoothingHalvesTheNoiseAndDoesNotShrink() {
    Mesh sphere = Shapes.sphere(1, 6);
    Mesh m = noisy(sphere, 0.004);
    Mesh out = outcome(m, new TakeNoise(TakeNoise.How.PLAIN, null, 10, null, NONE)).work().scan();
    assertThat(rms(out, NoiseTest::onSphere)).isLessThan(0.5 * rms(m, NoiseTest::onSphere));
    assertThat(Measures.volume(out))
        .isCloseTo(Measures.volume(sphere), within(0.001 * Measures.volume(sphere)));
  }

  @Test
  void bordersStayWherePlainSmoothingCannotGoRound() {
    Mesh sheet = Shapes.sheet(1, 20);
    Mesh m = noisy(sheet, 0.01);
    Mesh out = outcome(m, new TakeNoise(TakeNoise.How.PLAIN, null, 20, null, NONE)).work().scan();
    int same = 0;
    for (int v = 0; v < m.vertexCount(); v++) {
      same += m.xyz()[3 * v + 2] == out.xyz()[3 * v + 2] ? 1 : 0;
    }
    assertThat(same).isEqualTo(80);
  }

  @Test
  void onlyTheSelectionMovesAndGraduallyFromItsRim() {
    Mesh m = noisy(Shapes.sheet(1, 60), 0.004);
    List<Pick> left =
        List.of(
            Pick.of(
                Pick.Join.REPLACE,
                new Region(
                    new double[] {0, 0.5, 0}, new double[] {1, 3, 1}, new double[] {0, 0, 0})));
    Outcome o =
        outcome(
            m,
            new TakeNoise(TakeNoise.How.EDGES_KEPT, new Length(0.004), 10, left, new Length(0.2)));
    Mesh out = o.work().scan();
    double near = 0;
    double deep = 0;
    for (int v = 0; v < m.vertexCount(); v++) {
      double x = m.xyz()[3 * v];
      double moved = Math.abs(out.xyz()[3 * v + 2] - m.xyz()[3 * v + 2]);
      if (x > 0.52) {
        assertThat(moved).isZero();
      } else if (x > 0.44 && x < 0.49) {
        near = Math.max(near, moved);
      } else if (x < 0.25) {
        deep = Math.max(deep, moved);
      }
    }
    assertThat(deep).isGreaterThan(3 * near).isPositive();
  }

  @Test
  void nothingMovesFartherThanAFewTimesTheNoise() {
    Mesh mess = Shapes.mess(4000, 3);
    Mesh out = without(mess, new Length(0.01));
    for (int v = 0; v < mess.vertexCount(); v++) {
      double d = 0;
      for (int k = 0; k < 3; k++) {
        assertThat(out.xyz()[3 * v + k]).isFinite();
        d += sq(out.xyz()[3 * v + k] - mess.xyz()[3 * v + k]);
      }
      assertThat(Math.sqrt(d)).isLessThan(0.01 * NormalFilter.FARTHEST + 1e-5);
    }
  }

  @Test
  void emptyMeshesSingleTrianglesAndHugeOnesComeBackFinite() {
    Mesh empty = new Mesh(new float[0], new int[0]);
    Mesh single = new Mesh(new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0}, new int[] {0, 1, 2});
    Mesh flat = new Mesh(new float[] {0, 0, 0, 1, 0, 0, 2, 0, 0}, new int[] {0, 1, 2});
    Mesh huge = noisy(Shapes.sphere(1e18, 4), 1e16);
    for (Mesh m : new Mesh[] {empty, single, flat, huge, Shapes.mess(500, 8)}) {
      for (TakeNoise.How how : TakeNoise.How.values()) {
        Mesh out = outcome(m, new TakeNoise(how, null, 5, null, NONE)).work().scan();
        assertThat(out.triangles()).isEqualTo(m.triangles());
        for (float x : out.xyz()) {
          assertThat(x).isFinite();
        }
      }
    }
  }

  @Test
  void theSameOnOneThreadAndMany() {
    Mesh m = noisy(Shapes.sphere(1, 5), 0.01);
    Mesh many = without(m, null);
    int threads = Parallel.threads();
    try {
      Parallel.limitThreads(1);
      assertThat(without(m, null).sameAs(many)).isTrue();
    } finally {
      Parallel.limitThreads(threads);
    }
  }

  @Test
  void whatWasMeasuredAndHowFarItWentIsSaid() {
    Outcome o =
        outcome(
            noisy(Shapes.sphere(1, 5), 0.01),
            new TakeNoise(TakeNoise.How.EDGES_KEPT, null, 10, null, NONE));
    assertThat(o.notes()).hasSize(2);
    assertThat(o.notes().getFirst()).startsWith("Moved by").contains("at most");
    assertThat(o.notes().get(1)).startsWith("noise measured");
  }

  @Test
  void cancelledBeforeItBeginsItChangesNothing() {
    Work work = new Work();
    work.cancel();
    assertThatThrownBy(
            () ->
                new TakeNoise(TakeNoise.How.EDGES_KEPT, null, 10, null, NONE)
                    .apply(Workpiece.of(Shapes.sphere(1, 5), Frame.PLAIN), Run.of(work)))
        .isInstanceOfSatisfying(
            Failure.class, f -> assertThat(f.kind()).isEqualTo(Failure.Kind.CANCELLED));
  }
}

package holotome.core.reduce;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Workpiece;
import holotome.core.spatial.SolidProof;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import holotome.core.unit.Length;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ResurfaceTest {
  @AfterEach
  void allThreads() {
    Parallel.limitThreads(Integer.MAX_VALUE);
  }

  private static Resurface open(double detail, double reach) {
    return new Resurface(
        new Length(detail), null, 4, Resurface.Beyond.OPEN, new Length(reach), Role.CAST);
  }

  private static Resurface closed(double detail) {
    return new Resurface(new Length(detail), null, 4, Resurface.Beyond.CLOSED, null, Role.CAST);
  }

  private static Outcome done(Mesh in, Resurface step) {
    return step.apply(Workpiece.of(in, Frame.PLAIN), Run.unwatched());
  }

  private static Mesh made(Mesh in, Resurface step) {
    Mesh out = done(in, step).work().cast();
    Naive.assertSound(out);
    return out;
  }

  private static double radius(Mesh m, int v) {
    float[] p = m.xyz();
    return Math.sqrt(
        p[3 * v] * (double) p[3 * v]
            + p[3 * v + 1] * (double) p[3 * v + 1]
            + p[3 * v + 2] * (double) p[3 * v + 2]);
  }

  private static double[] centre(Mesh m, int t) {
    double[] c = new double[2];
    for (int k = 0; k < 6; k++) {
      c[k % 2] += m.xyz()[3 * m.triangles()[3 * t + k / 2] + k % 2] / 3.0;
    }
    return c;
  }

  private static double rmsRadius(Mesh m) {
    double sum = 0;
    for (int v = 0; v < m.vertexCount(); v++) {
      double d = radius(m, v) - 1;
      sum += d * d;
    }
    return Math.sqrt(sum / m.vertexCount());
  }

  /** Closed formulas: the volume of a ball, and its radius everywhere. */
  @Test
  void aBallStaysABall() {
    Mesh out = made(Shapes.sphere(1, 6), closed(0.05));
    SolidProof proof = SolidProof.of(out, Work.unwatched());
    assertThat(proof.holds()).as(proof.toString()).isTrue();
    assertThat(proof.volume()).isCloseTo(4 * Math.PI / 3, within(0.01));
    for (int v = 0; v < out.vertexCount(); v++) {
      assertThat(radius(out, v)).isCloseTo(1, within(0.1 * 0.05));
    }
  }

  /** A ring keeps its hole, and lies where it lay. */
  @Test
  void aRingStaysARing() {
    Mesh ring = Shapes.torus(1, 0.4, 160, 64);
    Mesh out = made(ring, closed(0.04));
    assertThat(out.vertexCount() - Adjacency.of(out).edgeCount() + out.triangleCount()).isZero();
    SurfaceDistance off = SurfaceDistance.of(out, ring, 4000, Work.unwatched());
    assertThat(off.rms()).isLessThan(0.1 * 0.04);
    // Closed formula: the area of a torus.
    assertThat(Measures.area(out)).isCloseTo(4 * Math.PI * Math.PI * 0.4, within(0.1));
  }

  /** Every triangle for itself, a fifth of them lost, a third turned over, shaken: a ball. */
  @Test
  void splintersBecomeASolid() {
    Mesh ball = Shapes.sphere(1, 5);
    Random random = new Random(7);
    int n = ball.triangleCount();
    float[] xyz = new float[9 * n];
    int[] tri = new int[3 * n];
    int size = 0;
    for (int t = 0; t < n; t++) {
      if (random.nextInt(5) == 0) {
        continue;
      }
      boolean turned = random.nextInt(3) == 0;
      for (int k = 0; k < 3; k++) {
        int v = ball.triangles()[3 * t + (turned ? 2 - k : k)];
        for (int c = 0; c < 3; c++) {
          xyz[9 * size + 3 * k + c] =
              ball.xyz()[3 * v + c] + (float) (0.004 * random.nextGaussian());
        }
        tri[3 * size + k] = 3 * size + k;
      }
      size++;
    }
    Mesh splinters = new Mesh(Arrays.copyOf(xyz, 9 * size), Arrays.copyOf(tri, 3 * size));
    Outcome outcome = done(splinters, closed(0.06));
    assertThat(String.join("; ", outcome.stated())).contains("islands turned outwards");
    Mesh out = outcome.work().cast();
    SolidProof proof = SolidProof.of(out, Work.unwatched());
    assertThat(proof.holds()).as(proof.toString()).isTrue();
    assertThat(proof.volume()).isCloseTo(4 * Math.PI / 3, within(0.03));
    assertThat(rmsRadius(out)).isLessThan(0.008);
  }

  /** Noise is averaged: the less it is to be followed, the more. */
  @Test
  void noiseIsAveraged() {
    Mesh ball = Shapes.sphere(1, 6);
    Random random = new Random(2);
    float[] p = ball.xyz().clone();
    for (int i = 0; i < p.length; i++) {
      p[i] += (float) (0.01 * random.nextGaussian());
    }
    Mesh noisy = ball.withPositions(p);
    Length detail = new Length(0.05);
    double[] off = new double[3];
    double[] closeness = {0, 4, 40};
    for (int i = 0; i < 3; i++) {
      off[i] =
          rmsRadius(
              made(
                  noisy,
                  new Resurface(
                      detail, null, closeness[i], Resurface.Beyond.CLOSED, null, Role.CAST)));
    }
    assertThat(off[0]).isLessThan(off[1]);
    assertThat(off[1]).isLessThan(off[2]);
    assertThat(off[1]).isLessThan(0.5 * 0.01);
  }

  /** A sheet with two holes: it ends where it ended, the small hole is closed, the wide one not. */
  @Test
  void whatIsOpenStaysOpen() {
    Mesh sheet = Shapes.sheet(2, 40);
    Mesh holed =
        Submesh.of(
            sheet,
            t -> {
              double[] c = centre(sheet, t);
              return Math.hypot(c[0] - 0.5, c[1] - 0.5) > 0.08
                  && Math.hypot(c[0] - 1.3, c[1] - 1.3) > 0.3;
            },
            Work.unwatched());
    Mesh out = made(holed, open(0.05, 0.1));
    assertThat(Borders.of(Adjacency.of(out)).loops().length).isEqualTo(2);
    assertThat(out.bounds().minX()).isBetween(-0.101, -0.05);
    assertThat(out.bounds().maxY()).isBetween(2.05, 2.101);
    for (int v = 0; v < out.vertexCount(); v++) {
      float[] p = out.xyz();
      double[] at = {p[3 * v], p[3 * v + 1], p[3 * v + 2]};
      assertThat(Naive.distance(at, sheet)).isLessThan(0.101);
      // On the sheet, wherever there is some.
      boolean isOver = at[0] > 0 && at[0] < 2 && at[1] > 0 && at[1] < 2;
      boolean isHole = Math.hypot(at[0] - 1.3, at[1] - 1.3) < 0.3;
      if (isOver && !isHole) {
        assertThat(Math.abs(at[2])).isLessThan(0.01);
      }
    }
  }

  /** Farther than a cell of the coarsest lattice, and as far as it goes; and no farther. */
  @Test
  void itEndsEvenlyHoweverFarItReaches() {
    Mesh sheet = Shapes.sheet(2, 40);
    for (double reach : new double[] {0.15, 0.25}) {
      Mesh out = made(sheet, open(0.02, reach));
      int[][] loops = Borders.of(Adjacency.of(out)).loops();
      assertThat(loops.length).isEqualTo(1);
      for (int v : Borders.vertices(out, loops[0])) {
        float[] p = out.xyz();
        double off = Naive.distance(new double[] {p[3 * v], p[3 * v + 1], p[3 * v + 2]}, sheet);
        assertThat(off).isCloseTo(reach, within(0.01));
      }
    }
    assertThatThrownBy(() -> done(sheet, open(0.02, 0.4)))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("so far beyond");
  }

  @ParameterizedTest
  @ValueSource(ints = {2_000, 30_000})
  void asManyTrianglesAsAreAskedFor(int triangles) {
    Resurface step = new Resurface(null, triangles, 4, Resurface.Beyond.CLOSED, null, Role.CAST);
    Mesh out = made(Shapes.torus(1, 0.4, 200, 80), step);
    assertThat((double) out.triangleCount()).isBetween(0.85 * triangles, 1.15 * triangles);
  }

  @Test
  void coloursAreCarriedOver() {
    Mesh ball = Shapes.coloured(Shapes.sphere(1, 5));
    Mesh out = made(ball, closed(0.05));
    int[] old = ball.colours();
    int[] now = out.colours();
    assertThat(now).hasSize(out.vertexCount());
    for (int v = 0; v < out.vertexCount(); v += 7) {
      int near = 0;
      for (int w = 1; w < ball.vertexCount(); w++) {
        near = apart(out, v, ball, w) < apart(out, v, ball, near) ? w : near;
      }
      for (int shift = 0; shift < 24; shift += 8) {
        assertThat(now[v] >> shift & 255).isCloseTo(old[near] >> shift & 255, within(24));
      }
    }
  }

  private static double apart(Mesh m, int v, Mesh n, int w) {
    double sum = 0;
    for (int k = 0; k < 3; k++) {
      double d = m.xyz()[3 * v + k] - (double) n.xyz()[3 * w + k];
      sum += d * d;
    }
    return sum;
  }

  /** Vast and tiny ones come out as usual ones do. */
  @ParameterizedTest
  @ValueSource(ints = {100, -100})
  void vastAndTiny(int power) {
    Mesh ring = Shapes.torus(3, 1, 100, 40);
    float[] p = ring.xyz().clone();
    for (int i = 0; i < p.length; i++) {
      p[i] = Math.scalb(p[i], power);
    }
    Resurface step = new Resurface(null, null, 4, null, null, Role.CAST);
    Mesh usual = made(ring, step);
    Mesh other = made(ring.withPositions(p), step);
    assertThat(other.triangleCount()).isCloseTo(usual.triangleCount(), within(20));
    assertThat(other.bounds().maxX())
        .isCloseTo(Math.scalb(usual.bounds().maxX(), power), within(Math.scalb(0.02, power)));
  }

  @Test
  void theSameOnOneThreadAndMany() {
    Mesh mess = Shapes.together(Shapes.mess(300, 4), Shapes.moved(Shapes.sphere(1, 4), 3, 0, 0));
    Parallel.limitThreads(1);
    Mesh one = made(mess, open(0.08, 0.1));
    Parallel.limitThreads(Integer.MAX_VALUE);
    Mesh many = made(mess, open(0.08, 0.1));
    assertThat(many.xyz()).isEqualTo(one.xyz());
    assertThat(many.triangles()).isEqualTo(one.triangles());
  }

  /** Points that are nowhere are passed over. */
  @Test
  void pointsThatAreNowhere() {
    Mesh ball = Shapes.sphere(1, 4);
    float[] p = ball.xyz().clone();
    p[0] = Float.NaN;
    Mesh out = made(ball.withPositions(p), closed(0.1));
    assertThat(Measures.area(out)).isCloseTo(4 * Math.PI, within(0.2));
  }

  /** Pieces too small for the detail are lost, and it is said. */
  @Test
  void whatIsLostIsSaid() {
    Mesh both = Shapes.together(Shapes.sphere(1, 4), Shapes.moved(Shapes.sheet(0.05, 2), 3, 0, 0));
    Outcome out = done(both, closed(0.1));
    assertThat(String.join("; ", out.stated())).contains("8 triangles of the scan have no new");
    assertThat(out.work().cast().bounds().maxX()).isLessThan(1.1);
  }

  @Test
  void whatCannotBeIsRefused() {
    Mesh line = new Mesh(new float[] {0, 0, 0, 1, 0, 0, 2, 0, 0}, new int[] {0, 1, 2});
    assertThatThrownBy(() -> done(line, closed(0.1)))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("no area");
    assertThatThrownBy(
            () -> new Resurface(new Length(1), 500, 4, Resurface.Beyond.OPEN, null, Role.CAST))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("not both");
    for (double detail : new double[] {1e-4, 1e-6, 1e-7, 1e-12}) {
      assertThatThrownBy(() -> done(Shapes.sphere(1, 3), closed(detail)))
          .isInstanceOf(Failure.class)
          .hasMessageContaining("too fine");
    }
    Run cancelled = Run.unwatched();
    cancelled.work().cancel();
    assertThatThrownBy(
            () -> closed(0.1).apply(Workpiece.of(Shapes.sphere(1, 3), Frame.PLAIN), cancelled))
        .isInstanceOf(Failure.class);
  }
}

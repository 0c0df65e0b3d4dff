package holotome.core.unwrap;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.FlatCheck;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Work;
import holotome.core.topology.Charts;
import java.util.Random;
import java.util.function.DoubleUnaryOperator;
import org.junit.jupiter.api.Test;

/** Charts of turned bodies as straight strips, against the closed form. */
class TurnedStripTest {
  private static final int AROUND = 64;
  private static final int UP = 24;

  /** Around the z axis, 3 high, open at both ends. */
  private static Mesh turned(DoubleUnaryOperator radius) {
    float[] xyz = new float[3 * AROUND * (UP + 1)];
    int[] tri = new int[6 * AROUND * UP];
    int n = 0;
    for (int r = 0; r <= UP; r++) {
      for (int a = 0; a < AROUND; a++) {
        double angle = 2 * Math.PI * a / AROUND;
        double z = 3.0 * r / UP;
        int v = r * AROUND + a;
        xyz[3 * v] = (float) (radius.applyAsDouble(z) * Math.cos(angle));
        xyz[3 * v + 1] = (float) (radius.applyAsDouble(z) * Math.sin(angle));
        xyz[3 * v + 2] = (float) z;
        if (r < UP) {
          int w = r * AROUND + (a + 1) % AROUND;
          int[] quad = {v, w, w + AROUND, v, w + AROUND, v + AROUND};
          System.arraycopy(quad, 0, tri, n, 6);
          n += 6;
        }
      }
    }
    return new Mesh(xyz, tri);
  }

  private static Workpiece of(Mesh m) {
    return Workpiece.of(m, Frame.PLAIN).withCast(m);
  }

  private static Mesh cut(Mesh m, boolean strips) {
    return new MakeCharts(1024, 4, 1.1, 0, 180, strips).apply(of(m), Run.unwatched()).work().cast();
  }

  /**
   * How far edges that go around are from running one way in their chart, and those that go up from
   * square to them: the greatest sine.
   */
  private static double bent(Mesh m) {
    Charts of = Charts.of(m, Work.unwatched());
    double[][] way = new double[of.count()][];
    double worst = 0;
    for (int h = 0; h < 3 * m.triangleCount(); h++) {
      int next = h % 3 == 2 ? h - 2 : h + 1;
      int a = m.triangles()[h];
      int b = m.triangles()[next];
      boolean isRound = a / AROUND == b / AROUND;
      boolean isUp = a % AROUND == b % AROUND;
      if (!isRound && !isUp) {
        continue;
      }
      float[] uv = m.uv().coords();
      int i = 2 * m.uv().corners()[h];
      int k = 2 * m.uv().corners()[next];
      double x = (double) uv[k] - uv[i];
      double y = (double) uv[k + 1] - uv[i + 1];
      double l = Math.hypot(x, y);
      double[] d = isRound ? new double[] {x / l, y / l} : new double[] {y / l, -x / l};
      double[] first = way[of.ofTriangle()[h / 3]];
      if (first == null) {
        way[of.ofTriangle()[h / 3]] = d;
      } else {
        worst = Math.max(worst, Math.abs(first[0] * d[1] - first[1] * d[0]));
      }
    }
    return worst;
  }

  @Test
  void chartsOfTurnedBodiesAreStrips() {
    DoubleUnaryOperator cone = z -> 1 + 0.12 * z;
    DoubleUnaryOperator vase = z -> 1 + 0.12 * Math.sin(z);
    for (DoubleUnaryOperator radius : new DoubleUnaryOperator[] {z -> 1, cone, vase}) {
      Mesh m = turned(radius);
      Mesh strips = cut(m, true);
      assertThat(bent(strips)).isLessThan(1e-3);
      FlatCheck.owners(strips, 2048);
      assertThat(Stretch.of(strips).mean()).isLessThan(1.1);
    }
    // As they lie flattest the cone's are parts of a ring.
    assertThat(bent(cut(turned(cone), false))).isGreaterThan(0.1);
  }

  /**
   * Closed form: a cone's strip is as high as its side is long, and as wide as it is in the mean.
   */
  @Test
  void aConeHasItsLengthsInTheMean() {
    Mesh m = cut(turned(z -> 1 + 0.12 * z), true);
    Charts of = Charts.of(m, Work.unwatched());
    float[] uv = m.uv().coords();
    double around = 0;
    double up = 0;
    for (int t = 0; t < m.triangleCount(); t += 2) {
      // The first edge of every second triangle goes around, the last of the next one up.
      around += length(uv, m.uv().corners(), 3 * t, 3 * t + 1);
      up += length(uv, m.uv().corners(), 3 * t + 5, 3 * t + 3);
    }
    double side = Math.hypot(3, 0.36) / UP;
    double mean = 2.0 / 3 * (Math.pow(1.36, 3) - 1) / (1.36 * 1.36 - 1);
    double round = 2 * mean * Math.sin(Math.PI / AROUND);
    assertThat(around / up).isCloseTo(round / side, within(5e-3));
    assertThat(of.count()).isLessThan(5);
  }

  private static double length(float[] uv, int[] corners, int a, int b) {
    return Math.hypot(
        (double) uv[2 * corners[a]] - uv[2 * corners[b]],
        (double) uv[2 * corners[a] + 1] - uv[2 * corners[b] + 1]);
  }

  /** What is no turned body is as it would be without. */
  @Test
  void othersStayAsTheyAre() {
    Mesh cube = Shapes.cube(2);
    assertThat(cut(cube, true).uv().coords()).containsExactly(cut(cube, false).uv().coords());
    Random random = new Random(3);
    Mesh ball = Shapes.sphere(1, 4);
    float[] bumpy = ball.xyz().clone();
    for (int i = 0; i < bumpy.length; i++) {
      bumpy[i] += 0.06f * random.nextFloat();
    }
    Mesh rough = new Mesh(bumpy, ball.triangles());
    FlatCheck.owners(cut(rough, true), 2048);
  }

  /** Knobs that overhang, seen from the axis, are carried along between straight rims. */
  @Test
  void aBodyWithKnobsHasStraightRims() {
    Mesh m = turned(z -> 1);
    float[] xyz = m.xyz().clone();
    for (int a = 4; a < AROUND; a += 12) {
      int v = 3 * (AROUND * (UP / 2) + a);
      double angle = 2 * Math.PI * a / AROUND;
      xyz[v] += (float) (0.1 * Math.cos(angle) - 0.13 * Math.sin(angle));
      xyz[v + 1] += (float) (0.1 * Math.sin(angle) + 0.13 * Math.cos(angle));
    }
    Mesh rough = new Mesh(xyz, m.triangles());
    Mesh whole =
        new MakeCharts(1024, 4, 1.3, 0, 180).apply(of(rough), Run.unwatched()).work().cast();
    Outcome out =
        new StraightenCharts(StraightenCharts.How.STRIP, null).apply(of(whole), Run.unwatched());
    assertThat(out.amount()).isPositive();
    FlatCheck.owners(out.work().cast(), 2048);
  }

  @Test
  void whereNothingIsTurnedThatIsSaid() {
    Mesh cube = cut(Shapes.cube(2), false);
    StraightenCharts strip = new StraightenCharts(StraightenCharts.How.STRIP, null);
    assertThatThrownBy(() -> strip.apply(of(cube), Run.unwatched()))
        .hasMessageContaining("turned body");
  }
}

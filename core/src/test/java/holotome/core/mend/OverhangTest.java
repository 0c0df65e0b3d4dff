package holotome.core.mend;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.select.Pick;
import holotome.core.spatial.SolidProof;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.util.BitSet;
import java.util.List;
import java.util.Random;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;

/** Overhangs that are eased, against the shapes they must become. */
class OverhangTest {
  private static Mesh bent(Mesh sheet, UnaryOperator<double[]> to) {
    float[] xyz = sheet.xyz().clone();
    for (int v = 0; v < sheet.vertexCount(); v++) {
      double[] p = to.apply(Vec.at(xyz, v));
      for (int k = 0; k < 3; k++) {
        xyz[3 * v + k] = (float) p[k];
      }
    }
    int[] tri = sheet.triangles().clone();
    for (int t = 0; t < tri.length; t += 3) {
      int c = tri[t + 1];
      tri[t + 1] = tri[t + 2];
      tri[t + 2] = c;
    }
    return new Mesh(xyz, tri);
  }

  /** A square ceiling 1 wide, 0.5 above the foot of the walls all round it, seen from below. */
  private static Mesh ceiling(double noise) {
    Random random = new Random(5);
    Mesh sheet = Shapes.moved(Shapes.sheet(2, 80), -1, -1, 0);
    return bent(
        sheet,
        p -> {
          double far = Math.max(Math.abs(p[0]), Math.abs(p[1]));
          double s = far > 0.5 ? 0.5 / far : 1;
          return Vec.of(
              s * p[0], s * p[1], -Math.max(0, far - 0.5) + noise * random.nextGaussian());
        });
  }

  /** A nose 0.5 deep that stands out of a wall 2 high, its front 0.5 high, 1 wide. */
  private static Mesh nose() {
    return bent(
        Shapes.sheet(3, 120),
        p -> {
          double x = Math.clamp(p[0] - 2, 0, 0.5);
          double z = p[0] < 2 ? p[0] - 2 : Math.max(0, p[0] - 2.5);
          return Vec.of(x, p[1], z);
        });
  }

  private static List<Pick> level(Mesh mesh, double z) {
    BitSet out = new BitSet();
    double[] n = new double[3];
    for (int t = 0; t < mesh.triangleCount(); t++) {
      Measures.cross(mesh.xyz(), mesh.triangles(), t, n);
      out.set(t, n[2] < -0.7 * Vec.length(n) && mesh.xyz()[3 * mesh.triangles()[3 * t] + 2] < z);
    }
    return List.of(Pick.of(Pick.Join.REPLACE, out, mesh.triangleCount()));
  }

  private static Outcome ease(Mesh mesh, List<Pick> picks, double angle) {
    return new EaseOverhang(picks, angle).apply(Workpiece.of(mesh, Frame.PLAIN), Run.unwatched());
  }

  private static double leaning(Mesh mesh, double angle) {
    double limit = Math.sin(Math.toRadians(angle + 0.5));
    double[] n = new double[3];
    double leaning = 0;
    for (int t = 0; t < mesh.triangleCount(); t++) {
      Measures.cross(mesh.xyz(), mesh.triangles(), t, n);
      leaning += -n[2] > limit * Vec.length(n) ? Vec.length(n) / 2 : 0;
    }
    return leaning;
  }

  /** A pyramid over the square, as steep as asked; of its area only the hips are flatter. */
  @Test
  void aCeilingBetweenWallsBecomesAVault() {
    for (double angle : new double[] {30, 45, 60}) {
      Mesh mesh = ceiling(0);
      assertThat(leaning(mesh, angle)).isCloseTo(1, within(0.01));
      Outcome out = ease(mesh, level(mesh, 1), angle);
      Mesh now = out.work().scan();
      double slope = 1 / Math.tan(Math.toRadians(angle));
      for (int v = 0; v < mesh.vertexCount(); v++) {
        double[] was = Vec.at(mesh.xyz(), v);
        double[] is = Vec.at(now.xyz(), v);
        double far = Math.max(Math.abs(was[0]), Math.abs(was[1]));
        double z = was[2] < 0 ? was[2] : slope * (0.5 - far);
        assertThat(is[2]).isCloseTo(z, within(0.03 * slope));
        assertThat(is[0]).isEqualTo(was[0]);
      }
      // The hips are one row of triangles wide; a vault has 1 / sin of its angle as area.
      assertThat(leaning(now, angle)).isLessThan(0.08 / Math.sin(Math.toRadians(angle)));
      assertThat(out.notes().get(1)).contains("100.0 %");
    }
  }

  /** Rough as a scan: what rises enough by itself stays, the rest becomes a vault all the same. */
  @Test
  void aRoughCeilingBecomesOneToo() {
    Mesh mesh = ceiling(0.002);
    Mesh now = ease(mesh, level(mesh, 1), 45).work().scan();
    assertThat(now.bounds().maxZ()).isBetween(0.48, 0.56);
    assertThat(leaning(mesh, 45)).isGreaterThan(0.9);
    assertThat(leaning(now, 45)).isLessThan(0.15);
  }

  /** The underside falls from its outer edge to the wall, which gives way without folding. */
  @Test
  void aNoseSlopesToTheWallBelowIt() {
    Mesh mesh = nose();
    Mesh now = ease(mesh, level(mesh, 1), 45).work().scan();
    assertThat(leaning(mesh, 45)).isCloseTo(1.5, within(1e-4));
    assertThat(leaning(now, 45)).isZero();
    for (int v = 0; v < mesh.vertexCount(); v++) {
      double[] was = Vec.at(mesh.xyz(), v);
      double[] is = Vec.at(now.xyz(), v);
      if (was[2] == 0 && was[0] > 0) {
        assertThat(is[2]).isCloseTo(was[0] - 0.5, within(0.02));
      } else if (was[2] > 0) {
        assertThat(is).isEqualTo(was);
      }
      // On the wall the order from below to above is kept.
      if (was[0] == 0) {
        assertThat(is[2]).isLessThanOrEqualTo(was[2]).isBetween(-2.0, -0.4 + 0.5 * was[2] + 0.1);
      }
    }
    double[] n = new double[3];
    for (int t = 0; t < now.triangleCount(); t++) {
      Measures.cross(now.xyz(), now.triangles(), t, n);
      assertThat(Vec.length(n)).isPositive();
    }
  }

  /** The foot of a ball below 45 degrees becomes the cone that touches it there. */
  @Test
  void theFootOfABallBecomesACone() {
    Mesh ball = Shapes.sphere(1, 6);
    Mesh now = ease(ball, level(ball, -0.6), 45).work().scan();
    assertThat(now.bounds().minZ()).isCloseTo(-Math.sqrt(2), within(0.04));
    assertThat(SolidProof.of(now, Work.unwatched()).holds()).isTrue();
    assertThat(leaning(now, 45)).isLessThan(0.03);
  }

  @Test
  void whatDoesNotLeanIsSaid() {
    Mesh ball = Shapes.sphere(1, 4);
    BitSet upper = new BitSet();
    upper.set(0, ball.triangleCount());
    for (int t = 0; t < ball.triangleCount(); t++) {
      for (int c = 3 * t; c < 3 * t + 3; c++) {
        if (ball.xyz()[3 * ball.triangles()[c] + 2] < 0.3) {
          upper.clear(t);
        }
      }
    }
    List<Pick> picks = List.of(Pick.of(Pick.Join.REPLACE, upper, ball.triangleCount()));
    assertThatThrownBy(() -> ease(ball, picks, 45))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("faces down");
    Mesh mesh = nose();
    Mesh now = ease(mesh, level(mesh, 1), 45).work().scan();
    BitSet all = new BitSet();
    all.set(0, now.triangleCount());
    List<Pick> whole = List.of(Pick.of(Pick.Join.REPLACE, all, now.triangleCount()));
    assertThatThrownBy(() -> ease(now, whole, 60)).hasMessageContaining("leans");
  }
}

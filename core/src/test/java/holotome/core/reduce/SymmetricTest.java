package holotome.core.reduce;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.attribute.Attribute;
import holotome.core.frame.Frame;
import holotome.core.frame.Mirrored;
import holotome.core.geometry.Similarity;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.unit.Length;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** One half made light and mirrored onto the other. */
class SymmetricTest {
  @AfterEach
  void allThreads() {
    Parallel.limitThreads(Integer.MAX_VALUE);
  }

  private static Decimate to(int triangles, Decimate.Symmetric side) {
    return new Decimate(
        triangles,
        null,
        null,
        Role.CAST,
        Decimate.Texture.COLOURS,
        null,
        Decimate.Crossings.AVOID,
        Decimate.Selected.ALIKE,
        4,
        null,
        side);
  }

  private static Mesh made(Mesh in, Frame frame, Decimate step) {
    Outcome out = step.apply(Workpiece.of(in, frame), Run.unwatched());
    Mesh mesh = out.work().cast();
    Naive.assertSound(mesh);
    return mesh;
  }

  private static Mesh rough(Mesh m) {
    Random random = new Random(11);
    float[] p = m.xyz().clone();
    for (int i = 0; i < p.length; i++) {
      p[i] += (float) (0.004 * random.nextGaussian());
    }
    return m.withPositions(p);
  }

  /** The vertex nearest to a place, and how far it is. */
  private static double nearest(Mesh m, double[] p) {
    double best = Double.POSITIVE_INFINITY;
    for (int v = 0; v < m.vertexCount(); v++) {
      double sum = 0;
      for (int k = 0; k < 3; k++) {
        double d = m.xyz()[3 * v + k] - p[k];
        sum += d * d;
      }
      best = Math.min(best, sum);
    }
    return Math.sqrt(best);
  }

  /** A rough ball, placed askew, becomes its own mirror image in the working frame. */
  @ParameterizedTest
  @EnumSource(names = "NO", mode = EnumSource.Mode.EXCLUDE)
  void theResultIsItsOwnMirrorImage(Decimate.Symmetric side) {
    Frame askew =
        Frame.PLAIN.placed(
            Similarity.turning(new double[] {0.3, 0.2, 0.9}, 0.7)
                .then(Similarity.translation(new double[] {0.1, -0.15, 0.3})));
    Mesh ball = rough(Shapes.sphere(1, 5));
    Mesh out = made(ball, askew, to(1500, side));
    assertThat(out.triangleCount()).isBetween(1400, 1500);
    assertThat(Naive.closedAndOriented(out)).isTrue();
    int axis = side == Decimate.Symmetric.LEFT || side == Decimate.Symmetric.RIGHT ? 0 : 1;
    for (int v = 0; v < out.vertexCount(); v++) {
      double[] w =
          askew.toWork().apply(out.xyz()[3 * v], out.xyz()[3 * v + 1], out.xyz()[3 * v + 2]);
      w[axis] = -w[axis];
      assertThat(nearest(out, askew.toBase(w))).isLessThan(1e-5);
    }
    // The half that stays is that of the scan, roughness and all.
    double sign = side == Decimate.Symmetric.LEFT || side == Decimate.Symmetric.FRONT ? -1 : 1;
    for (int v = 0; v < out.vertexCount(); v++) {
      double[] p = {out.xyz()[3 * v], out.xyz()[3 * v + 1], out.xyz()[3 * v + 2]};
      if (sign * askew.toWork().apply(p)[axis] > 0.1) {
        assertThat(Naive.distance(p, ball)).isLessThan(0.02);
      }
    }
  }

  /** A sheet stays open around, and has no border down its middle. */
  @Test
  void whatIsOpenStaysOpen() {
    Mesh sheet = Shapes.moved(Shapes.sheet(2, 40), -1, -1, 0);
    Mesh out = made(sheet, Frame.PLAIN, to(600, Decimate.Symmetric.RIGHT));
    assertThat(Naive.islands(out)).isEqualTo(1);
    Map<Long, Integer> edges = Naive.edges(out);
    for (long edge : edges.keySet()) {
      if (edges.get(edge) == 1) {
        int a = (int) (edge >>> 32);
        int b = (int) edge;
        double x = (out.xyz()[3 * a] + out.xyz()[3 * b]) / 2.0;
        double y = (out.xyz()[3 * a + 1] + out.xyz()[3 * b + 1]) / 2.0;
        assertThat(Math.max(Math.abs(x), Math.abs(y))).isCloseTo(1, within(1e-3));
      }
    }
  }

  /** All that a mesh carries is mirrored with it; normals look to the mirrored side. */
  @Test
  void attributesGoAlong() {
    Mesh laden = Shapes.laden(Shapes.sphere(1, 5));
    Mesh out = made(laden, Frame.PLAIN, to(1500, Decimate.Symmetric.LEFT));
    for (Attribute a : laden.attributes()) {
      // Texture coordinates become colours.
      if (a.kind() != Attribute.Kind.UV) {
        assertThat(out.attributes().named(a.name())).as(a.name()).isNotNull();
      }
    }
    // Numbers are those of the place on the half that stays, mirrored on the other.
    float[] weight = out.attributes().named("weight").floats();
    for (int v = 0; v < weight.length; v++) {
      double x = -Math.abs(out.xyz()[3 * v]);
      double told = Shapes.placeWeight(x, out.xyz()[3 * v + 1], out.xyz()[3 * v + 2]);
      assertThat(weight[v]).isCloseTo((float) told, within(0.12f));
    }
    Mesh plain = Shapes.sphere(1, 4);
    float[] normals = plain.xyz().clone();
    Mesh with =
        plain.with(
            plain
                .attributes()
                .with(
                    Attribute.of(
                        Attribute.NORMAL,
                        Attribute.Kind.NORMAL,
                        Attribute.Domain.VERTEX,
                        normals,
                        null)),
            plain.materials());
    Mesh light = made(with, Frame.PLAIN, to(800, Decimate.Symmetric.RIGHT));
    float[] n = light.attributes().named(Attribute.NORMAL).floats();
    for (int i = 0; i < n.length; i++) {
      assertThat(n[i]).isCloseTo(light.xyz()[i], within(0.08f));
    }
  }

  @Test
  void mirroredTwiceIsAsBefore() {
    Mesh laden = Shapes.laden(Shapes.sphere(1, 3));
    double[] point = {0.2, 0, -0.1};
    double[] normal = {0.6, 0, 0.8};
    Mesh twice = Mirrored.in(Mirrored.in(laden, point, normal), point, normal);
    assertThat(twice.triangles()).isEqualTo(laden.triangles());
    for (int i = 0; i < laden.xyz().length; i++) {
      assertThat(twice.xyz()[i]).isCloseTo(laden.xyz()[i], within(1e-6f));
    }
    float[] before = laden.attributes().named("normal").floats();
    float[] after = twice.attributes().named("normal").floats();
    for (int i = 0; i < before.length; i++) {
      assertThat(after[i]).isCloseTo(before[i], within(1e-6f));
    }
  }

  @Test
  void theSameOnOneThreadAndMany() {
    Mesh ball = rough(Shapes.sphere(1, 5));
    Parallel.limitThreads(1);
    Mesh one = made(ball, Frame.PLAIN, to(900, Decimate.Symmetric.LEFT));
    Parallel.limitThreads(Integer.MAX_VALUE);
    assertThat(made(ball, Frame.PLAIN, to(900, Decimate.Symmetric.LEFT)).sameAs(one)).isTrue();
  }

  @Test
  void whatCannotBeIsSaid() {
    Mesh off = Shapes.moved(Shapes.sphere(1, 3), 3, 0, 0);
    for (Decimate.Symmetric side : List.of(Decimate.Symmetric.LEFT, Decimate.Symmetric.RIGHT)) {
      assertThatThrownBy(() -> made(off, Frame.PLAIN, to(100, side)))
          .isInstanceOf(Failure.class)
          .hasMessageContaining("does not part");
    }
    assertThatThrownBy(
            () ->
                new Decimate(
                    null,
                    null,
                    new Length(0.1),
                    Role.CAST,
                    null,
                    null,
                    null,
                    null,
                    4,
                    null,
                    Decimate.Symmetric.LEFT))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("triangles or percent");
  }
}

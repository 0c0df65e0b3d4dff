package holotome.core.measure;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Shapes;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import org.junit.jupiter.api.Test;

/** What a picked point is drawn to. */
class SnapTest {
  /** Triangle 0 of a sheet of one cell a unit wide: its corners are 0 0, 1 0 and 1 1. */
  private static final Mesh SHEET = Shapes.sheet(4, 4);

  private static double[] snap(Snap s, double[] at, float[][] borders, double reach) {
    return s.of(SHEET, 0, at, borders, reach, Work.unwatched());
  }

  private static final float[][] SQUARE = {{0, 0, 0, 4, 0, 0, 4, 4, 0, 0, 4, 0}};

  @Test
  void toTheSurfaceAVertexAnEdge() {
    double[] p = Vec.of(0.8, 0.15, 0);
    assertThat(snap(Snap.SURFACE, p, SQUARE, 1)).isEqualTo(p);
    assertThat(snap(Snap.VERTEX, p, SQUARE, 1)).containsExactly(1, 0, 0);
    assertThat(snap(Snap.EDGE, p, SQUARE, 1))
        .containsExactly(new double[] {0.8, 0, 0}, within(1e-12));
  }

  @Test
  void toABorderWithinReachOnly() {
    double[] p = Vec.of(0.8, 0.15, 0);
    assertThat(snap(Snap.BORDER, p, SQUARE, 1))
        .containsExactly(new double[] {0.8, 0, 0}, within(1e-12));
    assertThat(snap(Snap.BORDER, Vec.of(2, 2, 0), SQUARE, 0.5)).containsExactly(2, 2, 0);
    assertThat(snap(Snap.BORDER, p, new float[0][], 1)).isEqualTo(p);
  }

  @Test
  void toTheCentreOfAHoleAndOfABall() {
    float[] ring = new float[3 * 40];
    for (int i = 0; i < 40; i++) {
      ring[3 * i] = (float) (2 + 0.7 * Math.cos(2 * Math.PI * i / 40));
      ring[3 * i + 1] = (float) (1 + 0.7 * Math.sin(2 * Math.PI * i / 40));
      ring[3 * i + 2] = 3;
    }
    assertThat(snap(Snap.HOLE_CENTRE, Vec.of(2.6, 1, 3), new float[][] {ring}, 1))
        .containsExactly(new double[] {2, 1, 3}, within(1e-6));
    Mesh ball = Shapes.moved(Shapes.sphere(2, 5), 1, 2, 3);
    double[] c =
        Snap.SPHERE_CENTRE.of(ball, 0, Vec.of(1, 2, 5), new float[0][], 1, Work.unwatched());
    assertThat(c).containsExactly(new double[] {1, 2, 3}, within(2e-3));
    assertThatThrownBy(() -> snap(Snap.SPHERE_CENTRE, Vec.of(2, 2, 0), SQUARE, 1))
        .isInstanceOf(Failure.class);
  }
}

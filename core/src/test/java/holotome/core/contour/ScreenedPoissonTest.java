package holotome.core.contour;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.offset;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Shapes;
import holotome.core.array.LongIndex;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.Random;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ScreenedPoissonTest {
  @AfterEach
  void allThreads() {
    Parallel.limitThreads(Integer.MAX_VALUE);
  }

  /** Bricks of nodes from 8 to 39 along each axis. */
  private static Bricks block() {
    LongIndex keys = new LongIndex();
    for (int n = 0; n < 64; n++) {
      keys.add(Bricks.key(1 + n % 4, 1 + n / 4 % 4, 1 + n / 16));
    }
    return new Bricks(keys);
  }

  private static SampleCells none() {
    return new SampleCells(new LongIndex(), new int[1], new short[0], new float[0]);
  }

  /** Closed formula: the Laplacian of x² + 2 y² - z is 6, of a linear function nought. */
  @Test
  void theStencilIsTheLaplacian() {
    Bricks bricks = block();
    float[] square = new float[Bricks.NODES * bricks.size()];
    float[] linear = new float[square.length];
    Bricks.Nodes nodes = bricks.nodes();
    for (int i = 8; i < 40; i++) {
      for (int j = 8; j < 40; j++) {
        for (int k = 8; k < 40; k++) {
          square[nodes.node(i, j, k)] = i * i + 2 * j * j - k;
          linear[nodes.node(i, j, k)] = 3 * i - j + 2 * k;
        }
      }
    }
    BrickStencil stencil = new BrickStencil(bricks, none(), 2, 0);
    float[] room = new float[1000];
    float[] out = new float[Bricks.NODES];
    int middle = bricks.find(Bricks.key(2, 2, 2));
    bricks.gather(square, middle, room);
    stencil.apply(middle, room, out);
    for (float v : out) {
      assertThat(v).isEqualTo(-2 * 6f, offset(2e-2f));
    }
    bricks.gather(linear, middle, room);
    stencil.apply(middle, room, out);
    for (float v : out) {
      assertThat(v).isEqualTo(0, offset(1e-3f));
    }
    stencil.diagonal(middle, out);
    for (float v : out) {
      assertThat(v).isEqualTo(16f / 3, offset(1e-6f));
    }
  }

  /** All area and all normals come into cells, none twice, however large the triangles are. */
  @ParameterizedTest
  @ValueSource(doubles = {0.003, 0.02, 0.11, 0.7})
  void samplesAddUpToTheSurface(double step) {
    Mesh mesh = Shapes.together(Shapes.torus(1, 0.4, 40, 16), Shapes.sheet(3, 2));
    NestedLattice l = NestedLattice.around(mesh.bounds(), step);
    SampleCells cells = SampleCells.of(mesh, l, Work.unwatched());
    int fine = cells.count();
    for (int d = l.finest(); d >= 0; d--) {
      double area = 0;
      double[] normal = new double[3];
      for (int c = 0; c < cells.count(); c++) {
        area += cells.data()[SampleCells.SIZE * c];
        for (int k = 0; k < 3; k++) {
          assertThat(cells.data()[SampleCells.SIZE * c + 1 + k]).isBetween(0f, 1f);
          normal[k] += cells.data()[SampleCells.SIZE * c + 4 + k];
        }
      }
      assertThat(area * step * step).isCloseTo(Measures.area(mesh), within(1e-4 * area));
      // A closed surface's normals add up to nought, the sheet's to its area.
      assertThat(normal[2] * step * step).isCloseTo(9, within(0.01));
      assertThat(normal[0] * step * step).isCloseTo(0, within(0.01));
      if (d > 0) {
        cells = cells.coarser();
      }
    }
    assertThat(cells.count()).isLessThan(fine);
  }

  /** The function is the indicator of the body: 1 inside, 0 outside, a half on its surface. */
  @ParameterizedTest
  @ValueSource(doubles = {0, 4})
  void itTellsInsideFromOutside(double screening) {
    Mesh ball = Shapes.sphere(1, 5);
    ScreenedPoisson field = ScreenedPoisson.of(ball, 0.05, screening, true, Work.unwatched());
    Field.Probe probe = field.probe();
    Random random = new Random(3);
    double[] normal = new double[3];
    for (int i = 0; i < 400; i++) {
      double[] d = {random.nextGaussian(), random.nextGaussian(), random.nextGaussian()};
      double l = Math.sqrt(d[0] * d[0] + d[1] * d[1] + d[2] * d[2]);
      double in = random.nextDouble() * 0.85 / l;
      assertThat(probe.at(in * d[0], in * d[1], in * d[2])).isCloseTo(1, within(0.06));
      double out = 1.15 / l;
      assertThat(probe.at(out * d[0], out * d[1], out * d[2])).isCloseTo(0, within(0.06));
      assertThat(probe.at(d[0] / l, d[1] / l, d[2] / l)).isCloseTo(0.5, within(0.06));
      assertThat(probe.outwards(d[0] / l, d[1] / l, d[2] / l, normal)).isTrue();
      double along = (normal[0] * d[0] + normal[1] * d[1] + normal[2] * d[2]) / l;
      assertThat(along).isGreaterThan(0.98);
    }
  }

  @Test
  void theSameOnOneThreadAndMany() {
    Mesh ring = Shapes.torus(1, 0.4, 120, 50);
    double[][] seen = new double[2][300];
    for (int round = 0; round < 2; round++) {
      Parallel.limitThreads(round == 0 ? 1 : Integer.MAX_VALUE);
      Field.Probe probe = ScreenedPoisson.of(ring, 0.04, 4, false, Work.unwatched()).probe();
      Random random = new Random(1);
      for (int i = 0; i < 300; i++) {
        seen[round][i] =
            probe.at(
                3 * random.nextDouble() - 1.5,
                3 * random.nextDouble() - 1.5,
                random.nextDouble() - 0.5);
      }
    }
    assertThat(seen[0]).isEqualTo(seen[1]);
  }

  @Test
  void tooFineADetailIsRefused() {
    Mesh sheet = Shapes.sheet(1, 1);
    assertThatThrownBy(() -> ScreenedPoisson.of(sheet, 1e-8, 4, false, Work.unwatched()))
        .isInstanceOf(Failure.class);
  }
}

package holotome.core.unwrap;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import holotome.core.FlatCheck;
import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

class UnwrapTest {
  private static final int SIZE = 1024;
  private static final int GUTTER = 4;

  private static Mesh unwrap(Mesh m) {
    Workpiece in = Workpiece.of(m, Frame.PLAIN).withCast(m);
    Mesh out = new MakeCharts(SIZE, GUTTER, 1.1, 0, 180).apply(in, Run.unwatched()).work().cast();
    Naive.assertSound(out);
    return out;
  }

  static Stream<Mesh> meshes() {
    return Stream.of(
        Shapes.cube(1),
        Shapes.sphere(1, 4),
        Shapes.torus(2, 0.6, 60, 24),
        Shapes.sheet(3, 12),
        Shapes.together(Shapes.sphere(1, 3), Shapes.moved(Shapes.cube(0.5), 4, 0, 0)),
        Shapes.mess(60, 3));
  }

  /**
   * Every texel's middle lies in at most one triangle, and texels of different charts keep apart by
   * the gutter. Charts are told apart by the texture vertices they share.
   */
  @ParameterizedTest
  @MethodSource("meshes")
  void chartsNeitherOverlapNorTouch(Mesh mesh) {
    Mesh m = unwrap(mesh);
    Uv uv = m.uv();
    int[] chart =
        holotome.core.topology.Islands.of(
                new Mesh(new float[uv.coords().length / 2 * 3], uv.corners()))
            .ofTriangle();
    int[] owner = FlatCheck.owners(m, SIZE);
    for (int i = 0; i < owner.length; i++) {
      owner[i] = owner[i] < 0 ? 0 : chart[owner[i]] + 1;
    }
    for (float p : uv.coords()) {
      assertThat(SIZE * (double) p).isBetween(GUTTER - 1.0, SIZE - GUTTER + 1.0);
    }
    for (int j = 0; j < SIZE - 3; j++) {
      for (int i = 0; i < SIZE - 3; i++) {
        int o = owner[j * SIZE + i];
        for (int d = 1; d < GUTTER - 1 && o != 0; d++) {
          int right = owner[j * SIZE + i + d];
          int above = owner[(j + d) * SIZE + i];
          assertThat(right == 0 || right == o).isTrue();
          assertThat(above == 0 || above == o).isTrue();
        }
      }
    }
  }

  @Test
  void sphereIsStretchedLittleAndFillsMuch() {
    Mesh m = unwrap(Shapes.sphere(1, 4));
    Stretch s = Stretch.of(m);
    assertThat(s.mean()).isBetween(1.0, 1.1);
    assertThat(s.p95()).isLessThan(1.3);
  }

  @Test
  void developableSurfaceIsNotStretchedAtAll() {
    // A sheet rolled into an arch lies flat again.
    Mesh sheet = Shapes.sheet(2, 30);
    float[] xyz = sheet.xyz().clone();
    for (int i = 0; i < xyz.length; i += 3) {
      double a = xyz[i] / 2 - 0.5;
      xyz[i] = (float) (2 * Math.sin(a));
      xyz[i + 2] = (float) (2 * Math.cos(a));
    }
    Stretch s = Stretch.of(unwrap(sheet.withPositions(xyz)));
    assertThat(s.mean()).isLessThan(1.002);
  }

  @Test
  void oneThreadAndManyGiveTheSame() {
    Mesh many = unwrap(Shapes.torus(2, 0.6, 60, 24));
    Parallel.limitThreads(1);
    try {
      assertThat(unwrap(Shapes.torus(2, 0.6, 60, 24)).sameAs(many)).isTrue();
    } finally {
      Parallel.limitThreads(64);
    }
  }

  @Test
  void withoutACastThereIsNothingToUnwrap() {
    assertThatThrownBy(
            () ->
                new MakeCharts(512, 4, 1.1, 0, 180)
                    .apply(Workpiece.of(Shapes.cube(1), Frame.PLAIN), Run.unwatched()))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("reduce.decimate");
  }

  @Test
  void tooManyChartsForThePictureIsSaid() {
    Mesh[] cubes = new Mesh[60];
    for (int i = 0; i < cubes.length; i++) {
      cubes[i] = Shapes.moved(Shapes.cube(1), 3 * i, 0, 0);
    }
    Mesh m = Shapes.together(cubes);
    Workpiece in = Workpiece.of(m, Frame.PLAIN).withCast(m);
    assertThatThrownBy(() -> new MakeCharts(64, 8, 1.1, 0, 180).apply(in, Run.unwatched()))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("larger picture");
  }
}

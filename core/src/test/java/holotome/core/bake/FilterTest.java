package holotome.core.bake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.image.Image;
import holotome.core.image.LinearLight;
import holotome.core.map.MapKind;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** The filters beside their published values and responses. */
class FilterTest {
  private static final int SIZE = 64;

  /** Mitchell and Netravali 1988, equation 8, at whole distances. */
  @Test
  void valuesAtWholeDistancesAreThePublishedOnes() {
    assertThat(Filter.SOFT.weight(0)).isCloseTo(2 / 3.0, within(1e-12));
    assertThat(Filter.SOFT.weight(1)).isCloseTo(1 / 6.0, within(1e-12));
    assertThat(Filter.EVEN.weight(0)).isCloseTo(8 / 9.0, within(1e-12));
    assertThat(Filter.EVEN.weight(-1)).isCloseTo(1 / 18.0, within(1e-12));
    assertThat(Filter.SHARP.weight(0)).isCloseTo(1, within(1e-12));
    assertThat(Filter.SHARP.weight(1)).isCloseTo(0, within(1e-12));
    assertThat(Filter.SHARP.weight(1.5)).isCloseTo(-0.0625, within(1e-12));
  }

  @ParameterizedTest
  @EnumSource(Filter.class)
  void weightsOfWholeStepsAddUpToOne(Filter f) {
    for (double at = -0.49; at < 0.5; at += 0.07) {
      double sum = 0;
      for (int i = -3; i <= 3; i++) {
        sum += f.weight(at + i);
      }
      assertThat(sum).isCloseTo(1, within(1e-12));
    }
  }

  private static double sinc(double x) {
    return x == 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x);
  }

  /** What of a wave of so many turns a texel is left. */
  private static double published(Filter f, double turns) {
    double x = turns;
    return switch (f) {
      case BOX -> sinc(x);
      case SOFT -> Math.pow(sinc(x), 4);
      // Keys, "Cubic convolution interpolation for digital image processing", 1981, a = -1/2.
      case SHARP ->
          3 / Math.pow(Math.PI * x, 2) * (Math.pow(sinc(x), 2) - sinc(2 * x))
              - 0.5
                  * 2
                  / Math.pow(Math.PI * x, 2)
                  * (3 * Math.pow(sinc(2 * x), 2) - 2 * sinc(2 * x) - sinc(4 * x));
      // A third B-spline and two thirds the cardinal cubic of C = 1/2: weights are linear in both.
      case EVEN -> published(Filter.SOFT, x) / 3 + 2 * published(Filter.SHARP, x) / 3;
    };
  }

  /** A wave of light across the Scan: its height in the picture is the filter's response. */
  @ParameterizedTest
  @EnumSource(Filter.class)
  void aWaveComesOutAsThePublishedResponseHasIt(Filter f) {
    double turns = 0.21;
    Mesh fine = Shapes.sheet(1, 640);
    int[] colours = new int[fine.vertexCount()];
    for (int v = 0; v < colours.length; v++) {
      double light = 0.5 + 0.4 * Math.cos(2 * Math.PI * turns * SIZE * fine.xyz()[3 * v]);
      int c = LinearLight.storedByte(light);
      colours[v] = 0xff000000 | c << 16 | c << 8 | c;
    }
    float[] p = {0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0};
    int[] t = {0, 1, 2, 0, 2, 3};
    Mesh cast = new Mesh(p, t).withUv(new Uv(new float[] {0, 0, 1, 0, 1, 1, 0, 1}, t));
    BakeMaps step =
        new BakeMaps(
            List.of(MapKind.COLOUR),
            SIZE,
            64,
            f,
            0,
            true,
            Along.SMOOTH,
            null,
            BakeMaps.Fill.NEAREST,
            null,
            1,
            8,
            null);
    Workpiece in =
        Workpiece.of(new Mesh(fine.xyz(), fine.triangles(), colours), Frame.PLAIN).withCast(cast);
    Image colour = step.apply(in, Run.unwatched()).work().maps().pictures().get(MapKind.COLOUR);
    double most = 0;
    for (int x = 8; x < SIZE - 8; x++) {
      double wave = Math.cos(2 * Math.PI * turns * (x + 0.5));
      double expected = 0.5 + 0.4 * published(f, turns) * wave;
      most = Math.max(most, Math.abs(colour.light(x, SIZE / 2, 0) - expected));
    }
    assertThat(most).isLessThan(0.012);
  }
}

package holotome.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.frame.Frame;
import holotome.core.mend.TakeNoise;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.step.Run;
import holotome.core.task.Work;
import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * The made-up bollard's true surface with noise of a known size, and what taking it away leaves.
 */
class NoisyBollardTest {
  private static final double CELL = 0.0015;

  private static double rms(Mesh m, Bvh truth) {
    double sum = 0;
    for (float d : SurfaceDistance.distances(m.xyz(), truth, Work.unwatched())) {
      sum += (double) d * d;
    }
    return Math.sqrt(sum / m.vertexCount());
  }

  @ParameterizedTest
  @ValueSource(doubles = {0.0004})
  void noiseIsHalvedAndTheBollardIsNoSmaller(double sigma) {
    Mesh truth = BollardScan.trueSubject(CELL);
    float[] normals = Measures.vertexNormals(truth);
    float[] xyz = truth.xyz().clone();
    Random random = new Random(11);
    for (int v = 0; v < truth.vertexCount(); v++) {
      double by = sigma * random.nextGaussian();
      for (int k = 0; k < 3; k++) {
        xyz[3 * v + k] += (float) (by * normals[3 * v + k]);
      }
    }
    Mesh noisy = truth.withPositions(xyz);
    Mesh out =
        new TakeNoise(TakeNoise.How.EDGES_KEPT, null, 10, null, null)
            .apply(Workpiece.of(noisy, Frame.PLAIN), Run.unwatched())
            .work()
            .scan();
    Bvh bvh = Bvh.of(truth, Work.unwatched());
    double before = rms(noisy, bvh);
    double after = rms(out, bvh);
    assertThat(after).isLessThan(0.5 * before);
    double volume = Measures.volume(truth);
    assertThat(Measures.volume(out)).isCloseTo(volume, within(0.001 * volume));
  }
}

package holotome.core.solve;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Shapes;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import java.util.Arrays;
import java.util.SplittableRandom;
import org.apache.commons.math3.fitting.leastsquares.LeastSquaresBuilder;
import org.apache.commons.math3.fitting.leastsquares.LeastSquaresOptimizer;
import org.apache.commons.math3.fitting.leastsquares.LevenbergMarquardtOptimizer;
import org.apache.commons.math3.linear.Array2DRowRealMatrix;
import org.apache.commons.math3.linear.ArrayRealVector;
import org.apache.commons.math3.util.Pair;
import org.junit.jupiter.api.Test;

/** Fits beside a paper's example, closed formulas and a reference library (Commons Math). */
class FitTest {
  private final SplittableRandom random = new SplittableRandom(7);

  private double[] inSpace(double[] local, Similarity to, double noise) {
    double[] out = new double[local.length];
    for (int i = 0; i < local.length; i += 3) {
      double[] p = to.apply(local[i], local[i + 1], local[i + 2]);
      for (int k = 0; k < 3; k++) {
        out[i + k] = p[k] + noise * random.nextGaussian();
      }
    }
    return out;
  }

  private Similarity somewhere(double far) {
    double[] axis = Vec.unit(Vec.of(0.3, -0.5, 0.8));
    return Similarity.turning(axis, 1.1).then(Similarity.translation(Vec.of(far, -2 * far, far)));
  }

  @Test
  void theCircleOfThePaper() {
    // Gander, Golub and Strebel (1994), section 1: centre and radius of the best circle through six
    // points. The figures are from memory; the reference library below gives the same.
    double[] p = {1, 7, 0, 2, 6, 0, 5, 8, 0, 7, 7, 0, 9, 5, 0, 3, 7, 0};
    CircleFit c = CircleFit.of(p);
    assertThat(c.centre()[0]).isCloseTo(4.7398, within(5e-5));
    assertThat(c.centre()[1]).isCloseTo(2.9835, within(5e-5));
    assertThat(c.radius()).isCloseTo(4.7142, within(5e-5));
    double[] reference = reference(p, new double[] {5, 4, 0, 4}, true);
    assertThat(c.centre()[0]).isCloseTo(reference[0], within(5e-5));
    assertThat(c.radius()).isCloseTo(reference[3], within(5e-5));
  }

  /** Centre and radius by Commons Math; {@code flat} keeps z at 0. */
  private static double[] reference(double[] p, double[] guess, boolean flat) {
    int n = p.length / 3;
    LeastSquaresOptimizer.Optimum best =
        new LevenbergMarquardtOptimizer()
            .optimize(
                new LeastSquaresBuilder()
                    .start(guess)
                    .target(new double[n])
                    .maxEvaluations(1000)
                    .maxIterations(1000)
                    .model(
                        x -> {
                          double[] value = new double[n];
                          double[][] slope = new double[n][4];
                          for (int i = 0; i < n; i++) {
                            double[] d = {
                              p[3 * i] - x.getEntry(0),
                              p[3 * i + 1] - x.getEntry(1),
                              flat ? 0 : p[3 * i + 2] - x.getEntry(2)
                            };
                            double l = Vec.length(d);
                            value[i] = l - x.getEntry(3);
                            slope[i] =
                                new double[] {-d[0] / l, -d[1] / l, flat ? 1e-9 : -d[2] / l, -1};
                          }
                          return new Pair<>(
                              new ArrayRealVector(value), new Array2DRowRealMatrix(slope));
                        })
                    .build());
    return best.getPoint().toArray();
  }

  @Test
  void aSphereIsFoundWhereItIsFarOffAndNoisy() {
    double[] local = new double[3 * 4000];
    for (int i = 0; i < local.length; i += 3) {
      // A cap only: a third of the ball.
      double z = 0.4 + 0.6 * random.nextDouble();
      double a = 2 * Math.PI * random.nextDouble();
      double r = Math.sqrt(1 - z * z);
      local[i] = 0.35 * r * Math.cos(a);
      local[i + 1] = 0.35 * r * Math.sin(a);
      local[i + 2] = 0.35 * z;
    }
    double[] exact = inSpace(local, somewhere(1e5), 0);
    SphereFit s = SphereFit.of(exact);
    assertThat(s.radius()).isCloseTo(0.35, within(1e-8));
    assertThat(s.rms()).isLessThan(1e-9);

    double[] noisy = inSpace(local, somewhere(10), 0.002);
    SphereFit f = SphereFit.of(noisy);
    // Residual: the noise, less the four unknowns' share.
    assertThat(f.rms()).isCloseTo(0.002 * Math.sqrt((4000 - 4) / 4000.0), within(1e-4));
    double[] reference = reference(noisy, new double[] {10, -20, 10, 0.3}, false);
    assertThat(f.radius()).isCloseTo(reference[3], within(1e-8));
    assertThat(Vec.distance(f.centre(), Arrays.copyOf(reference, 3))).isLessThan(1e-8);
  }

  @Test
  void aCylinderIsFoundInAnyDirection() {
    int n = 3000;
    double[] local = new double[3 * n];
    double[] normals = new double[3 * n];
    for (int i = 0; i < n; i++) {
      // Short and a sixth of the round only: the normals must tell.
      double a = Math.PI / 3 * random.nextDouble();
      local[3 * i] = 0.2 * Math.cos(a);
      local[3 * i + 1] = 0.2 * Math.sin(a);
      local[3 * i + 2] = 0.1 * random.nextDouble();
      normals[3 * i] = Math.cos(a);
      normals[3 * i + 1] = Math.sin(a);
    }
    Similarity to = somewhere(3);
    double[] turned = inSpace(normals, Similarity.rotating(to.rotation()), 0);
    CylinderFit exact = CylinderFit.of(inSpace(local, to, 0), turned);
    assertThat(exact.radius()).isCloseTo(0.2, within(1e-9));
    assertThat(Math.abs(Vec.dot(exact.axis(), to.direction(Vec.of(0, 0, 1)))))
        .isCloseTo(1, within(1e-12));
    CylinderFit noisy = CylinderFit.of(inSpace(local, to, 0.0005), turned);
    assertThat(noisy.radius()).isCloseTo(0.2, within(2e-3));
    assertThat(noisy.rms()).isCloseTo(0.0005 * Math.sqrt((n - 5.0) / n), within(3e-5));
    // The axis passes where it should.
    double[] on = to.apply(0, 0, 0.05);
    double[] away = Vec.cross(Vec.sub(on, noisy.point()), noisy.axis());
    assertThat(Vec.length(away)).isLessThan(3e-3);
  }

  @Test
  void aCircleInSpaceKnowsItsPlane() {
    double[] local = new double[3 * 200];
    for (int i = 0; i < 200; i++) {
      double a = 0.02 * i;
      local[3 * i] = 3 * Math.cos(a);
      local[3 * i + 1] = 3 * Math.sin(a);
    }
    Similarity to = somewhere(100);
    CircleFit c = CircleFit.of(inSpace(local, to, 0));
    assertThat(c.radius()).isCloseTo(3, within(1e-9));
    assertThat(Vec.distance(c.centre(), to.apply(0, 0, 0))).isLessThan(1e-9);
    assertThat(Math.abs(Vec.dot(c.normal(), to.direction(Vec.of(0, 0, 1)))))
        .isCloseTo(1, within(1e-12));
    assertThat(c.flatness()).isLessThan(1e-9);
  }

  @Test
  void theAxisOfATurnedBodyIsFoundBesideWhatIsNotTurned() {
    Mesh torus = Shapes.torus(1, 0.3, 60, 24);
    float[] n = Measures.vertexNormals(torus);
    Similarity to = somewhere(5);
    int count = torus.vertexCount();
    int extra = count / 4;
    double[] points = new double[3 * (count + extra)];
    double[] normals = new double[points.length];
    for (int v = 0; v < count; v++) {
      double[] p = to.apply(Vec.at(torus.xyz(), v));
      double[] d = to.direction(Vec.at(n, v));
      System.arraycopy(p, 0, points, 3 * v, 3);
      System.arraycopy(d, 0, normals, 3 * v, 3);
    }
    for (int i = count; i < count + extra; i++) {
      double[] d =
          Vec.unit(Vec.of(random.nextGaussian(), random.nextGaussian(), random.nextGaussian()));
      for (int k = 0; k < 3; k++) {
        points[3 * i + k] = points[3 * (i - count) + k] + 0.3 * random.nextGaussian();
        normals[3 * i + k] = d[k];
      }
    }
    TurnedAxis a = TurnedAxis.of(points, normals);
    double[] up = to.direction(Vec.of(0, 0, 1));
    assertThat(Math.toDegrees(Math.acos(Math.min(1, Math.abs(Vec.dot(a.axis(), up))))))
        .isLessThan(0.02);
    double[] middle = to.apply(0, 0, 0);
    assertThat(Vec.length(Vec.cross(Vec.sub(middle, a.point()), a.axis()))).isLessThan(1e-3);
  }

  @Test
  void pointsThatTellNothingAreRefused() {
    double[] line = {0, 0, 0, 1, 0, 0, 2, 0, 0, 3, 0, 0, 4, 0, 0};
    double[] flat = {0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0, 2, 3, 0};
    assertThatThrownBy(() -> CircleFit.of(line)).isInstanceOf(Failure.class);
    assertThatThrownBy(() -> SphereFit.of(flat)).isInstanceOf(Failure.class);
    assertThatThrownBy(() -> SphereFit.of(new double[6])).isInstanceOf(Failure.class);
    assertThatThrownBy(() -> CylinderFit.of(new double[6], null)).isInstanceOf(Failure.class);
    assertThatThrownBy(() -> TurnedAxis.of(new double[6], new double[6]))
        .isInstanceOf(Failure.class);
  }
}

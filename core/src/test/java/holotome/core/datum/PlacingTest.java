package holotome.core.datum;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Datasets;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.geometry.Box;
import holotome.core.geometry.Placing;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.io.MeshReader;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import org.apache.commons.math3.stat.regression.SimpleRegression;
import org.junit.jupiter.api.Test;

/** Scale, level, front, origin and placing. */
class PlacingTest {
  private static Workpiece after(Workpiece in, Step... steps) {
    Workpiece w = in;
    for (Step s : steps) {
      w = s.apply(w, Run.unwatched()).work();
    }
    return w;
  }

  private static Workpiece turned(Mesh mesh, Similarity s) {
    return Workpiece.of(mesh, new Frame(Similarity.IDENTITY, s, false));
  }

  private static KnownLength known(double d, double is) {
    return new KnownLength(Vec.of(1, 2, 3), Vec.of(1, 2 + d, 3), new Length(is));
  }

  @Test
  void theFactorIsThatOfARegressionThroughTheOrigin() {
    // Commons Math, SimpleRegression without an intercept.
    SplittableRandom random = new SplittableRandom(3);
    SimpleRegression reference = new SimpleRegression(false);
    List<KnownLength> lengths = new ArrayList<>();
    for (int i = 0; i < 12; i++) {
      double d = 1 + 9 * random.nextDouble();
      double is = 0.31 * d + 0.002 * random.nextGaussian();
      lengths.add(known(d, is));
      reference.addData(d, is);
    }
    ScaleFit fit = ScaleFit.of(lengths);
    assertThat(fit.factor()).isCloseTo(reference.getSlope(), within(1e-12));
    assertThat(fit.precision() * fit.factor())
        .isCloseTo(reference.getSlopeStdErr(), within(1e-3 * reference.getSlopeStdErr()));
    assertThat(fit.outlier()).isEqualTo(-1);
  }

  @Test
  void aWrongLengthIsNamedAndARightOneIsNot() {
    List<KnownLength> lengths =
        List.of(known(1, 0.1), known(3, 0.3003), known(4, 0.44), known(7, 0.6996));
    assertThat(ScaleFit.of(lengths).outlier()).isEqualTo(2);
    assertThat(
            new Scale(lengths)
                .apply(Workpiece.of(Shapes.cube(1), Frame.PLAIN), Run.unwatched())
                .notes())
        .anyMatch(n -> n.startsWith("Length 3") && n.contains("does not go with the others"));
    assertThat(ScaleFit.of(List.of(known(1, 0.1), known(3, 0.5))).outlier()).isEqualTo(-1);
  }

  @Test
  void pickingTellsHowFarOneLengthCanBeTrusted() {
    KnownLength k =
        new KnownLength(new double[3], Vec.of(10, 0, 0), new Length(0.5), new Length(0.01));
    assertThat(ScaleFit.of(List.of(k)).precision()).isCloseTo(Math.sqrt(2) * 0.001, within(1e-12));
    // A thousand picks with that uncertainty scatter as was told.
    SplittableRandom random = new SplittableRandom(9);
    double sum = 0;
    for (int i = 0; i < 4000; i++) {
      double d = 10 + 0.01 * (random.nextGaussian() - random.nextGaussian());
      double off = (0.5 / d) / 0.05 - 1;
      sum += off * off;
    }
    assertThat(Math.sqrt(sum / 4000)).isCloseTo(Math.sqrt(2) * 0.001, within(5e-5));
    assertThat(ScaleFit.of(List.of(known(1, 2))).precision()).isNaN();
  }

  @Test
  void aSizeAndAFactorAreTakenAsTheyAre() {
    Workpiece w =
        after(
            Workpiece.of(Shapes.torus(3, 1, 40, 20), Frame.PLAIN),
            new Scale(null, new Length(0.64), null, Scale.Along.HEIGHT));
    assertThat(w.frame().workBounds(w.scan()).height()).isCloseTo(0.64, within(1e-9));
    Workpiece l = after(w, new Scale(null, new Length(1), null, Scale.Along.LONGEST));
    assertThat(l.frame().workBounds(l.scan()).width()).isCloseTo(1, within(1e-9));
    Workpiece f = after(l, new Scale(null, null, 2.5, Scale.Along.HEIGHT));
    assertThat(f.frame().workBounds(f.scan()).width()).isCloseTo(2.5, within(1e-9));
    assertThatThrownBy(() -> new Scale(null, null, null, Scale.Along.HEIGHT))
        .isInstanceOf(Failure.class);
    assertThatThrownBy(() -> new Scale(null, new Length(1), 2.0, Scale.Along.HEIGHT))
        .isInstanceOf(Failure.class);
  }

  private static double tilt(Workpiece w, double[] baseUp) {
    double[] up = w.frame().toWork().direction(baseUp);
    return Math.toDegrees(Math.atan2(Math.hypot(up[0], up[1]), up[2]));
  }

  @Test
  void aTurnedBodyStandsOnItsAxis() {
    Similarity lean = Similarity.turning(Vec.unit(Vec.of(1, 0.4, 0)), 0.7);
    Workpiece w =
        after(turned(Shapes.torus(1, 0.3, 80, 40), lean), new Level(Level.By.AXIS, null, null));
    assertThat(tilt(w, Vec.of(0, 0, 1))).isLessThan(0.01);
    assertThatThrownBy(
            () -> after(turned(Shapes.mess(4000, 3), lean), new Level(Level.By.AXIS, null, null)))
        .isInstanceOf(Failure.class);
  }

  @Test
  void aBodyStandsTheWayItRestsMostSteadily() {
    // A slab three times as wide as high, lying askew: it comes to lie on one of its large faces.
    Mesh cube = Shapes.cube(2);
    float[] flat = cube.xyz().clone();
    for (int i = 2; i < flat.length; i += 3) {
      flat[i] *= 0.3f;
    }
    Similarity lean = Similarity.turning(Vec.unit(Vec.of(1, 0.4, 0.2)), 0.9);
    Workpiece w =
        after(turned(cube.withPositions(flat), lean), new Level(Level.By.RESTING, null, null));
    assertThat(w.frame().workBounds(w.scan()).height()).isCloseTo(0.6, within(1e-5));
    // The second way is to lie on the other side; the third to stand on edge.
    Workpiece third = after(w, new Level(Level.By.RESTING, null, null, null, null, 3));
    assertThat(third.frame().workBounds(third.scan()).height()).isCloseTo(2, within(1e-5));
    assertThatThrownBy(() -> after(w, new Level(Level.By.RESTING, null, null, null, null, 50)))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("6 ways");
  }

  @Test
  void threePointsLieLevelWhicheverWayTheyWerePicked() {
    Similarity lean = Similarity.turning(Vec.unit(Vec.of(0.3, 1, 0)), 0.5);
    double[] a = lean.apply(0, 0, 0);
    double[] b = lean.apply(1, 0, 0);
    double[] c = lean.apply(0, 1, 0);
    for (double[][] p : new double[][][] {{a, b, c}, {c, b, a}}) {
      double[] nine = {
        p[0][0], p[0][1], p[0][2], p[1][0], p[1][1], p[1][2], p[2][0], p[2][1], p[2][2]
      };
      Workpiece w =
          after(
              turned(Shapes.cube(1), lean), new Level(Level.By.POINTS, null, null, nine, null, 1));
      assertThat(tilt(w, Vec.of(0, 0, 1))).isLessThan(1e-6);
    }
    assertThatThrownBy(
            () ->
                after(
                    turned(Shapes.cube(1), lean),
                    new Level(
                        Level.By.POINTS,
                        null,
                        null,
                        new double[] {0, 0, 0, 1, 1, 1, 2, 2, 2},
                        null,
                        1)))
        .isInstanceOf(Failure.class);
  }

  @Test
  void theFrontIsTakenFromADirectionAnEdgeAndAWall() {
    Similarity askew = Similarity.turning(Vec.of(0, 0, 1), 0.6);
    double[] ahead = askew.direction(Vec.of(0, -1, 0));
    double[] right = askew.direction(Vec.of(1, 0, 0));
    Workpiece w = turned(Shapes.cube(2), askew);
    Step direction =
        new Front(
            Front.By.DIRECTION, new double[] {0, 0, 0, ahead[0], ahead[1], 5}, null, null, null);
    Step edge =
        new Front(Front.By.EDGE, new double[] {0, 0, 0, right[0], right[1], 0}, null, null, null);
    Box b = w.frame().workBounds(w.scan());
    double[] middle = Vec.add(b.centre(), ahead);
    Step wall = new Front(Front.By.WALL, null, middle, new Length(0.9), null);
    for (Step s : List.of(direction, edge, wall)) {
      double[] front = after(w, s).frame().toWork().direction(Vec.of(0, -1, 0));
      assertThat(front[1]).as(s.toString()).isCloseTo(-1, within(1e-6));
    }
    assertThatThrownBy(
            () ->
                after(
                    w,
                    new Front(
                        Front.By.DIRECTION, new double[] {0, 0, 0, 0, 0, 1}, null, null, null)))
        .isInstanceOf(Failure.class);
  }

  @Test
  void thePlaneOfSymmetryIsFound() {
    // A ball with a smaller one before it: symmetric to the plane through both alone.
    Mesh m =
        Shapes.together(
            Shapes.sphere(1, 4),
            Shapes.moved(Shapes.sphere(0.5, 4), 0, -1.6, 0.2),
            Shapes.moved(Shapes.sphere(0.3, 3), 0, 0.2, 1.2));
    // So many triangles that distances are taken from a light stand-in.
    Mesh large =
        Shapes.together(
            Shapes.sphere(1, 7),
            Shapes.moved(Shapes.sphere(0.5, 6), 0, -1.6, 0.2),
            Shapes.moved(Shapes.sphere(0.3, 6), 0, 0.2, 1.2));
    for (double angle : new double[] {0.3, 1.3, -0.9}) {
      Similarity askew = Similarity.turning(Vec.of(0, 0, 1), angle);
      for (Mesh of : angle > 1 ? List.of(m, large) : List.of(m)) {
        Workpiece w =
            after(turned(of, askew), new Front(Front.By.SYMMETRY, null, null, null, null));
        double[] front = w.frame().toWork().direction(Vec.of(0, -1, 0));
        assertThat(Math.abs(front[0])).isLessThan(0.01);
      }
    }
    assertThat(large.triangleCount()).isGreaterThan(400_000);
    // A speck far off: measured by the whole, all else is next to nothing, and that is said.
    Mesh speck = Shapes.together(large, Shapes.moved(Shapes.cube(1e-4), 0, 1e5, 0));
    assertThatThrownBy(
            () ->
                after(
                    turned(speck, Similarity.IDENTITY),
                    new Front(Front.By.SYMMETRY, null, null, null, null)))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("one way as another");
    assertThatThrownBy(
            () ->
                after(
                    turned(Shapes.torus(1, 0.3, 64, 24), Similarity.IDENTITY),
                    new Front(Front.By.SYMMETRY, null, null, null, null)))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("one way as another");
  }

  @Test
  void originsAtCornersAndCentresAndAtRest() {
    Workpiece w = Workpiece.of(Shapes.moved(Shapes.cube(2), 30, -7, 5), Frame.PLAIN);
    Box b =
        after(w, new Origin(Origin.At.CORNER, null, null, Origin.Corner.RIGHT_BACK_TOP, false))
            .frame()
            .workBounds(w.scan());
    assertThat(b.max()).containsExactly(new double[3], within(1e-6));
    Box mass =
        after(w, new Origin(Origin.At.MASS_CENTRE, null, null, Origin.Corner.LEFT_BACK_TOP, false))
            .frame()
            .workBounds(w.scan());
    assertThat(mass.centre()).containsExactly(new double[3], within(1e-5));
    Box rest =
        after(w, new Origin(Origin.At.KEPT, null, null, Origin.Corner.LEFT_BACK_TOP, true))
            .frame()
            .workBounds(w.scan());
    assertThat(rest.minZ()).isCloseTo(0, within(1e-6));
    assertThat(rest.centre()[0])
        .isCloseTo(w.frame().workBounds(w.scan()).centre()[0], within(1e-6));
  }

  @Test
  void originsAtFittedCentres() {
    Mesh ball = Shapes.moved(Shapes.sphere(2, 5), 5, 6, 7);
    Workpiece w = Workpiece.of(ball, Frame.PLAIN);
    Workpiece b =
        after(
            w,
            new Origin(
                Origin.At.BALL_CENTRE,
                Vec.of(5, 6, 9),
                new Length(0.8),
                Origin.Corner.LEFT_BACK_TOP,
                false));
    assertThat(b.frame().workBounds(ball).centre()).containsExactly(new double[3], within(2e-3));
    // A ball without its cap: the hole is a circle about its axis.
    Mesh open =
        holotome.core.mesh.Submesh.of(
            ball, t -> ball.xyz()[3 * ball.triangles()[3 * t] + 2] < 8, Work.unwatched());
    Step hole =
        new Origin(
            Origin.At.HOLE_CENTRE, Vec.of(5, 6, 9), null, Origin.Corner.LEFT_BACK_TOP, false);
    double[] c = after(Workpiece.of(open, Frame.PLAIN), hole).frame().toWork().apply(5, 6, 7);
    assertThat(Math.hypot(c[0], c[1])).isLessThan(0.02);
    assertThat(c[2]).isCloseTo(-1, within(0.1));
    assertThatThrownBy(() -> after(w, hole)).isInstanceOf(Failure.class);
  }

  @Test
  void placingTurnsAboutItsPlaceAndItsAnglesComeBack() {
    SplittableRandom random = new SplittableRandom(2);
    for (int i = 0; i < 200; i++) {
      double[] angles = {
        360 * random.nextDouble() - 180,
        180 * random.nextDouble() - 90,
        360 * random.nextDouble() - 180
      };
      if (i % 20 == 0) {
        angles[1] = i % 40 == 0 ? 90 : -90;
      }
      double[] r = Place.rotation(angles).rotation();
      assertThat(Place.rotation(Place.angles(r)).rotation()).containsExactly(r, within(1e-7));
    }
    Place p = new Place(Vec.of(1, 2, 3), Vec.of(10, -20, 30), 3, Vec.of(5, 6, 7));
    assertThat(p.similarity().apply(5, 6, 7))
        .containsExactly(new double[] {6, 8, 10}, within(1e-9));
    assertThat(p.similarity().scale()).isEqualTo(3);
  }

  @Test
  void turningOftenDegradesNothing() {
    Mesh bunny = MeshReader.read(Datasets.file("bunny.obj"), Work.unwatched()).mesh();
    Workpiece w = Workpiece.of(bunny, Frame.PLAIN);
    for (int i = 0; i < 3600; i++) {
      w = new Turn(Turn.Axis.values()[i % 3], 0.1 + i % 7).apply(w, Run.unwatched()).work();
    }
    for (int i = 3599; i >= 0; i--) {
      w = new Turn(Turn.Axis.values()[i % 3], -(0.1 + i % 7)).apply(w, Run.unwatched()).work();
    }
    assertThat(w.scan()).isSameAs(bunny);
    float[] back = Placing.apply(bunny.xyz(), w.frame().toWork());
    float step = 0;
    for (int i = 0; i < back.length; i++) {
      step = Math.max(step, Math.abs(back[i] - bunny.xyz()[i]) / Math.ulp(bunny.xyz()[i]));
    }
    // Doubles keep seven thousand turns within a hair of floats; coordinates near nought are
    // compared by their own, tiny step.
    assertThat(Vec.length(Vec.sub(w.frame().toWork().apply(1, 1, 1), Vec.of(1, 1, 1))))
        .isLessThan(1e-11);
    assertThat(step).isLessThan(64);
  }
}

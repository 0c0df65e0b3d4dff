package holotome.core.datum;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.geometry.Box;
import holotome.core.geometry.Placing;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.unit.Length;
import java.util.List;
import org.junit.jupiter.api.Test;

class DatumTest {
  private static Workpiece after(Workpiece in, Step... steps) {
    Workpiece w = in;
    for (Step s : steps) {
      w = s.apply(w, Run.unwatched()).work();
    }
    return w;
  }

  @Test
  void oneKnownLengthSetsTheSize() {
    Workpiece w =
        after(
            Workpiece.of(Shapes.cube(7), Frame.PLAIN),
            new Scale(List.of(new KnownLength(Vec.of(0, 0, 0), Vec.of(7, 0, 0), new Length(0.5)))));
    assertThat(w.frame().trueSize()).isTrue();
    assertThat(w.frame().workBounds(w.scan()).height()).isCloseTo(0.5, within(1e-9));
    // The floats themselves are not touched.
    assertThat(w.scan().bounds().height()).isEqualTo(7);
  }

  @Test
  void severalLengthsAreFittedByLeastSquares() {
    // Worked by hand: minimise (2f - 1)^2 + (4f - 2.2)^2: f = (2 + 8.8) / 20 = 0.54.
    Scale s =
        new Scale(
            List.of(
                new KnownLength(Vec.of(0, 0, 0), Vec.of(2, 0, 0), new Length(1)),
                new KnownLength(Vec.of(0, 0, 0), Vec.of(0, 4, 0), new Length(2.2))));
    assertThat(ScaleFit.of(s.lengths()).factor()).isCloseTo(0.54, within(1e-12));
    assertThat(s.apply(Workpiece.of(Shapes.cube(1), Frame.PLAIN), Run.unwatched()).notes())
        .hasSize(4);
  }

  @Test
  void impossibleLengthsAreRefused() {
    assertThatThrownBy(() -> new Scale(List.of())).isInstanceOf(Failure.class);
    assertThatThrownBy(
            () ->
                new Scale(
                    List.of(new KnownLength(Vec.of(0, 0, 0), Vec.of(1, 0, 0), new Length(-1)))))
        .isInstanceOf(Failure.class);
  }

  @Test
  void declaredUnitOverridesWhatWasScaledBefore() {
    Workpiece w =
        after(
            Workpiece.of(Shapes.cube(250), Frame.PLAIN),
            new Turn(Turn.Axis.X, 30),
            new DeclareUnit(Length.Unit.CM),
            new DeclareUnit(Length.Unit.MM));
    assertThat(w.frame().toWork().scale()).isCloseTo(0.001, within(1e-15));
  }

  @Test
  void tiltedGroundIsLevelled() {
    Mesh scene =
        Shapes.together(
            Shapes.moved(Shapes.sheet(6, 20), -3, -3, 0),
            Shapes.moved(Shapes.sphere(1, 3), 0, 0, 1));
    Similarity tilt = Similarity.turning(Vec.unit(Vec.of(1, 2, 0.3)), 2.2);
    Workpiece w =
        after(
            Workpiece.of(scene.withPositions(Placing.apply(scene.xyz(), tilt)), Frame.PLAIN),
            new Level(Level.By.LARGEST, null, null));
    double[] up = w.frame().toWork().direction(tilt.direction(Vec.of(0, 0, 1)));
    assertThat(up[2]).isCloseTo(1, within(1e-6));
  }

  @Test
  void regionIsLevelledByItsOwnPlane() {
    Mesh m = Shapes.cube(2);
    Mesh turned = m.withPositions(Placing.apply(m.xyz(), Similarity.turning(Vec.of(1, 0, 0), 0.2)));
    double[] top = Similarity.turning(Vec.of(1, 0, 0), 0.2).apply(0, 0, 1);
    // The cube's corners of the top face lie within 1.5 of its middle; others do not.
    Workpiece w =
        after(Workpiece.of(turned, Frame.PLAIN), new Level(Level.By.REGION, top, new Length(1.5)));
    assertThat(w.frame().workBounds(turned).height()).isCloseTo(2, within(1e-5));
    assertThatThrownBy(() -> after(w, new Level(Level.By.REGION, Vec.of(99, 0, 0), new Length(1))))
        .isInstanceOf(Failure.class);
  }

  @Test
  void originGoesToTheBasesMiddle() {
    Workpiece w =
        after(
            Workpiece.of(Shapes.moved(Shapes.cube(2), 30, -7, 5), Frame.PLAIN),
            new Origin(Origin.At.BASE_CENTRE, null));
    Box b = w.frame().workBounds(w.scan());
    assertThat(b.minZ()).isCloseTo(0, within(1e-6));
    assertThat(b.centre()[0]).isCloseTo(0, within(1e-6));
    Workpiece c = after(w, new Origin(Origin.At.BOX_CENTRE, null));
    assertThat(c.frame().workBounds(c.scan()).centre()[2]).isCloseTo(0, within(1e-6));
    Workpiece p = after(c, new Origin(Origin.At.POINT, Vec.of(1, 1, 1)));
    assertThat(p.frame().workBounds(p.scan()).maxX()).isCloseTo(0, within(1e-6));
  }

  @Test
  void originalFrameSurvivesAllOfIt() {
    double[] far = {6_000_000, 450_000, 12};
    Mesh m = Shapes.sphere(3, 3);
    Workpiece w =
        after(
            Workpiece.of(m, Frame.ofOffset(far)),
            new Scale(List.of(new KnownLength(Vec.of(0, 0, 0), Vec.of(1, 0, 0), new Length(0.3)))),
            new Turn(Turn.Axis.Y, 33),
            new Origin(Origin.At.BASE_CENTRE, null),
            new Turn(Turn.Axis.Z, -90));
    for (int v = 0; v < m.vertexCount(); v++) {
      double[] work = w.frame().toWork().apply(Vec.at(m.xyz(), v));
      double[] back = w.frame().toFile().apply(w.frame().toBase(work));
      double[] was = Vec.add(Vec.at(m.xyz(), v), far);
      assertThat(Vec.distance(back, was)).isLessThan(1e-8);
    }
  }
}

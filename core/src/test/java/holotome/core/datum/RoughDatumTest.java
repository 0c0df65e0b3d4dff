package holotome.core.datum;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.measure.Measured;
import holotome.core.measure.Measurement;
import holotome.core.measure.Measuring;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.section.DrawingFile;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Every step and measurement of Datum on meshes that are hard to be sensible about. */
class RoughDatumTest {
  record Rough(String name, Mesh mesh) {
    @Override
    public String toString() {
      return name;
    }
  }

  static Stream<Rough> meshes() {
    Mesh one = new Mesh(new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0}, new int[] {0, 1, 2});
    Mesh flat = new Mesh(new float[] {0, 0, 0, 1, 0, 0, 2, 0, 0}, new int[] {0, 1, 2});
    Mesh ball = Shapes.coloured(Shapes.sphere(1, 3));
    return Stream.of(
        new Rough("empty", new Mesh(new float[0], new int[0])),
        new Rough("one triangle", one),
        new Rough("no area", flat),
        new Rough("all in one point", new Mesh(new float[9], new int[] {0, 1, 2})),
        new Rough("doubled", Shapes.together(ball, ball)),
        new Rough("mess", Shapes.mess(600, 4)),
        new Rough("sheet", Shapes.sheet(2, 6)),
        new Rough("far off", Shapes.moved(ball, 4e6, -3e6, 10)),
        new Rough("huge", scaled(ball, 1e15f)),
        new Rough("tiny", scaled(ball, 1e-15f)));
  }

  private static Mesh scaled(Mesh m, float by) {
    float[] xyz = m.xyz().clone();
    for (int i = 0; i < xyz.length; i++) {
      xyz[i] *= by;
    }
    return m.withPositions(xyz);
  }

  private static List<Step> steps(double[] c, double size) {
    List<Step> all = new ArrayList<>();
    Length reach = new Length(Math.max(0.4 * size, 1e-30));
    for (Level.By by : List.of(Level.By.LARGEST, Level.By.AXIS, Level.By.RESTING)) {
      all.add(new Level(by, null, null));
    }
    all.add(new Level(Level.By.REGION, c, reach));
    all.add(new Front(Front.By.SYMMETRY, null, null, null, null));
    all.add(new Front(Front.By.WALL, null, c, reach, null));
    for (Origin.At at : Origin.At.values()) {
      all.add(new Origin(at, c, reach, Origin.Corner.RIGHT_BACK_TOP, true));
    }
    all.add(new Scale(null, new Length(1), null, Scale.Along.LONGEST));
    all.add(new Scale(null, new Length(1), null, Scale.Along.HEIGHT));
    all.add(new Turn(Turn.Axis.X, 40, Turn.About.CENTRE));
    all.add(new Place(c, new double[] {10, 20, 30}, 2, c));
    all.add(new KeepFrame(KeepFrame.Do.KEEP, "here", null, null));
    for (WriteSection.Draw draw : WriteSection.Draw.values()) {
      all.add(
          new WriteSection(
              c,
              new double[] {0.1, 0.2, 1},
              1,
              null,
              new Length(1e-3 * size),
              List.of(DrawingFile.Format.DXF),
              "s",
              draw));
    }
    return all;
  }

  /** A result with finite figures, or one plain line; nothing else, and nothing half done. */
  @ParameterizedTest
  @MethodSource("meshes")
  void everyStepWorksOrSaysWhyNot(Rough rough) {
    Workpiece w = Workpiece.of(rough.mesh, Frame.PLAIN);
    double[] c = rough.mesh.bounds().centre();
    for (Step s : steps(c, rough.mesh.bounds().diagonal())) {
      try {
        var out = s.apply(w, Run.unwatched());
        assertThat(out.work().scan()).isSameAs(rough.mesh);
        var to = out.work().frame().toWork();
        double sum = to.scale();
        for (double x : to.rotation()) {
          sum += x;
        }
        for (double x : to.shift()) {
          sum += x;
        }
        assertThat(Double.isFinite(sum)).as("%s on %s", s, rough).isTrue();
        assertThat(String.join(" ", out.notes())).as("%s", s).doesNotContain("NaN", "Infinity");
      } catch (Failure f) {
        assertThat(f.getMessage()).as("%s", s).doesNotStartWith("Internal").doesNotContain("\n");
      }
    }
    // Nothing changed what was given.
    assertThat(w.frame()).isEqualTo(Frame.PLAIN);
  }

  @ParameterizedTest
  @MethodSource("meshes")
  void everyMeasurementWorksOrSaysWhyNot(Rough rough) {
    double[] c = rough.mesh.bounds().centre();
    double size = rough.mesh.bounds().diagonal();
    for (Measurement.Kind kind : Measurement.Kind.values()) {
      List<Measurement.Pin> pins = new ArrayList<>();
      for (int i = 0; i < kind.least(); i++) {
        double[] p = {c[0] + 0.3 * size * (i % 2), c[1] + 0.2 * size * (i / 2), c[2]};
        pins.add(new Measurement.Pin(p, kind.takesPatches() ? 0.4 * size : 0));
      }
      try {
        Measured m =
            Measuring.of(
                new Measurement("m", kind, pins), rough.mesh, Frame.PLAIN, Work.unwatched());
        assertThat(Double.isFinite(m.value())).as("%s on %s", kind, rough).isTrue();
        assertThat(m.text(false)).isNotBlank();
      } catch (Failure f) {
        assertThat(f.getMessage()).as("%s", kind).doesNotStartWith("Internal").doesNotContain("\n");
      }
    }
  }
}

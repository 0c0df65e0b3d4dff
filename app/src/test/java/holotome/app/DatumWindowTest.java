package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import holotome.core.datum.DeclareUnit;
import holotome.core.datum.KeepFrame;
import holotome.core.datum.Level;
import holotome.core.datum.Place;
import holotome.core.datum.Scale;
import holotome.core.datum.Turn;
import holotome.core.frame.Frame;
import holotome.core.geometry.Box;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.log.LogFile;
import holotome.core.measure.Measured;
import holotome.core.section.Section;
import holotome.core.trim.CutGround;
import holotome.core.unit.Length;
import holotome.demo.DemoFiles;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.Test;

/** Datum by pointer and keys: measured, scaled, levelled, placed, cut into sections, kept. */
class DatumWindowTest extends WindowCase {
  private void trimmed() {
    stage(KeyCode.DIGIT2);
    for (KeyCode tool : List.of(KeyCode.DIGIT5, KeyCode.DIGIT6, KeyCode.DIGIT5)) {
      d.keys(tool);
      d.settle();
      if (tool == KeyCode.DIGIT6) {
        // Along the seam the foot stays complete: its lowest rim is the true base.
        d.choose("field-along", CutGround.Along.SEAM.ordinal());
        d.settle();
      }
      apply();
    }
    stage(KeyCode.DIGIT4);
  }

  private void tool(KeyCode digit) {
    d.keys(KeyCode.ESCAPE);
    d.keys(digit);
    d.settle();
  }

  private Frame frame() {
    return d.on(() -> d.desk().session().current().frame());
  }

  private Box box() {
    return d.on(
        () -> {
          var w = d.desk().session().current();
          return w.frame().workBounds(w.current());
        });
  }

  private JsonNode truth() throws Exception {
    return new ObjectMapper().readTree(DemoFiles.truthBeside(scan).toFile());
  }

  private static double[] vector(JsonNode n) {
    return Vec.of(n.get(0).asDouble(), n.get(1).asDouble(), n.get(2).asDouble());
  }

  /** The recovered placing against the truth the scan was made by. */
  private void checkPlacing() throws Exception {
    JsonNode t = truth();
    Frame f = frame();
    double scale = t.at("/capture/scale").asDouble() * f.toWork().scale() / f.toFile().scale();
    assertThat(scale).as("scale").isCloseTo(1, within(0.002));
    double[] up =
        f.toWork().direction(f.toFile().inverse().direction(vector(t.at("/bollard/axis"))));
    double tilt = Math.toDegrees(Math.atan2(Math.hypot(up[0], up[1]), up[2]));
    assertThat(tilt).as("tilt").isLessThan(0.2);
    double[] base = f.toFile().inverse().apply(vector(t.at("/bollard/baseCentre")));
    double[] origin = f.toWork().apply(base);
    assertThat(Math.hypot(origin[0], origin[1])).as("origin across").isLessThan(0.001);
    assertThat(Math.abs(origin[2])).as("origin height").isLessThan(0.001);
  }

  @Test
  void theFoundScaleBarAndTheAxisLeadToTheTruth() throws Exception {
    trimmed();
    tool(KeyCode.DIGIT1);
    d.await("a proposed bar", () -> d.scene().lookup("#bar-500") != null);
    d.click("bar-500");
    d.settle();
    apply();
    tool(KeyCode.DIGIT2);
    d.choose("field-by", Level.By.AXIS.ordinal());
    d.settle();
    apply();
    tool(KeyCode.DIGIT3);
    apply();
    checkPlacing();
  }

  @Test
  void pickedLengthsAndTheFoundGroundLeadToTheTruth() throws Exception {
    // Scale and level first, on the whole scan: the ground is still there.
    stage(KeyCode.DIGIT4);
    tool(KeyCode.DIGIT1);
    for (int end = 0; end < 2; end++) {
      // From near by, where a pixel is a fraction of a millimetre, where the first and the last
      // field of the bar begin: 400 mm apart.
      JsonNode ends = truth().at("/scaleBar/ends");
      double[] e = vector(ends.get(end));
      double[] p = Vec.add(e, Vec.mul(Vec.sub(vector(ends.get(1 - end)), e), 0.1));
      double[] px = d.pixel(p);
      d.wheel(view, px[0], px[1], -14);
      d.settle();
      px = d.pixel(p);
      d.wheel(view, px[0], px[1], -9);
      d.settle();
      px = d.pixel(p);
      d.clickAt(view, px[0], px[1]);
      String still = end == 0 ? "the other end" : "true length";
      d.await("a picked end", () -> d.textNow("problem").contains(still));
      d.keys(KeyCode.HOME);
      d.settle();
    }
    d.fill("field-is", "40 cm");
    d.await("the precision", () -> d.scene().lookup("#precision") != null);
    apply();
    assertThat(((Scale) step(0)).lengths().getFirst().within().metres()).isPositive();
    tool(KeyCode.DIGIT2);
    apply();
    trimmed();
    tool(KeyCode.DIGIT3);
    apply();
    checkPlacing();
  }

  @Test
  void severalLengthsShowHowFarEachIsOff() {
    stage(KeyCode.DIGIT4);
    tool(KeyCode.DIGIT1);
    // Typed by figures: three that agree, one that does not.
    String[][] lengths = {
      {"0 0 0", "100 0 0", "0,5 m"},
      {"0 0 0", "0 200 0", "1000,4 mm"},
      {"0 0 0", "0 0 300", "1.4996 m"},
      {"0 0 0", "0 400 0", "2,3 m"}
    };
    for (int i = 0; i < 4; i++) {
      d.fill("field-from", lengths[i][0]);
      d.fill("field-to", lengths[i][1]);
      d.fill("field-is", lengths[i][2]);
      if (i < 3) {
        d.click("add-length");
        d.settle();
      }
    }
    d.settle();
    String rows = d.text("known-lengths");
    assertThat(rows).contains("does not go with the others");
    assertThat(d.on(() -> d.desk().session().failure())).isNull();
    d.fill("field-is", "2 m");
    d.settle();
    assertThat(d.text("known-lengths")).doesNotContain("does not go").contains("Right within");
    apply();
    assertThat(((Scale) step(0)).lengths()).hasSize(4);
    assertThat(frame().toWork().scale()).isCloseTo(0.005, within(1e-5));
  }

  @Test
  void impossibleFiguresAreSaidAtOnce() {
    stage(KeyCode.DIGIT4);
    tool(KeyCode.DIGIT1);
    d.choose("field-by", 1);
    d.fill("field-size", "63 km");
    d.settle();
    assertThat(d.text("problem")).contains("km across");
    assertThat(d.node("apply").isDisabled()).isTrue();
    d.fill("field-size", "six feet");
    d.settle();
    assertThat(d.text("problem")).contains("is not a length");
    d.fill("field-size", "2 ft");
    d.settle();
    apply();
    assertThat(box().height()).isCloseTo(0.6096, within(1e-9));
    d.choose("field-by", 2);
    d.fill("field-factor", "0,5");
    d.settle();
    apply();
    assertThat(box().height()).isCloseTo(0.3048, within(1e-9));
  }

  @Test
  void theFilesUnitCanBeDeclared() {
    stage(KeyCode.DIGIT4);
    double file = box().height();
    tool(KeyCode.DIGIT1);
    d.choose("field-by", 3);
    d.choose("field-unit", Length.Unit.CM.ordinal());
    d.settle();
    assertThat(d.text("apply")).contains("1 cm");
    apply();
    assertThat(frame().trueSize()).isTrue();
    assertThat(box().height()).isCloseTo(file * 0.01, within(1e-9 * file));
    assertThat(step(0)).isEqualTo(new DeclareUnit(Length.Unit.CM));
  }

  @Test
  void draggingKeepsToStepsWhereAsked() {
    stage(KeyCode.DIGIT4);
    tool(KeyCode.DIGIT1);
    d.choose("field-by", 1);
    d.fill("field-size", "1 m");
    d.settle();
    apply();
    d.keys(KeyCode.HOME);
    tool(KeyCode.DIGIT7);
    d.click("field-stepping");
    d.fill("field-move-step", "7 mm");
    d.fill("field-turn-step", "5");
    double[] c = box().centre();
    double across = handleSize(c);
    double[] z = d.pixel(Vec.add(c, Vec.of(0, 0, 0.42 * across)));
    d.drag(view, MouseButton.PRIMARY, z[0], z[1], z[0], z[1] - 20, z[0], z[1] - 60);
    d.settle();
    apply();
    double far = ((Place) step(1)).move()[2] / 0.007;
    assertThat(far).isGreaterThan(0.5).isCloseTo(Math.rint(far), within(1e-9));
    c = box().centre();
    double r = 0.3 * handleSize(c);
    double[] from = d.pixel(Vec.add(c, Vec.of(r * Math.cos(-1.2), r * Math.sin(-1.2), 0)));
    double[] to = d.pixel(Vec.add(c, Vec.of(r * Math.cos(-0.5), r * Math.sin(-0.5), 0)));
    double mx = (from[0] + to[0]) / 2;
    double my = (from[1] + to[1]) / 2;
    d.drag(view, MouseButton.PRIMARY, from[0], from[1], mx, my, to[0], to[1]);
    d.settle();
    apply();
    double wide = ((Place) step(2)).turn()[2] / 5;
    assertThat(wide).isGreaterThan(0.5).isCloseTo(Math.rint(wide), within(1e-9));
    d.fill("field-move-step", "none");
    assertThat(d.node("field-move-step").getStyleClass()).contains("wrong");
  }

  @Test
  void handlesMoveTurnAndScale() {
    stage(KeyCode.DIGIT4);
    tool(KeyCode.DIGIT1);
    d.choose("field-by", 1);
    d.fill("field-size", "1 m");
    d.settle();
    apply();
    d.keys(KeyCode.HOME);
    tool(KeyCode.DIGIT7);
    Box before = box();
    double[] c = before.centre();
    double across = handleSize(c);
    double[] z = d.pixel(Vec.add(c, Vec.of(0, 0, 0.42 * across)));
    d.drag(view, MouseButton.PRIMARY, z[0], z[1], z[0], z[1] - 20, z[0], z[1] - 60);
    d.settle();
    apply();
    Place moved = (Place) step(1);
    assertThat(moved.move()[2]).isPositive();
    assertThat(moved.move()[0]).isZero();
    assertThat(box().minZ() - before.minZ()).isCloseTo(moved.move()[2], within(1e-9));

    c = box().centre();
    double r = 0.3 * handleSize(c);
    double a = -1.2;
    double[] from = d.pixel(Vec.add(c, Vec.of(r * Math.cos(a), r * Math.sin(a), 0)));
    double[] to = d.pixel(Vec.add(c, Vec.of(r * Math.cos(a + 0.5), r * Math.sin(a + 0.5), 0)));
    d.drag(
        view,
        MouseButton.PRIMARY,
        from[0],
        from[1],
        (from[0] + to[0]) / 2,
        (from[1] + to[1]) / 2,
        to[0],
        to[1]);
    d.settle();
    apply();
    Place turned = (Place) step(2);
    assertThat(turned.turn()[2]).isBetween(5.0, 80.0);
    assertThat(turned.turn()[0]).isCloseTo(0, within(1e-9));
    // The middle of the box stayed where it was.
    Similarity s = turned.similarity();
    assertThat(Vec.distance(s.apply(c), c)).isLessThan(1e-9);

    // In the level plane: along X and Y, not up.
    c = box().centre();
    double pad = 0.15 * handleSize(c);
    double[] at = d.pixel(Vec.add(c, Vec.of(pad, pad, 0)));
    double[] m = d.on(() -> d.desk().view().toPixels());
    d.drag(view, MouseButton.PRIMARY, at[0], at[1], at[0] + 20, at[1] + 10, at[0] + 50, at[1] + 20);
    d.settle();
    apply();
    Place slid = (Place) step(3);
    assertThat(slid.move()[2]).isZero();
    assertThat(Math.abs(slid.move()[0])).isPositive();
    assertThat(Math.abs(slid.move()[1])).isPositive();
    // As the view stood then, the handle went where the pointer did.
    double[] target = Vec.add(Vec.add(c, Vec.of(pad, pad, 0)), slid.move());
    double w = m[12] * target[0] + m[13] * target[1] + m[14] * target[2] + m[15];
    double x = (m[0] * target[0] + m[1] * target[1] + m[2] * target[2] + m[3]) / w;
    double y = (m[4] * target[0] + m[5] * target[1] + m[6] * target[2] + m[7]) / w;
    assertThat(Math.hypot(x - at[0] - 50, y - at[1] - 20)).isLessThan(8);

    d.fill("field-move-x", "250 mm");
    d.fill("field-turn-y", "12,5");
    d.fill("field-times", "2");
    d.settle();
    apply();
    Place typed = (Place) step(4);
    assertThat(typed.move()[0]).isCloseTo(0.25, within(1e-12));
    assertThat(typed.turn()[1]).isEqualTo(12.5);
    assertThat(typed.factor()).isEqualTo(2);
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.settle();
    assertThat(entries()).isEqualTo(4);
  }

  /** The handles are 330 pixels large in the picture, wherever they are. */
  private double handleSize(double[] at) {
    double[] right = d.on(() -> d.desk().view().camera().right());
    double[] a = d.pixel(at);
    double[] b = d.pixel(Vec.add(at, Vec.mul(right, 1e-3)));
    return 330 * 1e-3 / Math.hypot(b[0] - a[0], b[1] - a[1]);
  }

  private List<Measured> measured() {
    return d.on(() -> d.desk().session().measurements().taken());
  }

  @Test
  void measurementsAreKeptAndFollowTheWork() throws Exception {
    trimmed();
    tool(KeyCode.DIGIT1);
    d.choose("field-by", 1);
    d.fill("field-size", "640 mm");
    d.settle();
    apply();
    d.keys(KeyCode.HOME);
    tool(KeyCode.DIGIT6);
    Box b = box();
    double[] px = d.pixel(b.centre());
    d.clickAt(view, px[0], px[1] - 40);
    d.await("one end", () -> d.textNow("problem").contains("other end"));
    d.clickAt(view, px[0], px[1] + 60);
    d.await("a distance", () -> d.desk().session().measurements().taken().size() == 1);
    double was = measured().getFirst().value();
    assertThat(was).isBetween(0.02, 0.7);
    d.choose("field-measure", 8);
    d.click("measure-whole");
    d.await("a size", () -> d.desk().session().measurements().taken().size() == 2);
    assertThat(measured().get(1).value()).isCloseTo(0.64, within(0.01));
    // Twice as large: the figures follow.
    tool(KeyCode.DIGIT1);
    d.choose("field-by", 2);
    d.fill("field-factor", "2");
    d.settle();
    apply();
    d.await(
        "figures anew",
        () ->
            Math.abs(d.desk().session().measurements().taken().getFirst().value() - 2 * was)
                < 1e-9);
    // Saved with the project, and there again when it is opened.
    Path project = dir.resolve("p.holotome");
    d.on(
        () -> {
          d.desk().session().save(project);
          return null;
        });
    assertThat(LogFile.read(project).text()).contains("\"measurements\"");
    open(project);
    d.await("figures of the project", () -> d.desk().session().measurements().taken().size() == 2);
    assertThat(measured().getFirst().value()).isCloseTo(2 * was, within(1e-9));
    Path csv = dir.resolve("m.csv");
    d.on(
        () -> {
          d.desk().session().measurements().write(csv);
          return null;
        });
    assertThat(Files.readAllLines(csv)).hasSize(3);
  }

  @Test
  void aSectionIsShownAndWritten() throws Exception {
    trimmed();
    tool(KeyCode.DIGIT1);
    d.choose("field-by", 1);
    d.fill("field-size", "640 mm");
    d.settle();
    apply();
    tool(KeyCode.DIGIT8);
    d.await("figures", () -> d.scene().lookup("#after-area") != null);
    String area = d.text("after-area");
    d.fill("field-count", "5");
    d.fill("field-step", "20 mm");
    d.fill("field-name", "rings");
    d.click("field-format-csv");
    d.settle();
    d.await("the volume", () -> d.scene().lookup("#after-volume") != null);
    assertThat(d.text("after-area")).isNotEqualTo(area);
    assertThat(d.node("fitted").isVisible()).isFalse();
    d.fill("field-tolerance", "2 mm");
    d.await("what was fitted", () -> d.scene().lookup("#fitted").isVisible());
    assertThat(d.text("fitted")).contains("none more than").contains("R ").contains("off ");
    apply();
    Path out = d.on(() -> d.desk().session().output());
    assertThat(out.resolve("rings.dxf")).exists();
    assertThat(out.resolve("rings.svg")).exists();
    assertThat(Files.readAllLines(out.resolve("rings.csv"))).hasSize(6);
    List<Section> cut =
        d.on(
            () ->
                ((holotome.core.datum.WriteSection) step0())
                    .cut(d.desk().session().current(), holotome.core.step.Run.unwatched()));
    assertThat(cut).hasSize(5);
  }

  private holotome.core.step.Step step0() {
    return d.desk().session().history().lines().getLast().entry().step();
  }

  @Test
  void threePointsLevelAndAnEdgeFaces() {
    stage(KeyCode.DIGIT4);
    tool(KeyCode.DIGIT2);
    d.choose("field-by", Level.By.POINTS.ordinal());
    for (double[] at : new double[][] {{250, 400}, {520, 420}, {330, 500}}) {
      d.clickAt(view, at[0], at[1]);
      d.settle();
    }
    d.await("three points", () -> !d.node("apply").isDisabled());
    apply();
    assertThat(((Level) step(0)).points()).hasSize(9);
    tool(KeyCode.DIGIT5);
    d.clickAt(view, 300, 450);
    d.settle();
    d.clickAt(view, 450, 500);
    d.settle();
    d.await("two points", () -> !d.node("apply").isDisabled());
    apply();
    tool(KeyCode.DIGIT4);
    d.choose("field-about", 1);
    d.fill("field-angle", "90");
    d.settle();
    apply();
    assertThat(((Turn) step(2)).about()).isEqualTo(Turn.About.CENTRE);
  }

  @Test
  void whatIsSelectedIsMadeLevelAndTheOriginIsPicked() throws Exception {
    stage(KeyCode.DIGIT4);
    tool(KeyCode.DIGIT2);
    // Paving in front of the bollard.
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT1);
    d.drag(view, MouseButton.PRIMARY, 280, 470, 470, 470, 470, 530, 280, 530, 280, 470);
    d.await("a selection", () -> d.desk().session().selection() != null);
    stage(KeyCode.DIGIT4);
    d.choose("field-by", Level.By.SELECTION.ordinal());
    d.settle();
    apply();
    JsonNode t = truth();
    Frame f = frame();
    double[] up =
        f.toWork().direction(f.toFile().inverse().direction(vector(t.at("/bollard/axis"))));
    assertThat(Math.toDegrees(Math.atan2(Math.hypot(up[0], up[1]), up[2]))).isLessThan(2);
    tool(KeyCode.DIGIT3);
    d.choose("field-at", 4);
    d.settle();
    assertThat(d.text("problem")).contains("Click where the origin goes");
    d.clickAt(view, 376, 400);
    d.settle();
    apply();
    assertThat(((holotome.core.datum.Origin) step(1)).point()).hasSize(3);
  }

  @Test
  void framesAreKeptAndGoneBackTo() {
    stage(KeyCode.DIGIT4);
    Frame was = frame();
    tool(KeyCode.DIGIT9);
    d.fill("field-name", "as captured");
    d.settle();
    apply();
    tool(KeyCode.DIGIT4);
    d.fill("field-angle", "33");
    d.settle();
    apply();
    tool(KeyCode.DIGIT9);
    assertThat(d.text("frames")).contains("original").contains("working").contains("as captured");
    d.choose("field-what", KeepFrame.Do.USE.ordinal());
    d.fill("field-name", "as captured");
    d.settle();
    apply();
    assertThat(frame().toWork()).isEqualTo(was.toWork());
    // The size beside familiar things, on and off.
    d.keys(KeyCode.M);
    assertThat(d.text("size")).contains("Size is shown");
    d.keys(KeyCode.M);
    assertThat(d.text("size")).contains("Show the size");
  }
}

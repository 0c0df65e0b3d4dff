package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.attribute.Attribute;
import holotome.core.intake.OpenCast;
import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimate;
import holotome.core.reduce.MakeFacets;
import holotome.core.reduce.MakeLevels;
import holotome.core.reduce.MakeQuads;
import holotome.core.reduce.Remesh;
import holotome.core.reduce.Resurface;
import holotome.core.ship.WriteAsset;
import holotome.core.task.Work;
import holotome.demo.DemoFiles;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import javafx.geometry.Bounds;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.TextField;
import javafx.scene.image.WritableImage;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Lighter meshes of every kind, made by keys and fields. */
class ReduceWindowTest extends WindowCase {
  private void tool(KeyCode key) {
    stage(KeyCode.DIGIT5);
    d.keys(key);
    d.settle();
  }

  private Mesh cast() {
    return d.on(() -> d.desk().session().whole().cast());
  }

  private boolean isRepeatAsked() {
    stage(KeyCode.DIGIT8);
    d.keys(KeyCode.DIGIT1);
    d.settle();
    return d.on(() -> d.scene().lookup("#field-repeat").getParent().isVisible());
  }

  private String textOf(String id) {
    return d.on(() -> ((TextField) d.scene().lookup("#" + id)).getText());
  }

  /** How many different colours a part of the view has. */
  private int shades(int left, int top, int wide, int high) {
    return d.on(
        () -> {
          WritableImage picture = d.scene().snapshot(null);
          Bounds b = view.localToScene(view.getBoundsInLocal());
          Set<Integer> seen = new HashSet<>();
          for (int y = top; y < top + high; y++) {
            for (int x = left; x < left + wide; x++) {
              seen.add(
                  picture.getPixelReader().getArgb((int) b.getMinX() + x, (int) b.getMinY() + y));
            }
          }
          return seen.size();
        });
  }

  /** Where a Swatch's knob is drawn, and its middle: in pixels of the view. */
  private double[] knobAndMiddle() {
    String[] words = textOf("field-point").split(", ");
    double[] middle =
        d.pixel(
            new double[] {
              Double.parseDouble(words[0]),
              Double.parseDouble(words[1]),
              Double.parseDouble(words[2])
            });
    return d.on(
        () -> {
          WritableImage picture = d.scene().snapshot(null);
          Bounds b = view.localToScene(view.getBoundsInLocal());
          double[] out = {0, 0, middle[0], middle[1]};
          int most = 0;
          for (int y = 4; y < (int) b.getHeight() - 4; y++) {
            for (int x = 4; x < (int) b.getWidth() - 4; x++) {
              int n = 0;
              for (int k = 0; k < 49; k++) {
                int argb =
                    picture
                        .getPixelReader()
                        .getArgb(
                            (int) b.getMinX() + x + k % 7 - 3, (int) b.getMinY() + y + k / 7 - 3);
                n += (argb & 0xffffff) == 0x1f7a6d ? 1 : 0;
              }
              if (n > most && Math.hypot(x - middle[0], y - middle[1]) > 30) {
                most = n;
                out[0] = x;
                out[1] = y;
              }
            }
          }
          assertThat(most).isGreaterThan(15);
          return out;
        });
  }

  /** A rectangle laid on the setts by a click, that then follows their slope. */
  @Test
  void aSwatchIsLaidAndSettles(@TempDir Path dir) {
    Path file = dir.resolve("setts.ply");
    DemoFiles.write("setts", file, 60_000, Work.unwatched());
    open(file);
    d.settle();
    stage(KeyCode.DIGIT5);
    d.keys(KeyCode.DIGIT9);
    d.settle();
    d.fill("field-width", "5 m");
    d.fill("field-height", "4 m");
    d.clickAt(view, d.on(() -> view.getBoundsInLocal().getWidth() / 2), 330);
    d.await("a place", () -> !((TextField) d.scene().lookup("#field-point")).getText().isEmpty());
    d.await("what was tried", () -> !d.textNow("sheet").contains("…"));
    d.await("what lies under it", () -> d.scene().lookup("#swatch-times").isVisible());
    // In the corner it is the setts' own light that is seen, and not the view's.
    d.settle();
    int corner = d.on(() -> (int) view.getBoundsInLocal().getWidth()) - 100;
    assertThat(shades(corner, 40, 80, 100)).isGreaterThan(20);
    // Turned by its knob, moved by its middle; then a better place is found around there.
    double[] knob = knobAndMiddle();
    d.drag(view, MouseButton.PRIMARY, knob[0], knob[1], knob[0] - 30, knob[1] + 40);
    d.await("a turn", () -> !"0".equals(textOf("field-turn")));
    String was = textOf("field-point");
    d.settle();
    d.drag(view, MouseButton.PRIMARY, knob[2], knob[3], knob[2] + 20, knob[3] - 10);
    d.await("a move", () -> !was.equals(textOf("field-point")));
    d.choose("field-find", 2);
    d.settle();
    apply();
    assertThat(cast().triangleCount()).isEqualTo(2);
    assertThat(d.message()).contains("A Swatch of").contains("100.0 %");
    d.keys(KeyCode.DIGIT9);
    d.choose("swatch-kind", 1);
    d.settle();
    d.fill("field-reach", "1 m");
    d.settle();
    apply();
    assertThat(d.message()).contains("The Swatch settled");
    assertThat(cast().triangleCount()).isGreaterThan(2);
    // Baked with what lies beside it, and cut so that it goes on in itself.
    stage(KeyCode.DIGIT7);
    d.fill("field-size", "576");
    d.settle();
    apply();
    d.keys(KeyCode.DIGIT7);
    d.settle();
    apply();
    assertThat(d.message()).contains("A tile of 512 × 512 px");
    assertThat(cast().triangleCount()).isEqualTo(2);
    // Only a tile is asked how often it is to lie beside itself.
    assertThat(isRepeatAsked()).isTrue();
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.settle();
    assertThat(isRepeatAsked()).isFalse();
  }

  /** Rows of quads that follow a line drawn on the Scan, seen before they are made. */
  @Test
  void quadsFollowALineDrawn() {
    int none = green();
    tool(KeyCode.DIGIT3);
    d.fill("field-quads", "800");
    d.settle();
    assertThat(green()).isGreaterThan(none + 500);
    assertThat(d.textNow("sheet")).contains("Draw lines on the Scan");
    d.drag(view, MouseButton.PRIMARY, 300, 260, 340, 280, 380, 300, 420, 320);
    d.await("a line", () -> d.textNow("sheet").contains("One line drawn"));
    d.settle();
    // Taken back and drawn again, as any draft.
    d.hold(KeyCode.CONTROL);
    d.keys(KeyCode.Z);
    d.release(KeyCode.CONTROL);
    d.await("no line", () -> d.textNow("sheet").contains("Draw lines on the Scan"));
    d.drag(view, MouseButton.PRIMARY, 300, 260, 340, 280, 380, 300, 420, 320);
    d.await("a line", () -> d.textNow("sheet").contains("One line drawn"));
    d.settle();
    apply();
    MakeQuads made = (MakeQuads) step(0);
    assertThat(made.guides()).hasSize(1);
    assertThat(made.guides().getFirst().line().length).isGreaterThan(6);
    assertThat(cast().attributes().named(Attribute.FACE)).isNotNull();
    assertThat(cast().triangleCount()).isCloseTo(1600, within(200));
    assertThat(d.message()).contains("faces from");
  }

  /** Pixels of the view in the colour that a tool's lines on the surface have. */
  private int green() {
    return d.on(
        () -> {
          WritableImage picture = d.scene().snapshot(null);
          Bounds b = view.localToScene(view.getBoundsInLocal());
          int n = 0;
          for (int y = (int) b.getMinY(); y < b.getMaxY(); y++) {
            for (int x = (int) b.getMinX(); x < b.getMaxX(); x++) {
              n += (picture.getPixelReader().getArgb(x, y) & 0xffffff) == 0x1f7a6d ? 1 : 0;
            }
          }
          return n;
        });
  }

  /** One half made light and mirrored onto the other, about the middle of the ground. */
  @Test
  void oneHalfIsMirrored() {
    stage(KeyCode.DIGIT4);
    d.click("tool-origin");
    d.settle();
    apply();
    tool(KeyCode.DIGIT1);
    assertThat(d.node("field-texture").getParent().isVisible()).isFalse();
    d.fill("field-triangles", "3000");
    d.choose("field-symmetric", 1);
    d.settle();
    apply();
    Decimate made = (Decimate) step(1);
    assertThat(made.symmetric()).isEqualTo(Decimate.Symmetric.LEFT);
    assertThat(cast().triangleCount()).isCloseTo(3000, within(120));
    var bounds = cast().boundsPlaced(d.on(() -> d.desk().session().whole().frame().toWork()));
    assertThat(bounds.minX()).isCloseTo(-bounds.maxX(), within(1e-3 * bounds.width()));
  }

  /** What is selected by hand keeps more triangles; without a selection nothing of it is asked. */
  @Test
  void whatIsSelectedStaysFiner() {
    tool(KeyCode.DIGIT1);
    assertThat(
            d.node("field-selected").isVisible()
                && d.node("field-selected").getParent().isVisible())
        .isFalse();
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT1);
    d.drag(view, MouseButton.PRIMARY, 250, 200, 500, 200, 500, 330, 250, 330, 250, 200);
    d.await("a selection", () -> d.desk().session().selected() != null);
    d.settle();
    tool(KeyCode.DIGIT1);
    d.fill("field-triangles", "3000");
    d.choose("field-selected", 1);
    d.settle();
    apply();
    Decimate made = (Decimate) step(0);
    assertThat(made.selected()).isEqualTo(Decimate.Selected.FINER);
    assertThat(made.picks()).isNotEmpty();
    assertThat(cast().triangleCount()).isCloseTo(3000, within(60));
  }

  /** Written for another program, moved there, and brought back by its file's path. */
  @Test
  void aCastGoesOutAndComesBack() throws Exception {
    tool(KeyCode.DIGIT1);
    d.fill("field-triangles", "3000");
    d.settle();
    apply();
    Mesh cast = cast();
    Workpiece w = d.on(() -> d.desk().session().current());
    new WriteAsset(
            WriteAsset.Destination.RENDER, "out", WriteAsset.Format.OBJ, null, WriteAsset.What.CAST)
        .apply(w, new holotome.core.step.Run(Work.unwatched(), dir));
    // Elsewhere its units were taken for another.
    List<String> lines = new ArrayList<>();
    for (String line : Files.readAllLines(dir.resolve("out.obj"))) {
      if (line.startsWith("v ")) {
        String[] n = line.split(" ");
        line =
            "v "
                + 1000 * Double.parseDouble(n[1])
                + " "
                + 1000 * Double.parseDouble(n[2])
                + " "
                + 1000 * Double.parseDouble(n[3]);
      }
      lines.add(line);
    }
    Files.write(dir.resolve("back.obj"), lines);

    tool(KeyCode.DIGIT7);
    assertThat(d.node("apply").isDisabled()).isTrue();
    assertThat(d.text("problem")).contains("Choose the file");
    d.fill("field-file", dir.resolve("back.obj").toString());
    d.settle();
    apply();
    assertThat(step(1)).isInstanceOf(OpenCast.class);
    Mesh back = cast();
    assertThat(back.triangleCount()).isEqualTo(cast.triangleCount());
    for (int i = 0; i < cast.xyz().length; i++) {
      assertThat((double) back.xyz()[i])
          .isCloseTo(cast.xyz()[i], within(1e-5 * cast.bounds().diagonal()));
    }
    assertThat(d.message()).contains("back.obj");

    d.fill("field-file", dir.resolve("no.obj").toString());
    d.settle();
    d.keys(KeyCode.ENTER);
    d.settle();
    assertThat(d.message()).contains("no such file");
    assertThat(entries()).isEqualTo(2);
  }

  /** The number, then the tolerance, chosen along the curve of what each costs. */
  @Test
  void chosenOnTheCurve() {
    tool(KeyCode.DIGIT1);
    d.await("a curve", () -> d.text("figures").contains("≈"));
    d.settle();
    d.drag(d.node("deviation-curve"), MouseButton.PRIMARY, 90, 50, 130, 50);
    d.settle();
    int chosen = Integer.parseInt(((TextField) d.node("field-triangles")).getText());
    // Half along a logarithmic axis from 200 to the 100,000 of the scan.
    assertThat((double) chosen).isCloseTo(4400, within(400.0));
    assertThat(d.text("figures")).contains("≈");
    d.drag(d.node("deviation-curve"), MouseButton.PRIMARY, 130, 50, 170, 50);
    d.settle();
    assertThat(Integer.parseInt(((TextField) d.node("field-triangles")).getText()))
        .isGreaterThan(2 * chosen);

    d.fill("field-tolerance", "0.01");
    d.settle();
    d.drag(d.node("deviation-curve"), MouseButton.PRIMARY, 130, 60, 130, 40);
    d.settle();
    assertThat(((TextField) d.node("field-triangles")).getText()).isEmpty();
    double tolerance = Double.parseDouble(((TextField) d.node("field-tolerance")).getText());
    d.drag(d.node("deviation-curve"), MouseButton.PRIMARY, 130, 40, 130, 20);
    d.settle();
    assertThat(Double.parseDouble(((TextField) d.node("field-tolerance")).getText()))
        .isGreaterThan(1.5 * tolerance);
    apply();
    Decimate made = (Decimate) step(0);
    assertThat(made.tolerance().metres()).isGreaterThan(1.5 * tolerance);
    assertThat(cast().triangleCount()).isLessThan(20_000);
  }

  @Test
  void evenTrianglesFacetsLevelsAndAStandIn() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT5);
    apply();

    tool(KeyCode.DIGIT2);
    d.fill("field-triangles", "5000");
    d.settle();
    apply();
    assertThat(step(1)).isInstanceOf(Remesh.class);
    assertThat(cast().triangleCount()).isCloseTo(5000, within(400));
    assertThat(d.text("findings")).contains("eviation");

    tool(KeyCode.DIGIT4);
    d.fill("field-triangles", "900");
    d.click("field-closed");
    d.settle();
    apply();
    assertThat(((MakeFacets) step(2)).closed()).isTrue();
    assertThat(d.text("findings")).contains("proved a solid");
    assertThat(cast().attributes().first(Attribute.Kind.NORMAL, Attribute.Domain.CORNER))
        .isNotNull();

    tool(KeyCode.DIGIT5);
    apply();
    assertThat(step(3)).isInstanceOf(MakeLevels.class);
    int before = cast().triangleCount();
    for (int i = 1; i <= 3; i++) {
      int level = i;
      int now =
          d.on(() -> d.desk().session().whole().require(MakeLevels.level(level)).triangleCount());
      assertThat(now).isCloseTo(before / 2, within(before / 20 + 4));
      before = now;
    }

    tool(KeyCode.DIGIT6);
    d.fill("field-triangles", "3000");
    d.settle();
    apply();
    assertThat(step(4)).isInstanceOf(Resurface.class);
    assertThat(cast().triangleCount()).isCloseTo(3000, within(450));
    assertThat(d.text("findings")).contains("eviation");

    tool(KeyCode.DIGIT1);
    Mesh facets = cast();
    d.on(
        () -> {
          ((ChoiceBox<?>) d.node("field-as")).getSelectionModel().select(2);
          return null;
        });
    d.fill("field-triangles", "2000");
    d.settle();
    apply();
    Mesh beside = d.on(() -> d.desk().session().whole().get(Part.mesh("stand-in")));
    assertThat(beside.triangleCount()).isCloseTo(2000, within(60));
    assertThat(cast()).isSameAs(facets);
  }
}

package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.attribute.Attribute;
import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.reduce.Decimate;
import holotome.core.reduce.MakeFacets;
import holotome.core.reduce.MakeLevels;
import holotome.core.reduce.Remesh;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.Test;

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

  /** The number, then the tolerance, chosen along the curve of what each costs. */
  @Test
  void chosenOnTheCurve() {
    tool(KeyCode.DIGIT1);
    d.await("a curve", () -> d.node("deviation-curve").isVisible());
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

    tool(KeyCode.DIGIT3);
    d.fill("field-triangles", "900");
    d.settle();
    apply();
    assertThat(step(2)).isInstanceOf(MakeFacets.class);
    assertThat(cast().attributes().first(Attribute.Kind.NORMAL, Attribute.Domain.CORNER))
        .isNotNull();

    tool(KeyCode.DIGIT4);
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

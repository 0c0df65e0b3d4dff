package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.attribute.Attribute;
import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.reduce.MakeFacets;
import holotome.core.reduce.MakeLevels;
import holotome.core.reduce.Remesh;
import javafx.scene.control.ChoiceBox;
import javafx.scene.input.KeyCode;
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

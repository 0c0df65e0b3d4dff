package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.app.pane.FlatPane;
import holotome.core.bake.Along;
import holotome.core.image.Image;
import holotome.core.map.MapKind;
import holotome.core.part.Maps;
import holotome.view.scene.Look;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.control.Labeled;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.Test;

/** Maps chosen and baked, missed rays shown, light and tone of the colours, by pointer and keys. */
class BakeWindowTest extends WindowCase {
  @Override
  int triangles() {
    return 60_000;
  }

  private Maps maps() {
    return d.on(() -> d.desk().session().current().maps());
  }

  private boolean isShown(String id) {
    return d.on(
        () -> {
          Node n = d.scene().lookup("#" + id);
          boolean isThere = n != null;
          for (; n != null; n = n.getParent()) {
            isThere &= n.isVisible();
          }
          return isThere;
        });
  }

  private boolean isSaid(String words) {
    return d.scene().getRoot().lookupAll(".label").stream()
        .anyMatch(n -> n instanceof Labeled l && l.getText().contains(words));
  }

  private void bakeSmall() {
    stage(KeyCode.DIGIT7);
    d.fill("field-size", "128");
    d.settle();
  }

  @Test
  void mapsAreTickedAndBakedAndTheirLightAndToneSet() throws IOException {
    crateAsCast(KeyCode.DIGIT2);
    bakeSmall();
    assertThat(isShown("field-rays")).isFalse();
    d.click("field-maps-object-normal");
    d.click("field-maps-occlusion");
    d.settle();
    assertThat(isShown("field-rays")).isTrue();
    assertThat(isShown("field-along")).isFalse();
    d.click("bake-more");
    d.settle();
    assertThat(isShown("field-along")).isTrue();
    // Along the faces' own normals the edges would show, which is said; then as usual.
    d.choose("field-along", Along.FACES.ordinal());
    apply();
    d.await("the finding", () -> isSaid("Edges print themselves"));
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.settle();
    d.choose("field-along", Along.SMOOTH.ordinal());
    d.settle();
    apply();
    d.await("no finding", () -> !isSaid("Edges print themselves"));
    assertThat(maps().size()).isEqualTo(128);
    assertThat(maps().pictures().keySet())
        .containsExactlyInAnyOrder(
            MapKind.COLOUR, MapKind.NORMAL, MapKind.OBJECT_NORMAL, MapKind.OCCLUSION);
    Maps baked = maps();
    d.keys(KeyCode.DIGIT3);
    d.settle();
    apply();
    assertThat(maps().pictures().get(MapKind.OCCLUSION))
        .isSameAs(baked.pictures().get(MapKind.OCCLUSION));
    d.keys(KeyCode.DIGIT4);
    d.settle();
    // A click in the flat pane says what is to be grey.
    Node flat = d.node("flat-view");
    chartsShown();
    double[] at = d.on(() -> ((FlatPane) flat).project(0.2, 0.2));
    d.drag(flat, MouseButton.PRIMARY, at[0], at[1], at[0], at[1]);
    d.await(
        "a grey",
        () -> ((TextField) d.scene().lookup("#field-grey")).getText().split(" ").length == 3);
    d.fill("field-exposure", "1");
    d.settle();
    int before = maps().pictures().get(MapKind.COLOUR).argb(30, 90) & 255;
    apply();
    int after = maps().pictures().get(MapKind.COLOUR).argb(30, 90) & 255;
    assertThat(after).isGreaterThan(before);
    // Of what is selected alone, by its outline.
    assertThat(isShown("field-soft")).isFalse();
    stage(KeyCode.DIGIT2);
    d.click("tool-lasso");
    lasso();
    stage(KeyCode.DIGIT7);
    d.keys(KeyCode.DIGIT4);
    d.settle();
    d.fill("field-exposure", "1");
    d.settle();
    assertThat(isShown("field-soft")).isTrue();
    assertThat(d.textNow("tone-where")).contains("selection");
    try {
      Thread.sleep(4000);
    } catch (InterruptedException e) {
      throw new IllegalStateException(e);
    }
    Image all = maps().pictures().get(MapKind.COLOUR);
    apply();
    Image some = maps().pictures().get(MapKind.COLOUR);
    int changed = 0;
    for (int i = 0; i < 128 * 128; i++) {
      changed += all.argb(i % 128, i / 128) != some.argb(i % 128, i / 128) ? 1 : 0;
    }
    assertThat(changed).isBetween(50, 128 * 128 / 2);
    // And onto the vertices, with the maps as they are.
    Maps toned = maps();
    d.keys(KeyCode.DIGIT6);
    d.settle();
    apply();
    assertThat(maps()).isSameAs(toned);
    assertThat(d.on(() -> d.desk().session().current().cast().colours())).isNotNull();
    // How pictures are written is asked for those that there are.
    stage(KeyCode.DIGIT8);
    assertThat(isShown("field-pixels")).isTrue();
    assertThat(isShown("field-green")).isFalse();
    assertThat(isShown("field-measured")).isFalse();
    d.choose("field-for", 1);
    d.settle();
    assertThat(isShown("field-green")).isTrue();
    d.choose("field-for", 2);
    d.settle();
    assertThat(isShown("field-pixels")).isFalse();
  }

  @Test
  void withoutTheMapsThatItNeedsEvenLightSaysSo() throws IOException {
    crateAsCast(KeyCode.DIGIT2);
    bakeSmall();
    apply();
    d.keys(KeyCode.DIGIT3);
    d.settle();
    d.await("what is missing", () -> d.node("apply").isDisabled());
    assertThat(isSaid("needs a map that is not baked yet: Object normal")).isTrue();
  }

  @Test
  void aHoleIsFoundAndShown() throws IOException {
    Path whole = crate(0.1, 0.28);
    List<String> lines = new ArrayList<>(Files.readAllLines(whole));
    lines.removeLast();
    Path open = Files.write(dir.resolve("open.obj"), lines);
    open(open);
    castFrom(whole);
    bakeSmall();
    apply();
    assertThat(maps().missedShare()).isBetween(0.1, 0.2);
    d.await("the finding", () -> isSaid("Holes in the Scan"));
    d.clickWords("findings", "Show");
    d.settle();
    assertThat(d.on(() -> d.desk().view().look())).isEqualTo(Look.MISSED);
  }
}

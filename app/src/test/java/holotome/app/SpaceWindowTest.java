package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.app.pane.FlatPane;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Importance;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.unwrap.GiveSpace;
import holotome.core.unwrap.Stretch;
import holotome.view.scene.Look;
import javafx.scene.Node;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/** Importance, space and what is hidden, by pointer and keys, in both panes. */
class SpaceWindowTest extends WindowCase {

  @Override
  int triangles() {
    return 60_000;
  }

  private Mesh cast() {
    return d.on(() -> d.desk().session().current().cast());
  }

  private Look look() {
    return d.on(() -> d.desk().view().look());
  }

  private void charted() {
    stage(KeyCode.DIGIT5);
    d.keys(KeyCode.DIGIT1);
    d.fill("field-triangles", "3000");
    d.settle();
    apply();
    stage(KeyCode.DIGIT6);
    d.keys(KeyCode.DIGIT1);
    d.settle();
    apply();
  }

  /** Texels to an area on the surface, of the triangles that have a weight. */
  private static double density(Mesh m, float weight) {
    float[] of = Importance.of(m);
    double flat = 0;
    double own = 0;
    for (int t = 0; t < m.triangleCount(); t++) {
      if (of[t] == weight) {
        float[] p = m.uv().coords();
        int a = 2 * m.uv().corners()[3 * t];
        int b = 2 * m.uv().corners()[3 * t + 1];
        int c = 2 * m.uv().corners()[3 * t + 2];
        flat +=
            ((double) p[b] - p[a]) * ((double) p[c + 1] - p[a + 1])
                - ((double) p[c] - p[a]) * ((double) p[b + 1] - p[a + 1]);
        own += Vec.length(Measures.cross(m, t));
      }
    }
    return flat / own;
  }

  @Test
  void aChartChosenInTheFlatPaneGetsMoreSpace() {
    charted();
    d.keys(KeyCode.DIGIT5);
    d.settle();
    assertThat(look()).isEqualTo(Look.IMPORTANCE);
    assertThat(d.text("figure-legend-title")).contains("alike");
    Node flat = d.node("flat-view");
    Mesh plain = cast();
    // In the middle of the first triangle, in the flat pane.
    double[] at = d.on(() -> ((FlatPane) flat).project(middle(plain, 0), middle(plain, 1)));
    d.clickAt(flat, at[0], at[1]);
    d.await("what is chosen", () -> d.textNow("unwrap-space-where").contains("1 chart"));
    d.fill("field-times", "9");
    d.settle();
    apply();
    float[] of = Importance.of(cast());
    assertThat(of[0]).isEqualTo(9);
    assertThat(d.on(() -> d.desk().session().history().lines().getLast().entry().step()))
        .isInstanceOf(GiveSpace.class);
    d.keys(KeyCode.DIGIT2);
    d.settle();
    apply();
    Mesh packed = cast();
    assertThat(density(packed, 9) / density(packed, 1)).isCloseTo(9, within(0.01));
    assertThat(Stretch.of(packed).mean()).isLessThan(1.06);
    d.find("look: texel density");
    d.find("look: stretch");
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.settle();
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.settle();
    assertThat(Importance.of(cast())).isNull();
  }

  private static double middle(Mesh m, int axis) {
    double s = 0;
    for (int k = 0; k < 3; k++) {
      s += m.uv().coords()[2 * m.uv().corners()[k] + axis] / 3.0;
    }
    return s;
  }

  @Test
  void whatIsHiddenGetsLess() {
    charted();
    d.keys(KeyCode.DIGIT4);
    d.settle();
    d.choose("field-from", 1);
    d.settle();
    apply();
    float[] of = Importance.of(cast());
    assertThat(of).isNotNull();
    assertThat(d.text("findings")).contains("Space not given yet");
  }

  /** Seen from the front alone: what the view looked at when that was said. */
  @Test
  void whatIsNotSeenFromHereGetsLess() {
    charted();
    d.keys(KeyCode.DIGIT4);
    d.settle();
    d.choose("field-from", 2);
    d.settle();
    assertThat(d.text("unwrap-hidden-known")).contains("Turn the view");
    d.find("view from the front");
    d.settle();
    d.click("unwrap-hidden-add");
    d.settle();
    assertThat(d.text("unwrap-hidden-known")).contains("from 1 side");
    apply();
    Mesh m = cast();
    float[] of = Importance.of(m);
    double[] forward = d.on(() -> d.desk().view().camera().forward());
    double[] back =
        d.on(() -> d.desk().session().current().frame().toWork().inverse().direction(forward));
    int low = 0;
    for (int t = 0; t < of.length; t++) {
      double[] n = Vec.unit(Measures.cross(m, t));
      if (Vec.dot(n, back) > 0.5) {
        low += of[t] < 1 ? 1 : -1;
      }
    }
    assertThat(low).isPositive();
  }

  @Test
  void importanceOnTheScanIsOneEntryAndShown() {
    stage(KeyCode.DIGIT5);
    d.keys(KeyCode.DIGIT8);
    d.settle();
    assertThat(look()).isEqualTo(Look.IMPORTANCE);
    d.keys(KeyCode.DIGIT1);
    d.settle();
    assertThat(look()).isNotEqualTo(Look.IMPORTANCE);
  }
}

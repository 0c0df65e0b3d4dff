package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.app.pane.ShownDeviation;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.Deviation;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.task.Work;
import holotome.view.camera.Camera;
import javafx.scene.Node;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.Test;

/**
 * How far the work lies from the Scan: shown by a key, its scale dragged, the worst place found.
 */
class DeviationTest extends WindowCase {
  @Override
  int triangles() {
    return 30_000;
  }

  private ShownDeviation shown() {
    return d.desk().view().deviation();
  }

  private Deviation now() {
    return d.on(() -> shown().now());
  }

  private int colours() {
    return d.on(
        () -> {
          var v = d.desk().view();
          int n = 0;
          for (int y = 60; y < v.getHeight() - 220; y += 3) {
            for (int x = 20; x < v.getWidth() - 20; x += 3) {
              int c = v.pixel(x, y);
              n += Math.abs((c >> 16 & 255) - (c & 255)) > 25 ? 1 : 0;
            }
          }
          return n;
        });
  }

  @Test
  void theCastFromTheScan() {
    stage(KeyCode.DIGIT5);
    d.keys(KeyCode.D);
    d.settle();
    assertThat(d.text("deviation-legend")).contains("nothing to compare");

    d.keys(KeyCode.DIGIT1);
    d.settle();
    d.fill("field-triangles", "2000");
    d.settle();
    apply();
    d.await("a measured deviation", () -> now() != null);
    d.settle();
    Mesh cast = d.on(() -> d.desk().session().current().cast());
    Mesh of = d.on(() -> d.desk().session().current().scan());
    assertThat(now().mesh()).isSameAs(cast);
    assertThat(now().reference()).isSameAs(of);
    // Samples do not find the farthest; and what they find is no farther.
    SurfaceDistance sampled = SurfaceDistance.of(cast, of, 40_000, Work.unwatched());
    assertThat(now().forth().summary().rms())
        .isCloseTo(sampled.rms(), within(0.15 * sampled.rms()));
    assertThat(d.text("deviation-figures")).contains("RMS").doesNotContain("NaN");
    assertThat(colours()).isGreaterThan(300);

    // Dragged outwards the scale is stretched: what was held is at the pointer still.
    double before = d.on(() -> shown().range());
    Node scale = d.node("deviation-scale");
    d.drag(scale, MouseButton.PRIMARY, 270, 45, 315, 45);
    d.settle();
    assertThat(d.on(() -> shown().range())).isCloseTo(before * 2 / 3, within(before * 0.02));
    d.keys(KeyCode.RIGHT);
    d.settle();
    assertThat(d.on(() -> shown().range())).isCloseTo(before * 2 / 3 * 1.25, within(before * 0.02));

    Camera was = d.on(() -> d.desk().view().camera());
    d.click("deviation-worst");
    d.settle();
    double[] at =
        d.on(() -> d.desk().session().current().frame().toWork().apply(now().both().at()));
    double[] pixel = d.pixel(at);
    assertThat(pixel[0]).isBetween(0.0, d.on(view.getBoundsInLocal()::getWidth));
    assertThat(pixel[1]).isBetween(0.0, d.on(view.getBoundsInLocal()::getHeight));
    assertThat(d.on(() -> d.desk().view().camera())).isNotEqualTo(was);

    d.click("view");
    d.keys(KeyCode.D);
    d.settle();
    assertThat(d.on(() -> d.desk().view().showsDeviation())).isFalse();
    assertThat(d.scene().lookup("#deviation-legend").isVisible()).isFalse();
  }

  @Test
  void aMendedScanFromWhatItWas() {
    stage(KeyCode.DIGIT2);
    d.keys(KeyCode.DIGIT5);
    d.settle();
    apply();
    d.keys(KeyCode.D);
    d.await("a measured deviation", () -> now() != null);
    d.settle();
    assertThat(d.on(() -> shown().against())).isEqualTo(ShownDeviation.Against.BEFORE);
    // Islands were taken away: what is left lies on the scan, the scan not on what is left.
    assertThat(now().forth().summary().max()).isLessThan(1e-3 * now().back().max());
    assertThat(now().both().max()).isEqualTo(now().back().max());
    int entries = entries();
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.settle();
    assertThat(entries()).isEqualTo(entries - 1);
    assertThat(d.text("deviation-legend")).contains("nothing to compare");
  }
}

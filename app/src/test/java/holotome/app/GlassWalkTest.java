package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.geometry.Similarity;
import holotome.core.io.MeshWriter;
import holotome.core.mend.PatchRegion;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.demo.ShopWindow;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/** The boiling glass of a shop window: both panes drawn around, and made anew in one plane. */
class GlassWalkTest extends WindowCase {
  @Override
  int triangles() {
    return 30_000;
  }

  /** The panes as x and z from and to, found by asking what belongs to glass. */
  private static List<double[]> panes(Mesh m) {
    List<double[]> out = new ArrayList<>();
    double[] now = null;
    double z = (m.bounds().minZ() + m.bounds().maxZ()) / 2;
    double step = m.bounds().width() / 2000;
    for (double x = m.bounds().minX(); x <= m.bounds().maxX(); x += step) {
      boolean glass = ShopWindow.pane(x, z) > 0;
      if (glass && now == null) {
        now = new double[] {x, x, z, z};
      } else if (glass) {
        now[1] = x;
      } else if (now != null) {
        out.add(now);
        now = null;
      }
    }
    for (double[] p : out) {
      double mid = (p[0] + p[1]) / 2;
      while (ShopWindow.pane(mid, p[2] - step) > 0) {
        p[2] -= step;
      }
      while (ShopWindow.pane(mid, p[3] + step) > 0) {
        p[3] += step;
      }
    }
    return out;
  }

  private void around(double[] pane, Driver.Held held) {
    // A little beyond the glass, on the putty: its rim is then sound.
    double y = ShopWindow.PANE_DEPTH;
    double m = 0.012;
    double[][] corners = {
      {pane[0] - m, y, pane[2] - m},
      {pane[1] + m, y, pane[2] - m},
      {pane[1] + m, y, pane[3] + m},
      {pane[0] - m, y, pane[3] + m},
      {pane[0] - m, y, pane[2] - m}
    };
    double[] path = new double[10];
    for (int i = 0; i < 5; i++) {
      double[] at = d.pixel(corners[i]);
      path[2 * i] = at[0];
      path[2 * i + 1] = at[1];
    }
    int before = selected();
    d.drag(view, held, path);
    d.await("glass selected", () -> selected() > before);
    d.settle();
  }

  @Test
  void boilingGlassBecomesTwoPanesInOnePlane() {
    Mesh scan = ShopWindow.scan(60_000);
    Path file = dir.resolve("window.ply");
    MeshWriter.write(file, scan, Similarity.IDENTITY, Work.unwatched());
    open(file);
    List<double[]> panes = panes(scan);
    assertThat(panes).hasSize(2);
    stage(KeyCode.DIGIT2);
    d.click("tool-lasso");
    d.settle();
    around(panes.get(0), Driver.Held.NONE);
    around(panes.get(1), Driver.Held.SHIFT);
    stage(KeyCode.DIGIT3);
    d.click("tool-patch");
    d.settle();
    d.choose("field-shape", 0);
    d.click("field-common");
    d.settle();
    apply();
    PatchRegion patch = (PatchRegion) step(0);
    assertThat(patch.common()).isTrue();
    assertThat(d.message()).contains("2 regions made anew").doesNotContain("The rim is");
    Mesh now = mesh();
    int inner = 0;
    for (int v = 0; v < now.vertexCount(); v++) {
      double x = now.xyz()[3 * v];
      double z = now.xyz()[3 * v + 2];
      for (double[] p : panes) {
        double edge = Math.min(Math.min(x - p[0], p[1] - x), Math.min(z - p[2], p[3] - z));
        if (edge > 0) {
          assertThat((double) now.xyz()[3 * v + 1]).isCloseTo(ShopWindow.PANE_DEPTH, within(0.001));
          inner++;
        }
      }
    }
    assertThat(inner).isGreaterThan(1000);
  }
}

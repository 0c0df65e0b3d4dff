package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.app.pane.FlatPane;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Charts;
import holotome.core.unwrap.EditSeams;
import java.io.IOException;
import javafx.scene.Node;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/** Seams cut and sewn by pointer and keys: shown first, then done, a sitting one entry. */
class SeamsWindowTest extends WindowCase {
  @Override
  int triangles() {
    return 60_000;
  }

  private int charts() {
    Mesh m = d.on(() -> d.desk().session().current().cast());
    return Charts.of(m, Work.unwatched()).count();
  }

  private void click(double... p) {
    double[] at = d.pixel(p);
    d.clickAt(view, at[0], at[1]);
  }

  private void said(String words) {
    d.await("what is meant", () -> d.textNow("seams-what").contains(words));
  }

  private void made(int edits) {
    d.keys(KeyCode.ENTER);
    d.await(
        "an edit",
        () ->
            d.desk().session().history().lines().getLast().entry().step() instanceof EditSeams s
                && s.edits().size() == edits
                && !d.desk().session().jobs().isBusy());
    d.settle();
  }

  @Test
  void sewnAndCutInOneSitting() throws IOException {
    crateAsCast(KeyCode.DIGIT7);
    double[] low = d.on(() -> corner(true));
    double[] high = d.on(() -> corner(false));
    assertThat(charts()).isEqualTo(6);
    int before = entries();
    d.find("view from the front");
    d.settle();
    // The front's upper edge, a little below it, so that the front is clicked.
    double mid = (low[0] + high[0]) / 2;
    double near = high[2] - 0.03 * (high[2] - low[2]);
    d.choose("seams-how", 4);
    d.settle();
    said("Click near a seam");
    click(mid, low[1], near);
    said("1 edge will be sewn");
    made(1);
    assertThat(charts()).isEqualTo(5);
    // The same edge cut again from corner to corner.
    d.choose("seams-how", 0);
    d.settle();
    double in = 0.3 * (high[0] - low[0]);
    click(low[0] + in, low[1], near);
    said("The seam begins there");
    click(high[0] - in, low[1], near);
    said("1 edge will be cut");
    d.keys(KeyCode.BACK_SPACE);
    said("The seam begins there");
    click(high[0] - in, low[1], near);
    said("1 edge will be cut");
    made(2);
    assertThat(charts()).isEqualTo(6);
    assertThat(entries()).isEqualTo(before + 1);
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.settle();
    assertThat(charts()).isEqualTo(5);
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.settle();
    assertThat(entries()).isEqualTo(before);
  }

  /** Clicked in the flat pane near the border of a chart, beside the view and alone. */
  @Test
  void sewnInTheFlatPane() throws IOException {
    crateAsCast(KeyCode.DIGIT7);
    d.choose("seams-how", 4);
    d.settle();
    for (int alone = 0; alone < 2; alone++) {
      if (alone == 1) {
        d.find("charts and maps alone");
        d.settle();
      }
      chartsShown();
      Mesh m = d.on(() -> d.desk().session().current().cast());
      double[] at = new double[2];
      // Near the middle of the edge of the third side that is not its diagonal.
      int c = 3 * 2 * (2 + alone);
      int diagonal = 0;
      double longest = 0;
      for (int k = 0; k < 3; k++) {
        double far = 0;
        for (int axis = 0; axis < 2; axis++) {
          far += Math.pow(u(m, c + k, axis) - u(m, c + (k + 1) % 3, axis), 2);
        }
        diagonal = far > longest ? k : diagonal;
        longest = Math.max(longest, far);
      }
      int k = (diagonal + 1) % 3;
      for (int axis = 0; axis < 2; axis++) {
        at[axis] =
            0.46 * (u(m, c + k, axis) + u(m, c + (k + 1) % 3, axis))
                + 0.08 * u(m, c + (k + 2) % 3, axis);
      }
      Node flat = d.node("flat-view");
      double[] pixel = d.on(() -> ((FlatPane) flat).project(at[0], at[1]));
      d.clickAt(flat, pixel[0], pixel[1]);
      said("1 edge will be sewn");
      int before = charts();
      made(1 + alone);
      assertThat(charts()).isEqualTo(before - 1);
    }
  }

  private static double u(Mesh m, int corner, int axis) {
    return m.uv().coords()[2 * m.uv().corners()[corner] + axis];
  }

  @Test
  void sharpEdgesAndWhatIsWrong() throws IOException {
    crateAsCast(KeyCode.DIGIT7);
    d.choose("seams-how", 2);
    d.settle();
    said("are seams already");
    d.fill("seams-sharp", "x");
    said("An angle");
    d.fill("seams-sharp", "120");
    said("No edge is that sharp");
    assertThat(d.node("seams-do").isDisabled()).isTrue();
    d.choose("seams-how", 3);
    d.settle();
    said("Select a part");
    d.keys(KeyCode.ESCAPE);
    d.settle();
  }

  private double[] corner(boolean low) {
    Mesh m = d.desk().session().current().cast();
    double[] out = new double[3];
    for (int k = 0; k < 3; k++) {
      out[k] = low ? 1e9 : -1e9;
      for (int v = k; v < m.xyz().length; v += 3) {
        out[k] = low ? Math.min(out[k], m.xyz()[v]) : Math.max(out[k], m.xyz()[v]);
      }
    }
    double[] toWork = d.desk().session().current().frame().toWork().apply(out);
    return toWork;
  }
}

package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.polygon.FaceLists;
import holotome.core.proxy.EditProxy;
import holotome.core.proxy.MakeBlock;
import holotome.core.proxy.SettleProxy;
import holotome.core.spatial.Deviation;
import holotome.core.task.Work;
import holotome.demo.DemoFiles;
import java.nio.file.Path;
import java.util.Arrays;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A block fitted to the net shed, edited by pointer and keys, and settled onto the scan. */
class ProxyEditWindowTest extends WindowCase {
  private Mesh cast() {
    return d.on(() -> d.desk().session().current().cast());
  }

  private FaceLists faces() {
    return FaceLists.of(cast());
  }

  /** Opens it with the Proxy at hand. */
  private void openTheShed(Path dir, int triangles) {
    Path file = dir.resolve("shed.ply");
    DemoFiles.write("net-shed", file, triangles, Work.unwatched());
    open(file);
    d.settle();
    stage(KeyCode.DIGIT5);
    d.keys(KeyCode.DIGIT0);
    d.settle();
  }

  private void kind(int i) {
    d.choose("proxy-kind", i);
    d.settle();
  }

  private void tried() {
    d.await("what was tried", () -> !d.textNow("sheet").contains("…"));
    d.settle();
  }

  private void view(String from) {
    d.find("view from " + from);
    d.settle();
  }

  /** Presses where a place of the file is seen. */
  private void click(double... p) {
    double[] at = d.pixel(p);
    d.clickAt(view, at[0], at[1]);
    d.settle();
  }

  private void undo() {
    d.hold(KeyCode.CONTROL);
    d.keys(KeyCode.Z);
    d.release(KeyCode.CONTROL);
  }

  private void awaitFaces(int n) {
    d.await(n + " faces", () -> FaceLists.of(cast()).faces().length == n);
    d.settle();
  }

  private double top() {
    double top = Double.NEGATIVE_INFINITY;
    for (double[] p : corners()) {
      top = Math.max(top, p[2]);
    }
    return top;
  }

  private double[][] corners() {
    FaceLists f = faces();
    double[][] out = new double[f.vertexCount()][];
    for (int v = 0; v < out.length; v++) {
      out[v] = f.at(v);
    }
    return out;
  }

  private Class<?> last() {
    return d.on(() -> d.desk().session().history().lines().getLast().entry().step().getClass());
  }

  /** The walk: a box, a row of edges, its ridge lifted, a face out and back, a cut, settled. */
  @Test
  void aBlockIsEditedAndSettled(@TempDir Path dir) {
    openTheShed(dir, 60_000);
    kind(1);
    tried();
    apply();
    assertThat(d.message()).contains("6 faces with 8 corners");
    assertThat(last()).isEqualTo(MakeBlock.class);
    final double volume = Measures.volume(cast());
    kind(2);
    view("front");
    assertThat(d.textNow("sheet")).contains("6 faces, 8 corners");
    assertThat(d.node("proxy-pull").isDisabled()).isTrue();
    // A face chosen and pulled out by what stands in the field, undone and done again.
    double[] middle = faces().middle(front());
    d.choose("proxy-takes", 3);
    click(middle);
    assertThat(d.node("proxy-pull").isDisabled()).isFalse();
    d.fill("proxy-field-far", "50 cm");
    d.click("proxy-pull");
    awaitFaces(10);
    assertThat(Measures.volume(cast())).isGreaterThan(volume * 1.02);
    undo();
    awaitFaces(6);
    // A ring of edges through the row that the front's lower edge is of, and its upper edge lifted.
    d.choose("proxy-takes", 2);
    click(edge(middle[0], middle[1], 0));
    d.keys(KeyCode.N);
    awaitFaces(10);
    assertThat(last()).isEqualTo(EditProxy.class);
    view("above");
    final double high = top();
    final double[] ridge = edge(middle[0], middleY(), high);
    d.choose("proxy-along", 4);
    double[] at = d.pixel(ridge);
    d.drag(view, MouseButton.PRIMARY, at[0], at[1], at[0], at[1] - 40);
    d.await("lifted", () -> top() > high + 0.1);
    d.settle();
    assertThat(entries()).isEqualTo(2);
    undo();
    d.await("let down", () -> Math.abs(top() - high) < 1e-6);
    d.settle();
    // By figures.
    click(ridge);
    d.fill("proxy-field-move", "0 0 50cm");
    d.click("proxy-move");
    d.await("lifted", () -> top() > high + 0.4);
    d.settle();
    view("left");
    // Cut along a drawn line, then it settles.
    int before = faces().faces().length;
    d.keys(KeyCode.ESCAPE);
    d.click("proxy-cut");
    assertThat(d.textNow("sheet")).contains("Draw a line");
    double[] low = d.pixel(new double[] {middle[0], middleY(), 1.5});
    d.drag(view, MouseButton.PRIMARY, low[0] - 250, low[1], low[0] + 250, low[1]);
    d.await("cut", () -> faces().faces().length > before);
    d.settle();
    assertThat(entries()).isEqualTo(2);
    kind(3);
    d.fill("field-within", "1 m");
    tried();
    apply();
    assertThat(last()).isEqualTo(SettleProxy.class);
    assertThat(d.message()).contains("settled on the Scan");
  }

  /** The two upper corners of the front. */
  private double[][] upper() {
    return Arrays.stream(faces().corners(front()))
        .sorted((a, b) -> Double.compare(b[2], a[2]))
        .limit(2)
        .toArray(double[][]::new);
  }

  private int front() {
    FaceLists f = faces();
    int best = 0;
    for (int i = 1; i < f.faces().length; i++) {
      best = f.normal(i)[1] < f.normal(best)[1] ? i : best;
    }
    return best;
  }

  /** The middle of the edge that is nearest to a place. */
  private double[] edge(double... place) {
    FaceLists f = faces();
    double[] best = null;
    for (int[] c : f.faces()) {
      for (int i = 0; i < c.length; i++) {
        double[] m = Vec.mul(Vec.add(f.at(c[i]), f.at(c[(i + 1) % c.length])), 0.5);
        boolean isNearer = best == null || Vec.distance(m, place) < Vec.distance(best, place);
        best = isNearer ? m : best;
      }
    }
    return best;
  }

  private double middleY() {
    double sum = 0;
    double[][] all = corners();
    for (double[] p : all) {
      sum += p[1] / all.length;
    }
    return sum;
  }

  /**
   * What is chosen is moved, turned and scaled by handles; how far the Scan lies off is in colour.
   */
  @Test
  void handlesMoveWhatIsChosenAndColourSaysHowFarItLies(@TempDir Path dir) throws Exception {
    openTheShed(dir, 30_000);
    kind(1);
    tried();
    apply();
    kind(2);
    view("front");
    d.choose("proxy-takes", 3);
    click(faces().middle(front()));
    d.click("proxy-handles");
    d.settle();
    double[] middle = faces().middle(front());
    FaceLists was = faces();
    // The arm of the Z axis stands above the middle, as far as the handles are large.
    double[] at = d.pixel(middle);
    d.drag(view, MouseButton.PRIMARY, at[0], at[1] - 138, at[0], at[1] - 188);
    d.await("moved", () -> faces().middle(front())[2] > middle[2] + 0.1);
    d.settle();
    undo();
    d.await("back", () -> Arrays.equals(faces().xyz(), was.xyz()));
    d.settle();
    // A corner dropped on another one comes to lie there, to the last digit.
    d.click("proxy-handles");
    d.choose("proxy-takes", 1);
    double[][] upper = upper();
    double[] from = d.pixel(upper[0]);
    double[] onto = d.pixel(upper[1]);
    click(upper[0]);
    d.drag(view, MouseButton.PRIMARY, from[0], from[1], onto[0] - 3, onto[1] + 2);
    d.await("dropped", () -> !Arrays.equals(faces().xyz(), was.xyz()));
    d.settle();
    assertThat(Arrays.stream(corners()).filter(p -> Arrays.equals(p, upper[1]))).hasSize(2);
    undo();
    d.await("back", () -> Arrays.equals(faces().xyz(), was.xyz()));
    d.settle();
    // A rectangle around all takes all its corners, and each only once.
    d.keys(KeyCode.ESCAPE);
    d.settle();
    d.drag(view, MouseButton.PRIMARY, 20, 170, 700, 640);
    d.settle();
    d.fill("proxy-field-move", "0 0 1m");
    d.click("proxy-move");
    d.await("moved", () -> Math.abs(faces().middle(front())[2] - middle[2] - 1) < 1e-4);
    d.settle();
    for (int v = 0; v < 8; v++) {
      assertThat(faces().at(v)[2] - was.at(v)[2]).isCloseTo(1, within(1e-5));
    }
    undo();
    d.await("back", () -> Arrays.equals(faces().xyz(), was.xyz()));
    d.settle();
    // Along with the Scan the look has its distance from the Cast.
    for (int i = 0; i < 12 && !d.on(() -> d.desk().view().showsDeviation()); i++) {
      d.keys(KeyCode.L);
      d.settle();
    }
    d.await("measured", () -> d.desk().view().deviation().now() != null);
    d.settle();
    assertThat(d.on(() -> d.desk().view().deviation().words())).isEqualTo("the Cast");
    Deviation off = d.on(() -> d.desk().view().deviation().now());
    assertThat(off.mesh()).isSameAs(d.on(() -> d.desk().session().current().scan()));
    assertThat(off.reference()).isSameAs(cast());
    // The chimney's top is farthest from the box, by far.
    assertThat(off.forth().summary().max()).isGreaterThan(0.5);
  }

  /** Without a Cast: strips drawn along the wall, two strokes in one entry. */
  @Test
  void stripsDrawnAlongTheScanStickToIt(@TempDir Path dir) {
    openTheShed(dir, 30_000);
    kind(2);
    assertThat(d.text("problem")).contains("nothing to edit yet");
    view("front");
    d.fill("proxy-field-far", "50 cm");
    d.click("proxy-strip");
    assertThat(d.textNow("sheet")).contains("Draw along the Scan");
    for (double z : new double[] {1, 2}) {
      double[] a = d.pixel(new double[] {2, 0, z});
      double[] b = d.pixel(new double[] {6, 0, z});
      d.drag(view, MouseButton.PRIMARY, a[0], a[1], b[0], b[1]);
      int quads = z < 2 ? 6 : 13;
      d.await("a strip", () -> cast() != null && faces().faces().length > quads);
      d.settle();
    }
    assertThat(entries()).isEqualTo(1);
    for (double[] p : corners()) {
      // On the front wall, which lies at y = 0 but for the noise.
      assertThat(p[1]).isCloseTo(0, within(0.01));
      assertThat(Math.min(Math.abs(p[2] - 1), Math.abs(p[2] - 2))).isCloseTo(0.25, within(0.05));
    }
    assertThat(faces().normal(0)[1]).isLessThan(-0.9);
  }

  /** A prism of an outline that is clicked, corner by corner, one of them taken back. */
  @Test
  void anOutlineIsClickedAndPulledUp(@TempDir Path dir) {
    openTheShed(dir, 60_000);
    kind(1);
    d.choose("field-form", 1);
    view("above");
    double[][] foot = {{1, 1, 4}, {7, 1, 4}, {7, 4, 4}, {4, 2, 4}};
    for (int i = 0; i < foot.length; i++) {
      click(foot[i]);
      int n = i + 1;
      d.await(
          "corner " + n, () -> d.textNow("sheet").contains(n == 1 ? "One corner" : n + " corners"));
    }
    undo();
    d.await("taken back", () -> d.textNow("sheet").contains("3 corners"));
    tried();
    apply();
    assertThat(faces().faces()).hasNumberOfRows(5);
    assertThat(Vec.length(faces().normal(0))).isCloseTo(1, within(1e-9));
  }
}

package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.attribute.Attribute;
import holotome.core.geometry.Vec;
import holotome.core.io.MeshReader;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.proxy.FromPlanes;
import holotome.core.task.Work;
import holotome.demo.DemoFiles;
import holotome.demo.NetShed;
import java.nio.file.Path;
import java.util.Arrays;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The net shed built over its scan from planes, by pointer and keys, held against its truth. */
class ProxyWindowTest extends WindowCase {
  private int inputs;

  private Mesh cast() {
    return d.on(() -> d.desk().session().current().cast());
  }

  private void click(double x, double y, double z, int parts) {
    double[] at = d.pixel(new double[] {x, y, z});
    d.clickAt(view, at[0], at[1]);
    inputs++;
    String said = parts == 1 ? "One flat part" : parts + " flat parts";
    d.await(said, () -> d.textNow("sheet").contains(parts == 0 ? "Click walls" : said));
    d.settle();
  }

  private void view(String from) {
    d.find("view from " + from);
    d.settle();
    inputs++;
  }

  private static double off(Mesh mesh, double... place) {
    double least = Double.POSITIVE_INFINITY;
    for (int v = 0; v < mesh.vertexCount(); v++) {
      least = Math.min(least, Vec.distance(Vec.at(mesh.xyz(), v), place));
    }
    return least;
  }

  /** Walls and roof pointed at; the rest is what they bound, and where the Scan ends. */
  @Test
  void theShedFromPlanesInUnderSixtyInputs(@TempDir Path dir) throws Exception {
    Path file = dir.resolve("shed.ply");
    DemoFiles.write("net-shed", file, 200_000, Work.unwatched());
    open(file);
    d.settle();
    stage(KeyCode.DIGIT5);
    d.keys(KeyCode.DIGIT0);
    d.settle();
    inputs += 2;
    assertThat(d.textNow("sheet")).contains("Click walls, roof and floor");
    assertThat(d.text("problem")).contains("Click walls");
    view("front");
    click(4, 0, 1.5, 1);
    // Again, and it is let go of; undo brings it back.
    click(5, 0, 1, 0);
    d.hold(KeyCode.CONTROL);
    d.keys(KeyCode.Z);
    d.release(KeyCode.CONTROL);
    d.await("taken back", () -> d.textNow("sheet").contains("One flat part"));
    click(4, -1, 3.6, 2);
    view("left");
    click(0, 2.5, 1.5, 3);
    view("back");
    click(4, 5, 1.5, 4);
    click(4, 4, 3.76, 5);
    view("right");
    click(8, 2.5, 1.5, 6);
    assertThat(inputs).isLessThan(60);
    d.await("what was tried", () -> !d.textNow("sheet").contains("…"));
    apply();
    assertThat(d.message()).contains("faces with");
    FromPlanes made = (FromPlanes) d.desk().session().history().lines().getLast().entry().step();
    assertThat(made.places()).hasSize(3 * 6);
    Mesh cast = cast();
    // Between walls at 0 and 4.98 m under a roof that falls by 0.64 to either side of its ridge.
    double across = 4.98 * 4.72 - 0.64 * (2.5 * 2.5 + 2.48 * 2.48) / 2;
    assertThat(Measures.volume(cast)).isCloseTo(7.98 * across, within(0.1));
    assertThat(cast.attributes().named(Attribute.FACE)).isNotNull();
    int faces =
        (int) Arrays.stream(cast.attributes().named(Attribute.FACE).ints()).distinct().count();
    assertThat(faces).isEqualTo(7);
    // In the capture's frame: corners as they were made up, the back 20 mm in as it was scanned.
    assertThat(off(cast, 0, 0, 0)).isLessThan(0.002);
    assertThat(off(cast, NetShed.LENGTH - 0.02, NetShed.DEPTH - 0.02, 0)).isLessThan(0.002);
    assertThat(off(cast, 0, 2.5, 4.72)).isLessThan(0.002);
    assertThat(
            MeshReader.read(file, Work.unwatched())
                .mesh()
                .sameAs(d.on(() -> d.desk().session().current().scan())))
        .isTrue();
  }

  /** What is found by itself is offered as if pointed at. */
  @Test
  void flatPartsAreFound(@TempDir Path dir) {
    Path file = dir.resolve("shed.ply");
    DemoFiles.write("net-shed", file, 100_000, Work.unwatched());
    open(file);
    d.settle();
    stage(KeyCode.DIGIT5);
    d.keys(KeyCode.DIGIT0);
    d.settle();
    d.click("find-planes");
    d.await("parts", () -> d.textNow("sheet").contains("flat parts"));
    d.await("what was tried", () -> !d.textNow("sheet").contains("…"));
    d.settle();
    apply();
    assertThat(Measures.volume(cast())).isCloseTo(157, within(1.0));
    // Opened again it has its places; let go of, there is nothing to make.
    d.keys(KeyCode.DIGIT0);
    d.settle();
    d.click("find-planes");
    d.await("parts", () -> d.textNow("sheet").contains("flat parts"));
    d.click("clear-planes");
    d.await("none", () -> d.textNow("sheet").contains("Click walls"));
  }
}

package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.geometry.Similarity;
import holotome.core.io.MeshWriter;
import holotome.core.mend.Edit;
import holotome.core.mend.EditMesh;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import java.nio.file.Path;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.Test;

/** Points, edges, triangles and rims changed by hand, by pointer and keys. */
class EditWindowTest extends WindowCase {
  private static final int CELLS = 4;

  @Override
  int triangles() {
    return 30_000;
  }

  /** Two upright sheets of 0.4 m with 0.06 m between them, facing the front. */
  private Path torn() {
    int n = CELLS + 1;
    float[] xyz = new float[2 * 3 * n * n];
    int[] tri = new int[2 * 6 * CELLS * CELLS];
    int c = 0;
    for (int side = 0; side < 2; side++) {
      for (int i = 0; i < n; i++) {
        for (int j = 0; j < n; j++) {
          int v = side * n * n + i * n + j;
          xyz[3 * v] = 0.46f * side + 0.1f * i;
          xyz[3 * v + 2] = 0.1f * j;
          if (i < CELLS && j < CELLS) {
            for (int of : new int[] {v, v + n, v + n + 1, v, v + n + 1, v + 1}) {
              tri[c++] = of;
            }
          }
        }
      }
    }
    Path file = dir.resolve("torn.ply");
    MeshWriter.write(file, new Mesh(xyz, tri), Similarity.IDENTITY, Work.unwatched());
    return file;
  }

  private void begin() {
    open(torn());
    stage(KeyCode.DIGIT3);
    d.click("tool-edit");
    d.settle();
  }

  private double[] at(double x, double z) {
    return d.pixel(new double[] {x, 0, z});
  }

  private void click(double x, double z) {
    double[] p = at(x, z);
    d.clickAt(view, p[0], p[1]);
    d.settle();
  }

  private void can(String button, boolean wanted) {
    d.await(button, () -> d.node(button).isDisabled() != wanted);
  }

  private void more(double x, double z) {
    double[] p = at(x, z);
    d.drag(view, Driver.Held.SHIFT, p[0], p[1]);
    d.settle();
  }

  private void edits(int count) {
    d.await(
        count + " edits",
        () -> {
          var h = d.desk().session().history();
          return !d.desk().session().jobs().isBusy()
              && h.size() == 1
              && h.lines().getFirst().entry().step() instanceof EditMesh m
              && m.edits().size() == count;
        });
    d.settle();
  }

  @Test
  void aSittingIsOneEntryAndEachEditIsUndone() {
    begin();
    assertThat(d.text("problem")).contains("Click a point");
    can("edit-turn", false);
    // An edge across a cell is turned by key.
    click(0.15, 0.15);
    can("edit-turn", true);
    d.keys(KeyCode.U);
    edits(1);
    // A triangle is split by button; its new point is dragged towards the right.
    click(0.33, 0.31);
    can("edit-split", true);
    can("edit-turn", false);
    d.click("edit-split");
    edits(2);
    assertThat(mesh().triangleCount()).isEqualTo(2 * 32 + 2);
    d.choose("edit-along", 2);
    double[] from = at(0.3 + 0.2 / 3, 0.3 + 0.1 / 3);
    double[] to = at(0.3 + 0.2 / 3 + 0.02, 0.3 + 0.1 / 3);
    d.drag(
        view, MouseButton.PRIMARY, from[0], from[1], (from[0] + to[0]) / 2, from[1], to[0], to[1]);
    edits(3);
    Edit move = ((EditMesh) step(0)).edits().getLast();
    assertThat(move.how()).isEqualTo(Edit.How.MOVE);
    assertThat(move.at()).hasSize(3);
    assertThat(move.by()[0]).isBetween(0.012, 0.028);
    assertThat(move.by()[1]).isZero();
    assertThat(move.by()[2]).isZero();
    assertThat(d.text("edit-made")).contains("3 edits");
    // It stays chosen where it is now.
    can("edit-delete", true);
    d.keys(KeyCode.DELETE);
    edits(4);
    assertThat(mesh().triangleCount()).isEqualTo(2 * 32 - 1);
    for (int left = 3; left >= 1; left--) {
      d.keys(KeyCode.CONTROL, KeyCode.Z);
      edits(left);
    }
    d.keys(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.Z);
    edits(2);
    // One of them is taken out of the list, the other stays.
    d.on(
        () -> {
          ((javafx.scene.control.ListView<?>) d.node("edit-list")).getSelectionModel().select(0);
          return null;
        });
    d.click("edit-take-out");
    edits(1);
    assertThat(((EditMesh) step(0)).edits().getFirst().how()).isEqualTo(Edit.How.SPLIT);
  }

  @Test
  void whatCannotBeDoneIsSaidAndChangesNothing() {
    begin();
    d.choose("edit-takes", 2);
    click(0.15, 0.0);
    can("edit-turn", true);
    d.keys(KeyCode.U);
    d.await("a reason", () -> d.message().contains("between two triangles"));
    assertThat(entries()).isZero();
  }

  /** Two rims, chosen between two of their points each, are joined by a strip and snapped. */
  @Test
  void aTearIsClosed() {
    begin();
    d.choose("edit-takes", 1);
    for (double x : new double[] {0.4, 0.46}) {
      if (x < 0.43) {
        click(x, 0);
      } else {
        more(x, 0);
      }
      more(x, 0.4);
      can("edit-rim", true);
      d.keys(KeyCode.R);
      d.settle();
    }
    can("edit-strip", true);
    d.keys(KeyCode.N);
    edits(1);
    assertThat(mesh().triangleCount()).isEqualTo(2 * 32 + 8);
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.await("undone", () -> d.desk().session().history().size() == 0);
    d.settle();
    click(0.4, 0.2);
    more(0.46, 0.2);
    can("edit-snap", true);
    d.click("edit-snap");
    edits(1);
    assertThat(mesh().vertexCount()).isEqualTo(49);
    // What is left of the tear above it: a triangle by hand.
    click(0.46, 0.2);
    more(0.46, 0.3);
    more(0.4, 0.3);
    can("edit-add", true);
    d.keys(KeyCode.A);
    edits(2);
    assertThat(mesh().triangleCount()).isEqualTo(2 * 32 + 1);
  }
}

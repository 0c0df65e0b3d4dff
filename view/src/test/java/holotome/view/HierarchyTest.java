package holotome.view;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.trim.PlaneCut;
import holotome.view.buffer.VisibilityBuffer;
import holotome.view.camera.Camera;
import holotome.view.cluster.DeviationTest;
import holotome.view.cluster.Hierarchy;
import holotome.view.cluster.Node;
import holotome.view.cluster.Piece;
import holotome.view.picking.Picking;
import holotome.view.scene.Look;
import holotome.view.scene.Scene;
import holotome.view.scene.Setting;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.stream.Stream;
import org.assertj.core.api.Assertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** The hierarchy against drawing every triangle. */
class HierarchyTest {
  private static final int W = 400;
  private static final int H = 300;

  static Stream<Mesh> meshes() {
    return Stream.of(
        Meshes.ball(60),
        Meshes.stone(160),
        Meshes.rubbish(6000),
        Meshes.crowd(9000),
        new Mesh(new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0}, new int[] {0, 1, 2}),
        new Mesh(new float[] {1, 1, 1, 1, 1, 1, 1, 1, 1}, new int[] {0, 1, 2}));
  }

  private static Scene scene(Mesh m, Look look) {
    return new Scene(m, Similarity.IDENTITY, look, null, null, false);
  }

  private static List<Camera> cameras(Mesh m) {
    List<Camera> out = new ArrayList<>();
    Camera c = Camera.showing(m.bounds(), Camera.Direction.ASKEW, (double) W / H);
    out.add(c);
    out.add(c.withPerspective(false).turned(1.1, 0.3, c.target()));
    // From close by, and from within.
    out.add(c.turned(2, -0.4, c.target()).closer(0.3, c.target()));
    out.add(c.closer(0.02, c.target()));
    return out;
  }

  private static Renderer prepared(Mesh m) {
    Renderer r = new Renderer(0);
    r.prepare(m, Work.unwatched());
    return r;
  }

  private static List<Node> leaves(Node n, List<Node> into) {
    if (n.isLeaf()) {
      into.add(n);
    } else {
      for (Node c : n.children()) {
        leaves(c, into);
      }
    }
    return into;
  }

  @ParameterizedTest
  @MethodSource("meshes")
  void theLeavesHoldEveryTriangleAndNoOther(Mesh m) {
    Hierarchy h = Hierarchy.of(m, Work.unwatched());
    BitSet seen = new BitSet();
    for (Node leaf : leaves(h.root(), new ArrayList<>())) {
      for (Piece p : leaf.pieces()) {
        assertThat(p.exact()).isTrue();
        assertThat(p.triangleCount()).isBetween(1, Piece.MOST);
        for (int t = 0; t < p.ids().length; t++) {
          seen.set(p.ids()[t]);
          for (int k = 0; k < 3; k++) {
            int v = m.triangles()[3 * p.ids()[t] + k];
            assertThat(Vec.at(p.xyz(), p.corners()[3 * t + k])).isEqualTo(Vec.at(m.xyz(), v));
          }
        }
      }
    }
    assertThat(seen.cardinality()).isEqualTo(m.triangleCount());
  }

  @ParameterizedTest
  @MethodSource("meshes")
  void theExactPictureIsThatOfAllTriangles(Mesh m) {
    Renderer through = prepared(m);
    for (Camera c : cameras(m)) {
      for (Look look : List.of(Look.CLAY, Look.WIRE)) {
        Renderer.Picture a = new Renderer().draw(scene(m, look), c, W, H);
        Renderer.Picture b = through.draw(scene(m, look), c, W, H);
        assertThat(b.buffer().cells).isEqualTo(a.buffer().cells);
        int differ = 0;
        for (int i = 0; i < a.pixels().length; i++) {
          // Normals are summed in another order.
          differ = Math.max(differ, distance(a.pixels()[i], b.pixels()[i]));
        }
        assertThat(differ).isLessThanOrEqualTo(3);
      }
    }
  }

  private static int distance(int a, int b) {
    int most = 0;
    for (int s = 0; s < 24; s += 8) {
      most = Math.max(most, Math.abs((a >> s & 255) - (b >> s & 255)));
    }
    return most;
  }

  @Test
  void whileTurningThePictureHasNoHolesAndLooksTheSame() {
    Mesh m = Meshes.stone(400);
    Renderer r = prepared(m);
    Camera c = Camera.showing(m.bounds(), Camera.Direction.ASKEW, (double) W / H);
    for (int i = 0; i < 12; i++) {
      c = c.turned(0.5, 0.1, c.target());
      // A fresh one each time: on a busy machine one that is kept allows ever more error.
      int[] light = r.sibling().drawMoving(scene(m, Look.COLOUR), c, W, H).pixels().clone();
      Renderer.Picture all = r.draw(scene(m, Look.COLOUR), c, W, H);
      int inside = 0;
      int off = 0;
      int holes = 0;
      for (int y = 4; y < H - 4; y++) {
        for (int x = 4; x < W - 4; x++) {
          if (wellInside(all.buffer(), x, y)) {
            inside++;
            int d = distance(light[y * W + x], all.pixels()[y * W + x]);
            off += d > 30 ? 1 : 0;
            holes += isBackground(light[y * W + x], y) ? 1 : 0;
          }
        }
      }
      assertThat(inside).isGreaterThan(15_000);
      assertThat(holes).isZero();
      assertThat(off).isLessThan(inside / 100);
    }
  }

  private static boolean wellInside(VisibilityBuffer b, int x, int y) {
    for (int dy = -4; dy <= 4; dy++) {
      for (int dx = -4; dx <= 4; dx++) {
        if (b.triangle(x + dx, y + dy) < 0) {
          return false;
        }
      }
    }
    return true;
  }

  private static boolean isBackground(int argb, int y) {
    return argb == Setting.PLAIN.background().argb(y, H);
  }

  @Test
  void fewerTrianglesAreDrawnThanThereAreAndTheErrorIsTold() {
    Mesh m = Meshes.stone(500);
    Renderer r = prepared(m);
    Camera c = Camera.showing(m.bounds(), Camera.Direction.ASKEW, (double) W / H);
    Renderer.Effort e = r.drawMoving(scene(m, Look.CLAY), c, W, H).effort();
    assertThat(e.triangles()).isBetween(1000L, (long) m.triangleCount() / 2);
    assertThat(e.error()).isBetween(0.1, 4.0);
    assertThat(e.light()).isTrue();
    Renderer.Effort all = r.draw(scene(m, Look.CLAY), c, W, H).effort();
    assertThat(all.error()).isZero();
    assertThat(all.light()).isFalse();
    assertThat(all.hidden()).isPositive();
  }

  @ParameterizedTest
  @MethodSource("meshes")
  void oneThreadAndManyMakeTheSame(Mesh m) {
    Camera c = cameras(m).get(0);
    int[] many = prepared(m).drawMoving(scene(m, Look.COLOUR), c, W, H).pixels();
    Parallel.limitThreads(1);
    try {
      assertThat(prepared(m).drawMoving(scene(m, Look.COLOUR), c, W, H).pixels()).isEqualTo(many);
    } finally {
      Parallel.limitThreads(Integer.MAX_VALUE);
    }
  }

  /** After each edit: as if it had been made from nothing. */
  @Test
  void editsAreTakenInWithoutStartingOver() {
    Mesh m = Meshes.stone(200);
    Hierarchy h = Hierarchy.of(m, Work.unwatched());
    Mesh bitten = Submesh.of(m, t -> m.xyz()[3 * m.triangles()[3 * t]] < 0.6, Work.unwatched());
    Mesh cut =
        new PlaneCut(new double[] {0, 0, -0.4}, new double[] {0.1, 0, 1}, PlaneCut.Close.FLAT)
            .apply(Workpiece.of(bitten, Frame.PLAIN), Run.of(Work.unwatched()))
            .work()
            .scan();
    for (Mesh edited : List.of(bitten, cut, bitten, m)) {
      h = h.updated(edited, Work.unwatched());
      assertThat(h.mesh()).isSameAs(edited);
      Hierarchy anew = Hierarchy.of(edited, Work.unwatched());
      BitSet ids = new BitSet();
      for (Node leaf : leaves(h.root(), new ArrayList<>())) {
        for (Piece p : leaf.pieces()) {
          for (int t = 0; t < p.ids().length; t++) {
            ids.set(p.ids()[t]);
            for (int k = 0; k < 3; k++) {
              int v = edited.triangles()[3 * p.ids()[t] + k];
              assertThat(Vec.at(p.xyz(), p.corners()[3 * t + k]))
                  .isEqualTo(Vec.at(edited.xyz(), v));
            }
          }
        }
      }
      assertThat(ids.cardinality()).isEqualTo(edited.triangleCount());
      int apart = 0;
      for (int v = 0; v < edited.vertexCount(); v++) {
        apart += h.normals()[v] == anew.normals()[v] ? 0 : 1;
      }
      // Sums in another order may round to the next step; new vertices stand in other leaves.
      assertThat(apart).isLessThan(edited.vertexCount() / 20);
      DeviationTest.check(h);
    }
  }

  @Test
  void aLineOfSightMeetsWhatThePictureShows() {
    for (Mesh m : List.of(Meshes.stone(120), Meshes.rubbish(3000))) {
      Renderer r = prepared(m);
      for (Camera c : cameras(m).subList(0, 3)) {
        VisibilityBuffer b = r.draw(scene(m, Look.CLAY), c, W, H).buffer();
        int differ = 0;
        for (int y = 0; y < H; y += 3) {
          for (int x = 0; x < W; x += 3) {
            int t = r.probe(scene(m, Look.CLAY), c, x + 0.5, y + 0.5, W, H);
            differ += t == b.triangle(x, y) ? 0 : 1;
          }
        }
        // Corners are rounded to a 256th of a pixel in the picture.
        assertThat(differ).isLessThan(W * H / 9 / 50);
      }
    }
  }

  @Test
  void selectingThroughTheHierarchyIsSelectingAmongAll() {
    Mesh m = Meshes.stone(200);
    Renderer r = prepared(m);
    double[] loop = {100, 60, 320, 80, 260, 250, 120, 220};
    for (Camera c : cameras(m).subList(0, 3)) {
      Renderer.Picture p = r.draw(scene(m, Look.CLAY), c, W, H);
      BitSet some = r.visible(scene(m, Look.CLAY), p, loop, 1.5, Work.unwatched());
      BitSet all = Picking.visible(m, Similarity.IDENTITY, p.buffer(), p.toPixels(), loop, 1.5);
      assertThat(all.cardinality()).isGreaterThan(100);
      // Told by its plane alone, a steep triangle may seem nearer than all of its piece is.
      int n = all.cardinality();
      all.andNot(some);
      assertThat(all.cardinality()).isLessThanOrEqualTo(n / 1000);
      some.andNot(Picking.visible(m, Similarity.IDENTITY, p.buffer(), p.toPixels(), loop, 1.5));
      assertThat(some.isEmpty()).isTrue();
    }
  }

  @Test
  void aPlaneCutsThePictureOpenWithoutCutting() {
    Mesh m = Meshes.ball(80);
    Camera c = Camera.showing(m.bounds(), Camera.Direction.FRONT, (double) W / H);
    // Keeps what lies behind the middle: the inside of the far half is seen.
    Scene open = scene(m, Look.FACING).with(Setting.PLAIN.withClip(new double[] {0, 1, 0, 0}));
    Renderer r = prepared(m);
    for (Renderer renderer : List.of(new Renderer(), r)) {
      Renderer.Picture p = renderer.draw(open, c, W, H);
      int t = p.buffer().triangle(W / 2, H / 2);
      assertThat(m.xyz()[3 * m.triangles()[3 * t] + 1]).isGreaterThan(0.9f);
    }
    int t = r.probe(open, c, W / 2.0, H / 2.0, W, H);
    assertThat(m.xyz()[3 * m.triangles()[3 * t] + 1]).isGreaterThan(0.9f);
    assertThat(r.drawMoving(open, c, W, H).pixels()[H / 2 * W + W / 2] >> 16 & 255)
        .isGreaterThan(150);
  }

  @Test
  void makingItCanBeCancelled() {
    Mesh m = Meshes.stone(200);
    Work w = new Work();
    w.cancel();
    Assertions.assertThatThrownBy(() -> Hierarchy.of(m, w))
        .isInstanceOfSatisfying(
            Failure.class, f -> assertThat(f.kind()).isEqualTo(Failure.Kind.CANCELLED));
  }
}

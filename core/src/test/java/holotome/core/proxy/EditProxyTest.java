package holotome.core.proxy;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.polygon.FaceLists;
import holotome.core.proxy.ProxyEdit.How;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Edits of a small polygon mesh against volumes, areas and counts by formula. */
class EditProxyTest {
  /** A cube from 0 to 2. */
  private static FaceLists cube() {
    double[] xyz = new double[24];
    for (int v = 0; v < 8; v++) {
      for (int k = 0; k < 3; k++) {
        xyz[3 * v + k] = (v >> k & 1) * 2;
      }
    }
    int[][] faces = {
      {0, 2, 3, 1}, {4, 5, 7, 6}, {0, 1, 5, 4}, {2, 6, 7, 3}, {0, 4, 6, 2}, {1, 3, 7, 5}
    };
    return new FaceLists(xyz, faces);
  }

  private static final double[] TOP = {1, 1, 2};
  private static final double[] FRONT = {1, 0, 1};

  /** From x = 2, z = 2 along y. */
  private static final double[] RIDGE = {2, 1, 2};

  private static ProxyEdit faces(How how, Double amount, double... faces) {
    return new ProxyEdit(how, faces, null, null, null, null, amount);
  }

  private static ProxyEdit edges(How how, Double amount, double... edges) {
    return new ProxyEdit(how, null, edges, null, null, null, amount);
  }

  private static ProxyEdit points(How how, double[] by, double... points) {
    return new ProxyEdit(how, null, null, points, by, null, null);
  }

  private static ProxyEdit plane(How how, double[] at, double[] normal) {
    return new ProxyEdit(how, null, null, null, normal, at, null);
  }

  private static EditedProxy edited(FaceLists of, ProxyEdit... edits) {
    EditedProxy p = new EditedProxy(of, Frame.PLAIN);
    for (ProxyEdit e : edits) {
      p.make(e);
      assertManifold(p.now());
    }
    return p;
  }

  private static void assertManifold(FaceLists f) {
    assertThat(f.polygons().faceCount()).isEqualTo(f.faces().length);
    Naive.assertSound(f.mesh());
  }

  private static double volume(EditedProxy p) {
    return Measures.volume(p.now().mesh());
  }

  private static int corners(EditedProxy p) {
    return p.now().vertexCount();
  }

  private static int faceCount(EditedProxy p) {
    return p.now().faces().length;
  }

  @Test
  void movedTurnedAndScaled() {
    double[] up = {0, 0, 1};
    EditedProxy p = edited(cube(), new ProxyEdit(How.MOVE, TOP, null, null, up, null, null));
    assertThat(volume(p)).isCloseTo(12, within(1e-6));
    // One corner drawn out by 1: a tetrahedron on each of its three faces' halves.
    p = edited(cube(), points(How.MOVE, new double[] {0.5, 0, 0}, 2, 2, 2));
    assertThat(p.now().at(7)).containsExactly(2.5, 2, 2);
    // The ridge let down to the floor's height: a wedge.
    p =
        edited(
            cube(),
            new ProxyEdit(How.MOVE, null, RIDGE, null, new double[] {0, 0, -1}, null, null));
    assertThat(volume(p)).isCloseTo(6, within(1e-6));
    p = edited(cube(), new ProxyEdit(How.SCALE, TOP, null, null, null, null, 0.5));
    // A frustum: h / 3 (A + B + √(A B)).
    assertThat(volume(p)).isCloseTo(2.0 / 3 * (4 + 1 + 2), within(1e-6));
    p =
        edited(
            cube(), new ProxyEdit(How.SCALE, TOP, null, null, new double[] {1, 0, 0}, null, 0.5));
    assertThat(volume(p)).isCloseTo(6, within(1e-6));
    p = edited(cube(), new ProxyEdit(How.TURN, TOP, null, null, up, null, 90.0));
    assertThat(p.now().at(4)).containsExactly(new double[] {2, 0, 2}, within(1e-12));
    double[] about = {0, 0, 0};
    p = edited(cube(), new ProxyEdit(How.TURN, TOP, null, null, up, about, 180.0));
    assertThat(p.now().at(7)).containsExactly(new double[] {-2, -2, 2}, within(1e-12));
  }

  @Test
  void pulledOutAndIn() {
    EditedProxy p = edited(cube(), faces(How.PULL, 1.0, TOP));
    assertThat(volume(p)).isCloseTo(12, within(1e-6));
    assertThat(faceCount(p)).isEqualTo(10);
    assertThat(corners(p)).isEqualTo(12);
    p = edited(cube(), faces(How.PULL, -0.5, TOP));
    assertThat(volume(p)).isCloseTo(6, within(1e-6));
    // Two side by side go out together, each by as much: 2 x 3 x 3 less nothing at their edge.
    p = edited(cube(), faces(How.PULL, 1.0, 1, 1, 2, 1, 0, 1));
    assertThat(volume(p)).isCloseTo(2 * 3 * 3, within(1e-6));
    // All of them: the cube grows.
    FaceLists c = cube();
    double[] all = new double[18];
    for (int f = 0; f < 6; f++) {
      System.arraycopy(c.middle(f), 0, all, 3 * f, 3);
    }
    p = edited(c, faces(How.PULL, 1.0, all));
    assertThat(volume(p)).isCloseTo(64, within(1e-5));
    assertThat(corners(p)).isEqualTo(8);
  }

  @Test
  void aSmallerFaceWithin() {
    EditedProxy p = edited(cube(), faces(How.INSET, 0.5, TOP));
    assertThat(faceCount(p)).isEqualTo(10);
    assertThat(volume(p)).isCloseTo(8, within(1e-6));
    // Pulled in: a tray with walls 0.5 thick.
    p.make(faces(How.PULL, -1.0, TOP));
    assertThat(volume(p)).isCloseTo(8 - 1, within(1e-6));
    assertManifold(p.now());
    assertThatThrownBy(() -> edited(cube(), faces(How.INSET, 1.0, TOP)))
        .hasMessageContaining("too far");
  }

  @Test
  void deletedCappedAndBridged() {
    EditedProxy p = edited(cube(), faces(How.DELETE, null, TOP));
    assertThat(Naive.closedAndOriented(p.now().mesh())).isFalse();
    p.make(edges(How.CAP, null, RIDGE));
    assertThat(volume(p)).isCloseTo(8, within(1e-6));
    assertThat(Naive.closedAndOriented(p.now().mesh())).isTrue();
    // A passage from the top's inner face to the floor's: through and through.
    double[] floor = {1, 1, 0};
    p = edited(cube(), faces(How.INSET, 0.5, TOP), faces(How.INSET, 0.5, floor));
    p.make(faces(How.BRIDGE, null, 1, 1, 2, 1, 1, 0));
    assertThat(volume(p)).isCloseTo(8 - 2, within(1e-6));
    assertManifold(p.now());
    // V - E + F of a ring is 0.
    assertThat(corners(p) - p.now().polygons().edgeCount() + faceCount(p)).isZero();
    // A border's two edges with a face between them: half the lid of a box.
    p = edited(cube(), faces(How.DELETE, null, TOP), edges(How.BRIDGE, null, 2, 1, 2, 1, 2, 2));
    assertThat(faceCount(p)).isEqualTo(6);
    p.make(edges(How.CAP, null, 0, 1, 2));
    assertThat(volume(p)).isCloseTo(8, within(1e-6));
    // An edge and a point take what is around them along.
    assertThat(faceCount(edited(cube(), edges(How.DELETE, null, RIDGE)))).isEqualTo(4);
    assertThat(faceCount(edited(cube(), points(How.DELETE, null, 2, 2, 2)))).isEqualTo(3);
  }

  @Test
  void edgesSplitRingedBevelledAndTakenOut() {
    EditedProxy p = edited(cube(), edges(How.SPLIT, 0.25, RIDGE));
    assertThat(corners(p)).isEqualTo(9);
    assertThat(Math.abs(p.now().at(8)[1] - 1)).isCloseTo(0.5, within(1e-12));
    p.make(points(How.DISSOLVE, null, p.now().at(8)));
    assertThat(corners(p)).isEqualTo(8);
    p = edited(cube(), edges(How.RING, 0.5, RIDGE));
    assertThat(faceCount(p)).isEqualTo(10);
    assertThat(corners(p)).isEqualTo(12);
    assertThat(volume(p)).isCloseTo(8, within(1e-6));
    // And out again: four edges of the ring, then its points.
    for (double[] e : new double[][] {{1, 1, 2}, {1, 1, 0}, {2, 1, 1}, {0, 1, 1}}) {
      p.make(edges(How.DISSOLVE, null, e));
    }
    assertThat(faceCount(p)).isEqualTo(6);
    p.make(
        new ProxyEdit(
            How.DISSOLVE,
            null,
            null,
            new double[] {2, 1, 2, 0, 1, 2, 2, 1, 0, 0, 1, 0},
            null,
            null,
            null));
    assertThat(corners(p)).isEqualTo(8);
    p = edited(cube(), edges(How.BEVEL, 0.5, RIDGE));
    assertThat(volume(p)).isCloseTo(8 - 0.125 * 2, within(1e-6));
    assertThat(faceCount(p)).isEqualTo(7);
    assertThat(corners(p)).isEqualTo(10);
    // All four upright edges one after the other: an octagon.
    p = edited(cube());
    for (double[] e : new double[][] {{0, 0, 1}, {2, 0, 1}, {2, 2, 1}, {0, 2, 1}}) {
      p.make(edges(How.BEVEL, 0.5, e));
    }
    assertThat(volume(p)).isCloseTo((4 - 4 * 0.125) * 2, within(1e-6));
    assertThat(faceCount(p)).isEqualTo(10);
  }

  @Test
  void aStripBesideWhatThereIsAndOfNothing() {
    double[] pairs = {0, 5, 0, 1, 5, 0, 0, 6, 0, 1, 6, 0, 0, 7, 1, 1, 7, 1};
    ProxyEdit strip = new ProxyEdit(How.STRIP, null, null, pairs, null, null, null);
    EditedProxy p = edited(cube(), strip);
    assertThat(faceCount(p)).isEqualTo(8);
    // From left to right and on: it faces up.
    assertThat(p.now().normal(6)).containsExactly(new double[] {0, 0, 1}, within(1e-12));
    Workpiece w = Workpiece.of(Shapes.sphere(1, 2), Frame.PLAIN);
    Mesh alone = new EditProxy(List.of(strip)).apply(w, Run.unwatched()).work().cast();
    assertThat(FaceLists.of(alone).faces()).hasNumberOfRows(2);
    assertThat(Measures.area(alone)).isCloseTo(1 + Math.sqrt(2), within(1e-6));
    assertThatThrownBy(() -> points(How.STRIP, null, 1, 2, 3)).isInstanceOf(Failure.class);
    EditProxy pull = new EditProxy(List.of(faces(How.PULL, 1.0, TOP)));
    assertThatThrownBy(() -> pull.apply(w, Run.unwatched())).hasMessageContaining("no Cast");
  }

  static Stream<Mesh> rough() {
    return Stream.of(
        Shapes.mess(80, 3),
        Shapes.sheet(1, 3),
        new Mesh(new float[0], new int[0]),
        new Mesh(new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0}, new int[] {0, 1, 2}),
        new Mesh(new float[] {0, 0, 0, Float.NaN, 0, 0, 0, 1, 0}, new int[] {0, 1, 2}),
        new Mesh(new float[] {0, 0, 0, 3e38f, 0, 0, 0, 3e38f, 0}, new int[] {0, 1, 2}),
        new Mesh(new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0, 9, 9, 9}, new int[] {0, 1, 2, 0, 0, 1}));
  }

  @ParameterizedTest
  @MethodSource("rough")
  void aSoundCastOrALine(Mesh cast) {
    Workpiece w = Workpiece.of(Shapes.sphere(1, 2), Frame.PLAIN).withCast(cast);
    for (How how : How.values()) {
      double[] here = {0, 0, 0};
      double[] some = how == How.STRIP ? new double[12] : here;
      ProxyEdit e = new ProxyEdit(how, here, here, some, new double[] {1, 0, 0}, here, 0.5);
      try {
        Mesh out = new EditProxy(List.of(e)).apply(w, Run.unwatched()).work().cast();
        for (float x : out.xyz()) {
          assertThat(Float.isFinite(x)).isTrue();
        }
      } catch (Failure f) {
        assertThat(f.getMessage()).isNotBlank().doesNotContain("\n");
      }
    }
  }

  @Test
  void pointsMerged() {
    EditedProxy p = edited(cube(), points(How.MERGE, null, 0, 0, 2, 2, 0, 2, 2, 2, 2, 0, 2, 2));
    // A pyramid.
    assertThat(volume(p)).isCloseTo(8.0 / 3, within(1e-6));
    assertThat(faceCount(p)).isEqualTo(5);
    assertThat(corners(p)).isEqualTo(5);
  }

  @Test
  void cutAndMirrored() {
    double[] at = {0.5, 0, 0};
    EditedProxy p = edited(cube(), plane(How.CUT, at, new double[] {1, 0, 0}));
    assertThat(faceCount(p)).isEqualTo(10);
    assertThat(volume(p)).isCloseTo(8, within(1e-6));
    // Aslant, through two corners: its triangles and quads.
    p = edited(cube(), plane(How.CUT, new double[] {1, 1, 1}, new double[] {1, 1, 1}));
    // A regular hexagon of six edge middles.
    assertThat(corners(p)).isEqualTo(14);
    assertThat(faceCount(p)).isEqualTo(12);
    // Mirrored at 0.5: from there to 2 and back to -1.
    p = edited(cube(), plane(How.MIRROR, at, new double[] {1, 0, 0}));
    assertThat(volume(p)).isCloseTo(3 * 4, within(1e-6));
    assertThat(Naive.closedAndOriented(p.now().mesh())).isTrue();
    // About a face's own plane: twice as large, without a wall between.
    p = edited(cube(), plane(How.MIRROR, new double[] {2, 0, 0}, new double[] {-1, 0, 0}));
    assertThat(volume(p)).isCloseTo(16, within(1e-6));
    assertThat(Naive.closedAndOriented(p.now().mesh())).isTrue();
    // One face alone.
    ProxyEdit one = new ProxyEdit(How.CUT, TOP, null, null, new double[] {1, 0, 0}, at, null);
    assertThat(faceCount(edited(cube(), one))).isEqualTo(7);
    assertThatThrownBy(() -> edited(cube(), plane(How.CUT, new double[] {9, 0, 0}, at)))
        .hasMessageContaining("misses");
  }

  /** A U: cut across both legs at once, which one face crosses twice. */
  @Test
  void aFaceThatIsCutTwice() {
    double[] outline = {0, 0, 3, 0, 3, 3, 2, 3, 2, 1, 1, 1, 1, 3, 0, 3};
    double[][] flat = new double[8][];
    for (int i = 0; i < 8; i++) {
      flat[i] = new double[] {outline[2 * i], outline[2 * i + 1]};
    }
    double[][] axes = {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}};
    EditedProxy p =
        edited(
            FittedBlock.pulled(flat, axes, 0, 1),
            plane(How.CUT, new double[] {0, 2, 0}, new double[] {0, 1, 0}));
    assertThat(volume(p)).isCloseTo(7, within(1e-6));
    // Floor and lid become three faces each, the four walls of the legs two each.
    assertThat(faceCount(p)).isEqualTo(10 + 4 + 4);
  }

  @Test
  void whatCannotBeIsLeftOutAndSaid() {
    Mesh cast = cube().mesh();
    Workpiece w = Workpiece.of(Shapes.sphere(1, 2), Frame.PLAIN).withCast(cast);
    List<ProxyEdit> edits =
        List.of(
            faces(How.PULL, 1.0, 50, 50, 50),
            faces(How.PULL, 1.0, TOP),
            edges(How.CAP, null, 0, 0, 1),
            edges(How.SPLIT, 1.5, 0, 0, 1));
    Outcome o = new EditProxy(edits).apply(w, Run.unwatched());
    assertThat(o.amount()).isEqualTo(1);
    assertThat(o.notes()).anyMatch(n -> n.startsWith("Edit 1 was left out"));
    assertThat(o.notes()).anyMatch(n -> n.startsWith("Edit 3") && n.contains("both sides"));
    assertThat(o.notes()).anyMatch(n -> n.startsWith("Edit 4"));
    assertThat(Measures.volume(o.work().cast())).isCloseTo(12, within(1e-6));
    assertThatThrownBy(() -> new EditProxy(List.of(edits.getFirst())).apply(w, Run.unwatched()))
        .isInstanceOf(Failure.class);
    assertThatThrownBy(() -> new EditProxy(List.of())).isInstanceOf(Failure.class);
    assertThatThrownBy(() -> points(How.MOVE, null, 1, 2, 3)).isInstanceOf(Failure.class);
    assertThatThrownBy(() -> points(How.MERGE, null, 1, 2)).isInstanceOf(Failure.class);
    assertThatThrownBy(() -> faces(How.PULL, null, TOP)).isInstanceOf(Failure.class);
    assertThatThrownBy(() -> faces(How.PULL, Double.NaN, TOP)).isInstanceOf(Failure.class);
  }

  @Test
  void placesAreInTheFilesCoordinates() {
    // A file 40 times as large, turned and far away; working space is another matter.
    Similarity file =
        Similarity.scaling(40)
            .then(Similarity.turning(new double[] {0, 0, 1}, 0.5))
            .then(Similarity.translation(new double[] {4e5, 5e6, 100}));
    Frame frame = new Frame(file, Similarity.scaling(3), true);
    double[] top = file.apply(TOP);
    double[] up = Vec.sub(file.apply(new double[] {0, 0, 1}), file.apply(new double[3]));
    EditedProxy p = new EditedProxy(cube(), frame);
    p.make(new ProxyEdit(How.MOVE, top, null, null, up, null, null));
    assertThat(volume(p)).isCloseTo(12, within(1e-4));
    p.make(faces(How.PULL, 40.0, file.apply(new double[] {1, 1, 3})));
    assertThat(volume(p)).isCloseTo(16, within(1e-4));
  }

  /** Edits by chance: whatever is made stays sound, whatever is refused leaves all as it was. */
  @Test
  void thousandsByChance() {
    SplittableRandom r = new SplittableRandom(7);
    How[] hows = How.values();
    int made = 0;
    for (int run = 0; run < 60; run++) {
      EditedProxy p = new EditedProxy(cube(), Frame.PLAIN);
      for (int i = 0; i < 60; i++) {
        FaceLists before = p.now();
        ProxyEdit e = byChance(r, hows[r.nextInt(hows.length - 1)], before);
        try {
          p.make(e);
          made++;
          assertManifold(p.now());
        } catch (Failure f) {
          assertThat(f.getMessage()).isNotBlank();
          assertThat(p.now()).isSameAs(before);
        }
        if (p.now().faces().length > 300) {
          break;
        }
      }
    }
    assertThat(made).isGreaterThan(1000);
  }

  private static ProxyEdit byChance(SplittableRandom r, How how, FaceLists f) {
    double[] faces = new double[0];
    double[] edges = new double[0];
    double[] points = new double[0];
    int n = 1 + r.nextInt(2);
    int kind = r.nextInt(3);
    for (int i = 0; i < n; i++) {
      int[] c = f.faces()[r.nextInt(f.faces().length)];
      int j = r.nextInt(c.length);
      if (kind == 0) {
        faces = and(faces, f.middle(r.nextInt(f.faces().length)));
      } else if (kind == 1) {
        edges = and(edges, Vec.mul(Vec.add(f.at(c[j]), f.at(c[(j + 1) % c.length])), 0.5));
      } else {
        points = and(points, f.at(c[j]));
      }
    }
    double[] by = {r.nextDouble() - 0.5, r.nextDouble() - 0.5, r.nextDouble() - 0.5};
    double[] at = how == How.CUT || how == How.MIRROR ? f.middle(0) : null;
    double amount = how == How.TURN ? 20 * r.nextDouble() : 0.05 + r.nextDouble();
    return new ProxyEdit(how, some(faces), some(edges), some(points), by, at, amount);
  }

  private static double[] some(double[] a) {
    return a.length == 0 ? null : a;
  }

  private static double[] and(double[] a, double[] b) {
    double[] out = Arrays.copyOf(a, a.length + 3);
    System.arraycopy(b, 0, out, a.length, 3);
    return out;
  }

  @Test
  void aSittingIsTheSameAsItsEdits() {
    List<ProxyEdit> edits = new ArrayList<>();
    Workpiece w = Workpiece.of(Shapes.sphere(1, 2), Frame.PLAIN).withCast(cube().mesh());
    EditProxy all = null;
    for (ProxyEdit e :
        List.of(
            faces(How.PULL, 1.0, TOP), edges(How.RING, 0.5, RIDGE), faces(How.INSET, 0.2, FRONT))) {
      edits.add(e);
      all = all == null ? new EditProxy(List.of(e)) : all.with(e);
    }
    Mesh one = all.apply(w, Run.unwatched()).work().cast();
    Mesh other = new EditProxy(edits).apply(w, Run.unwatched()).work().cast();
    assertThat(one.sameAs(other)).isTrue();
  }
}

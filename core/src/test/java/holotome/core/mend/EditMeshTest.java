package holotome.core.mend;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.mesh.Lineage;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.step.StepKind;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Edits by hand, held against counts and formulas; random ones keep what edits must keep. */
class EditMeshTest {
  private static Outcome outcome(Mesh m, Edit... edits) {
    return new EditMesh(List.of(edits)).apply(Workpiece.of(m, Frame.PLAIN), Run.unwatched());
  }

  private static Mesh edited(Mesh m, Edit... edits) {
    return outcome(m, edits).work().scan();
  }

  private static double[] at(Mesh m, int... vertices) {
    double[] out = new double[3 * vertices.length];
    for (int i = 0; i < out.length; i++) {
      out[i] = m.xyz()[3 * vertices[i / 3] + i % 3];
    }
    return out;
  }

  private static double[] points(double... p) {
    return p;
  }

  /** An edge of a mesh by its triangle and corner. */
  private static double[] edge(Mesh m, int t, int k) {
    return at(m, m.triangles()[3 * t + k], m.triangles()[3 * t + (k + 1) % 3]);
  }

  @Test
  void aPointMovesAndNothingElse() {
    Mesh ball = Shapes.coloured(Shapes.sphere(1, 3));
    Mesh out = edited(ball, new Edit(Edit.How.MOVE, at(ball, 17), null, points(0.1, 0, 0.2)));
    assertThat(out.triangles()).isEqualTo(ball.triangles());
    assertThat(out.colours()).isEqualTo(ball.colours());
    for (int v = 0; v < ball.vertexCount(); v++) {
      double[] was = at(ball, v);
      double[] is = at(out, v);
      double d = v == 17 ? 1 : 0;
      assertThat(is[0]).isCloseTo(was[0] + d * 0.1, within(1e-6));
      assertThat(is[1]).isEqualTo(was[1]);
      assertThat(is[2]).isCloseTo(was[2] + d * 0.2, within(1e-6));
    }
    // Who shows it is told that just the triangles at that point are others.
    Lineage.Common common = Lineage.common(ball.lineage(), out.lineage());
    for (int t = 0; t < ball.triangleCount(); t++) {
      boolean has = Arrays.stream(ball.triangles(), 3 * t, 3 * t + 3).anyMatch(v -> v == 17);
      assertThat(common.to(t)).isEqualTo(has ? -1 : t);
    }
  }

  /** The two triangles of a cell of a sheet are parted the other way, and back again. */
  @Test
  void anEdgeTurnsAndTurnsBack() {
    Mesh sheet = Shapes.sheet(1, 4);
    int a = 6;
    int c = a + 6;
    Mesh out = edited(sheet, Edit.of(Edit.How.TURN, at(sheet, a, c)));
    assertThat(out.triangleCount()).isEqualTo(32);
    assertThat(Naive.edges(out)).doesNotContainKey(key(a, c)).containsKey(key(a + 1, a + 5));
    assertThat(Measures.area(out)).isCloseTo(1, within(1e-6));
    Mesh back = edited(out, Edit.of(Edit.How.TURN, at(sheet, a + 1, a + 5)));
    assertThat(soup(back)).isEqualTo(soup(sheet));
    assertThatThrownBy(() -> edited(sheet, Edit.of(Edit.How.TURN, at(sheet, 0, 1))))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("between two triangles");
    Mesh four =
        edited(Shapes.sphere(1, 0), Edit.of(Edit.How.COLLAPSE, edge(Shapes.sphere(1, 0), 0, 0)));
    assertThat(Naive.closedAndOriented(four)).isTrue();
  }

  private static long key(int a, int b) {
    return (long) Math.min(a, b) << 32 | Math.max(a, b);
  }

  /** The triangles by their places, each beginning with its least corner, sorted. */
  private static List<String> soup(Mesh m) {
    List<String> out = new ArrayList<>();
    for (int t = 0; t < m.triangleCount(); t++) {
      String[] c = new String[3];
      for (int k = 0; k < 3; k++) {
        c[k] = Arrays.toString(at(m, m.triangles()[3 * t + k]));
      }
      int least = 0;
      for (int k = 1; k < 3; k++) {
        least = c[k].compareTo(c[least]) < 0 ? k : least;
      }
      out.add(c[least] + c[(least + 1) % 3] + c[(least + 2) % 3]);
    }
    out.sort(null);
    return out;
  }

  @Test
  void anEdgeCollapsesIntoItsMiddleAndARimStays() {
    Mesh ball = Shapes.sphere(1, 3);
    double[] e = edge(ball, 40, 0);
    Mesh out = edited(ball, Edit.of(Edit.How.COLLAPSE, e));
    assertThat(out.triangleCount()).isEqualTo(ball.triangleCount() - 2);
    assertThat(out.vertexCount()).isEqualTo(ball.vertexCount() - 1);
    assertThat(Naive.closedAndOriented(out)).isTrue();
    double[] p = at(out, out.vertexCount() - 1);
    for (int k = 0; k < 3; k++) {
      assertThat(p[k]).isCloseTo((e[k] + e[3 + k]) / 2, within(1e-6));
    }
    Mesh sheet = Shapes.sheet(1, 4);
    Mesh rim = edited(sheet, Edit.of(Edit.How.COLLAPSE, at(sheet, 2, 7)));
    assertThat(Measures.area(rim)).isCloseTo(1, within(1e-6));
    // A tetrahedron would fold onto itself.
    Mesh four =
        new Mesh(
            new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1},
            new int[] {0, 2, 1, 0, 1, 3, 1, 2, 3, 2, 0, 3});
    assertThatThrownBy(() -> edited(four, Edit.of(Edit.How.COLLAPSE, at(four, 0, 1))))
        .hasMessageContaining("pinched");
  }

  @Test
  void splittingChangesNoPlace() {
    Mesh sheet = Shapes.laden(Shapes.sheet(1, 4));
    Mesh out =
        edited(
            sheet,
            Edit.of(Edit.How.SPLIT, at(sheet, 6, 12)),
            Edit.of(Edit.How.SPLIT, at(sheet, 0, 1)),
            Edit.of(Edit.How.SPLIT, at(sheet, 18, 23, 24)));
    assertThat(out.triangleCount()).isEqualTo(32 + 2 + 1 + 2);
    assertThat(out.vertexCount()).isEqualTo(25 + 3);
    assertThat(Measures.area(out)).isCloseTo(1, within(1e-6));
    assertThat(Naive.border(out)).isEqualTo(17);
    // The middle of what was split is split again: it is found where it is now.
    Mesh again =
        edited(
            sheet,
            Edit.of(Edit.How.SPLIT, at(sheet, 6, 12)),
            new Edit(Edit.How.MOVE, points(0.375, 0.375, 0), null, points(0, 0, 0.25)));
    assertThat(again.bounds().maxZ()).isCloseTo(0.25, within(1e-6));
    assertThat(Measures.area(again)).isGreaterThan(1.05);
  }

  @Test
  void aPointAnEdgeATriangleAreDeletedAndPutBack() {
    Mesh ball = Shapes.sphere(1, 3);
    int[] c = Arrays.copyOfRange(ball.triangles(), 90, 93);
    Mesh one = edited(ball, Edit.of(Edit.How.DELETE, at(ball, c)));
    assertThat(one.triangleCount()).isEqualTo(ball.triangleCount() - 1);
    assertThat(Naive.border(one)).isEqualTo(3);
    assertThat(edited(ball, Edit.of(Edit.How.DELETE, edge(ball, 30, 0))).triangleCount())
        .isEqualTo(ball.triangleCount() - 2);
    Mesh none = edited(ball, Edit.of(Edit.How.DELETE, at(ball, c[0])));
    assertThat(none.vertexCount()).isEqualTo(ball.vertexCount() - 1);
    assertThat(Naive.border(none)).isEqualTo(ball.triangleCount() - none.triangleCount());
    // Put back whichever way round it is named: it turns as its neighbours do.
    for (int[] order : new int[][] {{0, 1, 2}, {2, 1, 0}}) {
      Mesh back =
          edited(one, Edit.of(Edit.How.ADD, at(ball, c[order[0]], c[order[1]], c[order[2]])));
      assertThat(Naive.closedAndOriented(back)).isTrue();
      assertThat(soup(back)).isEqualTo(soup(ball));
    }
    assertThatThrownBy(() -> edited(ball, Edit.of(Edit.How.ADD, at(ball, c))))
        .hasMessageContaining("there already");
  }

  /** Two sheets with a gap between them, of as many edges along it or not. */
  @ParameterizedTest
  @ValueSource(ints = {1, 3, 4, 7})
  void rimsAreJoinedByAStripOrSnappedTogether(int edges) {
    Mesh two = Shapes.together(Shapes.sheet(1, 4), Shapes.moved(Shapes.sheet(1, edges), 1.2, 0, 0));
    double[] right = run(1, 4);
    double[] left = run(1.2, edges);
    Mesh strip = edited(two, new Edit(Edit.How.STRIP, right, left, null));
    assertThat(strip.triangleCount()).isEqualTo(two.triangleCount() + 4 + edges);
    assertThat(Measures.area(strip)).isCloseTo(2.2, within(1e-5));
    assertThat(Naive.border(strip)).isEqualTo(3 * 4 + 3 * edges + 2);
    assertThat(Naive.islands(strip)).isEqualTo(1);
    assertThat(Naive.crowded(strip)).isZero();
    Mesh snapped = edited(two, new Edit(Edit.How.SNAP, right, left, null));
    assertThat(Naive.islands(snapped)).isEqualTo(1);
    assertThat(Naive.border(snapped)).isEqualTo(3 * 4 + 3 * edges);
    assertThat(Naive.crowded(snapped)).isZero();
    assertThat(Measures.area(snapped)).isCloseTo(2.2, within(1e-5));
    // Turned about, the other run is the same.
    double[] back = new double[left.length];
    for (int i = 0; i < left.length; i += 3) {
      System.arraycopy(left, i, back, left.length - 3 - i, 3);
    }
    Mesh same = edited(two, new Edit(Edit.How.STRIP, right, back, null));
    assertThat(same.triangles()).isEqualTo(strip.triangles());
  }

  private static double[] run(double x, int n) {
    double[] out = new double[3 * n + 3];
    for (int i = 0; i <= n; i++) {
      out[3 * i] = x;
      out[3 * i + 1] = (double) i / n;
    }
    return out;
  }

  @Test
  void aPointSnapsOntoAnother() {
    Mesh two = Shapes.together(Shapes.sheet(1, 1), Shapes.moved(Shapes.sheet(1, 1), 1.1, 0, 0));
    Mesh out =
        edited(
            two,
            new Edit(Edit.How.SNAP, points(1, 0, 0), points(1.1, 0, 0), null),
            new Edit(Edit.How.SNAP, points(1, 1, 0), points(1.1, 1, 0), null));
    assertThat(out.vertexCount()).isEqualTo(6);
    assertThat(Naive.border(out)).isEqualTo(6);
    assertThat(Measures.area(out)).isCloseTo(2.1, within(1e-6));
  }

  @Test
  void whatCannotBeDoneIsLeftOutAndSaid() {
    Mesh sheet = Shapes.sheet(1, 4);
    Outcome out =
        outcome(
            sheet,
            Edit.of(Edit.How.TURN, at(sheet, 0, 1)),
            Edit.of(Edit.How.SPLIT, at(sheet, 6, 12)),
            Edit.of(Edit.How.SPLIT, points(40, 0, 0, 41, 0, 0)));
    assertThat(out.amount()).isEqualTo(1);
    assertThat(out.notes()).hasSize(3);
    assertThat(out.notes().get(0)).isEqualTo("One edit made by hand");
    assertThat(out.notes().get(1)).contains("edit 1 was left out");
    assertThat(out.notes().get(2)).contains("edit 3", "no point");
    assertThatThrownBy(() -> Edit.of(Edit.How.TURN, points(0, 0, 0)))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("turn");
  }

  /** Points of several triangles on one spot move together; edges between them are found. */
  @Test
  void aSoupMovesTogether() {
    Mesh ball = Shapes.sphere(1, 2);
    float[] xyz = new float[3 * ball.triangles().length];
    int[] tri = new int[ball.triangles().length];
    for (int c = 0; c < tri.length; c++) {
      tri[c] = c;
      System.arraycopy(ball.xyz(), 3 * ball.triangles()[c], xyz, 3 * c, 3);
    }
    Mesh soup = new Mesh(xyz, tri);
    Mesh out = edited(soup, new Edit(Edit.How.MOVE, at(ball, 3), null, points(0, 0, 0.5)));
    Mesh whole = edited(ball, new Edit(Edit.How.MOVE, at(ball, 3), null, points(0, 0, 0.5)));
    assertThat(soup(out)).isEqualTo(soup(whole));
  }

  /** Random edits on sound and on rough meshes, as one entry and as one each. */
  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3, 4, 5, 6})
  void randomEditsKeepWhatTheyMust(int seed) {
    Random r = new Random(seed);
    boolean rough = seed % 3 == 0;
    boolean open = seed % 3 == 1;
    Mesh start =
        rough
            ? Shapes.mess(90, seed)
            : open
                ? Submesh.of(Shapes.sphere(1, 3), t -> t > 60, Work.unwatched())
                : Shapes.torus(2, 0.7, 16, 9);
    Mesh now = Shapes.laden(start);
    List<Edit> all = new ArrayList<>();
    TreeMap<Edit.How, Integer> done = new TreeMap<>();
    for (int i = 0; i < 60; i++) {
      Edit e = random(now, r, rough);
      Outcome o;
      try {
        o = outcome(now, e);
      } catch (Failure f) {
        assertThat(f.kind()).isEqualTo(Failure.Kind.CANNOT);
        continue;
      }
      done.merge(e.how(), 1, Integer::sum);
      now = o.work().scan();
      all.add(e);
      Naive.assertSound(now);
      if (!rough) {
        assertThat(Naive.crowded(now)).as(e.toString()).isZero();
        assertThat(Naive.verticesWithSeveralFans(now)).as(e.toString()).isZero();
      }
      if (!rough && !open) {
        assertThat(Naive.closedAndOriented(now)).as(e.toString()).isTrue();
      }
    }
    assertThat(done).hasSizeGreaterThan(2);
    EditMesh step = new EditMesh(all);
    Workpiece w = Workpiece.of(Shapes.laden(start), Frame.PLAIN);
    Mesh together = step.apply(w, Run.unwatched()).work().scan();
    assertThat(soup(together)).isEqualTo(soup(now));
    Parallel.limitThreads(1);
    try {
      assertThat(step.apply(w, Run.unwatched()).work().scan().sameAs(together)).isTrue();
    } finally {
      Parallel.limitThreads(Integer.MAX_VALUE);
    }
    StepKind kind = StepKind.of(step);
    Mesh read = kind.create(kind.values(step)).apply(w, Run.unwatched()).work().scan();
    assertThat(read.sameAs(together)).isTrue();
  }

  private static Edit random(Mesh m, Random r, boolean deletes) {
    int t = r.nextInt(m.triangleCount());
    int k = r.nextInt(3);
    int[] c = Arrays.copyOfRange(m.triangles(), 3 * t, 3 * t + 3);
    return switch (r.nextInt(deletes ? 6 : 5)) {
      case 0 ->
          new Edit(Edit.How.MOVE, at(m, c[0]), null, points(0.01 * r.nextGaussian(), 0.02, 0));
      case 1 -> Edit.of(Edit.How.TURN, edge(m, t, k));
      case 2 -> Edit.of(Edit.How.COLLAPSE, edge(m, t, k));
      case 3 -> Edit.of(Edit.How.SPLIT, edge(m, t, k));
      case 4 -> Edit.of(Edit.How.SPLIT, at(m, c));
      default -> Edit.of(Edit.How.DELETE, edge(m, t, k));
    };
  }
}

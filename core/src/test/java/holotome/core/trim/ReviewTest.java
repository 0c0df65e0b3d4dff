package holotome.core.trim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.mend.TurnOver;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import holotome.core.topology.Islands;
import holotome.core.unit.Length;
import java.util.BitSet;
import org.junit.jupiter.api.Test;

/** What trimming leaves to be found, and the steps that mend it. */
class ReviewTest {
  private static TrimReview review(Mesh m) {
    return TrimReview.of(m, Islands.of(m), Adjacency.of(m), Work.unwatched());
  }

  private static Mesh apply(Step step, Mesh m) {
    Mesh out = step.apply(Workpiece.of(m, Frame.PLAIN), Run.unwatched()).work().scan();
    Naive.assertSound(out);
    return out;
  }

  /** A closed surface shows no back from outside; turned over, nothing but backs. */
  @Test
  void anInsideOutMeshIsFoundAndTurnedOver() {
    for (Mesh m : new Mesh[] {Shapes.sphere(1, 4), Shapes.torus(2, 0.6, 60, 30), Shapes.cube(1)}) {
      assertThat(review(m).backs()).isLessThan(0.01);
      Mesh turned = apply(new TurnOver(), m);
      assertThat(review(turned).backs()).isGreaterThan(0.99);
      assertThat(Measures.volume(turned)).isCloseTo(-Measures.volume(m), within(1e-9));
      assertThat(apply(new TurnOver(), turned).sameAs(m)).isTrue();
    }
  }

  /** Drawn as points, as larger meshes are, a closed surface is as closed. */
  @Test
  void aFewOfManyTrianglesTellTheSame() {
    Mesh fine = Shapes.sphere(1, 8);
    assertThat(OutsideView.backs(fine, 4, Work.unwatched())).isLessThan(0.005);
    Mesh sheet = Shapes.sheet(3, 500);
    assertThat(OutsideView.backs(sheet, 3, Work.unwatched())).isCloseTo(0.5, within(0.03));
  }

  /** Of more pieces than are measured side by side each counts by its own size. */
  @Test
  void manyPiecesAreMeasuredEach() {
    Mesh[] parts = new Mesh[300];
    for (int i = 0; i < parts.length; i++) {
      parts[i] = Shapes.moved(Shapes.cube(1 + 0.01 * i), 3.0 * i, 0, 0);
    }
    Mesh all = Shapes.together(parts);
    Islands islands = Islands.of(all);
    double[] across = islands.diameters(all, Work.unwatched());
    double[] expected = new double[parts.length];
    for (int i = 0; i < parts.length; i++) {
      expected[i] = Math.sqrt(3) * (1 + 0.01 * i);
    }
    assertThat(across).containsExactly(expected, within(1e-3));
    assertThat(TrimReview.of(all, islands, Adjacency.of(all), Work.unwatched()).pieces())
        .hasSize(300);
  }

  /** From 14 sides spread evenly, a flat sheet shows its back as often as its front. */
  @Test
  void anOpenSheetShowsHalfItsBacks() {
    assertThat(review(Shapes.sheet(3, 40)).backs()).isCloseTo(0.5, within(0.03));
    assertThat(review(new Mesh(new float[0], new int[0])).backs()).isZero();
  }

  @Test
  void aStripIsToldFromDebrisAndFromTheSubject() {
    Mesh ball = Shapes.sphere(1, 4);
    Mesh ribbon = ribbon(60);
    Mesh shard = Shapes.moved(Shapes.sheet(0.2, 4), 3, 3, 3);
    TrimReview r = review(Shapes.together(ball, Shapes.moved(ribbon, 0, 0, 2), shard));
    // By rank: the ball, the ribbon of 120 triangles, the shard of 32.
    assertThat(r.strips()).containsExactly(1);
    assertThat(r.pieces()).containsExactly(0);
    assertThat(review(ball).strips()).isEmpty();
  }

  /** A flat strip one cell wide and so many long. */
  private static Mesh ribbon(int cells) {
    float[] xyz = new float[6 * (cells + 1)];
    int[] tri = new int[6 * cells];
    for (int i = 0; i <= cells; i++) {
      xyz[6 * i] = 0.02f * i;
      xyz[6 * i + 3] = 0.02f * i;
      xyz[6 * i + 4] = 0.02f;
    }
    for (int i = 0; i < cells; i++) {
      int[] t = {2 * i, 2 * i + 2, 2 * i + 1, 2 * i + 1, 2 * i + 2, 2 * i + 3};
      System.arraycopy(t, 0, tri, 6 * i, 6);
    }
    return new Mesh(xyz, tri);
  }

  @Test
  void aSubjectInTwoIsTold() {
    Mesh m = Shapes.together(Shapes.sphere(1, 4), Shapes.moved(Shapes.sphere(0.6, 4), 2, 0, 0));
    assertThat(review(m).pieces()).containsExactly(0, 1);
  }

  @Test
  void fringeTakesSliversAndTeethButNotTheEdge() {
    // A sheet cut askew has slivers all along the cut.
    Mesh sheet = Shapes.sheet(10, 40);
    double[] n = Vec.unit(Vec.of(1, 0.17, 0));
    Mesh cut = apply(new PlaneCut(Vec.of(5.03, 5, 0), n, PlaneCut.Close.OPEN), sheet);
    int before = review(cut).slivers().cardinality();
    assertThat(before).isGreaterThan(5);
    Mesh even = apply(new TrimFringe(0.15, true, 3), cut);
    assertThat(review(even).slivers().cardinality()).isLessThan(before / 2);
    assertThat(Measures.area(even)).isGreaterThan(0.97 * Measures.area(cut));
    assertThat(Islands.of(even).count()).isEqualTo(1);
    // A closed mesh has no fringe.
    Mesh ball = Shapes.sphere(1, 3);
    assertThat(apply(new TrimFringe(0.15, true, 3), ball).sameAs(ball)).isTrue();
    assertThatThrownBy(() -> apply(new TrimFringe(1, true, 100), Shapes.sheet(1, 2)))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("Nothing would be left");
  }

  /** A single tooth on a straight edge goes, and nothing else. */
  @Test
  void aToothGoes() {
    Mesh sheet = Shapes.sheet(4, 4);
    int at = 0;
    for (int v = 0; v < sheet.vertexCount(); v++) {
      double[] p = Vec.at(sheet.xyz(), v);
      at = p[0] == 4 && p[1] == 2 ? v : at;
    }
    int below = -1;
    for (int v = 0; v < sheet.vertexCount(); v++) {
      double[] p = Vec.at(sheet.xyz(), v);
      below = p[0] == 4 && p[1] == 1 ? v : below;
    }
    float[] xyz = java.util.Arrays.copyOf(sheet.xyz(), sheet.xyz().length + 3);
    xyz[xyz.length - 3] = 4.8f;
    xyz[xyz.length - 2] = 1.5f;
    int[] tri = java.util.Arrays.copyOf(sheet.triangles(), sheet.triangles().length + 3);
    tri[tri.length - 3] = below;
    tri[tri.length - 2] = sheet.vertexCount();
    tri[tri.length - 1] = at;
    Mesh even = apply(new TrimFringe(0.01, true, 1), new Mesh(xyz, tri));
    assertThat(even.bounds().maxX()).isEqualTo(4);
    // Two corners of the sheet hang by one edge as well.
    assertThat(even.triangleCount()).isBetween(28, 32);
  }

  /** A column with a foot on rough ground: the seam keeps all of it, and none of the ground. */
  @Test
  void theSeamFollowsTheFoot() {
    Mesh m = columnOnGround(160, 0.004);
    double column = 2 * Math.PI * 0.3 * 0.8 + Math.PI * 0.09;
    Outcome o =
        new CutGround(null, CutGround.Along.SEAM, PlaneCut.Close.OPEN, 1)
            .apply(Workpiece.of(m, Frame.PLAIN), Run.unwatched());
    Mesh out = o.work().scan();
    assertThat(Measures.area(out)).isCloseTo(column, within(0.02 * column));
    int[][] loops = Borders.of(Adjacency.of(out)).loops();
    // One around the foot; the rings leave a pinhole in the middle of the top.
    assertThat(loops).hasNumberOfRows(2);
    int foot = 0;
    for (int[] loop : loops) {
      double[] first = Vec.at(out.xyz(), Borders.vertices(out, loop)[0]);
      if (first[2] > 0.5) {
        continue;
      }
      foot++;
      for (int v : Borders.vertices(out, loop)) {
        double[] p = Vec.at(out.xyz(), v);
        assertThat(Math.hypot(p[0], p[1])).isCloseTo(0.3, within(0.03));
      }
    }
    assertThat(foot).isEqualTo(1);
    assertThat(o.notes().getFirst()).startsWith("Ground found");
    assertThat(o.notes()).anyMatch(n -> n.contains("1 island and 2 borders left"));
  }

  /** Rings from the middle of a column's top, down its side, and out over the ground. */
  private static Mesh columnOnGround(int around, double rough) {
    double step = 2 * Math.PI * 0.3 / around;
    int top = (int) (0.3 / step);
    int side = (int) (0.8 / step);
    int ground = (int) (1.7 / step);
    int rings = top + side + ground;
    java.util.Random r = new java.util.Random(9);
    float[] xyz = new float[3 * (rings + 1) * around];
    for (int i = 0; i <= rings; i++) {
      double radius =
          i <= top
              ? 0.3 * Math.max(i, 0.5) / top
              : i <= top + side ? 0.3 : 0.3 + (i - top - side) * step;
      double z = i <= top ? 0.8 : i <= top + side ? 0.8 * (top + side - i) / side : 0;
      for (int j = 0; j < around; j++) {
        double a = 2 * Math.PI * j / around;
        int v = 3 * (i * around + j);
        xyz[v] = (float) (radius * Math.cos(a));
        xyz[v + 1] = (float) (radius * Math.sin(a));
        xyz[v + 2] = (float) (z + (i > top + side ? rough * r.nextGaussian() : 0));
      }
    }
    int[] tri = new int[6 * rings * around];
    int at = 0;
    for (int i = 0; i < rings; i++) {
      for (int j = 0; j < around; j++) {
        int k = (j + 1) % around;
        int[] t = {
          i * around + j, (i + 1) * around + j, (i + 1) * around + k,
          i * around + j, (i + 1) * around + k, i * around + k
        };
        System.arraycopy(t, 0, tri, at, 6);
        at += 6;
      }
    }
    return new Mesh(xyz, tri);
  }

  @Test
  void islandsNearTheSubjectAreKept() {
    Mesh m =
        Shapes.together(
            Shapes.sphere(1, 4),
            Shapes.moved(Shapes.sphere(0.2, 2), 1.5, 0, 0),
            Shapes.moved(Shapes.sphere(0.2, 2), 4, 0, 0));
    Mesh near = apply(new KeepIslands(KeepIslands.Keep.LARGER, 1, new Length(0), new Length(1)), m);
    assertThat(Islands.of(near).sizes()).containsExactly(5120, 320);
    assertThat(near.bounds().maxX()).isLessThan(2);
  }

  /** What goes and what is left is always said, in words. */
  @Test
  void everyRemovalSaysWhatItTook() {
    Mesh m = Shapes.together(Shapes.sphere(1, 4), Shapes.moved(Shapes.cube(0.2), 3, 0, 0));
    Workpiece w = Workpiece.of(m, Frame.PLAIN);
    String islands =
        new KeepIslands(KeepIslands.Keep.LARGEST, 1, new Length(0))
            .apply(w, Run.unwatched())
            .notes()
            .getLast();
    assertThat(islands)
        .startsWith("12 triangles removed, 0.2400 square units of surface")
        .endsWith("1 island and 0 borders left");
    BitSet some = new BitSet();
    some.set(0, 100);
    String selection =
        CutSelection.of(
                java.util.List.of(
                    holotome.core.select.Pick.of(
                        holotome.core.select.Pick.Join.ADD, some, m.triangleCount())),
                CutSelection.Then.REMOVE)
            .apply(w, Run.unwatched())
            .notes()
            .toString();
    assertThat(selection).contains("100 triangles removed").contains("fits this mesh only");
  }
}

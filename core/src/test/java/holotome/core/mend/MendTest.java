package holotome.core.mend;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Workpiece;
import holotome.core.spatial.SelfIntersections;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import holotome.core.unit.Length;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

class MendTest {
  private static Mesh tidy(Mesh m) {
    Mesh out = Tidy.tidy(m, new ArrayList<>(), Work.unwatched());
    Naive.assertSound(out);
    return out;
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12})
  void anyMessBecomesManifold(long seed) {
    Mesh out = tidy(Shapes.mess(30 + (int) seed * 29, seed));
    assertThat(Naive.crowded(out)).isZero();
    assertThat(Naive.verticesWithSeveralFans(out)).isZero();
    assertThat(Naive.duplicateTriangles(out)).isZero();
    for (int t = 0; t < out.triangleCount(); t++) {
      assertThat(Vec.length(Measures.cross(out, t))).isPositive();
    }
  }

  @Test
  void whatIsTidyStaysAsItIs() {
    Mesh m = Shapes.coloured(Shapes.torus(2, 1, 20, 10));
    List<String> notes = new ArrayList<>();
    assertThat(Tidy.tidy(m, notes, Work.unwatched()).sameAs(m)).isTrue();
    assertThat(notes).containsExactly("Nothing to tidy");
  }

  @Test
  void twoCubesThatShareAnEdgeComeApartClosed() {
    Mesh two = tidy(Shapes.together(Shapes.cube(2), Shapes.moved(Shapes.cube(2), 2, 2, 0)));
    assertThat(Naive.closedAndOriented(two)).isTrue();
    assertThat(Naive.islands(two)).isEqualTo(2);
    assertThat(Measures.volume(two)).isCloseTo(16, within(1e-5));
  }

  @Test
  void fansThatMeetAtAPointComeApart() {
    Mesh two = tidy(Shapes.together(Shapes.cube(2), Shapes.moved(Shapes.cube(2), 2, 2, 2)));
    assertThat(two.vertexCount()).isEqualTo(16);
    assertThat(Naive.islands(two)).isEqualTo(2);
  }

  @Test
  void neighboursAgreeAfterwards() {
    Mesh m = Shapes.sphere(1, 3);
    int[] tri = m.triangles().clone();
    for (int t = 0; t < m.triangleCount(); t += 7) {
      int s = tri[3 * t];
      tri[3 * t] = tri[3 * t + 1];
      tri[3 * t + 1] = s;
    }
    Mesh out = tidy(new Mesh(m.xyz(), tri));
    assertThat(Naive.closedAndOriented(out)).isTrue();
    assertThat(Measures.volume(out)).isCloseTo(Measures.volume(m), within(1e-6));
  }

  @Test
  void needleOnALineLeavesNoGap() {
    // A square of two triangles whose diagonal carries a needle with its middle point.
    float[] xyz = {0, 0, 0, 2, 0, 0, 2, 2, 0, 0, 2, 0, 1, 1, 0};
    int[] tri = {0, 1, 2, 0, 2, 4, 4, 2, 3, 0, 4, 3};
    Mesh out = tidy(new Mesh(xyz, tri));
    assertThat(out.triangleCount()).isEqualTo(4);
    assertThat(Naive.border(out)).isEqualTo(4);
    assertThat(Measures.area(out)).isCloseTo(4, within(1e-6));
  }

  @Test
  void weldingAndDroppingTogetherClosesWhatDoubledPointsTore() {
    Mesh s = Shapes.sphere(1, 3);
    // A triangle whose far side has no length: two of its corners stand on one spot.
    float[] xyz = java.util.Arrays.copyOf(s.xyz(), s.xyz().length + 3);
    int[] tri = s.triangles().clone();
    int v = tri[0];
    System.arraycopy(s.xyz(), 3 * v, xyz, s.xyz().length, 3);
    int doubled = s.vertexCount();
    for (int i = 3; i < tri.length; i++) {
      if (tri[i] == v) {
        tri[i] = doubled;
        break;
      }
    }
    Mesh out = tidy(new Mesh(xyz, tri));
    assertThat(Naive.closedAndOriented(out)).isTrue();
    assertThat(out.vertexCount()).isEqualTo(s.vertexCount());
  }

  private static Mesh fill(Mesh m, FillHoles.How how, Length upTo, boolean keepLongest) {
    Mesh out =
        new FillHoles(how, upTo, keepLongest)
            .apply(Workpiece.of(m, Frame.PLAIN), Run.unwatched())
            .work()
            .scan();
    Naive.assertSound(out);
    return out;
  }

  /** A sphere with the triangles around some directions taken out. */
  private static Mesh holed(int level, double cosine, double[]... directions) {
    Mesh s = Shapes.coloured(Shapes.sphere(1, level));
    return Submesh.of(
        s,
        t -> {
          double[] c = new double[3];
          for (int k = 0; k < 9; k++) {
            c[k % 3] += s.xyz()[3 * s.triangles()[3 * t + k / 3] + k % 3];
          }
          for (double[] d : directions) {
            if (Vec.dot(Vec.unit(c), d) > cosine) {
              return false;
            }
          }
          return true;
        },
        Work.unwatched());
  }

  @ParameterizedTest
  @EnumSource(value = FillHoles.How.class, mode = EnumSource.Mode.EXCLUDE, names = "BRIDGE")
  void filledSphereIsClosedAgain(FillHoles.How how) {
    Mesh m = holed(4, 0.95, Vec.of(0, 0, 1), Vec.of(1, 0, 0), Vec.unit(Vec.of(-1, -1, -1)));
    Mesh out = fill(m, how, null, false);
    assertThat(Naive.closedAndOriented(out)).isTrue();
    assertThat(out.vertexCount() - Adjacency.of(out).edgeCount() + out.triangleCount())
        .isEqualTo(2);
  }

  @Test
  void smoothFillContinuesTheSphere() {
    Mesh m = holed(5, 0.93, Vec.of(0, 0, 1));
    Mesh flat = fill(m, FillHoles.How.FLAT, null, false);
    Mesh smooth = fill(m, FillHoles.How.SMOOTH, null, false);
    double depth = 0;
    for (int v = m.vertexCount(); v < smooth.vertexCount(); v++) {
      depth = Math.max(depth, Math.abs(1 - Vec.length(Vec.at(smooth.xyz(), v))));
    }
    // The flat lid lies 0.07 below the sphere; a patch that runs on along the surface stays nearer.
    assertThat(depth).isLessThan(0.03);
    double full = Measures.volume(Shapes.sphere(1, 5));
    assertThat(full - Measures.volume(smooth)).isLessThan(0.5 * (full - Measures.volume(flat)));
    double edges = Math.sqrt(Measures.area(m) / m.triangleCount());
    double patchEdges =
        Math.sqrt(
            (Measures.area(smooth) - Measures.area(m))
                / (smooth.triangleCount() - m.triangleCount()));
    assertThat(patchEdges).isBetween(0.5 * edges, 1.6 * edges);
  }

  @Test
  void onlySmallHolesAreFilledWhenSoAsked() {
    Mesh m = Submesh.of(holed(4, 0.6, Vec.of(0, 0, 1)), t -> t != 3, Work.unwatched());
    assertThat(Naive.border(fill(m, FillHoles.How.FLAT, new Length(1), false)))
        .isEqualTo(Naive.border(m) - 3);
    assertThat(Naive.border(fill(m, FillHoles.How.FLAT, null, true)))
        .isEqualTo(Naive.border(m) - 3);
    assertThat(Naive.border(fill(m, FillHoles.How.FLAT, null, false))).isZero();
  }

  @Test
  void longBorderIsFilledFlat() {
    Mesh out = fill(holed(7, 0.0, Vec.of(0, 0, 1)), FillHoles.How.FLAT, null, false);
    assertThat(Naive.closedAndOriented(out)).isTrue();
    assertThat(Measures.volume(out)).isCloseTo(2 * Math.PI / 3, within(0.02));
  }

  /**
   * The foot of a hollow cylinder lies in a plane: it is closed flat, a hole in its side is not.
   */
  @Test
  void flatRimsAreClosedFlatWhereTheRimDecides() {
    Mesh tube = tube(120, 20);
    Outcome out =
        new FillHoles(FillHoles.How.BY_RIM, null, false)
            .apply(Workpiece.of(tube, Frame.PLAIN), Run.unwatched());
    Mesh filled = out.work().scan();
    assertThat(filled.vertexCount()).isEqualTo(tube.vertexCount());
    assertThat(filled.triangleCount()).isEqualTo(tube.triangleCount() + 2 * 118);
    // A prism of 120 sides: area of the polygon times the height.
    double area = 60 * Math.sin(2 * Math.PI / 120);
    assertThat(Measures.volume(filled)).isCloseTo(area * tube.bounds().height(), within(1e-4));
  }

  /** A wide rim is filled coarser inwards: triangles grow with the rim, not with the area. */
  @Test
  @org.junit.jupiter.api.Timeout(60)
  void aRimOfThousandsOfEdgesIsFilledSmoothly() {
    Mesh tube = tube(3000, 4);
    Outcome out =
        new FillHoles(FillHoles.How.SMOOTH, null, false)
            .apply(Workpiece.of(tube, Frame.PLAIN), Run.unwatched());
    assertThat(out.amount()).isEqualTo(2);
    assertThat(Naive.border(out.work().scan())).isZero();
    assertThat(out.work().scan().triangleCount()).isBetween(10_000, 60_000);
    assertThat(out.stated()).anyMatch(n -> n.contains("stands out"));
  }

  /** Only the end that was pointed at is closed. */
  @Test
  void onlyChosenHolesAreFilled() {
    Mesh tube = tube(60, 10);
    double top = tube.bounds().maxZ();
    Outcome out =
        new FillHoles(FillHoles.How.FLAT, null, false, new double[] {1, 0, top + 0.01})
            .apply(Workpiece.of(tube, Frame.PLAIN), Run.unwatched());
    assertThat(out.amount()).isEqualTo(1);
    assertThat(Naive.border(out.work().scan())).isEqualTo(60);
    Mesh filled = out.work().scan();
    for (int c = tube.triangles().length; c < filled.triangles().length; c++) {
      assertThat((double) filled.xyz()[3 * filled.triangles()[c] + 2]).isEqualTo(top);
    }
  }

  /** The wall of a cylinder of radius 1, its rows as far apart as its points. */
  private static Mesh tube(int n, int rows) {
    float[] xyz = new float[3 * n * rows];
    int[] tri = new int[6 * n * (rows - 1)];
    int c = 0;
    for (int r = 0; r < rows; r++) {
      for (int i = 0; i < n; i++) {
        double a = 2 * Math.PI * i / n;
        xyz[3 * (r * n + i)] = (float) Math.cos(a);
        xyz[3 * (r * n + i) + 1] = (float) Math.sin(a);
        xyz[3 * (r * n + i) + 2] = (float) (r * 2 * Math.PI / n);
        if (r + 1 < rows) {
          int b = r * n + (i + 1) % n;
          int[] two = {r * n + i, b, b + n, r * n + i, b + n, r * n + i + n};
          System.arraycopy(two, 0, tri, c, 6);
          c += 6;
        }
      }
    }
    return new Mesh(xyz, tri);
  }

  /** Doubled points, a tooth and a loose triangle along a rim: cleaned, said, and filled. */
  @Test
  void rimsAreCleanedBeforeTheyAreFilled() {
    Mesh ball = Shapes.sphere(1, 4);
    Mesh holed = Submesh.of(ball, t -> !isNearTop(ball, t, 0.4), Work.unwatched());
    int border = (int) Naive.border(holed);
    float[] xyz = java.util.Arrays.copyOf(holed.xyz(), holed.xyz().length + 9 + 3 + 3);
    int n = holed.vertexCount();
    // A loose triangle over the hole; a tooth on a rim edge; a rim point that is there twice.
    float[] loose = {-0.05f, 0, 1, 0.05f, 0, 1, 0, 0.05f, 1};
    System.arraycopy(loose, 0, xyz, 3 * n, 9);
    int[] rim = rimEdge(holed);
    xyz[3 * n + 9] = 0.05f * (holed.xyz()[3 * rim[0]]);
    xyz[3 * n + 10] = 0.05f * (holed.xyz()[3 * rim[0] + 1]);
    xyz[3 * n + 11] = 1;
    System.arraycopy(holed.xyz(), 3 * rim[2], xyz, 3 * n + 12, 3);
    int[] tri = java.util.Arrays.copyOf(holed.triangles(), holed.triangles().length + 6);
    for (int c = 3 * rim[3]; c < 3 * rim[3] + 3; c++) {
      tri[c] = tri[c] == rim[2] ? n + 4 : tri[c];
    }
    int[] more = {n, n + 1, n + 2, rim[1], rim[0], n + 3};
    System.arraycopy(more, 0, tri, holed.triangles().length, 6);
    Outcome out =
        new FillHoles(FillHoles.How.SMOOTH, null, false)
            .apply(Workpiece.of(new Mesh(xyz, tri), Frame.PLAIN), Run.unwatched());
    Mesh filled = Submesh.used(out.work().scan());
    assertThat(border).isGreaterThan(20);
    assertThat(out.notes().toString()).contains("doubled point", "2 loose or sharp triangles");
    assertThat(Naive.closedAndOriented(filled)).isTrue();
    assertThat(Naive.islands(filled)).isEqualTo(1);
    assertThat(Measures.volume(filled)).isCloseTo(4 * Math.PI / 3, within(0.06));
  }

  private static boolean isNearTop(Mesh m, int t, double across) {
    float[] p = m.xyz();
    int v = 3 * m.triangles()[3 * t];
    return p[v + 2] > 0 && Math.hypot(p[v], p[v + 1]) < across;
  }

  /** A rim edge's two points, another rim point farther on, and a triangle of that one's. */
  private static int[] rimEdge(Mesh m) {
    Adjacency adjacency = Adjacency.of(m, Work.unwatched());
    int[] loop = Borders.of(adjacency).loops()[0];
    int[] rim = Borders.vertices(m, loop);
    int far = rim.length / 2;
    return new int[] {rim[0], rim[1], rim[far], loop[far] / 3};
  }

  /** A smooth patch would go through a wall that stands in the hole: the flat one does not. */
  @Test
  void aPatchThatWouldCutThroughIsRoutedOtherwise() {
    Mesh ball = Shapes.sphere(1, 4);
    Mesh holed = Submesh.of(ball, t -> !isNearTop(ball, t, 0.6), Work.unwatched());
    double lid = holed.bounds().maxZ();
    Mesh wall = Shapes.moved(Shapes.cube(0.1), 0, 0, lid + 0.12);
    Mesh both = Shapes.together(holed, wall);
    Outcome out =
        new FillHoles(FillHoles.How.SMOOTH, null, false)
            .apply(Workpiece.of(both, Frame.PLAIN), Run.unwatched());
    assertThat(SelfIntersections.count(out.work().scan(), Work.unwatched())).isZero();
    assertThat(out.work().scan().vertexCount()).isEqualTo(both.vertexCount());
    assertThat(Naive.border(out.work().scan())).isZero();
    Mesh alone =
        new FillHoles(FillHoles.How.SMOOTH, null, false)
            .apply(Workpiece.of(holed, Frame.PLAIN), Run.unwatched())
            .work()
            .scan();
    assertThat(SelfIntersections.count(Shapes.together(alone, wall), Work.unwatched()))
        .isPositive();
    // Where both ways cut through it is said.
    Mesh tall = Shapes.together(holed, Shapes.moved(Shapes.cube(0.5), 0, 0, lid));
    Outcome still =
        new FillHoles(FillHoles.How.SMOOTH, null, false)
            .apply(Workpiece.of(tall, Frame.PLAIN), Run.unwatched());
    assertThat(still.notes().toString()).contains("one patch cuts through");
  }
}

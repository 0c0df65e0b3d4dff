package holotome.core.unwrap;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.FlatCheck;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.select.Heights;
import holotome.core.select.Pick;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Charts;
import holotome.core.unit.Length;
import holotome.core.unwrap.SeamEdit.How;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Seams cut and sewn by hand: where they run, and how what they touch lies then. */
class SeamsTest {

  private static Workpiece of(Mesh m) {
    return Workpiece.of(m, Frame.PLAIN).withCast(m);
  }

  private static Outcome made(Mesh m, SeamEdit... edits) {
    return new EditSeams(List.of(edits)).apply(of(m), Run.unwatched());
  }

  private static Mesh after(Mesh m, SeamEdit... edits) {
    return made(m, edits).work().cast();
  }

  private static int charts(Mesh m) {
    return Charts.of(m, Work.unwatched()).count();
  }

  private static double length(double[] edges) {
    double s = 0;
    for (int i = 0; i < edges.length; i += 6) {
      s +=
          Vec.distance(
              new double[] {edges[i], edges[i + 1], edges[i + 2]},
              new double[] {edges[i + 3], edges[i + 4], edges[i + 5]});
    }
    return s;
  }

  private static double[] meant(Mesh m, SeamEdit edit) {
    return EditSeams.meant(of(m), edit, Work.unwatched()).ends();
  }

  /** Closed form: six squares that are no more stretched than a cube's sides. */
  @Test
  void aCubeWithoutChartsCutAtItsEdges() {
    Mesh cube = after(Shapes.cube(2), SeamEdit.sharp(45));
    assertThat(charts(cube)).isEqualTo(6);
    assertThat(Stretch.of(cube).mean()).isCloseTo(1, within(1e-6));
    FlatCheck.owners(cube, 1024);
  }

  /** Closed form: cut from rim to rim a tube unrolls exactly. */
  @Test
  void aTubeCutAlongItsLengthUnrolls() {
    Mesh tube = Shapes.tube(1, 3, 24, 6);
    Mesh flat = after(tube, SeamEdit.way(false, 1, 0, 0, 1, 0, 3));
    assertThat(charts(flat)).isEqualTo(1);
    assertThat(Stretch.of(flat).mean()).isCloseTo(1, within(1e-4));
    assertThat(length(meant(tube, SeamEdit.way(false, 1, 0, 0, 1, 0, 3))))
        .isCloseTo(3, within(1e-4));
  }

  /** Closed form: around the tube of a ring, and around a tube, by one point. */
  @Test
  void aRingRunsAroundTheLimb() {
    Mesh torus = Shapes.torus(3, 1, 48, 24);
    double once = 2 * 24 * Math.sin(Math.PI / 24);
    assertThat(length(meant(torus, SeamEdit.at(How.RING, 4, 0, 0)))).isCloseTo(once, within(1e-3));
    Mesh tube = Shapes.tube(1, 30, 24, 40);
    double[] ring = meant(tube, SeamEdit.at(How.RING, 1, 0, 15));
    assertThat(length(ring)).isCloseTo(once, within(1e-3));
    for (int i = 2; i < ring.length; i += 3) {
      assertThat(ring[i]).isCloseTo(15, within(1e-4));
    }
    assertThatThrownBy(() -> meant(Shapes.sheet(4, 20), SeamEdit.at(How.RING, 0, 0, 0)))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("not a limb");
  }

  /** Across a flat side the straight way is shorter; along the edges of the body it is cheaper. */
  @Test
  void aWayFollowsCreases() {
    Mesh box = Shapes.gridCube(12);
    double[] way = meant(box, SeamEdit.way(false, -1, -1, 1, 1, 1, 1));
    for (int i = 0; i < way.length; i += 3) {
      boolean isOnEdge =
          Math.abs(Math.abs(way[i]) - 1) < 1e-6 || Math.abs(Math.abs(way[i + 1]) - 1) < 1e-6;
      assertThat(isOnEdge && Math.abs(way[i + 2] - 1) < 1e-6).isTrue();
    }
    assertThat(length(way)).isCloseTo(4, within(1e-4));
  }

  private static float[] places(Mesh m, int t) {
    float[] out = new float[6];
    for (int k = 0; k < 3; k++) {
      System.arraycopy(m.uv().coords(), 2 * m.uv().corners()[3 * t + k], out, 2 * k, 2);
    }
    return out;
  }

  private static boolean isOf(Mesh m, int t, int axis, float at) {
    boolean is = true;
    for (int k = 0; k < 3; k++) {
      is &= m.xyz()[3 * m.triangles()[3 * t + k] + axis] == at;
    }
    return is;
  }

  /** Two sides of a cube sewn along their edge lie flat side by side; the others stay. */
  @Test
  void sewnAlongAnEdgeTwoSidesAreOne() {
    Mesh cut = after(Shapes.cube(2), SeamEdit.sharp(45));
    Mesh sewn = after(cut, SeamEdit.at(How.SEW, 0, -1, 1));
    assertThat(charts(sewn)).isEqualTo(5);
    assertThat(Stretch.of(sewn).mean()).isCloseTo(1, within(1e-5));
    for (int t = 0; t < 12; t++) {
      boolean isSewn = isOf(cut, t, 2, 1) || isOf(cut, t, 1, -1);
      assertThat(isSewn || Arrays.equals(places(cut, t), places(sewn, t))).isTrue();
    }
    // Cut there again there are six.
    assertThat(charts(after(sewn, SeamEdit.way(false, -1, -1, 1, 1, -1, 1)))).isEqualTo(6);
  }

  @Test
  void whatCannotLieFlatAsOneIsRefusedAndNothingChanges() {
    Mesh cut = after(Shapes.cube(2), SeamEdit.sharp(45));
    double[] all = {
      0, -1, 1, 0, 1, 1, 0, -1, -1, 0, 1, -1, -1, 0, 1, 1, 0, 1, -1, 0, -1, 1, 0, -1, -1, -1, 0, 1,
      -1, 0, -1, 1, 0, 1, 1, 0
    };
    assertThatThrownBy(() -> made(cut, SeamEdit.at(How.SEW, all)))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("would not lie flat");
  }

  /** What hangs together and is closed cannot lie flat with a ring alone; it is cut further. */
  @Test
  void whatIsCutAndStillCannotLieFlatIsCutFurther() {
    Mesh torus = Shapes.torus(3, 1, 48, 24);
    Mesh two = Shapes.together(torus, Shapes.moved(torus, 0, 0, 9));
    Outcome out = made(two, SeamEdit.at(How.RING, 4, 0, 0));
    FlatCheck.owners(out.work().cast(), 1024);
    assertThat(String.join("; ", out.notes())).contains("cut further");
  }

  @Test
  void aroundASelection() {
    Pick above =
        Pick.of(Pick.Join.ADD, new Heights(Length.parse("1.4 m"), null, new double[] {0, 0, 1}));
    Mesh tube = Shapes.tube(1, 3, 24, 6);
    double[] edges = meant(tube, SeamEdit.around(List.of(above)));
    // Between the rows of 1 and 1.5, where the middles of triangles are above and below.
    assertThat(length(edges)).isGreaterThan(2 * 24 * Math.sin(Math.PI / 24) - 1e-3);
    assertThat(charts(after(tube, SeamEdit.around(List.of(above))))).isGreaterThan(1);
  }

  /** Whatever is cut and sewn: each triangle is upright, on one thread as on many. */
  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3, 4})
  void anythingCutAndSewnLiesFlat(int seed) {
    Random random = new Random(seed);
    Mesh m = seed % 2 == 0 ? Shapes.sphere(1, 4) : Shapes.torus(2, 0.7, 60, 30);
    Mesh now = new MakeCharts(1024, 4, 1.05, 0, 180).apply(of(m), Run.unwatched()).work().cast();
    for (int i = 0; i < 6; i++) {
      double[] p = new double[6];
      for (int k = 0; k < 2; k++) {
        int v = random.nextInt(m.vertexCount());
        System.arraycopy(Vec.at(m.xyz(), v), 0, p, 3 * k, 3);
      }
      SeamEdit edit =
          i % 2 == 0 ? SeamEdit.way(false, p) : SeamEdit.at(How.SEW, Arrays.copyOf(p, 3));
      Mesh before = now;
      try {
        now = after(before, edit);
      } catch (Failure refused) {
        assertThat(edit.isCut()).isFalse();
        continue;
      }
      for (int t = 0; t < m.triangleCount(); t++) {
        float[] q = places(now, t);
        double twice =
            ((double) q[2] - q[0]) * ((double) q[5] - q[1])
                - ((double) q[4] - q[0]) * ((double) q[3] - q[1]);
        assertThat(twice).isPositive();
      }
      Parallel.limitThreads(1);
      Mesh again = after(before, edit);
      Parallel.limitThreads(Runtime.getRuntime().availableProcessors());
      assertThat(again.sameAs(now)).isTrue();
    }
    Mesh packed = new PackCharts(1024, 4, true).apply(of(now), Run.unwatched()).work().cast();
    FlatCheck.owners(packed, 2048);
  }

  @Test
  void whatCannotBeIsSaid() {
    Mesh cut = after(Shapes.cube(2), SeamEdit.sharp(45));
    assertThatThrownBy(() -> SeamEdit.way(false, 1, 2, 3)).isInstanceOf(Failure.class);
    assertThatThrownBy(() -> new EditSeams(List.of())).isInstanceOf(Failure.class);
    assertThatThrownBy(() -> made(cut, SeamEdit.sharp(45))).hasMessageContaining("already");
    Mesh apart = Shapes.together(Shapes.cube(2), Shapes.moved(Shapes.cube(2), 9, 0, 0));
    assertThatThrownBy(() -> made(apart, SeamEdit.way(false, 1, 1, 1, 8, 1, 1)))
        .hasMessageContaining("from point 1 to point 2");
  }
}

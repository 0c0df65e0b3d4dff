package holotome.core.unwrap;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Shapes;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import java.util.BitSet;
import org.junit.jupiter.api.Test;

/** How many charts there are, what they are like, and what a heavy mesh's are. */
class ChartsTest {
  private static final double STRETCH = 1.1;

  private static Charts made(Mesh m, double stretch, int charts, double crease) {
    Charts c = ChartMaker.make(m, new ChartRule(stretch, charts, crease, false), Work.unwatched());
    assertSound(m, c, charts > 0 ? 4 : stretch);
    return c;
  }

  /**
   * Each triangle in one chart, none on its back; no outline that crosses itself, every pair of its
   * edges looked at; each chart's area its own and its stretch within what is allowed.
   */
  private static void assertSound(Mesh m, Charts charts, double stretch) {
    BitSet seen = new BitSet();
    for (int c = 0; c < charts.count(); c++) {
      Charts.Chart chart = charts.list().get(c);
      double own = 0;
      double flat = 0;
      for (int i = 0; i < chart.triangles().length; i++) {
        int t = chart.triangles()[i];
        assertThat(seen.get(t)).as("triangle %d is in one chart", t).isFalse();
        seen.set(t);
        assertThat(charts.ofTriangle()[t]).isEqualTo(c);
        int a = 2 * chart.corners()[3 * i];
        int b = 2 * chart.corners()[3 * i + 1];
        int d = 2 * chart.corners()[3 * i + 2];
        double[] p = chart.uv();
        double twice =
            (p[b] - p[a]) * (p[d + 1] - p[a + 1]) - (p[d] - p[a]) * (p[b + 1] - p[a + 1]);
        assertThat(twice).as("triangle %d", t).isPositive();
        flat += twice / 2;
        own += Math.sqrt(dot(cross(m, t), cross(m, t))) / 2;
      }
      assertThat(flat).isCloseTo(own, within(1e-2 * own + 1e-9));
      assertThat(
              new Piece(
                      chart.triangles(),
                      chart.corners(),
                      Piece.rest(m, chart.triangles(), 0),
                      chart.uv())
                  .stretch())
          .isLessThanOrEqualTo(stretch + 1e-6);
      assertThat(crossings(chart)).isZero();
    }
    assertThat(seen.cardinality()).isEqualTo(m.triangleCount());
  }

  private static int crossings(Charts.Chart chart) {
    int[] k = chart.corners();
    int[] outline = ChartOutline.of(k);
    double[] p = chart.uv();
    int n = 0;
    for (int i = 0; i < outline.length; i++) {
      for (int j = i + 1; j < outline.length; j++) {
        int a = k[outline[i]];
        int b = k[Adjacency.next(outline[i])];
        int c = k[outline[j]];
        int d = k[Adjacency.next(outline[j])];
        if (a == c || a == d || b == c || b == d) {
          continue;
        }
        boolean isAcross = side(p, a, b, c) * side(p, a, b, d) < 0;
        n += isAcross && side(p, c, d, a) * side(p, c, d, b) < 0 ? 1 : 0;
      }
    }
    return n;
  }

  private static double side(double[] p, int a, int b, int c) {
    return (p[2 * b] - p[2 * a]) * (p[2 * c + 1] - p[2 * a + 1])
        - (p[2 * c] - p[2 * a]) * (p[2 * b + 1] - p[2 * a + 1]);
  }

  private static double[] cross(Mesh m, int t) {
    return Measures.cross(m, t);
  }

  private static double dot(double[] a, double[] b) {
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
  }

  /** A sheet rolled to a whole turn, its ends joined: a tube, or where it narrows a cone. */
  private static Mesh rolled(double top, int around, int up) {
    float[] xyz = new float[3 * around * (up + 1)];
    int[] tri = new int[6 * around * up];
    int n = 0;
    for (int j = 0; j <= up; j++) {
      for (int i = 0; i < around; i++) {
        double a = 2 * Math.PI * i / around;
        double r = 1 + (top - 1) * j / up;
        int at = 3 * (j * around + i);
        xyz[at] = (float) (r * Math.cos(a));
        xyz[at + 1] = (float) (r * Math.sin(a));
        xyz[at + 2] = 3f * j / up;
        if (j < up) {
          int p = j * around + i;
          int q = j * around + (i + 1) % around;
          int[] quad = {p, q, q + around, p, q + around, p + around};
          System.arraycopy(quad, 0, tri, n, 6);
          n += 6;
        }
      }
    }
    return new Mesh(xyz, tri);
  }

  private static double worst(Mesh m, Charts charts) {
    double most = 0;
    for (Charts.Chart c : charts.list()) {
      double[] rest = Piece.rest(m, c.triangles(), 0);
      most = Math.max(most, new Piece(c.triangles(), c.corners(), rest, c.uv()).stretch());
    }
    return most;
  }

  /** Closed forms: these surfaces unroll without any stretch, but for their lids. */
  @Test
  void whatUnrollsIsNotStretched() {
    for (Mesh m :
        new Mesh[] {Shapes.cube(1), Shapes.sheet(2, 20), rolled(1, 48, 20), rolled(0.3, 48, 20)}) {
      Charts c = made(m, 1.02, 0, 180);
      assertThat(worst(m, c)).isCloseTo(1, within(1e-4));
    }
  }

  @Test
  void aTubeIsOneStripAndACubeAtMostSixSides() {
    assertThat(made(rolled(1, 48, 20), STRETCH, 0, 180).count()).isLessThanOrEqualTo(2);
    assertThat(made(Shapes.cube(1), STRETCH, 0, 180).count()).isLessThanOrEqualTo(6);
    assertThat(made(Shapes.cube(1), STRETCH, 0, 60).count()).isEqualTo(6);
  }

  @Test
  void aSphereNeedsMoreChartsForLessStretch() {
    Mesh m = Shapes.sphere(1, 4);
    int few = made(m, 1.3, 0, 180).count();
    int some = made(m, 1.02, 0, 180).count();
    int many = made(m, 1.002, 0, 180).count();
    assertThat(few).isLessThanOrEqualTo(some).isLessThanOrEqualTo(4);
    assertThat(some).isLessThan(many);
  }

  @Test
  void soManyChartsAsWereAskedFor() {
    Mesh m = Shapes.sphere(1, 4);
    assertThat(made(m, 1.001, 0, 180).count()).isGreaterThan(4);
    assertThat(made(m, 1.001, 4, 180).count()).isLessThanOrEqualTo(4);
  }

  @Test
  void everyCreaseIsASeam() {
    Mesh m = Shapes.cube(1);
    Charts c = made(m, STRETCH, 0, 60);
    int[] twin = Adjacency.of(m).twin();
    for (int h = 0; h < twin.length; h++) {
      if (dot(cross(m, h / 3), cross(m, twin[h] / 3)) < 0.5) {
        assertThat(c.ofTriangle()[h / 3]).isNotEqualTo(c.ofTriangle()[twin[h] / 3]);
      }
    }
  }

  @Test
  void heavyMeshesAreCutOnAStandIn() {
    Mesh m =
        Shapes.together(
            Shapes.torus(2, 0.6, 480, 200), Shapes.moved(Shapes.sphere(0.02, 2), 9, 0, 0));
    assertThat(m.triangleCount()).isGreaterThan(150_000);
    Charts c = made(m, STRETCH, 0, 180);
    assertThat(c.count()).isBetween(3, 40);
    Parallel.limitThreads(1);
    try {
      assertThat(made(m, STRETCH, 0, 180).ofTriangle()).isEqualTo(c.ofTriangle());
    } finally {
      Parallel.limitThreads(64);
    }
  }

  @Test
  void turnedTrianglesAreBroughtBack() {
    Mesh m = Shapes.sheet(1, 8);
    int n = m.vertexCount();
    double[] uv = new double[2 * n];
    for (int v = 0; v < n; v++) {
      uv[2 * v] = m.xyz()[3 * v];
      uv[2 * v + 1] = m.xyz()[3 * v + 1];
    }
    int[] all = new int[m.triangleCount()];
    java.util.Arrays.setAll(all, t -> t);
    Piece flat = new Piece(all, m.triangles(), Piece.rest(m, all, 0), uv);
    assertThat(flat.isUpright(0.9)).isTrue();
    assertThat(flat.stretch()).isCloseTo(1, within(1e-6));
    int inner = n / 2;
    uv[2 * inner] += 0.3;
    uv[2 * inner + 1] -= 0.25;
    assertThat(flat.isUpright(0.02)).isFalse();
    double[] back = new Unfolding(flat, null).upright(0.02, 60);
    assertThat(back).isNotNull();
    assertThat(flat.at(back).isUpright(0.02)).isTrue();
  }

  @Test
  void anOutlineThatCrossesItselfIsSeen() {
    // A strip of four quads bent round until its ends lie over each other.
    double[] uv = new double[20];
    for (int i = 0; i < 5; i++) {
      double a = i * Math.PI * 0.55;
      uv[4 * i] = Math.cos(a);
      uv[4 * i + 1] = Math.sin(a);
      uv[4 * i + 2] = 2 * Math.cos(a);
      uv[4 * i + 3] = 2 * Math.sin(a);
    }
    int[] k = new int[24];
    for (int i = 0; i < 4; i++) {
      int[] quad = {2 * i, 2 * i + 1, 2 * i + 3, 2 * i, 2 * i + 3, 2 * i + 2};
      System.arraycopy(quad, 0, k, 6 * i, 6);
    }
    assertThat(ChartOutline.overlaps(k, uv, ChartOutline.of(k))).isTrue();
    double[] open = new double[20];
    for (int i = 0; i < 5; i++) {
      double a = i * Math.PI * 0.4;
      open[4 * i] = Math.cos(a);
      open[4 * i + 1] = Math.sin(a);
      open[4 * i + 2] = 2 * Math.cos(a);
      open[4 * i + 3] = 2 * Math.sin(a);
    }
    assertThat(ChartOutline.overlaps(k, open, ChartOutline.of(k))).isFalse();
  }

  @Test
  void cancellingStopsIt() {
    Work cancelled = Work.unwatched();
    cancelled.cancel();
    assertThatThrownBy(
            () ->
                ChartMaker.make(
                    Shapes.sphere(1, 4), new ChartRule(STRETCH, 0, 180, false), cancelled))
        .isInstanceOf(Failure.class);
  }
}

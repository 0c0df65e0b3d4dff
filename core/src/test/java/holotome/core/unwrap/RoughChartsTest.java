package holotome.core.unwrap;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import holotome.core.FlatCheck;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Charts;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Charts of meshes that are not as they should be: sound ones all the same, or one plain line. */
class RoughChartsTest {
  private static final int SIZE = 1024;

  private static final int WIDE = 24;

  private static Mesh unwrap(Mesh m) {
    Workpiece in = Workpiece.of(m, Frame.PLAIN).withCast(m);
    Mesh out = new MakeCharts(SIZE, 2, 1.05, 0, 180).apply(in, Run.unwatched()).work().cast();
    FlatCheck.owners(out, 2 * SIZE);
    double mean = Stretch.of(out).mean();
    assertThat(mean).isBetween(1 - 1e-3, 1.05);
    return out;
  }

  /** A sheet whose points lie anywhere up and down. */
  private static Mesh noise(double shift, double scale) {
    Mesh sheet = Shapes.sheet(WIDE, WIDE);
    float[] xyz = sheet.xyz().clone();
    Random random = new Random(5);
    for (int i = 0; i < xyz.length; i += 3) {
      xyz[i + 2] = (float) (3 * random.nextGaussian());
    }
    for (int i = 0; i < xyz.length; i++) {
      xyz[i] = (float) (scale * xyz[i] + shift);
    }
    return sheet.withPositions(xyz);
  }

  /** Half of a sheet pressed to a line, or all of it. */
  private static Mesh pressed(boolean whole) {
    Mesh sheet = Shapes.sheet(WIDE, WIDE);
    float[] xyz = sheet.xyz().clone();
    for (int i = 0; i < xyz.length; i += 3) {
      if (whole || i % 2 == 0) {
        xyz[i + 1] = 0;
      }
    }
    return sheet.withPositions(xyz);
  }

  private static Mesh twice(Mesh m, boolean turned) {
    int n = m.triangles().length;
    int[] both = Arrays.copyOf(m.triangles(), 2 * n);
    for (int i = 0; i < n; i++) {
      both[n + i] = m.triangles()[turned ? i / 3 * 3 + 2 - i % 3 : i];
    }
    return new Mesh(m.xyz(), both);
  }

  @ParameterizedTest
  @CsvSource({"0, 1", "1e6, 1", "0, 1e15", "0, 1e-15"})
  void whereverAndHoweverLarge(double shift, double scale) {
    unwrap(noise(shift, scale));
  }

  @Test
  void whatLiesTwiceAndHasTrianglesWithoutArea() {
    float[] one = {0, 0, 0, 1, 0, 0, 0, 1, 0};
    unwrap(new Mesh(one, new int[] {0, 1, 2}));
    unwrap(new Mesh(one, new int[] {0, 1, 2, 0, 1, 2, 0, 2, 1}));
    unwrap(new Mesh(one, new int[] {0, 1, 2, 0, 0, 1, 1, 1, 1}));
    unwrap(twice(noise(0, 1), false));
    unwrap(twice(Shapes.sphere(1, 3), true));
    unwrap(pressed(false));
  }

  /** More charts than are packed three ways. */
  @Test
  void aThousandScraps() {
    Mesh m = unwrap(Shapes.mess(3000, 5));
    assertThat(Charts.of(m, Work.unwatched()).count()).isGreaterThan(2000);
  }

  /** Sheets that meet in one edge row: two of them go on into each other, the third ends there. */
  @Test
  void whereThreeSheetsMeet() {
    Mesh sheet = Shapes.sheet(1, 12);
    int n = sheet.vertexCount();
    float[] xyz = Arrays.copyOf(sheet.xyz(), 9 * n);
    int[] tri = Arrays.copyOf(sheet.triangles(), 3 * sheet.triangles().length);
    int[] same = new int[n];
    for (int v = 0; v < n; v++) {
      float x = sheet.xyz()[3 * v];
      float y = sheet.xyz()[3 * v + 1];
      // Mirrored over the first row, and stood upright on it.
      System.arraycopy(new float[] {x, -y, 0.2f * y, x, 0.1f * y, y}, 0, xyz, 3 * (n + 2 * v), 6);
      same[v] = y == 0 ? v : -1;
    }
    int m = sheet.triangles().length;
    for (int i = 0; i < m; i++) {
      int v = sheet.triangles()[i / 3 * 3 + 2 - i % 3];
      tri[m + i] = same[v] >= 0 ? v : n + 2 * v;
      tri[2 * m + i] = same[v] >= 0 ? v : n + 2 * v + 1;
    }
    Mesh out = unwrap(new Mesh(xyz, tri));
    assertThat(Charts.of(out, Work.unwatched()).count()).isEqualTo(2);
    int[] k = out.uv().corners();
    // The first two share the vertices of their common row in the texture.
    Set<Integer> first = new HashSet<>();
    Set<Integer> second = new HashSet<>();
    for (int i = 0; i < m; i++) {
      first.add(k[i]);
      second.add(k[m + i]);
    }
    first.retainAll(second);
    assertThat(first).hasSize(13);
  }

  /**
   * Triangles too small for floats to tell their corners apart do not come to lie on their backs.
   */
  @Test
  void roundingTurnsNothingOver() {
    Random random = new Random(3);
    int w = 12;
    float[] uv = new float[2 * w * w];
    int[] k = new int[6 * (w - 1) * (w - 1)];
    int n = 0;
    for (int i = 0; i < w; i++) {
      for (int j = 0; j < w; j++) {
        int v = i * w + j;
        uv[2 * v] = 0.7f + (j + (float) (0.3 * random.nextGaussian())) * 2 * Math.ulp(0.7f);
        uv[2 * v + 1] = 0.6f + (i + (float) (0.3 * random.nextGaussian())) * 2 * Math.ulp(0.6f);
        if (i + 1 < w && j + 1 < w) {
          int[] quad = {v, v + 1, v + w + 1, v, v + w + 1, v + w};
          System.arraycopy(quad, 0, k, n, 6);
          n += 6;
        }
      }
    }
    int before = turned(uv, k);
    assertThat(before).isPositive();
    UprightFloats.mend(uv, k);
    assertThat(turned(uv, k)).isZero();
  }

  private static int turned(float[] p, int[] k) {
    int out = 0;
    for (int t = 0; t < k.length; t += 3) {
      int a = 2 * k[t];
      int b = 2 * k[t + 1];
      int c = 2 * k[t + 2];
      double twice =
          ((double) p[b] - p[a]) * ((double) p[c + 1] - p[a + 1])
              - ((double) p[c] - p[a]) * ((double) p[b + 1] - p[a + 1]);
      out += twice < 0 ? 1 : 0;
    }
    return out;
  }

  @ParameterizedTest
  @ValueSource(strings = {"nothing", "points", "a flat triangle", "a line"})
  void withoutAreaItIsRefused(String what) {
    Mesh m =
        Map.of(
                "nothing", new Mesh(new float[0], new int[0]),
                "points", new Mesh(new float[9], new int[0]),
                "a flat triangle",
                    new Mesh(new float[] {0, 0, 0, 1, 0, 0, 2, 0, 0}, new int[] {0, 1, 2}),
                "a line", pressed(true))
            .get(what);
    assertThatThrownBy(() -> unwrap(m)).isInstanceOf(Failure.class).hasMessageContaining("area");
  }

  /** What is no number has no area: refused in one line, as what has none. */
  @Test
  void pointsThatAreNoNumbersAreRefused() {
    Mesh sheet = Shapes.sheet(WIDE, WIDE);
    float[] some = sheet.xyz().clone();
    some[3 * 40] = Float.NaN;
    float[] endless = sheet.xyz().clone();
    endless[3 * 40 + 1] = Float.POSITIVE_INFINITY;
    for (float[] xyz : new float[][] {some, endless}) {
      assertThatThrownBy(() -> unwrap(sheet.withPositions(xyz)))
          .isInstanceOf(Failure.class)
          .hasMessageContaining("no area");
    }
  }

  /** Cancelled once work is under way each step stops, and nothing of it is kept. */
  @ParameterizedTest
  @ValueSource(doubles = {0.1, 0.4, 0.8})
  void cancelledHalfWay(double at) throws InterruptedException {
    Mesh m = Shapes.torus(3, 1, 400, 100);
    Workpiece in = Workpiece.of(m, Frame.PLAIN).withCast(m);
    MakeCharts cut = new MakeCharts(SIZE, 2, 1.05, 0, 180);
    Workpiece made = cut.apply(in, Run.unwatched()).work();
    double[] here = {4, 0, 0};
    double[] there = {-4, 0, 0};
    List<Step> steps =
        List.of(
            cut,
            new PackCharts(SIZE, 2, true),
            new EditSeams(List.of(SeamEdit.way(false, 4, 0, 0, -4, 0, 0))),
            new ArrangeCharts(List.of(ChartEdit.moved(here, 0.1, 0))),
            new LayOver(here, there, LayOver.Fit.WITHIN, LayOver.Mirror.BETTER),
            new SparseHidden(SparseHidden.What.HIDDEN, SparseHidden.From.AROUND, 0.1),
            new ProjectCharts(ProjectCharts.How.BOX, null, null, null),
            new ProjectCharts(ProjectCharts.How.TUBE, null, null, null),
            new StraightenCharts(StraightenCharts.How.OUTLINE, null),
            new KeepCharts(KeepCharts.How.SECOND));
    for (Step s : steps) {
      Work work = new Work();
      Thread watch =
          Thread.ofPlatform()
              .start(
                  () -> {
                    while (work.fraction() < at && !work.isCancelled()) {
                      Thread.onSpinWait();
                    }
                    work.cancel();
                  });
      boolean isStopped = false;
      try {
        s.apply(made, Run.of(work));
      } catch (Failure f) {
        assertThat(f.kind()).describedAs(s.toString()).isEqualTo(Failure.Kind.CANCELLED);
        isStopped = true;
      }
      work.cancel();
      watch.join();
      // Others are done before they can be stopped.
      assertThat(isStopped || !(s instanceof MakeCharts)).isTrue();
    }
  }
}

package holotome.core.unwrap;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.FlatCheck;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.image.Raster;
import holotome.core.mesh.Importance;
import holotome.core.mesh.Material;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Workpiece;
import holotome.core.select.Heights;
import holotome.core.select.Pick;
import holotome.core.spatial.SeenFrom;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Charts;
import holotome.core.unit.Length;
import java.util.BitSet;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Texture space where it is asked for, and less where nobody looks. */
class SpaceTest {
  private static final int SIZE = 1024;

  private static final List<Pick> UPPER =
      List.of(Pick.of(Pick.Join.REPLACE, new Heights(new Length(0), null, new double[] {0, 0, 1})));

  private static Workpiece cast(Mesh m) {
    return Workpiece.of(m, Frame.PLAIN).withCast(m);
  }

  private static Workpiece after(Workpiece in, Step... steps) {
    Workpiece now = in;
    for (Step s : steps) {
      now = s.apply(now, Run.unwatched()).work();
    }
    return now;
  }

  private static MakeCharts charts() {
    return new MakeCharts(SIZE, 2, 1.05, 0, 180);
  }

  /** Texels to an area on the surface, of the triangles that have a weight. */
  private static double density(Mesh m, float[] weight, float of) {
    double flat = 0;
    double own = 0;
    for (int t = 0; t < m.triangleCount(); t++) {
      if (weight[t] == of) {
        float[] p = m.uv().coords();
        int a = 2 * m.uv().corners()[3 * t];
        int b = 2 * m.uv().corners()[3 * t + 1];
        int c = 2 * m.uv().corners()[3 * t + 2];
        flat +=
            (((double) p[b] - p[a]) * ((double) p[c + 1] - p[a + 1])
                - ((double) p[c] - p[a]) * ((double) p[b + 1] - p[a + 1]));
        own += Vec.length(Measures.cross(m, t));
      }
    }
    return flat / own;
  }

  private static void assertOneWeightAChart(Mesh m) {
    Charts of = Charts.of(m, Work.unwatched());
    float[] weight = Importance.of(m);
    float[] ofChart = new float[of.count()];
    for (int t = 0; t < m.triangleCount(); t++) {
      int c = of.ofTriangle()[t];
      assertThat(ofChart[c] == 0 || ofChart[c] == weight[t]).isTrue();
      ofChart[c] = weight[t];
    }
  }

  @ParameterizedTest
  @ValueSource(doubles = {0.1, 4, 16})
  void chartsHaveTheSpaceThatTheirSurfaceIsToHave(double times) {
    Mesh m = after(cast(Shapes.sphere(1, 5)), new GiveSpace(times, null, UPPER), charts()).cast();
    float[] of = Importance.of(m);
    assertThat(density(m, of, (float) times) / density(m, of, 1))
        .isCloseTo(times, within(1e-3 * times));
    assertOneWeightAChart(m);
    FlatCheck.owners(m, 2 * SIZE);
    assertThat(Stretch.of(m).mean()).isBetween(1.0, 1.05);
  }

  @Test
  void heavyMeshesToo() {
    Mesh torus = Shapes.torus(2, 0.6, 420, 180);
    assertThat(torus.triangleCount()).isGreaterThan(150_000);
    Mesh m = after(cast(torus), new GiveSpace(4, null, UPPER), charts()).cast();
    float[] of = Importance.of(m);
    assertThat(density(m, of, 4) / density(m, of, 1)).isCloseTo(4, within(0.02));
    assertOneWeightAChart(m);
    FlatCheck.owners(m, 2 * SIZE);
  }

  /** Charts are named by points; packed anew they have what was given. */
  @Test
  void chartsByPoints() {
    Workpiece in = after(cast(Shapes.cube(2)), new MakeCharts(SIZE, 2, 1.001, 0, 45));
    Mesh plain = in.cast();
    assertThat(Charts.of(plain, Work.unwatched()).count()).isEqualTo(6);
    double[] top = {0.1, 0.2, 9};
    Workpiece given = after(in, new GiveSpace(9, top, null));
    float[] of = Importance.of(given.cast());
    for (int t = 0; t < plain.triangleCount(); t++) {
      assertThat(of[t]).isEqualTo(Measures.cross(plain, t)[2] > 0 ? 9f : 1f);
    }
    Mesh packed = after(given, new PackCharts(SIZE, 2, true)).cast();
    assertThat(density(packed, of, 9) / density(packed, of, 1)).isCloseTo(9, within(1e-3));
    assertThat(Stretch.of(packed).mean()).isCloseTo(1, within(1e-4));
    Mesh same = after(given, new PackCharts(SIZE, 2, false)).cast();
    assertThat(density(same, of, 9) / density(same, of, 1)).isCloseTo(1, within(1e-3));
  }

  @Test
  void whatDoesNotFitIsSaid() {
    assertThatThrownBy(() -> new GiveSpace(2, new double[] {1, 2}, null))
        .isInstanceOf(Failure.class);
    assertThatThrownBy(() -> new GiveSpace(2, new double[] {1, 2, 3}, UPPER))
        .isInstanceOf(Failure.class);
    Workpiece uncut = cast(Shapes.cube(1));
    assertThatThrownBy(() -> after(uncut, new GiveSpace(2, new double[] {1, 2, 3}, null)))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("unwrap.charts");
    BitSet some = new BitSet();
    some.set(3);
    List<Pick> stored = List.of(Pick.of(Pick.Join.REPLACE, some, 12));
    assertThatThrownBy(() -> after(uncut, new GiveSpace(2, null, stored)))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("stored");
    Workpiece bare = Workpiece.of(Shapes.cube(1), Frame.PLAIN);
    assertThatThrownBy(() -> after(bare, new GiveSpace(2, null, null))).isInstanceOf(Failure.class);
  }

  private static SparseHidden hidden(SparseHidden.From from) {
    return new SparseHidden(SparseHidden.What.HIDDEN, from, 0.25);
  }

  /** A cube within a cube is not seen, and of a cube from its sides and above all but its foot. */
  @Test
  void whatNobodySees() {
    Mesh nested = Shapes.together(Shapes.cube(4), Shapes.moved(Shapes.cube(1), 1, 1, 1));
    float[] of = Importance.of(after(cast(nested), hidden(SparseHidden.From.AROUND)).cast());
    for (int t = 0; t < 24; t++) {
      assertThat(of[t]).isEqualTo(t < 12 ? 1f : 0.25f);
    }
    Mesh cube = Shapes.cube(2);
    of = Importance.of(after(cast(cube), hidden(SparseHidden.From.SIDES)).cast());
    for (int t = 0; t < 12; t++) {
      assertThat(of[t]).isEqualTo(Measures.cross(cube, t)[2] < 0 ? 0.25f : 1f);
    }
    Outcome none = hidden(SparseHidden.From.AROUND).apply(cast(cube), Run.unwatched());
    assertThat(Importance.of(none.work().cast())).isNull();
  }

  /** From two sides of a cube, the three others are hidden, whatever the lengths told. */
  @Test
  void whatIsNotSeenFromSomeSides() {
    Mesh cube = Shapes.cube(2);
    SparseHidden some =
        new SparseHidden(
            SparseHidden.What.HIDDEN,
            SparseHidden.From.VIEWS,
            new double[] {0.1, 0.2, 5, 3, 0.4, 0.2},
            0.25);
    float[] of = Importance.of(after(cast(cube), some).cast());
    for (int t = 0; t < 12; t++) {
      double[] n = Measures.cross(cube, t);
      assertThat(of[t]).isEqualTo(n[0] < 0 || n[1] < 0 || n[2] < 0 ? 0.25f : 1f);
    }
    assertThatThrownBy(() -> hidden(SparseHidden.From.VIEWS))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("at least one");
  }

  /**
   * Two sheets face to face, a hundredth of their side apart: only the rims of the insides show.
   */
  @Test
  void theInsideOfANarrowGap() {
    Mesh up = Shapes.sheet(1, 40);
    int[] tri = up.triangles().clone();
    for (int i = 0; i < tri.length; i += 3) {
      int s = tri[i];
      tri[i] = tri[i + 1];
      tri[i + 1] = s;
    }
    Mesh m = Shapes.together(up, Shapes.moved(new Mesh(up.xyz(), tri), 0, 0, 0.01));
    float[] of = Importance.of(after(cast(m), hidden(SparseHidden.From.AROUND)).cast());
    int low = 0;
    for (int t = 0; t < of.length; t++) {
      double[] c = middle(m, t);
      double rim = Math.min(Math.min(c[0], 1 - c[0]), Math.min(c[1], 1 - c[1]));
      if (rim > 0.25) {
        assertThat(of[t]).isEqualTo(0.25f);
      }
      low += of[t] < 1 ? 1 : 0;
    }
    assertThat(low).isBetween(of.length / 4, of.length - 1);
  }

  private static double[] middle(Mesh m, int t) {
    double[] out = new double[3];
    for (int k = 0; k < 9; k++) {
      out[k % 3] += m.xyz()[3 * m.triangles()[3 * t + k / 3] + k % 3] / 3.0;
    }
    return out;
  }

  /** A scan of small triangles with a few large ones beside. */
  @Test
  void whatTheScanHasNoDetailFor() {
    Mesh scan = Shapes.together(Shapes.sheet(1, 60), Shapes.moved(Shapes.sheet(1, 3), 1, 0, 0));
    Mesh cast = Shapes.together(Shapes.sheet(1, 8), Shapes.moved(Shapes.sheet(1, 8), 1, 0, 0));
    Workpiece in = Workpiece.of(scan, Frame.PLAIN).withCast(cast);
    SparseHidden blank = new SparseHidden(SparseHidden.What.BLANK, SparseHidden.From.AROUND, 0.1);
    float[] of = Importance.of(after(in, blank).cast());
    for (int t = 0; t < of.length; t++) {
      assertThat(of[t]).isEqualTo(middle(cast, t)[0] > 1 ? 0.1f : 1f);
    }
  }

  /** No direction is favoured: their mean is nought, and that of their squares a third each. */
  @Test
  void directionsAreSpreadEvenly() {
    double[] up = Vec.unit(new double[] {0.3, -0.4, 0.8});
    double[] d = SeenFrom.around(200, up, -1);
    double[] mean = new double[3];
    double[] square = new double[3];
    for (int i = 0; i < d.length; i++) {
      mean[i % 3] += d[i] / 200;
      square[i % 3] += d[i] * d[i] / 200;
    }
    for (int k = 0; k < 3; k++) {
      assertThat(mean[k]).isCloseTo(0, within(0.01));
      assertThat(square[k]).isCloseTo(1.0 / 3, within(0.01));
    }
    double[] half = SeenFrom.around(50, up, 0);
    for (int i = 0; i < half.length; i += 3) {
      double[] e = {half[i], half[i + 1], half[i + 2]};
      assertThat(Vec.dot(e, up)).isPositive();
      assertThat(Vec.length(e)).isCloseTo(1, within(1e-12));
    }
  }

  /** Small regions of the found go, small gaps in it come in. */
  @Test
  void specksGo() {
    Mesh sheet = Shapes.sheet(1, 100);
    BitSet found = new BitSet();
    for (int t = 0; t < sheet.triangleCount() / 2; t++) {
      found.set(t);
    }
    BitSet rough = (BitSet) found.clone();
    rough.clear(sheet.triangleCount() / 4 + 101);
    rough.set(3 * sheet.triangleCount() / 4 + 101);
    Specks.fill(sheet, rough, Work.unwatched());
    assertThat(rough).isEqualTo(found);
  }

  private static Mesh laidFlat(Mesh sheet, float u, float v) {
    float[] uv = new float[2 * sheet.vertexCount()];
    for (int i = 0; i < sheet.vertexCount(); i++) {
      uv[2 * i] = u * sheet.xyz()[3 * i];
      uv[2 * i + 1] = v * sheet.xyz()[3 * i + 1];
    }
    return sheet.withUv(new Uv(uv, sheet.triangles()));
  }

  /** Closed forms: twice as wide as it was is 1, in whatever direction; half the density is -1. */
  @Test
  void figuresOfEachTriangle() {
    for (float f : TextureFields.stretch(laidFlat(Shapes.sheet(1, 4), 0.8f, 0.4f), none())) {
      assertThat(f).isCloseTo(1f, within(1e-5f));
    }
    double c = Math.sqrt(0.5);
    Mesh sheet = Shapes.sheet(1, 4);
    float[] uv = new float[2 * sheet.vertexCount()];
    for (int i = 0; i < sheet.vertexCount(); i++) {
      double x = sheet.xyz()[3 * i];
      double y = sheet.xyz()[3 * i + 1];
      // Turned by 45 degrees, then three times as wide.
      uv[2 * i] = (float) (3 * c * (x - y));
      uv[2 * i + 1] = (float) (c * (x + y));
    }
    for (float f : TextureFields.stretch(sheet.withUv(new Uv(uv, sheet.triangles())), none())) {
      assertThat(f).isCloseTo((float) (Math.log(3) / Math.log(2)), within(1e-5f));
    }
    Mesh two = Shapes.together(Shapes.sheet(1, 4), Shapes.moved(Shapes.sheet(1, 4), 0, 0, 5));
    float[] both = new float[2 * two.vertexCount()];
    for (int i = 0; i < two.vertexCount(); i++) {
      float by = two.xyz()[3 * i + 2] > 1 ? 0.2f : 0.1f;
      both[2 * i] = by * two.xyz()[3 * i];
      both[2 * i + 1] = by * two.xyz()[3 * i + 1];
    }
    float[] density = TextureFields.density(two.withUv(new Uv(both, two.triangles())), none());
    // The mean area is that of 0.025.
    double low = Math.log(0.1 / Math.sqrt(0.025)) / Math.log(2);
    for (int t = 0; t < density.length; t++) {
      assertThat((double) density[t])
          .isCloseTo(t < density.length / 2 ? low : low + 1, within(1e-5));
    }
    float[] flat = TextureFields.stretch(laidFlat(Shapes.sheet(1, 4), 1, 0), none());
    assertThat(flat[3]).isNaN();
  }

  private static Work none() {
    return Work.unwatched();
  }

  /** Points of a grid, and the pixels of a picture that is laid over twice the square. */
  @Test
  void theScansOwnDetail() {
    assertThat(ScanFit.of(Shapes.sheet(2, 49)).perLength()).isCloseTo(25, within(1e-6));
    Raster picture = new Raster(100, 50, new int[5000]);
    Mesh sheet = laidFlat(Shapes.sheet(2, 8), 0.5f, 0.5f);
    Mesh textured =
        sheet.withMaterials(
            new short[sheet.triangleCount()], List.of(new Material("m", 0xffffffff, picture)));
    assertThat(ScanFit.of(textured).perLength()).isCloseTo(Math.sqrt(5000) / 2, within(1e-3));
    assertThat(ScanFit.of(textured).share(Math.sqrt(5000))).isCloseTo(2, within(1e-4));
    assertThat(ScanFit.of(new Mesh(new float[0], new int[0])).share(5)).isZero();
  }
}

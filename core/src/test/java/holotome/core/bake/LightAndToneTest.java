package holotome.core.bake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.image.Image;
import holotome.core.image.LinearLight;
import holotome.core.map.MapKind;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Coverage;
import holotome.core.part.Maps;
import holotome.core.part.Workpiece;
import holotome.core.select.Pick;
import holotome.core.select.Region;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.unit.Length;
import holotome.core.unwrap.MakeCharts;
import java.util.BitSet;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** The light of a made-up capture, known, taken out again; and the tone of colours. */
class LightAndToneTest {
  private static final int SIZE = 256;
  private static final double[] SUN = {0.48, 0.36, 0.8};

  /** A knobbly body: a torus with waves, so that every direction has many places. */
  private static Mesh body() {
    Mesh m = Shapes.torus(1, 0.45, 320, 160);
    float[] p = m.xyz().clone();
    float[] n = Measures.vertexNormals(m);
    for (int v = 0; v < m.vertexCount(); v++) {
      double wave = 0.04 * Math.sin(9 * p[3 * v]) * Math.sin(9 * p[3 * v + 1] + 1);
      for (int k = 0; k < 3; k++) {
        p[3 * v + k] += (float) (wave * n[3 * v + k]);
      }
    }
    return m.withPositions(p);
  }

  /** Stains of three paints, and grain. */
  private static double paint(float x, float y, float z, int channel, Random r) {
    double stain = Math.sin(5 * x + 2) + Math.sin(6 * y) + Math.sin(7 * z + 1);
    double[] tone = stain > 0.7 ? RUST : stain > -0.6 ? STONE : MOSS;
    return tone[channel] * (0.9 + 0.2 * r.nextDouble());
  }

  private static final double[] RUST = {0.35, 0.18, 0.1};
  private static final double[] STONE = {0.3, 0.29, 0.26};
  private static final double[] MOSS = {0.2, 0.28, 0.14};

  private static Mesh painted(Mesh m, boolean isLit) {
    float[] p = m.xyz();
    float[] n = Measures.vertexNormals(m);
    int[] c = new int[m.vertexCount()];
    Random r = new Random(3);
    for (int v = 0; v < c.length; v++) {
      double sun = 0;
      for (int k = 0; k < 3; k++) {
        sun += SUN[k] * n[3 * v + k];
      }
      double sky = 0.5 + 0.5 * n[3 * v + 2];
      int argb = 0xff;
      for (int k = 0; k < 3; k++) {
        double blue = 1 + 0.2 * (k - 1);
        double light = 0.15 + 0.35 * sky * blue + 1.2 * Math.max(0, sun);
        double own = paint(p[3 * v], p[3 * v + 1], p[3 * v + 2], k, r);
        argb = argb << 8 | LinearLight.storedByte(isLit ? own * light : own);
      }
      c[v] = argb;
    }
    return new Mesh(p, m.triangles(), c);
  }

  private static Workpiece baked(Mesh scan, Mesh cast) {
    Workpiece w = Workpiece.of(scan, Frame.PLAIN).withCast(cast);
    BakeMaps bake =
        new BakeMaps(List.of(MapKind.COLOUR, MapKind.OBJECT_NORMAL, MapKind.OCCLUSION), SIZE, 4, 4);
    return bake.apply(w, Run.unwatched()).work();
  }

  /** The root of the mean square of what colours differ by, as light, once both are as bright. */
  private static double error(Image a, Image truth, BitSet covered) {
    double both = 0;
    double own = 0;
    for (int i = covered.nextSetBit(0); i >= 0; i = covered.nextSetBit(i + 1)) {
      for (int c = 0; c < 3; c++) {
        double x = a.light(i % SIZE, i / SIZE, c);
        both += x * truth.light(i % SIZE, i / SIZE, c);
        own += x * x;
      }
    }
    double scale = both / own;
    double sum = 0;
    for (int i = covered.nextSetBit(0); i >= 0; i = covered.nextSetBit(i + 1)) {
      for (int c = 0; c < 3; c++) {
        double d = scale * a.light(i % SIZE, i / SIZE, c) - truth.light(i % SIZE, i / SIZE, c);
        sum += d * d;
      }
    }
    return Math.sqrt(sum / (3.0 * covered.cardinality()));
  }

  @Test
  void knownLightIsTakenOutToAThirdOfTheError() {
    Mesh body = body();
    Mesh bare = new Mesh(body.xyz(), body.triangles());
    Mesh coarse = Shapes.torus(1, 0.45, 80, 40);
    Mesh cast =
        new MakeCharts(SIZE, 3, 1.2, 0, 180)
            .apply(Workpiece.of(bare, Frame.PLAIN).withCast(coarse), Run.unwatched())
            .work()
            .cast();
    Workpiece lit = baked(painted(body, true), cast);
    Image truth = baked(painted(body, false), cast).maps().pictures().get(MapKind.COLOUR);
    Workpiece evened = new EvenLight(100, 0).apply(lit, Run.unwatched()).work();
    BitSet covered = Coverage.of(cast, lit.maps());
    double before = error(lit.maps().pictures().get(MapKind.COLOUR), truth, covered);
    double after = error(evened.maps().pictures().get(MapKind.COLOUR), truth, covered);
    assertThat(after).isLessThan(before / 3);
    // What is not asked for stays.
    Maps none = new EvenLight(0, 0).apply(lit, Run.unwatched()).work().maps();
    assertThat(
            none.pictures().get(MapKind.COLOUR).sameAs(lit.maps().pictures().get(MapKind.COLOUR)))
        .isTrue();
    assertThat(evened.maps().pictures().get(MapKind.OCCLUSION))
        .isSameAs(lit.maps().pictures().get(MapKind.OCCLUSION));
  }

  private static Workpiece plain(double... light) {
    Mesh sheet = Shapes.sheet(1, 4);
    float[] uv = new float[2 * sheet.vertexCount()];
    for (int v = 0; v < sheet.vertexCount(); v++) {
      uv[2 * v] = sheet.xyz()[3 * v];
      uv[2 * v + 1] = sheet.xyz()[3 * v + 1];
    }
    Mesh cast = sheet.withUv(new holotome.core.mesh.Uv(uv, sheet.triangles()));
    int argb = 0xff;
    for (double l : light) {
      argb = argb << 8 | LinearLight.storedByte(l);
    }
    int[] c = new int[sheet.vertexCount()];
    java.util.Arrays.fill(c, argb);
    Workpiece w = Workpiece.of(new Mesh(sheet.xyz(), sheet.triangles(), c), Frame.PLAIN);
    return new BakeMaps(List.of(MapKind.COLOUR), 32, 1, 2)
        .apply(w.withCast(cast), Run.unwatched())
        .work();
  }

  private static double[] toned(Workpiece w, SetTone tone) {
    Image i = tone.apply(w, Run.unwatched()).work().maps().pictures().get(MapKind.COLOUR);
    return new double[] {i.light(16, 16, 0), i.light(16, 16, 1), i.light(16, 16, 2)};
  }

  @Test
  void aStopDoublesTheLightAndContrastTurnsAboutMiddleGrey() {
    Workpiece w = plain(0.2, 0.1, 0.05);
    double[] was = toned(w, new SetTone(0, 100, null, 100, 0));
    double[] twice = toned(w, new SetTone(1, 100, null, 100, 0));
    double[] hard = toned(w, new SetTone(0, 200, null, 100, 0));
    for (int c = 0; c < 3; c++) {
      assertThat(twice[c]).isCloseTo(2 * was[c], within(0.004));
      assertThat(hard[c]).isCloseTo(was[c] * was[c] / 0.18, within(0.004));
    }
    double[] greyed = toned(w, new SetTone(0, 100, null, 0, 0));
    double own = 0.2126 * was[0] + 0.7152 * was[1] + 0.0722 * was[2];
    assertThat(greyed[0]).isCloseTo(own, within(0.002));
    assertThat(greyed[2]).isCloseTo(own, within(0.002));
  }

  @Test
  void whatIsSaidToBeGreyIsGreyAndAsBrightAsItWas() {
    Workpiece w = plain(0.3, 0.2, 0.1);
    Image i = w.maps().pictures().get(MapKind.COLOUR);
    double[] grey = {i.stored(16, 16, 0), i.stored(16, 16, 1), i.stored(16, 16, 2)};
    double[] out = toned(w, new SetTone(0, 100, grey, 100, 0));
    double own = 0.2126 * 0.3 + 0.7152 * 0.2 + 0.0722 * 0.1;
    for (double o : out) {
      assertThat(o).isCloseTo(own, within(0.004));
    }
  }

  /**
   * A sheet of two triangles, of which the left half is selected with a soft border: closed form,
   * the light doubled there by a smooth step from the border inwards, nothing changed beyond.
   */
  @Test
  void ofASelectionAlone() {
    int size = 256;
    Mesh sheet = Shapes.sheet(1, 1);
    float[] uv = new float[2 * sheet.vertexCount()];
    for (int v = 0; v < sheet.vertexCount(); v++) {
      uv[2 * v] = 0.1f + 0.8f * sheet.xyz()[3 * v];
      uv[2 * v + 1] = 0.1f + 0.8f * sheet.xyz()[3 * v + 1];
    }
    Mesh cast = sheet.withUv(new holotome.core.mesh.Uv(uv, sheet.triangles()));
    int[] c = new int[sheet.vertexCount()];
    java.util.Arrays.fill(c, 0xff606060);
    Workpiece w =
        new BakeMaps(List.of(MapKind.COLOUR), size, 1, 4)
            .apply(
                Workpiece.of(new Mesh(sheet.xyz(), sheet.triangles(), c), Frame.PLAIN)
                    .withCast(cast),
                Run.unwatched())
            .work();
    Region left = new Region(new double[] {0.2, 0.5, 0}, new double[] {0.6, 2, 1}, new double[3]);
    List<Pick> picks = List.of(Pick.of(Pick.Join.REPLACE, left));
    Image was = w.maps().pictures().get(MapKind.COLOUR);
    for (double soft : new double[] {0, 0.2}) {
      SetTone tone = new SetTone(1, 100, null, 100, 0, picks, new Length(soft));
      Image out = tone.apply(w, Run.unwatched()).work().maps().pictures().get(MapKind.COLOUR);
      double own = was.light(100, 100, 0);
      int texel = (int) (0.8 * size);
      for (int x = 0; x < size; x++) {
        for (int y : new int[] {30, 128, 220}) {
          double place = ((x + 0.5) / size - 0.1) / 0.8;
          double in = Math.clamp((0.5 - place) / Math.max(soft, 1e-9), 0, 1);
          double share = in * in * (3 - 2 * in);
          double got = out.light(x, y, 0) / own - 1;
          // What is divided has steps of six texels, with a border as wide.
          double hair = soft == 0 ? (Math.abs(place - 0.5) < 13.0 / texel ? 1 : 0.02) : 0.1;
          if (place > 0 && place < 1) {
            assertThat(got).as("at %f", place).isCloseTo(share, within(hair));
          }
          if (place > 0.5 + 7.0 / texel || place < -20.0 / texel) {
            assertThat(out.stored(x, y, 0)).isEqualTo(was.stored(x, y, 0));
          }
        }
        // Below the chart, in its gutter, as at its rim.
        int rim = (int) (0.9 * size) - 1;
        if (Math.abs(((x + 0.5) / size - 0.1) / 0.8 - 0.5) < 13.0 / texel) {
          continue;
        }
        assertThat(out.stored(x, rim + 3, 0)).isCloseTo(out.stored(x, rim, 0), within(6.0));
      }
    }
    Region beyond = new Region(new double[] {9, 9, 9}, new double[] {0.6, 2, 1}, new double[3]);
    List<Pick> none = List.of(Pick.of(Pick.Join.REPLACE, beyond));
    assertThatThrownBy(
            () -> new SetTone(1, 100, null, 100, 0, none, new Length(0)).apply(w, Run.unwatched()))
        .hasMessageContaining("selected");
  }

  @Test
  void withoutMapsItIsSaidWhatIsMissing() {
    Workpiece bare = Workpiece.of(Shapes.sheet(1, 2), Frame.PLAIN);
    assertThatThrownBy(() -> new EvenLight(100, 50).apply(bare, Run.unwatched()))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("bake.maps");
    assertThatThrownBy(() -> new EvenLight(100, 50).apply(plain(0.1, 0.1, 0.1), Run.unwatched()))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("object-normal");
    assertThatThrownBy(() -> new SetTone(0, 100, null, 100, 0).apply(bare, Run.unwatched()))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("bake.maps");
    assertThatThrownBy(() -> new SetTone(0, 100, new double[] {1, 2}, 100, 0))
        .isInstanceOf(Failure.class);
  }
}

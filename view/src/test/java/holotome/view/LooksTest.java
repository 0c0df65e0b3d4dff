package holotome.view;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.attribute.Attribute;
import holotome.core.geometry.Similarity;
import holotome.core.image.Colours;
import holotome.core.image.Image;
import holotome.core.image.Raster;
import holotome.core.map.MapKind;
import holotome.core.map.Range;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Maps;
import holotome.core.task.Work;
import holotome.view.camera.Camera;
import holotome.view.scene.Look;
import holotome.view.scene.MeshLayer;
import holotome.view.scene.Scene;
import holotome.view.scene.Setting;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** What each look tells, on a square seen straight from above. */
class LooksTest {
  private static final int SIZE = 200;

  /** A square from 0 to 1 of two triangles with its own texture, in two charts if so asked. */
  private static Mesh square(boolean twoCharts) {
    float[] xyz = {0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0};
    int[] tri = {0, 1, 2, 0, 2, 3};
    Uv uv =
        twoCharts
            ? new Uv(new float[] {0, 0, 1, 0, 1, 1, 0, 0, 1, 1, 0, 1}, new int[] {0, 1, 2, 3, 4, 5})
            : new Uv(new float[] {0, 0, 1, 0, 1, 1, 0, 1}, tri);
    return new Mesh(xyz, tri).withUv(uv);
  }

  private static int[] draw(Mesh m, Look look, BitSet selected, Maps maps) {
    Camera c = Camera.showing(m.bounds(), Camera.Direction.TOP, 1).withPerspective(false);
    Scene s = new Scene(m, Similarity.IDENTITY, look, selected, maps, false);
    return new Renderer().draw(s, c, SIZE, SIZE).pixels();
  }

  @Test
  void aMapAloneIsShownAsItIs() {
    Maps maps = maps(0xff345678, 0xff7f7fff, false);
    for (MapKind k : maps.pictures().keySet()) {
      Mesh m = square(false);
      Camera c = Camera.showing(m.bounds(), Camera.Direction.TOP, 1).withPerspective(false);
      MeshLayer layer = new MeshLayer(m, Similarity.IDENTITY, Look.BAKED, null, maps, k, null, 1);
      Scene s = new Scene(layer, List.of(), false, Setting.PLAIN.withBrightness(0.4));
      int[] px = new Renderer().draw(s, c, SIZE, SIZE).pixels();
      assertThat(at(px, 0.3, 0.6)).isEqualTo(k == MapKind.COLOUR ? 0xff345678 : 0xff7f7fff);
    }
  }

  /** What is measured is shown from black to white over its range. */
  @Test
  void aMeasureAloneIsShownOverItsRange() {
    Image height =
        Image.blank(64, 64, 1, Image.Sample.FLOAT, Image.Space.LINEAR)
            .filled((x, y, v) -> v[0] = x < 32 ? 0.25 : -0.5, Work.unwatched());
    Maps plain = maps(0xff345678, 0xff7f7fff, false);
    Maps maps =
        new Maps(
            64,
            Map.of(MapKind.HEIGHT, height),
            Map.of(MapKind.HEIGHT, new Range(-0.5f, 0.5f)),
            plain.missed(),
            64 * 64,
            0,
            List.of());
    Mesh m = square(false);
    Camera c = Camera.showing(m.bounds(), Camera.Direction.TOP, 1).withPerspective(false);
    MeshLayer layer =
        new MeshLayer(m, Similarity.IDENTITY, Look.BAKED, null, maps, MapKind.HEIGHT, null, 1);
    Scene s = new Scene(layer, List.of(), false, Setting.PLAIN);
    int[] px = new Renderer().draw(s, c, SIZE, SIZE).pixels();
    assertThat(at(px, 0.2, 0.6)).isEqualTo(0xffbfbfbf);
    assertThat(at(px, 0.8, 0.6)).isEqualTo(0xff000000);
  }

  private static int at(int[] px, double x, double y) {
    // The square fills all but a narrow rim.
    int i = (int) (SIZE * (0.5 + (x - 0.5) / 1.05));
    int j = (int) (SIZE * (0.5 - (y - 0.5) / 1.05));
    return px[j * SIZE + i];
  }

  private static int grey(int c) {
    return ((c >> 16 & 255) + (c >> 8 & 255) + (c & 255)) / 3;
  }

  private static Maps maps(int colour, int normal, boolean missed) {
    int[] c = new int[64 * 64];
    int[] n = new int[64 * 64];
    Arrays.fill(c, colour);
    Arrays.fill(n, normal);
    // The left half of the picture found no Scan.
    Image lost =
        Image.blank(64, 64, 1, Image.Sample.BYTE, Image.Space.LINEAR)
            .filled((x, y, v) -> v[0] = missed && x < 32 ? 1 : 0, Work.unwatched());
    return new Maps(
        64,
        Map.of(
            MapKind.COLOUR,
            Image.of(new Raster(64, 64, c)),
            MapKind.NORMAL,
            Image.of(new Raster(64, 64, n))),
        Map.of(),
        lost,
        64 * 64,
        missed ? 32 * 64 : 0,
        List.of());
  }

  /**
   * A surface of triangles far smaller than pixels: its wire is an even tone, neither a blot nor a
   * pattern, and the same surface coarsely meshed shows its lines.
   */
  @Test
  void wireFadesWhereManyLinesShareAPixel() {
    double[] dense = wireOver(Meshes.ball(500));
    double[] sparse = wireOver(Meshes.ball(10));
    assertThat(dense[0]).as("darker by").isBetween(8.0, 60.0);
    assertThat(dense[1]).as("uneven by").isLessThan(3.0);
    assertThat(sparse[1]).as("lines").isGreaterThan(15.0);
  }

  /** By how many percent wire darkens the middle of a ball, on the average, and how unevenly. */
  private static double[] wireOver(Mesh ball) {
    int[] wire = draw(ball, Look.WIRE, null, null);
    int[] clay = draw(ball, Look.CLAY, null, null);
    double sum = 0;
    double squares = 0;
    int n = 0;
    for (int y = 60; y < 140; y++) {
      for (int x = 60; x < 140; x++) {
        double darker = 100 - 100.0 * grey(wire[y * SIZE + x]) / grey(clay[y * SIZE + x]);
        sum += darker;
        squares += darker * darker;
        n++;
      }
    }
    double mean = sum / n;
    return new double[] {mean, Math.sqrt(squares / n - mean * mean)};
  }

  @Test
  void wireIsDarkAlongTheDiagonalAndClayBesideIt() {
    int[] px = draw(square(false), Look.WIRE, null, null);
    int clay = grey(at(px, 0.75, 0.25));
    int least = 255;
    for (double t = -0.02; t <= 0.02; t += 0.002) {
      least = Math.min(least, grey(at(px, 0.5 + t, 0.5 - t)));
    }
    assertThat(least).isLessThan(clay - 20);
    assertThat(grey(at(px, 0.25, 0.75))).isCloseTo(clay, org.assertj.core.data.Offset.offset(3));
  }

  @Test
  void chartsHaveColoursOfTheirOwn() {
    int[] one = draw(square(false), Look.CHARTS, null, null);
    assertThat(at(one, 0.75, 0.25)).isEqualTo(at(one, 0.25, 0.75));
    int[] two = draw(square(true), Look.CHARTS, null, null);
    assertThat(at(two, 0.75, 0.25)).isNotEqualTo(at(two, 0.25, 0.75));
  }

  @Test
  void theCheckerHasItsSquares() {
    int[] px = draw(square(false), Look.CHECKER, null, null);
    Set<Integer> seen = new HashSet<>();
    for (double x = 0.1; x < 0.9; x += 0.003) {
      seen.add(at(px, x, 0.4));
    }
    assertThat(seen).hasSizeBetween(3, 8);
  }

  @Test
  void bakedShowsTheColourAndTheNormalTiltsTheLight() {
    int flat = Colours.argb(128, 128, 255);
    int up = Colours.argb(128, 220, 216);
    int[] level = draw(square(false), Look.BAKED, null, maps(0xff804020, flat, false));
    int[] tilted = draw(square(false), Look.BAKED, null, maps(0xff804020, up, false));
    int a = at(level, 0.5, 0.4);
    int b = at(tilted, 0.5, 0.4);
    assertThat(a >> 16 & 255).isGreaterThan(a >> 8 & 255);
    assertThat(a >> 8 & 255).isGreaterThan(a & 255);
    assertThat(grey(b)).isNotCloseTo(grey(a), org.assertj.core.data.Offset.offset(2));
  }

  @Test
  void missedTexelsAreBrick() {
    int[] px = draw(square(false), Look.MISSED, null, maps(0xff808080, 0xff8080ff, true));
    assertThat(at(px, 0.2, 0.5)).isEqualTo(0xffa63d2f);
    assertThat(at(px, 0.8, 0.5)).isNotEqualTo(0xffa63d2f);
  }

  @Test
  void selectedTrianglesAreHatchedInViolet() {
    BitSet s = new BitSet();
    s.set(0);
    int[] px = draw(square(false), Look.CLAY, s, null);
    int[] plain = draw(square(false), Look.CLAY, null, null);
    assertThat(at(px, 0.25, 0.75)).isEqualTo(at(plain, 0.25, 0.75));
    Set<Integer> tones = new HashSet<>();
    for (double x = 0.7; x < 0.8; x += 0.005) {
      int c = at(px, x, 0.25);
      assertThat(c & 255).isGreaterThan(c >> 8 & 255);
      tones.add(c);
    }
    assertThat(tones).as("hatch and ground").hasSizeGreaterThanOrEqualTo(2);
  }

  @Test
  void theGridLiesOnTheGroundOnly() {
    Mesh m = square(false);
    Camera c = Camera.showing(m.bounds(), Camera.Direction.ASKEW, 1);
    Scene with =
        new Scene(m, Similarity.translation(new double[] {0, 0, 0.4}), Look.CLAY, null, null, true);
    Scene without = new Scene(m, with.place(), Look.CLAY, null, null, false);
    int[] a = new Renderer().draw(with, c, SIZE, SIZE).pixels();
    Renderer.Picture p = new Renderer().draw(without, c, SIZE, SIZE);
    int lines = 0;
    for (int i = 0; i < a.length; i++) {
      boolean differs = a[i] != p.pixels()[i];
      lines += differs ? 1 : 0;
      if (differs) {
        // The square floats above the ground: the grid may not shine through it.
        assertThat(p.buffer().triangle(i % SIZE, i / SIZE)).isNegative();
      }
    }
    assertThat(lines).isGreaterThan(100);
  }

  /** One face of four corners has no line across it; two triangles have. */
  @Test
  void linesWithinAFaceAreNotDrawn() {
    Mesh two = new Mesh(square(false).xyz(), square(false).triangles());
    int[] numbers = {7, 7};
    Mesh one =
        two.with(
            Attribute.of(
                Attribute.FACE, Attribute.Kind.LABEL, Attribute.Domain.TRIANGLE, numbers, null));
    for (Look look : List.of(Look.WIRE, Look.BARE_WIRE)) {
      int[] with = draw(two, look, null, null);
      int[] without = draw(one, look, null, null);
      int plain = grey(at(with, 0.7, 0.3));
      assertThat(darkest(with)).isLessThan(plain - 30);
      // Light falls a little differently over the square.
      assertThat(darkest(without)).isCloseTo(plain, within(8));
    }
  }

  /** Along a stretch through the middle. */
  private static int darkest(int[] px) {
    int least = 255;
    for (int i = SIZE / 2 - 5; i <= SIZE / 2 + 5; i++) {
      least = Math.min(least, grey(px[SIZE / 2 * SIZE + i]));
    }
    return least;
  }

  /** Normals that a mesh carries at its corners are those it is shown by, blended between them. */
  @Test
  void givenNormalsAreShown() {
    Mesh bare = new Mesh(square(false).xyz(), square(false).triangles());
    float s = (float) Math.sqrt(0.5);
    float[] left = {-s, 0, s};
    float[] normals = {left[0], left[1], left[2], 0, 0, 1};
    int[] index = {0, 1, 1, 0, 1, 0};
    Mesh bent =
        bare.with(
            Attribute.of(
                Attribute.NORMAL, Attribute.Kind.NORMAL, Attribute.Domain.CORNER, normals, index));
    int[] flat = draw(bare, Look.CLAY, null, null);
    int[] px = draw(bent, Look.CLAY, null, null);
    assertThat(grey(at(px, 0.99, 0.5))).isCloseTo(grey(at(flat, 0.99, 0.5)), within(1));
    int near = grey(at(px, 0.02, 0.5)) - grey(at(flat, 0.02, 0.5));
    int half = grey(at(px, 0.5, 0.5)) - grey(at(flat, 0.5, 0.5));
    assertThat(Math.abs(near)).isGreaterThan(8);
    assertThat(Math.abs(half)).isBetween(1, Math.abs(near));
  }
}

package holotome.view.layering;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.geometry.Box;
import holotome.core.geometry.Similarity;
import holotome.core.mesh.Mesh;
import holotome.core.polygon.PolygonMesh;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.view.Meshes;
import holotome.view.Renderer;
import holotome.view.camera.Camera;
import holotome.view.scene.DotLayer;
import holotome.view.scene.Layer;
import holotome.view.scene.LineLayer;
import holotome.view.scene.Look;
import holotome.view.scene.MeshLayer;
import holotome.view.scene.PolygonLayers;
import holotome.view.scene.Scene;
import holotome.view.scene.Setting;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Several things in one picture, held against where they are by formula. */
class LayersTest {
  private static final int SIZE = 200;
  private static final Mesh BALL = Meshes.ball(24);
  private static final int BLUE = 0xff0000ff;

  /** Looks down along Z, parallel, at about -1.37 to 1.37 in x and y. */
  private static final Camera ABOVE =
      Camera.showing(new Box(-1, -1, -1, 1, 1, 1), Camera.Direction.TOP, 1).withPerspective(false);

  private static double pixels(double length) {
    return length / ABOVE.unitsPerPixel(SIZE);
  }

  private static MeshLayer ball(double x, double z, Look look) {
    return new MeshLayer(BALL, Similarity.translation(new double[] {x, 0, z}), look);
  }

  private static Scene scene(MeshLayer subject, Layer... others) {
    return new Scene(subject, List.of(others), false, Setting.PLAIN);
  }

  private static Renderer.Picture draw(Scene s) {
    return new Renderer().draw(s, ABOVE, SIZE, SIZE);
  }

  private static int[] at(double x, double y) {
    return new int[] {
      (int) (SIZE / 2.0 + pixels(x)), (int) (SIZE / 2.0 - pixels(y)),
    };
  }

  private static int value(Renderer.Picture p, double x, double y) {
    int[] i = at(x, y);
    return p.pixels()[i[1] * SIZE + i[0]];
  }

  private static int front(Renderer.Picture p, double x, double y) {
    int[] i = at(x, y);
    return p.fronts()[i[1] * SIZE + i[0]];
  }

  /** Of two balls beside each other the nearer is seen where both are: by the sphere's formula. */
  @Test
  void nearestOfTheMeshesIsSeen() {
    Renderer.Picture p =
        draw(scene(ball(-0.4, 0, Look.CLAY), ball(0.4, 0.1, Look.FACING), ball(0, -5, Look.CLAY)));
    int checked = 0;
    for (double x = -1.35; x < 1.4; x += 0.05) {
      for (double y = -0.95; y < 1; y += 0.05) {
        double a = 1 - (x + 0.4) * (x + 0.4) - y * y;
        double b = 1 - (x - 0.4) * (x - 0.4) - y * y;
        double za = a > 0 ? Math.sqrt(a) : -9;
        double zb = b > 0 ? 0.1 + Math.sqrt(b) : -9;
        boolean rim = a > -0.1 && a < 0.1 || b > -0.1 && b < 0.1;
        if (!rim && Math.abs(za - zb) > 0.05) {
          checked++;
          assertThat(front(p, x, y)).as("at %s, %s", x, y).isEqualTo(za > zb ? 0 : 1);
        }
      }
    }
    assertThat(checked).isGreaterThan(900);
    // The subject's buffer is its own, whatever stands before it.
    assertThat(p.buffer().triangle(SIZE / 2, SIZE / 2)).isNotNegative();
  }

  @Test
  void faintSurfaceLetsWhatIsBehindThrough() {
    MeshLayer near = ball(0, 3, Look.FACING);
    int[] alone = draw(scene(ball(0, 0, Look.CLAY))).pixels();
    int[] over = draw(scene(near)).pixels();
    Renderer.Picture p = draw(scene(near.faint(0.25), ball(0, 0, Look.CLAY)));
    int i = (SIZE / 2 + 7) * SIZE + SIZE / 2 - 4;
    for (int shift = 0; shift < 24; shift += 8) {
      int behind = alone[i] >> shift & 255;
      int before = over[i] >> shift & 255;
      assertThat((double) (p.pixels()[i] >> shift & 255))
          .isCloseTo(0.75 * behind + 0.25 * before, within(1.0));
    }
    // Alone and faint it is mixed with the background.
    int[] faint = draw(scene(near.faint(0.25))).pixels();
    int ground = faint[(SIZE / 2 + 7) * SIZE];
    assertThat((double) (faint[i] & 255))
        .isCloseTo(0.75 * (ground & 255) + 0.25 * (over[i] & 255), within(1.0));
  }

  /** How much of a colour a picture shows, in pixels, told from one without it. */
  private static double ink(Renderer.Picture with, Renderer.Picture without) {
    double sum = 0;
    for (int i = 0; i < with.pixels().length; i++) {
      int red = without.pixels()[i] >> 16 & 255;
      if (red > 0) {
        sum += (red - (with.pixels()[i] >> 16 & 255)) / (double) red;
      }
    }
    return sum;
  }

  private static LineLayer line(Layer.Hidden hidden, float width, double... ends) {
    return new LineLayer(ends, BLUE, width, hidden);
  }

  @Test
  void lineCoversItsLengthTimesItsWidth() {
    MeshLayer far = new MeshLayer(BALL, Similarity.translation(new double[] {0, 0, -5}), Look.CLAY);
    Renderer.Picture bare = draw(scene(far));
    for (double angle : new double[] {0, 0.3, 0.78, 1.2, Math.PI / 2, 2.5}) {
      double x = 0.8 * Math.cos(angle);
      double y = 0.8 * Math.sin(angle);
      for (float width : new float[] {1, 2.5f}) {
        Renderer.Picture p =
            draw(scene(far, line(Layer.Hidden.LEFT_OUT, width, -x, -y, 2, x, y, 2)));
        double length = pixels(1.6);
        assertThat(ink(p, bare))
            .isCloseTo(
                length * width + Math.PI * width * width / 4, within(0.03 * length * width + 1));
      }
    }
  }

  @Test
  void linesBehindTheSurfaceAreLeftOutFaintOrShown() {
    MeshLayer ball = ball(0, 0, Look.CLAY);
    Renderer.Picture bare = draw(scene(ball));
    // From 1.3 on the left to 1.3 on the right, through the middle: 2 of its 2.6 are inside.
    double[] through = {-1.3, 0, 0, 1.3, 0, 0};
    double out = ink(draw(scene(ball, line(Layer.Hidden.LEFT_OUT, 2, through))), bare);
    double faint = ink(draw(scene(ball, line(Layer.Hidden.FAINT, 2, through))), bare);
    double shown = ink(draw(scene(ball, line(Layer.Hidden.SHOWN, 2, through))), bare);
    assertThat(out).isCloseTo(pixels(0.6) * 2, within(9.0));
    assertThat(shown).isCloseTo(pixels(2.6) * 2, within(9.0));
    assertThat(faint).isCloseTo(pixels(0.6 + 2 * 0.25) * 2, within(9.0));
  }

  /**
   * A ring of latitude on the ball: drawn whole where it faces the viewer, gone on the far side.
   */
  @Test
  void lineOnTheSurfaceIsSeenFromItsSideOnly() {
    MeshLayer ball = ball(0, 0, Look.CLAY);
    Renderer.Picture bare = draw(scene(ball));
    int n = 24;
    for (int ring : new int[] {4, 8, 10, 14, 20}) {
      List<Double> ends = new ArrayList<>();
      double a = Math.PI * ring / n;
      for (int j = 0; j < 2 * n; j++) {
        for (int k = 0; k < 2; k++) {
          double b = Math.PI * (j + k) / n;
          ends.add(Math.sin(a) * Math.cos(b));
          ends.add(Math.sin(a) * Math.sin(b));
          ends.add(Math.cos(a));
        }
      }
      double[] xyz = ends.stream().mapToDouble(d -> d).toArray();
      double seen = ink(draw(scene(ball, line(Layer.Hidden.LEFT_OUT, 1, xyz))), bare);
      double around = pixels(2 * Math.PI * Math.sin(a));
      assertThat(seen / around).as("ring %d", ring).isCloseTo(ring < 12 ? 1 : 0, within(0.06));
    }
  }

  @Test
  void linesEndAtTheClippingPlaneAndBehindTheEye() {
    MeshLayer far = ball(0, -5, Look.CLAY);
    Setting left = Setting.PLAIN.withClip(new double[] {-1, 0, 0, 0});
    LineLayer l = line(Layer.Hidden.LEFT_OUT, 2, -1, 0.2, 2, 1, 0.2, 2);
    Renderer.Picture p = draw(scene(far, l).with(left));
    assertThat(ink(p, draw(scene(far).with(left)))).isCloseTo(pixels(1) * 2, within(5.0));
    // In perspective, from a point between its ends, only what is before the eye is drawn.
    Camera inside = Camera.showing(new Box(-1, -1, -1, 1, 1, 1), Camera.Direction.TOP, 1);
    double eye = inside.eye()[2];
    LineLayer past = line(Layer.Hidden.LEFT_OUT, 2, 0.3, 0, -1, 0.3, 0, 3 * eye);
    int[] drawn = new Renderer().draw(scene(far, past), inside, SIZE, SIZE).pixels();
    int[] none = new Renderer().draw(scene(far), inside, SIZE, SIZE).pixels();
    int differ = 0;
    for (int i = 0; i < drawn.length; i++) {
      if (drawn[i] != none[i]) {
        differ++;
        assertThat(i % SIZE).isGreaterThanOrEqualTo(SIZE / 2);
      }
    }
    assertThat(differ).isGreaterThan(20);
  }

  /** Each form has the area that its outline encloses, and no two cover the same pixels. */
  @ParameterizedTest
  @EnumSource(DotLayer.Form.class)
  void marksHaveTheirForm(DotLayer.Form form) {
    MeshLayer far = ball(0, -5, Look.CLAY);
    DotLayer dot =
        new DotLayer(new double[] {0.1, 0.1, 1}, form, 0xff0000ff, 24, Layer.Hidden.LEFT_OUT);
    int[] px = draw(scene(far, dot)).pixels();
    double blue = 0;
    for (int c : px) {
      blue += (c & 255) > 200 && (c >> 16 & 255) < 128 ? 1 : 0;
    }
    double r = 12;
    double s = 0.28 * r;
    double expected =
        switch (form) {
          case DISC -> Math.PI * r * r;
          case RING -> Math.PI * (r * r - (r - 2 * s) * (r - 2 * s));
          case SQUARE -> 4 * Math.pow(0.86 * r, 2);
          case DIAMOND -> 2 * Math.pow(1.1 * r, 2);
          case TRIANGLE -> 3 * Math.sqrt(3) * Math.pow(0.55 * r, 2);
          case CROSS -> 2 * (2 * r) * (2 * s) - 4 * s * s;
          case BAR -> 2 * r * 2 * s;
        };
    assertThat(blue).isCloseTo(expected, within(0.12 * expected));
  }

  @Test
  void marksAreHiddenByWhatIsBeforeTheirMiddle() {
    MeshLayer ball = ball(0, 0, Look.CLAY);
    double[] two = {0.2, 0.1, 1.2, -0.3, 0, -1.2};
    Renderer.Picture bare = draw(scene(ball));
    DotLayer out = new DotLayer(two, DotLayer.Form.DISC, BLUE, 10, Layer.Hidden.LEFT_OUT);
    Renderer.Picture p = draw(scene(ball, out));
    assertThat(value(p, 0.2, 0.1)).isEqualTo(BLUE);
    assertThat(value(p, -0.3, 0)).isEqualTo(value(bare, -0.3, 0));
    DotLayer all = new DotLayer(two, DotLayer.Form.DISC, BLUE, 10, Layer.Hidden.SHOWN);
    assertThat(value(draw(scene(ball, all)), -0.3, 0)).isEqualTo(BLUE);
  }

  /** What cannot be drawn is left out, and what can be is: no picture is lost to a bad layer. */
  @Test
  void roughLayersDoNoHarm() {
    double nan = Double.NaN;
    double[] lines = {
      nan, 0, 0, 1, 0, 0, // not a number
      0.2, 0.2, 2, 0.2, 0.2, 2, // no length
      -1e30, 0.5, 2, 1e30, 0.5, 2, // beyond all pixels
      -1, -0.5, 2, 1, -0.5, 2,
    };
    double[] marks = {nan, nan, nan, 1e300, 0, 2, 0.3, -0.2, 2};
    float[] one = {0, 0, 0, 1, 0, 0, 0, 1, 0};
    Mesh[] rough = {
      new Mesh(new float[0], new int[0]),
      new Mesh(one, new int[] {0, 1, 2}),
      new Mesh(one, new int[] {0, 1, 2, 0, 2, 1, 0, 1, 1}),
      new Mesh(new float[] {4.1e6f, 0, 0, 4.1e6f, 1, 0, 4.1e6f, 0, 1}, new int[] {0, 1, 2}),
    };
    for (Mesh m : rough) {
      MeshLayer layer = new MeshLayer(m, Similarity.IDENTITY, Look.CLAY);
      for (Layer.Hidden hidden : Layer.Hidden.values()) {
        Scene s =
            scene(
                ball(0, 0, Look.CLAY),
                layer.faint(0.5),
                line(hidden, 2, lines),
                new DotLayer(marks, DotLayer.Form.RING, BLUE, 12, hidden));
        Renderer.Picture p = draw(s);
        assertThat(value(p, 0.1, -0.5)).as("%s, %s", m.bounds(), hidden).isEqualTo(BLUE);
        assertThat(draw(scene(layer, ball(0, 0, Look.CLAY))).pixels()).hasSize(SIZE * SIZE);
      }
    }
  }

  @Test
  void drawingIsCancelledBetweenLayers() {
    Work work = new Work();
    work.cancel();
    Scene s = scene(ball(0, 0, Look.CLAY), ball(0.5, 0, Look.CLAY));
    assertThatThrownBy(() -> new Renderer().draw(s, ABOVE, SIZE, SIZE, work))
        .isInstanceOfSatisfying(
            Failure.class, f -> assertThat(f.kind()).isEqualTo(Failure.Kind.CANCELLED));
  }

  @Test
  void anyNumberOfThreadsGivesTheSamePicture() {
    double[] many = IntStream.range(0, 600).mapToDouble(i -> Math.sin(i * 12.9898) * 1.2).toArray();
    Scene s =
        scene(
            ball(-0.4, 0, Look.CLAY).faint(0.6),
            ball(0.4, 0.1, Look.FACING),
            line(Layer.Hidden.FAINT, 1.5f, many),
            new DotLayer(many, DotLayer.Form.DIAMOND, BLUE, 7, Layer.Hidden.LEFT_OUT));
    int[] now = draw(s).pixels();
    int threads = Parallel.threads();
    try {
      Parallel.limitThreads(1);
      assertThat(draw(s).pixels()).isEqualTo(now);
    } finally {
      Parallel.limitThreads(threads);
    }
  }

  /** A cube of six squares shows its nine foremost edges and none of the diagonals. */
  @Test
  void polygonsShowTheirTrueEdges() {
    double[] p = new double[24];
    for (int i = 0; i < 8; i++) {
      p[3 * i] = (i & 1) - 0.5;
      p[3 * i + 1] = (i >> 1 & 1) - 0.5;
      p[3 * i + 2] = (i >> 2 & 1) - 0.5;
    }
    int[][] faces = {
      {0, 2, 3, 1}, {4, 5, 7, 6}, {0, 1, 5, 4}, {2, 6, 7, 3}, {0, 4, 6, 2}, {1, 3, 7, 5}
    };
    PolygonLayers cube = PolygonLayers.of(PolygonMesh.of(p, faces), Similarity.IDENTITY, Look.CLAY);
    assertThat(cube.edges().count()).isEqualTo(12);
    Renderer.Picture with = draw(scene(cube.faces(), cube.edges()));
    Renderer.Picture without = draw(scene(cube.faces()));
    // From above: four edges around, and the square's inside, where a diagonal would run, is clean.
    for (double d = -0.4; d < 0.45; d += 0.05) {
      assertThat(value(with, d, d)).isEqualTo(value(without, d, d));
    }
    int[] edge = at(0.5, 0.1);
    assertThat(with.pixels()[edge[1] * SIZE + edge[0]] & 255).isLessThan(110);
  }
}

package holotome.view;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.view.camera.Camera;
import holotome.view.scene.Look;
import holotome.view.scene.Scene;
import holotome.view.scene.Setting;
import java.util.BitSet;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Parts of pictures, lenses, and renderers that share what they prepared. */
class RegionTest {
  private static final int W = 320;
  private static final int H = 240;

  private static Scene scene(Mesh m) {
    return new Scene(m, Similarity.IDENTITY, Look.CLAY, null, null, false);
  }

  private static Renderer prepared(Mesh m) {
    Renderer r = new Renderer(100);
    r.prepare(m, Work.unwatched());
    assertThat(r.isPrepared(m)).isTrue();
    return r;
  }

  /**
   * Within the outline the part is the whole picture, pixel by pixel, and so is what it selects.
   */
  @ParameterizedTest
  @ValueSource(booleans = {true, false})
  void aPartIsThePictureWithinItsOutline(boolean perspective) {
    Mesh m = Meshes.stone(150);
    Renderer r = prepared(m);
    Random random = new Random(4);
    for (int round = 0; round < 8; round++) {
      Camera c =
          Camera.showing(m.bounds(), Camera.Direction.ASKEW, (double) W / H)
              .withPerspective(perspective)
              .turned(random.nextDouble() * 6, random.nextDouble() - 0.5, m.bounds().centre())
              .closer(0.3 + random.nextDouble(), m.bounds().centre());
      double x = 60 + 150 * random.nextDouble();
      double y = 40 + 120 * random.nextDouble();
      double[] outline = {x, y, x + 70, y + 10, x + 50, y + 60, x - 10, y + 40};
      Renderer.Picture whole = r.draw(scene(m), c, W, H);
      BitSet all = r.visible(scene(m), whole, outline, 1.5, Work.unwatched());
      int[] triangles = new int[W * H];
      for (int i = 0; i < triangles.length; i++) {
        triangles[i] = whole.buffer().triangle(i % W, i / W);
      }
      Renderer.Picture part = r.drawWithin(scene(m), c, W, H, outline, Work.unwatched());
      for (int py = (int) y; py < y + 60; py++) {
        for (int px = (int) x - 10; px < x + 70; px++) {
          if (px >= 0 && py >= 0 && px < W && py < H) {
            assertThat(part.buffer().triangle(px, py)).isEqualTo(triangles[py * W + px]);
          }
        }
      }
      assertThat(r.visible(scene(m), part, outline, 1.5, Work.unwatched())).isEqualTo(all);
    }
  }

  /** In parallel views a ray begins before everything, however near the eye stands. */
  @Test
  void nearByParallelViewsPickWhatTheyShow() {
    Mesh m = Meshes.ball(80);
    Renderer r = prepared(m);
    Camera c =
        Camera.showing(m.bounds(), Camera.Direction.ASKEW, (double) W / H)
            .withPerspective(false)
            .closer(0.05, m.bounds().centre());
    Renderer.Picture p = r.draw(scene(m), c, W, H);
    int same = 0;
    int asked = 0;
    for (int y = 8; y < H; y += 16) {
      for (int x = 8; x < W; x += 16) {
        asked++;
        Integer t = r.probe(scene(m), c, x + 0.5, y + 0.5, W, H);
        same += t == p.buffer().triangle(x, y) ? 1 : 0;
      }
    }
    assertThat((double) same / asked).isGreaterThan(0.97);
  }

  @Test
  void siblingsShareWhatWasPrepared() {
    Mesh m = Meshes.stone(60);
    Renderer r = prepared(m);
    Renderer other = r.sibling();
    assertThat(other.isPrepared(m)).isTrue();
    Camera c = Camera.showing(m.bounds(), Camera.Direction.FRONT, (double) W / H);
    assertThat(other.draw(scene(m), c, W, H).pixels())
        .isEqualTo(r.draw(scene(m), c, W, H).pixels());
  }

  /** A longer lens from farther off shows the target as large, and what is behind it larger. */
  @Test
  void aLensChangesPerspectiveButNotTheSizeAtTheTarget() {
    Mesh m = Meshes.ball(20);
    Camera c = Camera.showing(m.bounds(), Camera.Direction.FRONT, (double) W / H);
    double[] at = c.target();
    double[] beside = Vec.add(at, Vec.mul(c.right(), 0.5));
    double[] behind = Vec.add(beside, Vec.mul(c.forward(), 0.8));
    double last = 0;
    for (double focal : new double[] {18, Camera.USUAL_FOCAL, 85, 300}) {
      Camera lens = c.withFocal(focal);
      assertThat(lens.unitsPerPixel(H)).isCloseTo(c.unitsPerPixel(H), within(1e-12));
      double[] px = lens.toPixels(W, H, m.bounds());
      double there = x(px, beside) - x(px, at);
      assertThat(there).isCloseTo(0.5 / c.unitsPerPixel(H), within(1e-6));
      double farther = x(px, behind) - x(px, at);
      assertThat(farther).isGreaterThan(last).isLessThan(there);
      last = farther;
    }
    // Full frame, 24 mm high: 50 mm shows 2 atan(12 / 50) from top to bottom.
    Camera fifty = c.withFocal(50);
    double shown = 2 * Math.atan(fifty.unitsPerPixel(H) * H / 2 / fifty.distance());
    assertThat(Math.toDegrees(shown)).isCloseTo(26.99, within(0.01));
  }

  private static double x(double[] m, double[] p) {
    double w = m[12] * p[0] + m[13] * p[1] + m[14] * p[2] + m[15];
    return (m[0] * p[0] + m[1] * p[1] + m[2] * p[2] + m[3]) / w;
  }

  @Test
  void looksFromWhereADirectionPoints() {
    Camera c = new Camera(new double[3], 2, 0.3, 0.1, true);
    Random r = new Random(2);
    for (int i = 0; i < 50; i++) {
      double[] d = Vec.unit(Vec.of(r.nextGaussian(), r.nextGaussian(), r.nextGaussian()));
      Camera from = c.lookingFrom(d, new double[] {1, 2, 3});
      assertThat(Vec.dot(from.forward(), d)).isCloseTo(-1, within(1e-12));
      assertThat(from.distance()).isEqualTo(2);
    }
    assertThat(c.lookingFrom(new double[] {0, 0, 1}, new double[3]).yaw()).isEqualTo(0.3);
  }

  /** A still picture in another light, on another ground, clipped: each changes what it should. */
  @Test
  void settingsChangeWhatTheyShould() {
    Mesh m = Meshes.ball(60);
    Renderer r = new Renderer();
    Camera c = Camera.showing(m.bounds(), Camera.Direction.FRONT, (double) W / H);
    int[] plain = r.draw(scene(m), c, W, H).pixels();
    int[] bright = r.draw(scene(m).with(Setting.PLAIN.withBrightness(1.6)), c, W, H).pixels();
    int middle = H / 2 * W + W / 2;
    assertThat(bright[middle] & 255).isGreaterThan(plain[middle] & 255);
    assertThat(bright[0]).isEqualTo(plain[0]);
    int[] dark =
        r.draw(scene(m).with(Setting.PLAIN.withBackground(Setting.Background.DARK)), c, W, H)
            .pixels();
    assertThat(dark[0] & 255).isLessThan(plain[0] & 255);
    assertThat(dark[middle]).isEqualTo(plain[middle]);
    // The near half is left out: the far half's inside is seen.
    double[] f = c.forward();
    double[] clip = {f[0], f[1], f[2], -Vec.dot(f, m.bounds().centre())};
    Renderer.Picture cut = r.draw(scene(m).with(Setting.PLAIN.withClip(clip)), c, W, H);
    int t = cut.buffer().triangle(W / 2, H / 2);
    assertThat(t).isNotNegative();
    double[] p = Vec.at(m.xyz(), m.triangles()[3 * t]);
    assertThat(Vec.dot(Vec.sub(p, m.bounds().centre()), f)).isPositive();
  }
}

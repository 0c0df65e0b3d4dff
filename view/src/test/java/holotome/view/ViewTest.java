package holotome.view;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.geometry.Box;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.task.Parallel;
import holotome.core.unit.RoundLength;
import holotome.view.buffer.VisibilityBuffer;
import holotome.view.camera.Camera;
import holotome.view.picking.Picking;
import holotome.view.scene.Look;
import holotome.view.scene.MeshLayer;
import holotome.view.scene.Scene;
import java.util.BitSet;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

class ViewTest {
  private static final int W = 240;
  private static final int H = 180;

  private static Scene scene(Mesh m, Look look) {
    return new Scene(m, Similarity.IDENTITY, look, null, null, false);
  }

  private static Camera askew(Mesh m) {
    return Camera.showing(m.bounds(), Camera.Direction.ASKEW, (double) W / H);
  }

  /** Every pixel against a ray through its centre: the same surface, at the same depth. */
  @ParameterizedTest
  @ValueSource(booleans = {true, false})
  void whatIsSeenIsWhatTheRayHits(boolean perspective) {
    Mesh m = Meshes.ball(20);
    Camera c = askew(m).withPerspective(perspective);
    Renderer.Picture p = new Renderer().draw(scene(m, Look.CLAY), c, W, H);
    BvhQuery q = new BvhQuery(Bvh.of(m));
    int differ = 0;
    int seen = 0;
    for (int y = 0; y < H; y++) {
      for (int x = 0; x < W; x++) {
        double[] r = c.ray(x + 0.5, y + 0.5, W, H);
        boolean hit =
            q.ray(
                (float) r[0],
                (float) r[1],
                (float) r[2],
                (float) r[3],
                (float) r[4],
                (float) r[5],
                0,
                Float.MAX_VALUE,
                BvhQuery.Facing.ANY);
        int t = p.buffer().triangle(x, y);
        seen += t >= 0 ? 1 : 0;
        if (t != (hit ? q.triangle : -1)) {
          differ++;
        } else if (hit) {
          double[] at = Picking.point(m, Similarity.IDENTITY, t, c, x + 0.5, y + 0.5, W, H);
          double[] o = {r[0], r[1], r[2]};
          assertThat(Vec.distance(at, o))
              .isCloseTo(q.distance * Vec.length(new double[] {r[3], r[4], r[5]}), within(1e-4));
        }
      }
    }
    assertThat(seen).isGreaterThan(W * H / 6);
    // Corners are rounded to a 256th of a pixel: a centre right on an edge may fall to either side.
    assertThat(differ).isLessThan(seen / 100);
  }

  @Test
  void closedBallHasNoPixelHolesHoweverFine() {
    for (int n : new int[] {6, 40, 300}) {
      Mesh m = Meshes.ball(n);
      Camera c = Camera.showing(m.bounds(), Camera.Direction.FRONT, 1).withPerspective(false);
      VisibilityBuffer b = new Renderer().draw(scene(m, Look.CLAY), c, 200, 200).buffer();
      double radius = 1 / c.unitsPerPixel(200) - 2;
      for (int y = 0; y < 200; y++) {
        for (int x = 0; x < 200; x++) {
          if (Math.hypot(x + 0.5 - 100, y + 0.5 - 100) < radius * Math.cos(Math.PI / n)) {
            assertThat(b.triangle(x, y)).as("pixel %d, %d of %d", x, y, n).isNotNegative();
          }
        }
      }
    }
  }

  @ParameterizedTest
  @EnumSource(Look.class)
  void oneThreadAndManyDrawTheSame(Look look) {
    Mesh m = Meshes.ball(120);
    Camera c = askew(m);
    int[] many = new Renderer().drawSmooth(scene(m, look), c, W, H).pixels().clone();
    Parallel.limitThreads(1);
    try {
      assertThat(new Renderer().drawSmooth(scene(m, look), c, W, H).pixels()).isEqualTo(many);
    } finally {
      Parallel.limitThreads(64);
    }
  }

  @Test
  void theOrderOfTrianglesDoesNotChangeThePicture() {
    Mesh m = Meshes.ball(30);
    int[] turned = m.triangles().clone();
    for (int i = 0, j = turned.length - 3; i < j; i += 3, j -= 3) {
      for (int k = 0; k < 3; k++) {
        int s = turned[i + k];
        turned[i + k] = turned[j + k];
        turned[j + k] = s;
      }
    }
    Camera c = askew(m);
    int[] a = new Renderer().draw(scene(m, Look.CLAY), c, W, H).pixels();
    int[] b = new Renderer().draw(scene(new Mesh(m.xyz(), turned), Look.CLAY), c, W, H).pixels();
    int differ = 0;
    for (int i = 0; i < a.length; i++) {
      differ += Math.abs((a[i] & 255) - (b[i] & 255)) > 2 ? 1 : 0;
    }
    assertThat(differ).isLessThan(a.length / 500);
  }

  @Test
  void frontAndBackAreTold() {
    Mesh m = Meshes.ball(24);
    int[] flipped = m.triangles().clone();
    for (int i = 0; i < flipped.length; i += 3) {
      int s = flipped[i];
      flipped[i] = flipped[i + 1];
      flipped[i + 1] = s;
    }
    Camera c = askew(m);
    int front = new Renderer().draw(scene(m, Look.FACING), c, W, H).pixels()[H / 2 * W + W / 2];
    int back =
        new Renderer()
            .draw(scene(new Mesh(m.xyz(), flipped), Look.FACING), c, W, H)
            .pixels()[H / 2 * W + W / 2];
    assertThat(front >> 8 & 255).isGreaterThan(front >> 16 & 255);
    assertThat(back >> 16 & 255).isGreaterThan(back >> 8 & 255);
  }

  @Test
  void coloursComeThroughFlat() {
    Mesh m = Meshes.ball(24);
    int[] colours = new int[m.vertexCount()];
    java.util.Arrays.fill(colours, 0xff336699);
    Mesh painted = new Mesh(m.xyz(), m.triangles(), colours);
    int[] px = new Renderer().draw(scene(painted, Look.FLAT_COLOUR), askew(m), W, H).pixels();
    assertThat(px[H / 2 * W + W / 2]).isEqualTo(0xff336699);
  }

  /** From inside the ball some triangles reach behind the eye; none may be missing for it. */
  @Test
  void trianglesThatReachBehindTheEyeAreDrawn() {
    float[] xyz = {-50, -50, -1, 50, -50, -1, 50, 50, -1, -50, 50, -1};
    Mesh floor = new Mesh(xyz, new int[] {0, 1, 2, 0, 2, 3});
    Camera c = new Camera(new double[] {0, 0, 0}, 0.5, 0.3, 0.2, true);
    Renderer.Picture p = new Renderer().draw(scene(floor, Look.CLAY), c, W, H);
    for (int x = 0; x < W; x++) {
      assertThat(p.buffer().triangle(x, H - 1)).isNotNegative();
      double[] at =
          Picking.point(
              floor, Similarity.IDENTITY, p.buffer().triangle(x, H - 1), c, x + 0.5, H - 0.5, W, H);
      assertThat(at[2]).isCloseTo(-1, within(1e-6));
    }
    assertThat(p.buffer().triangle(W / 2, 0)).isNegative();
  }

  @Test
  void farFromTheOriginThePictureIsTheSame() {
    Mesh m = Meshes.ball(40);
    Similarity away = Similarity.translation(new double[] {4e5, -7e6, 120});
    Box box = new MeshLayer(m, away, Look.CLAY).bounds();
    Camera near = askew(m);
    Camera far =
        new Camera(box.centre(), near.distance(), near.yaw(), near.pitch(), near.perspective());
    int[] a = new Renderer().draw(scene(m, Look.CLAY), near, W, H).pixels();
    int[] b =
        new Renderer().draw(new Scene(m, away, Look.CLAY, null, null, false), far, W, H).pixels();
    int differ = 0;
    for (int i = 0; i < a.length; i++) {
      differ += Math.abs((a[i] & 255) - (b[i] & 255)) > 6 ? 1 : 0;
    }
    assertThat(differ).isLessThan(a.length / 200);
  }

  @Test
  void visibleSelectionTakesTheNearSideOnly() {
    Mesh m = Meshes.ball(60);
    Camera c = Camera.showing(m.bounds(), Camera.Direction.FRONT, (double) W / H);
    Renderer.Picture p = new Renderer().draw(scene(m, Look.CLAY), c, W, H);
    double[] all = {0, 0, W, 0, W, H, 0, H};
    BitSet s = Picking.visible(m, Similarity.IDENTITY, p.buffer(), p.toPixels(), all, 1.5);
    double[] eye = c.eye();
    int nearMissed = 0;
    for (int t = 0; t < m.triangleCount(); t++) {
      double[] a = Vec.at(m.xyz(), m.triangles()[3 * t]);
      double[] b = Vec.at(m.xyz(), m.triangles()[3 * t + 1]);
      double[] d = Vec.at(m.xyz(), m.triangles()[3 * t + 2]);
      double[] mid = Vec.mul(Vec.add(a, Vec.add(b, d)), 1 / 3.0);
      double[] n = Vec.unit(Vec.cross(Vec.sub(b, a), Vec.sub(d, a)));
      double facing = Vec.dot(n, Vec.unit(Vec.sub(eye, mid)));
      if (s.get(t)) {
        assertThat(facing).as("triangle %d faces away", t).isGreaterThan(-0.02);
      } else if (facing > 0.1) {
        nearMissed++;
      }
    }
    assertThat(nearMissed).isZero();
  }

  @Test
  void turningKeepsThePivotWhereItIsSeen() {
    Random r = new Random(3);
    Box box = new Box(-1, -1, -1, 1, 1, 1);
    for (int i = 0; i < 50; i++) {
      Camera c =
          new Camera(new double[] {0.1, 0.2, 0.3}, 4, r.nextDouble() * 6, 0.4, r.nextBoolean());
      double[] pivot = {r.nextDouble() - 0.5, r.nextDouble() - 0.5, r.nextDouble() - 0.5};
      double[] before = pixel(c, pivot, box);
      double[] after = pixel(c.turned(0.3, -0.2, pivot), pivot, box);
      assertThat(after[0]).isCloseTo(before[0], within(1e-6));
      assertThat(after[1]).isCloseTo(before[1], within(1e-6));
      double[] nearer = pixel(c.closer(0.5, pivot), pivot, box);
      assertThat(nearer[0]).isCloseTo(before[0], within(1e-6));
      assertThat(nearer[1]).isCloseTo(before[1], within(1e-6));
    }
  }

  private static double[] pixel(Camera c, double[] p, Box box) {
    double[] m = c.toPixels(W, H, box);
    double w = m[12] * p[0] + m[13] * p[1] + m[14] * p[2] + m[15];
    return new double[] {
      (m[0] * p[0] + m[1] * p[1] + m[2] * p[2] + m[3]) / w,
      (m[4] * p[0] + m[5] * p[1] + m[6] * p[2] + m[7]) / w
    };
  }

  @Test
  void everythingFitsInThePicture() {
    Mesh m = Meshes.ball(30);
    for (Camera.Direction d : Camera.Direction.values()) {
      Camera c = Camera.showing(m.bounds(), d, (double) W / H);
      VisibilityBuffer b = new Renderer().draw(scene(m, Look.CLAY), c, W, H).buffer();
      for (int x = 0; x < W; x++) {
        assertThat(b.triangle(x, 0)).isNegative();
        assertThat(b.triangle(x, H - 1)).isNegative();
      }
      assertThat(b.triangle(W / 2, H / 2)).isNotNegative();
    }
  }

  @Test
  void roundLengthsAreOneTwoOrFive() {
    for (double x : new double[] {0.0031, 0.9, 1, 1.9, 2.1, 4.9, 7, 4321}) {
      double r = RoundLength.below(x);
      double lead = r / Math.pow(10, Math.floor(Math.log10(r) + 1e-9));
      assertThat(r).isLessThanOrEqualTo(x);
      assertThat(r).isGreaterThan(x / 2.51);
      assertThat(Math.rint(lead)).isIn(1.0, 2.0, 5.0);
      assertThat(lead).isCloseTo(Math.rint(lead), within(1e-6));
    }
  }
}

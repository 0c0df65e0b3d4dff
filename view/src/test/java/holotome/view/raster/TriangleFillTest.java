package holotome.view.raster;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.view.buffer.VisibilityBuffer;
import holotome.view.shading.ColourPainter;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Single triangles against the plain rule, pixel by pixel in whole numbers and doubles. */
class TriangleFillTest {
  private static final int W = 90;
  private static final int H = 70;

  private static VisibilityBuffer empty() {
    VisibilityBuffer b = new VisibilityBuffer(W, H);
    Arrays.fill(b.cells, VisibilityBuffer.EMPTY);
    return b;
  }

  /** Corners in 256ths of a pixel from the first pixel's centre. */
  private static long place(int x, int y) {
    return (long) x << 32 | y & 0xffffffffL;
  }

  private static int[] corners(Random r, int size) {
    int[] c = new int[6];
    int x = r.nextInt(W * 256 + 6000) - 3000;
    int y = r.nextInt(H * 256 + 6000) - 3000;
    for (int i = 0; i < 6; i += 2) {
      c[i] = x + r.nextInt(2 * size) - size;
      c[i + 1] = y + r.nextInt(2 * size) - size;
    }
    return c;
  }

  /** Twice the area to the left of a corner pair as seen from a pixel's centre. */
  private static long side(int[] c, int a, int b, long px, long py) {
    return (c[b] - c[a]) * (py - c[a + 1]) - (c[b + 1] - c[a + 1]) * (px - c[a]);
  }

  private static double[] weights(int[] c, int x, int y) {
    long px = x * 256L;
    long py = y * 256L;
    long all = side(c, 0, 2, c[4], c[5]);
    if (all == 0) {
      return null;
    }
    double[] w = new double[3];
    long u = side(c, 2, 4, px, py);
    long v = side(c, 4, 0, px, py);
    long z = side(c, 0, 2, px, py);
    boolean in = all > 0 ? u >= 0 && v >= 0 && z >= 0 : u <= 0 && v <= 0 && z <= 0;
    w[0] = (double) u / all;
    w[1] = (double) v / all;
    w[2] = (double) z / all;
    return in ? w : null;
  }

  @Test
  void pixelsWhoseCentresATriangleHoldsAreTaken() {
    Random r = new Random(1);
    int taken = 0;
    for (int round = 0; round < 1500; round++) {
      int[] c = corners(r, round % 3 == 0 ? 400 : round % 3 == 1 ? 3000 : 30_000);
      float[] z = {r.nextFloat(), r.nextFloat(), r.nextFloat()};
      VisibilityBuffer b = empty();
      new TriangleFill(b, null)
          .triangle(place(c[0], c[1]), place(c[2], c[3]), place(c[4], c[5]), z[0], z[1], z[2], 7);
      for (int y = 0; y < H; y++) {
        for (int x = 0; x < W; x++) {
          double[] w = weights(c, x, y);
          long cell = b.cells[y * W + x];
          assertThat(cell != VisibilityBuffer.EMPTY).isEqualTo(w != null);
          if (w != null) {
            taken++;
            assertThat((int) cell).isEqualTo(7);
            double depth = w[0] * z[0] + w[1] * z[1] + w[2] * z[2];
            assertThat(Math.abs(VisibilityBuffer.depth(cell) - depth)).isLessThan(1e-4);
          }
        }
      }
    }
    assertThat(taken).isGreaterThan(10_000);
  }

  @Test
  void colourIsTheMixOfTheCorners() {
    Random r = new Random(2);
    int taken = 0;
    for (int round = 0; round < 1500; round++) {
      // Small ones are computed another way than large ones.
      int[] c = corners(r, round % 2 == 0 ? 1500 : 12_000);
      int[] colour = {r.nextInt(1 << 24), r.nextInt(1 << 24), r.nextInt(1 << 24)};
      VisibilityBuffer b = empty();
      new TriangleFill(b, null)
          .painted(
              place(c[0], c[1]),
              place(c[2], c[3]),
              place(c[4], c[5]),
              0.2f,
              0.5f,
              0.7f,
              colour[0],
              colour[1],
              colour[2],
              ColourPainter.SELECTED);
      boolean tiny = extent(c, 0) + extent(c, 1) <= 2;
      for (int y = 0; y < H; y++) {
        for (int x = 0; x < W; x++) {
          double[] w = weights(c, x, y);
          long cell = b.cells[y * W + x];
          assertThat(cell != VisibilityBuffer.EMPTY).isEqualTo(w != null);
          if (w != null) {
            taken++;
            assertThat((int) cell & ColourPainter.SELECTED).isEqualTo(ColourPainter.SELECTED);
            for (int s = 0; s < 24; s += 8) {
              double want = 0;
              for (int k = 0; k < 3; k++) {
                // Of triangles of a pixel or two the mean is taken.
                want += (tiny ? 1 / 3.0 : w[k]) * (colour[k] >> s & 255);
              }
              assertThat((double) ((int) cell >> s & 255))
                  .as("%s", Arrays.toString(c))
                  .isBetween(want - 3.5, want + 3.5);
            }
          }
        }
      }
    }
    assertThat(taken).isGreaterThan(10_000);
  }

  /** From the first to the last pixel centre in a direction, within the buffer. */
  private static int extent(int[] c, int axis) {
    int least = Math.min(c[axis], Math.min(c[axis + 2], c[axis + 4]));
    int most = Math.max(c[axis], Math.max(c[axis + 2], c[axis + 4]));
    int end = (axis == 0 ? W : H) - 1;
    return Math.min(most >> 8, end) - (Math.max(least, 0) + 255 >> 8);
  }

  @Test
  void aFanLeavesNoPixelOut() {
    Random r = new Random(3);
    for (int round = 0; round < 200; round++) {
      VisibilityBuffer b = empty();
      TriangleFill f = new TriangleFill(b, null);
      int n = 5 + r.nextInt(20);
      long[] rim = new long[n];
      double turn = r.nextDouble();
      for (int i = 0; i < n; i++) {
        double a = 2 * Math.PI * (i + turn) / n;
        rim[i] =
            place(
                (int) (256 * (W / 2.0 + 30 * Math.cos(a))),
                (int) (256 * (H / 2.0 + 30 * Math.sin(a))));
      }
      long hub = place(256 * W / 2 + r.nextInt(2000) - 1000, 256 * H / 2 + r.nextInt(2000) - 1000);
      for (int i = 0; i < n; i++) {
        f.triangle(hub, rim[i], rim[(i + 1) % n], 0.5f, 0.5f, 0.5f, i);
      }
      double inner = 30 * Math.cos(Math.PI / n) - 1;
      for (int y = 0; y < H; y++) {
        for (int x = 0; x < W; x++) {
          if (Math.hypot(x - W / 2.0, y - H / 2.0) < inner) {
            assertThat(b.triangle(x, y)).isNotNegative();
          }
        }
      }
    }
  }

  @Test
  void theNearerIsSeenWhateverTheOrder() {
    long[] a = {place(1000, 1000), place(9000, 2000), place(3000, 9000)};
    long[] b = {place(500, 3000), place(10_000, 1500), place(6000, 12_000)};
    VisibilityBuffer one = empty();
    VisibilityBuffer other = empty();
    TriangleFill f = new TriangleFill(one, null);
    f.triangle(a[0], a[1], a[2], 0.2f, 0.9f, 0.4f, 1);
    f.triangle(b[0], b[1], b[2], 0.5f, 0.3f, 0.6f, 2);
    f = new TriangleFill(other, null);
    f.triangle(b[0], b[1], b[2], 0.5f, 0.3f, 0.6f, 2);
    f.triangle(a[0], a[1], a[2], 0.2f, 0.9f, 0.4f, 1);
    assertThat(other.cells).isEqualTo(one.cells);
    assertThat(Arrays.stream(one.cells).mapToInt(c -> (int) c).distinct().count()).isEqualTo(3);
  }
}

package holotome.view;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Placing;
import holotome.core.mesh.Similarity;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.Arrays;
import java.util.concurrent.atomic.AtomicInteger;

/**
 * Draws the triangles of a mesh into a visibility buffer, on all cores: each takes stretches of
 * triangles and draws them into a buffer of its own; the buffers are then merged by the nearest.
 * The result does not depend on how many there are.
 *
 * <p>A pixel belongs to the triangles that hold its centre. Triangles that reach behind the eye are
 * left out. Keeps its working arrays between pictures: 16 bytes per vertex, 8 per pixel and core.
 */
final class Rasteriser {
  private static final int VERTEX_GRAIN = 1 << 14;
  private static final int TRIANGLE_GRAIN = 1 << 14;

  private float[] screen = new float[0];
  private long[][] layers = new long[0][];

  /** Screen x, y, depth and 1/w per vertex, 4 floats each; NaN x where it lies behind the eye. */
  float[] screen() {
    return screen;
  }

  void draw(Mesh mesh, Similarity place, double[] toPixels, VisibilityBuffer out) {
    transform(mesh, multiply(toPixels, place));
    int threads = Parallel.threads();
    if (layers.length < threads || layers[0].length != out.cells.length) {
      layers = new long[threads][];
      for (int i = 1; i < threads; i++) {
        layers[i] = new long[out.cells.length];
      }
    }
    layers[0] = out.cells;
    AtomicInteger next = new AtomicInteger();
    int chunks = Parallel.chunks(mesh.triangleCount(), TRIANGLE_GRAIN);
    int[] tri = mesh.triangles();
    boolean[] drawn = new boolean[threads];
    Parallel.range(
        threads,
        1,
        Work.unwatched(),
        (from, to) -> {
          for (int layer = from; layer < to; layer++) {
            int c = next.getAndIncrement();
            if (c >= chunks && layer > 0) {
              continue;
            }
            drawn[layer] = true;
            long[] cells = layers[layer];
            Arrays.fill(cells, VisibilityBuffer.EMPTY);
            for (; c < chunks; c = next.getAndIncrement()) {
              int end = Math.min(mesh.triangleCount(), (c + 1) * TRIANGLE_GRAIN);
              drawRange(tri, c * TRIANGLE_GRAIN, end, cells, out.width(), out.height());
            }
          }
        });
    if (!drawn[0]) {
      Arrays.fill(out.cells, VisibilityBuffer.EMPTY);
    }
    for (int layer = 1; layer < threads; layer++) {
      if (drawn[layer]) {
        merge(out.cells, layers[layer]);
      }
    }
  }

  private static void merge(long[] into, long[] from) {
    Parallel.range(
        into.length,
        1 << 15,
        Work.unwatched(),
        (a, b) -> {
          for (int i = a; i < b; i++) {
            into[i] = Math.min(into[i], from[i]);
          }
        });
  }

  static double[] multiply(double[] toPixels, Similarity place) {
    double[] p = Placing.matrix(place);
    double[] m = new double[16];
    for (int i = 0; i < 4; i++) {
      for (int j = 0; j < 4; j++) {
        double s = j == 3 ? toPixels[4 * i + 3] : 0;
        for (int k = 0; k < 3; k++) {
          s += toPixels[4 * i + k] * p[4 * k + j];
        }
        m[4 * i + j] = s;
      }
    }
    return m;
  }

  private void transform(Mesh mesh, double[] matrix) {
    int n = mesh.vertexCount();
    if (screen.length < 4 * n) {
      screen = new float[4 * n];
    }
    float[] p = mesh.xyz();
    float[] s = screen;
    // Taken about the first vertex, floats do: what stands far off is folded into the last column.
    double ox = n == 0 ? 0 : p[0];
    double oy = n == 0 ? 0 : p[1];
    double oz = n == 0 ? 0 : p[2];
    float[] m = new float[16];
    for (int i = 0; i < 4; i++) {
      for (int k = 0; k < 3; k++) {
        m[4 * i + k] = (float) matrix[4 * i + k];
      }
      m[4 * i + 3] =
          (float)
              (matrix[4 * i] * ox
                  + matrix[4 * i + 1] * oy
                  + matrix[4 * i + 2] * oz
                  + matrix[4 * i + 3]);
    }
    float fx = (float) ox;
    float fy = (float) oy;
    float fz = (float) oz;
    Parallel.range(
        n,
        VERTEX_GRAIN,
        Work.unwatched(),
        (from, to) -> {
          for (int v = from; v < to; v++) {
            float x = p[3 * v] - fx;
            float y = p[3 * v + 1] - fy;
            float z = p[3 * v + 2] - fz;
            float w = m[12] * x + m[13] * y + m[14] * z + m[15];
            float inv = w > 1e-12f ? 1 / w : Float.NaN;
            s[4 * v] = (m[0] * x + m[1] * y + m[2] * z + m[3]) * inv;
            s[4 * v + 1] = (m[4] * x + m[5] * y + m[6] * z + m[7]) * inv;
            s[4 * v + 2] = (m[8] * x + m[9] * y + m[10] * z + m[11]) * inv;
            s[4 * v + 3] = inv;
          }
        });
  }

  private void drawRange(int[] tri, int from, int to, long[] cells, int width, int height) {
    float[] s = screen;
    float right = width - 0.5f;
    float bottom = height - 0.5f;
    for (int t = from; t < to; t++) {
      int a = 4 * tri[3 * t];
      int b = 4 * tri[3 * t + 1];
      int c = 4 * tri[3 * t + 2];
      float ax = s[a] - 0.5f;
      float ay = s[a + 1] - 0.5f;
      float bx = s[b] - 0.5f;
      float by = s[b + 1] - 0.5f;
      float cx = s[c] - 0.5f;
      float cy = s[c + 1] - 0.5f;
      float minX = ax < bx ? (ax < cx ? ax : cx) : (bx < cx ? bx : cx);
      float maxX = ax > bx ? (ax > cx ? ax : cx) : (bx > cx ? bx : cx);
      float minY = ay < by ? (ay < cy ? ay : cy) : (by < cy ? by : cy);
      float maxY = ay > by ? (ay > cy ? ay : cy) : (by > cy ? by : cy);
      // Also false where a corner lies behind the eye, whose place is NaN.
      if (!(maxX >= 0 && minX < right && maxY >= 0 && minY < bottom)) {
        continue;
      }
      int x0 = minX <= 0 ? 0 : (int) minX == minX ? (int) minX : (int) minX + 1;
      int y0 = minY <= 0 ? 0 : (int) minY == minY ? (int) minY : (int) minY + 1;
      int x1 = maxX >= width - 1 ? width - 1 : (int) maxX;
      int y1 = maxY >= height - 1 ? height - 1 : (int) maxY;
      if (x0 > x1 || y0 > y1) {
        continue;
      }
      float det = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
      if (!(det != 0)) {
        continue;
      }
      float inv = 1 / det;
      float ux = (cy - ay) * inv;
      float uy = (ax - cx) * inv;
      float vx = (ay - by) * inv;
      float vy = (bx - ax) * inv;
      float az = s[a + 2];
      float dz1 = s[b + 2] - az;
      float dz2 = s[c + 2] - az;
      for (int y = y0; y <= y1; y++) {
        float dy = y - ay;
        int row = y * width;
        for (int x = x0; x <= x1; x++) {
          float dx = x - ax;
          float u = dx * ux + dy * uy;
          float v = dx * vx + dy * vy;
          if (u >= 0 && v >= 0 && u + v <= 1) {
            float z = az + u * dz1 + v * dz2;
            if (z >= 0 && z <= 1) {
              long cell = (long) Float.floatToRawIntBits(z + 0f) << 32 | t;
              if (cell < cells[row + x]) {
                cells[row + x] = cell;
              }
            }
          }
        }
      }
    }
  }
}

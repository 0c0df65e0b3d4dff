package holotome.view;

import holotome.core.mesh.Box;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.Arrays;
import java.util.concurrent.atomic.AtomicInteger;

/**
 * Draws the triangles of a mesh into a visibility buffer, on all cores: each takes stretches of
 * triangles and draws them into a buffer of its own; the buffers are then merged by the nearest.
 * The result does not depend on how many there are.
 *
 * <p>A pixel belongs to the triangles that hold its centre, borders included. Corners are rounded
 * to a 256th of a pixel and edges are then exact in whole numbers, so that no pixel is lost between
 * neighbours. Triangles that reach behind the eye are left to {@link ClippedTriangle}. Keeps its
 * working arrays between pictures: 8 bytes per vertex, 8 per pixel and core.
 */
final class Rasteriser {
  private static final int VERTEX_GRAIN = 1 << 14;
  private static final int TRIANGLE_GRAIN = 1 << 14;
  private static final int BITS = 8;
  private static final int ONE = 1 << BITS;

  /** Places farther off than this, in 256ths of a pixel, and those behind the eye, are not kept. */
  private static final float FAR = 1 << 29;

  private static final long NOWHERE = (long) Integer.MIN_VALUE << 32;

  /** Per vertex its place in 256ths of a pixel from the first pixel's centre: x high, y low. */
  private long[] places = new long[0];

  private long[][] layers = new long[0][];

  void draw(Mesh mesh, Projection projection, VisibilityBuffer out, Work work) {
    project(mesh, projection, work);
    bound(mesh, projection, out);
    int first = out.y0 * out.width();
    int last = out.y1 * out.width();
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
    boolean[] drawn = new boolean[threads];
    Parallel.range(
        threads,
        1,
        work,
        (from, to) -> {
          for (int layer = from; layer < to; layer++) {
            int c = next.getAndIncrement();
            if (c >= chunks && layer > 0) {
              continue;
            }
            drawn[layer] = true;
            long[] cells = layers[layer];
            if (layer == 0) {
              Arrays.fill(cells, VisibilityBuffer.EMPTY);
            } else {
              Arrays.fill(cells, first, last, VisibilityBuffer.EMPTY);
            }
            for (; c < chunks; c = next.getAndIncrement()) {
              work.check();
              int end = Math.min(mesh.triangleCount(), (c + 1) * TRIANGLE_GRAIN);
              drawRange(
                  mesh, projection, c * TRIANGLE_GRAIN, end, cells, out.width(), out.height());
            }
          }
        });
    if (!drawn[0]) {
      Arrays.fill(out.cells, VisibilityBuffer.EMPTY);
    }
    for (int layer = 1; layer < threads; layer++) {
      if (drawn[layer]) {
        merge(out.cells, layers[layer], first, last);
      }
    }
  }

  private static void merge(long[] into, long[] from, int first, int end) {
    Parallel.range(
        end - first,
        1 << 15,
        Work.unwatched(),
        (a, b) -> {
          for (int i = first + a; i < first + b; i++) {
            into[i] = Math.min(into[i], from[i]);
          }
        });
  }

  /** Notes in the buffer which part of it the mesh's box can reach; all of it if behind the eye. */
  private static void bound(Mesh mesh, Projection projection, VisibilityBuffer out) {
    Box b = mesh.bounds();
    float[] corner = new float[3];
    float[] p = new float[4];
    double[] reach = {out.width(), out.height(), 0, 0};
    for (int i = 0; i < 8 && !b.isEmpty(); i++) {
      corner[0] = (float) ((i & 1) == 0 ? b.minX() : b.maxX());
      corner[1] = (float) ((i & 2) == 0 ? b.minY() : b.maxY());
      corner[2] = (float) ((i & 4) == 0 ? b.minZ() : b.maxZ());
      projection.apply(corner, 0, p, 0);
      if (!(p[3] > 1e-12f)) {
        reach = new double[] {0, 0, out.width(), out.height()};
        break;
      }
      reach[0] = Math.min(reach[0], p[0] / p[3] - 2);
      reach[1] = Math.min(reach[1], p[1] / p[3] - 2);
      reach[2] = Math.max(reach[2], p[0] / p[3] + 2);
      reach[3] = Math.max(reach[3], p[1] / p[3] + 2);
    }
    out.x0 = Math.clamp((long) reach[0], 0, out.width());
    out.y0 = Math.clamp((long) reach[1], 0, out.height());
    out.x1 = Math.clamp((long) reach[2], out.x0, out.width());
    out.y1 = Math.clamp((long) reach[3], out.y0, out.height());
  }

  private void project(Mesh mesh, Projection projection, Work work) {
    int n = mesh.vertexCount();
    if (places.length < n) {
      places = new long[n];
    }
    float[] p = mesh.xyz();
    long[] out = places;
    float[] m = projection.m();
    float ox = projection.originX();
    float oy = projection.originY();
    float oz = projection.originZ();
    Parallel.range(
        n,
        VERTEX_GRAIN,
        work,
        (from, to) -> {
          for (int v = from; v < to; v++) {
            float x = p[3 * v] - ox;
            float y = p[3 * v + 1] - oy;
            float z = p[3 * v + 2] - oz;
            float w = m[12] * x + m[13] * y + m[14] * z + m[15];
            float k = ONE / w;
            float sx = (m[0] * x + m[1] * y + m[2] * z + m[3]) * k - ONE / 2;
            float sy = (m[4] * x + m[5] * y + m[6] * z + m[7]) * k - ONE / 2;
            boolean near = w > 1e-12f && Math.abs(sx) < FAR && Math.abs(sy) < FAR;
            out[v] = near ? (long) (int) sx << 32 | (int) sy & 0xffffffffL : NOWHERE;
          }
        });
  }

  private void drawRange(
      Mesh mesh, Projection projection, int from, int to, long[] cells, int width, int height) {
    int[] tri = mesh.triangles();
    float[] clip = new float[12];
    int right = (width - 1) << BITS;
    int bottom = (height - 1) << BITS;
    for (int t = from; t < to; t++) {
      long a = places[tri[3 * t]];
      long b = places[tri[3 * t + 1]];
      long c = places[tri[3 * t + 2]];
      int ax = (int) (a >> 32);
      int bx = (int) (b >> 32);
      int cx = (int) (c >> 32);
      int ay = (int) a;
      int by = (int) b;
      int cy = (int) c;
      int minX = Math.min(ax, Math.min(bx, cx));
      int maxX = Math.max(ax, Math.max(bx, cx));
      int minY = Math.min(ay, Math.min(by, cy));
      int maxY = Math.max(ay, Math.max(by, cy));
      if (minX == Integer.MIN_VALUE) {
        ClippedTriangle.draw(mesh, t, projection, cells, width, height);
        continue;
      }
      int x0 = Math.max(minX, 0) + ONE - 1 >> BITS;
      int y0 = Math.max(minY, 0) + ONE - 1 >> BITS;
      int x1 = Math.min(maxX, right) >> BITS;
      int y1 = Math.min(maxY, bottom) >> BITS;
      // Most triangles of a dense mesh hold no pixel's centre and end here.
      if (x0 > x1 || y0 > y1) {
        continue;
      }
      long det = (long) (bx - ax) * (cy - ay) - (long) (cx - ax) * (by - ay);
      if (det == 0) {
        continue;
      }
      int sign = det > 0 ? 1 : -1;
      long ux = (long) sign * (cy - ay);
      long uy = (long) sign * (ax - cx);
      long vx = (long) sign * (ay - by);
      long vy = (long) sign * (bx - ax);
      long area = Math.abs(det);
      boolean planar = false;
      float az = 0;
      float dz1 = 0;
      float dz2 = 0;
      long u0 = ((x0 << BITS) - ax) * ux + ((y0 << BITS) - ay) * uy;
      long v0 = ((x0 << BITS) - ax) * vx + ((y0 << BITS) - ay) * vy;
      for (int y = y0; y <= y1; y++) {
        long u = u0;
        long v = v0;
        int end = y * width + x1;
        for (int i = y * width + x0; i <= end; i++) {
          if ((u | v | area - u - v) >= 0) {
            if (!planar) {
              // Only now: of small triangles many hold no centre after all.
              planar = true;
              for (int k = 0; k < 3; k++) {
                projection.apply(mesh.xyz(), tri[3 * t + k], clip, 4 * k);
              }
              az = clip[2] / clip[3];
              dz1 = (clip[6] / clip[7] - az) / area;
              dz2 = (clip[10] / clip[11] - az) / area;
            }
            float z = az + u * dz1 + v * dz2;
            if (z >= 0 && z <= 1) {
              long cell = VisibilityBuffer.cell(z, t);
              if (cell < cells[i]) {
                cells[i] = cell;
              }
            }
          }
          u += ux << BITS;
          v += vx << BITS;
        }
        u0 += uy << BITS;
        v0 += vy << BITS;
      }
    }
  }
}

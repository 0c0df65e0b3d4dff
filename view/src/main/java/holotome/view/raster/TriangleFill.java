package holotome.view.raster;

import holotome.view.buffer.VisibilityBuffer;
import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;

/**
 * Writes single triangles into a visibility buffer. Several threads may write into one buffer: each
 * pixel keeps the least of what it is offered, so the order does not matter.
 *
 * <p>A pixel belongs to the triangles that hold its centre, borders included. Corners come rounded
 * to a 256th of a pixel and edges are then exact in whole numbers, so that no pixel is lost between
 * neighbours.
 */
public final class TriangleFill {
  static final int BITS = 8;
  static final int ONE = 1 << BITS;

  /** Places farther off than this, in 256ths of a pixel, and those behind the eye, are not kept. */
  static final float FAR = 1 << 29;

  public static final long NOWHERE = (long) Integer.MIN_VALUE << 32;

  /** Triangles of so many pixels in width and height are computed in 32 bits. */
  private static final int SMALL = 32;

  private static final VarHandle CELLS = MethodHandles.arrayElementVarHandle(long[].class);

  private final long[] cells;
  private final int width;
  private final int height;
  private final int right;
  private final int bottom;

  /** What is kept: a x + b y + c depth + d of at least zero, in pixels; null for all. */
  private final double[] clip;

  public TriangleFill(VisibilityBuffer buffer, double[] clip) {
    this.cells = buffer.cells;
    this.width = buffer.width();
    this.height = buffer.height();
    this.right = width - 1 << BITS;
    this.bottom = height - 1 << BITS;
    this.clip = clip;
  }

  /** A place in 256ths of a pixel from the first pixel's centre, x high, y low; or NOWHERE. */
  static long place(float x, float y, float w, float inverse) {
    float k = ONE * inverse;
    float sx = x * k - ONE / 2;
    float sy = y * k - ONE / 2;
    boolean near = w > 1e-12f && Math.abs(sx) < FAR && Math.abs(sy) < FAR;
    return near ? (long) (int) sx << 32 | (int) sy & 0xffffffffL : NOWHERE;
  }

  /**
   * 1 where the triangle's box holds the centre of a pixel, or a corner has no place; else 0: most
   * triangles of a dense mesh hold none.
   */
  public int reaches(long a, long b, long c) {
    int ax = (int) (a >> 32);
    int bx = (int) (b >> 32);
    int cx = (int) (c >> 32);
    int ay = (int) a;
    int by = (int) b;
    int cy = (int) c;
    int least = Math.min(ax, Math.min(bx, cx));
    int x0 = Math.max(least, 0) + ONE - 1 >> BITS;
    int x1 = Math.min(Math.max(ax, Math.max(bx, cx)), right) >> BITS;
    int y0 = Math.max(Math.min(ay, Math.min(by, cy)), 0) + ONE - 1 >> BITS;
    int y1 = Math.min(Math.max(ay, Math.max(by, cy)), bottom) >> BITS;
    // By signs alone: nothing to be foreseen wrongly. No place is the least number there is.
    return (x1 - x0 | y1 - y0) >>> 31 ^ 1 | isNowhere(least);
  }

  private static int isNowhere(int x) {
    return x == Integer.MIN_VALUE ? 1 : 0;
  }

  /** Whether the front of a triangle is seen: y runs down. */
  public static boolean isFront(long a, long b, long c) {
    long bx = (int) (b >> 32) - (int) (a >> 32);
    long by = (int) b - (int) a;
    long cx = (int) (c >> 32) - (int) (a >> 32);
    long cy = (int) c - (int) a;
    return bx * cy - cx * by < 0;
  }

  /**
   * Draws a triangle all of whose corners have places.
   *
   * @param az its depth at the first corner, and so on
   */
  void triangle(long a, long b, long c, float az, float bz, float cz, int number) {
    int ax = (int) (a >> 32);
    int bx = (int) (b >> 32);
    int cx = (int) (c >> 32);
    int ay = (int) a;
    int by = (int) b;
    int cy = (int) c;
    long det = (long) (bx - ax) * (cy - ay) - (long) (cx - ax) * (by - ay);
    if (det == 0) {
      return;
    }
    int x0 = Math.max(Math.min(ax, Math.min(bx, cx)), 0) + ONE - 1 >> BITS;
    int x1 = Math.min(Math.max(ax, Math.max(bx, cx)), right) >> BITS;
    int y0 = Math.max(Math.min(ay, Math.min(by, cy)), 0) + ONE - 1 >> BITS;
    int y1 = Math.min(Math.max(ay, Math.max(by, cy)), bottom) >> BITS;
    int sign = det > 0 ? 1 : -1;
    long ux = (long) sign * (cy - ay);
    long uy = (long) sign * (ax - cx);
    long vx = (long) sign * (ay - by);
    long vy = (long) sign * (bx - ax);
    long area = Math.abs(det);
    float dz1 = (bz - az) / area;
    float dz2 = (cz - az) / area;
    long u0 = ((x0 << BITS) - ax) * ux + ((y0 << BITS) - ay) * uy;
    long v0 = ((x0 << BITS) - ax) * vx + ((y0 << BITS) - ay) * vy;
    for (int y = y0; y <= y1; y++) {
      long u = u0;
      long v = v0;
      int end = y * width + x1;
      for (int i = y * width + x0; i <= end; i++) {
        if ((u | v | area - u - v) >= 0) {
          put(i, az + u * dz1 + v * dz2, number);
        }
        u += ux << BITS;
        v += vx << BITS;
      }
      u0 += uy << BITS;
      v0 += vy << BITS;
    }
  }

  /** Marks the pixel that holds a place, and its right and lower neighbours. */
  void dot(long place, float z, int number) {
    int x = (int) (place >> 32) + ONE / 2 >> BITS;
    int y = (int) place + ONE / 2 >> BITS;
    for (int j = y; j <= y + 1; j++) {
      for (int i = x; i <= x + 1; i++) {
        if (i >= 0 && j >= 0 && i < width && j < height) {
          put(j * width + i, z, number);
        }
      }
    }
  }

  private void put(int i, float z, int number) {
    if (!(z >= 0 && z <= 1) || clip != null && isClipped(i, z)) {
      return;
    }
    long cell = VisibilityBuffer.cell(z, number);
    long seen = cells[i];
    while (cell < seen && !CELLS.compareAndSet(cells, i, seen, cell)) {
      seen = (long) CELLS.getVolatile(cells, i);
    }
  }

  private boolean isClipped(int i, float z) {
    return clip[0] * (i % width + 0.5) + clip[1] * (i / width + 0.5) + clip[2] * z + clip[3] < 0;
  }

  /**
   * Draws a triangle as {@link #triangle} does, with a colour in place of a number: the mix of
   * those of its corners.
   *
   * @param flags or-ed into the colour
   */
  public void painted(
      long a, long b, long c, float az, float bz, float cz, int ac, int bc, int cc, int flags) {
    int ax = (int) (a >> 32);
    int bx = (int) (b >> 32);
    int cx = (int) (c >> 32);
    int ay = (int) a;
    int by = (int) b;
    int cy = (int) c;
    long det = (long) (bx - ax) * (cy - ay) - (long) (cx - ax) * (by - ay);
    if (det == 0) {
      return;
    }
    int x0 = Math.max(Math.min(ax, Math.min(bx, cx)), 0) + ONE - 1 >> BITS;
    int x1 = Math.min(Math.max(ax, Math.max(bx, cx)), right) >> BITS;
    int y0 = Math.max(Math.min(ay, Math.min(by, cy)), 0) + ONE - 1 >> BITS;
    int y1 = Math.min(Math.max(ay, Math.max(by, cy)), bottom) >> BITS;
    int sign = det > 0 ? 1 : -1;
    if (x1 - x0 < SMALL && y1 - y0 < SMALL && Math.abs(det) < 1 << 28) {
      paintSmall(
          x0,
          y0,
          x1,
          y1,
          (x0 << BITS) - ax,
          (y0 << BITS) - ay,
          sign * (cy - ay),
          sign * (ax - cx),
          sign * (ay - by),
          sign * (bx - ax),
          (int) Math.abs(det),
          az,
          bz - az,
          cz - az,
          ac,
          bc,
          cc,
          flags);
      return;
    }
    long ux = (long) sign * (cy - ay);
    long uy = (long) sign * (ax - cx);
    long vx = (long) sign * (ay - by);
    long vy = (long) sign * (bx - ax);
    long area = Math.abs(det);
    float inv = 1f / area;
    for (int y = y0; y <= y1; y++) {
      long u = ((x0 << BITS) - ax) * ux + ((y << BITS) - ay) * uy;
      long v = ((x0 << BITS) - ax) * vx + ((y << BITS) - ay) * vy;
      int end = y * width + x1;
      for (int i = y * width + x0; i <= end; i++) {
        if ((u | v | area - u - v) >= 0) {
          float p = u * inv;
          float q = v * inv;
          float z = az + p * (bz - az) + q * (cz - az);
          if (VisibilityBuffer.cell(z, 0) < cells[i]) {
            put(i, z, mixed(ac, bc, cc, p, q) | flags);
          }
        }
        u += ux << BITS;
        v += vx << BITS;
      }
    }
  }

  /** The same for a triangle of few pixels, in numbers of 32 bits. */
  private void paintSmall(
      int x0,
      int y0,
      int x1,
      int y1,
      int dx,
      int dy,
      int ux,
      int uy,
      int vx,
      int vy,
      int area,
      float az,
      float bz,
      float cz,
      int ac,
      int bc,
      int cc,
      int flags) {
    int u0 = dx * ux + dy * uy;
    int v0 = dx * vx + dy * vy;
    float inv = 0;
    int flat = 0;
    boolean tiny = x1 - x0 + y1 - y0 <= 2;
    for (int y = y0; y <= y1; y++) {
      int u = u0;
      int v = v0;
      int end = y * width + x1;
      for (int i = y * width + x0; i <= end; i++) {
        if ((u | v | area - u - v) >= 0) {
          if (inv == 0) {
            // Only now: of small triangles most hold no centre after all.
            inv = 1f / area;
            flat = tiny ? third(ac, bc, cc) | flags : 0;
          }
          float p = u * inv;
          float q = v * inv;
          float z = az + p * bz + q * cz;
          if (VisibilityBuffer.cell(z, 0) < cells[i]) {
            put(i, z, tiny ? flat : mixed(ac, bc, cc, p, q) | flags);
          }
        }
        u += ux << BITS;
        v += vx << BITS;
      }
      u0 += uy << BITS;
      v0 += vy << BITS;
    }
  }

  /** A mix of three colours by the weights of the last two, without alpha; two parts at a time. */
  private static int mixed(int a, int b, int c, float p, float q) {
    int wb = (int) (p * 256);
    int wc = (int) (q * 256);
    int wa = 256 - wb - wc;
    int even = (a & 0xff00ff) * wa + (b & 0xff00ff) * wb + (c & 0xff00ff) * wc;
    int green = (a & 0xff00) * wa + (b & 0xff00) * wb + (c & 0xff00) * wc;
    return even >>> 8 & 0xff00ff | green >>> 8 & 0xff00;
  }

  /** The mean of three colours, without alpha. */
  private static int third(int a, int b, int c) {
    int even = (a & 0xff00ff) + (b & 0xff00ff) + (c & 0xff00ff);
    int red = (even >>> 16) * 85 >> 8;
    int blue = (even & 0xffff) * 85 >> 8;
    int green = ((a & 0xff00) + (b & 0xff00) + (c & 0xff00) >> 8) * 85 >> 8;
    return red << 16 | green << 8 | blue;
  }

  /**
   * Draws a triangle that reaches behind the eye or very far to the side, by edge functions in
   * homogeneous coordinates (Olano and Greer, "Triangle scan conversion using 2D homogeneous
   * coordinates", 1997), which hold whatever the signs of w.
   *
   * @param corner x, y, depth and w of each corner, 12 floats
   */
  public void reaching(float[] corner, int number) {
    int[] box = ClippedTriangle.box(corner, width, height);
    if (box == null) {
      return;
    }
    for (int y = box[1]; y <= box[3]; y++) {
      for (int x = box[0]; x <= box[2]; x++) {
        float z = ClippedTriangle.depth(corner, x + 0.5, y + 0.5);
        if (z >= 0) {
          put(y * width + x, z, number);
        }
      }
    }
  }
}

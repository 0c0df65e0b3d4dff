package holotome.core.spatial;

/**
 * Asks a {@link Bvh} for ray hits and closest points. One query object per thread: it holds the
 * stack and the last answer.
 *
 * <p>Rays are tested by Möller and Trumbore's method ("Fast, minimum storage ray/triangle
 * intersection", 1997) with a hair's overlap at the edges, so that no ray slips between two
 * neighbours. Closest points follow Ericson, "Real-Time Collision Detection" (2005), section 5.1.5.
 */
public final class BvhQuery {
  private static final float OVERLAP = 1e-6f;

  private final Bvh bvh;
  private final int[] stack = new int[192];
  private final float[] near = new float[192];
  private final TrianglePoint point = new TrianglePoint();

  /** The triangle of the last answer, in the numbering of the mesh; -1 for none. */
  public int triangle = -1;

  /** The weights of the second and third corner at the last answer. */
  public float u;

  public float v;

  /** Along the ray, in lengths of its direction; or the distance to the closest point. */
  public float distance;

  public BvhQuery(Bvh bvh) {
    this.bvh = bvh;
  }

  /** Which hits count, by whether the ray meets the front (outside) of the triangle. */
  public enum Facing {
    ANY,
    FRONT,
    BACK
  }

  /**
   * The first hit between {@code from} and {@code to} along the ray. Fills the answer and returns
   * whether there is one.
   */
  public boolean ray(
      float ox,
      float oy,
      float oz,
      float dx,
      float dy,
      float dz,
      float from,
      float to,
      Facing facing) {
    triangle = -1;
    distance = to;
    if (bvh.ids.length == 0) {
      return false;
    }
    float ix = 1 / (Math.abs(dx) < 1e-30f ? Math.copySign(1e-30f, dx) : dx);
    float iy = 1 / (Math.abs(dy) < 1e-30f ? Math.copySign(1e-30f, dy) : dy);
    float iz = 1 / (Math.abs(dz) < 1e-30f ? Math.copySign(1e-30f, dz) : dz);
    float tx = -ox * ix;
    float ty = -oy * iy;
    float tz = -oz * iz;
    int nx = ix < 0 ? 3 : 0;
    int ny = iy < 0 ? 4 : 1;
    int nz = iz < 0 ? 5 : 2;
    int fx = 3 - nx;
    int fy = 5 - ny;
    int fz = 7 - nz;
    float[] boxes = bvh.boxes;
    int[] children = bvh.children;
    int top = 0;
    int ref = bvh.root;
    while (true) {
      if (ref < 0) {
        int leaf = ~ref;
        int first = leaf >>> 3;
        int end = first + (leaf & 7) + 1;
        for (int i = first; i < end; i++) {
          hit(i, ox, oy, oz, dx, dy, dz, from, facing);
        }
        ref = -1;
      } else {
        int b = 12 * ref;
        float x0 = boxes[b + nx] * ix + tx;
        float y0 = boxes[b + ny] * iy + ty;
        float z0 = boxes[b + nz] * iz + tz;
        float x1 = boxes[b + fx] * ix + tx;
        float y1 = boxes[b + fy] * iy + ty;
        float z1 = boxes[b + fz] * iz + tz;
        float near0 = max(max(x0, y0), max(z0, from));
        float far0 = min(min(x1, y1), min(z1, distance)) * 1.000001f;
        b += 6;
        x0 = boxes[b + nx] * ix + tx;
        y0 = boxes[b + ny] * iy + ty;
        z0 = boxes[b + nz] * iz + tz;
        x1 = boxes[b + fx] * ix + tx;
        y1 = boxes[b + fy] * iy + ty;
        z1 = boxes[b + fz] * iz + tz;
        float near1 = max(max(x0, y0), max(z0, from));
        float far1 = min(min(x1, y1), min(z1, distance)) * 1.000001f;
        boolean in0 = near0 <= far0;
        boolean in1 = near1 <= far1;
        int a = children[2 * ref];
        int c = children[2 * ref + 1];
        if (in0 && in1) {
          if (near0 <= near1) {
            stack[top] = c;
            near[top++] = near1;
            ref = a;
          } else {
            stack[top] = a;
            near[top++] = near0;
            ref = c;
          }
          continue;
        } else if (in0) {
          ref = a;
          continue;
        } else if (in1) {
          ref = c;
          continue;
        }
      }
      do {
        if (top == 0) {
          return triangle >= 0;
        }
        ref = stack[--top];
      } while (near[top] > distance);
    }
  }

  // Ordered comparisons compile to one instruction each; Math.min also orders NaN and signed zero.
  private static float min(float a, float b) {
    return a < b ? a : b;
  }

  private static float max(float a, float b) {
    return a > b ? a : b;
  }

  private void hit(
      int i,
      float ox,
      float oy,
      float oz,
      float dx,
      float dy,
      float dz,
      float from,
      Facing facing) {
    float[] p = bvh.corners;
    int o = 9 * i;
    float ax = p[o];
    float ay = p[o + 1];
    float az = p[o + 2];
    float ux = p[o + 3] - ax;
    float uy = p[o + 4] - ay;
    float uz = p[o + 5] - az;
    float vx = p[o + 6] - ax;
    float vy = p[o + 7] - ay;
    float vz = p[o + 8] - az;
    float px = dy * vz - dz * vy;
    float py = dz * vx - dx * vz;
    float pz = dx * vy - dy * vx;
    float det = ux * px + uy * py + uz * pz;
    if (det == 0 || facing == Facing.FRONT && det < 0 || facing == Facing.BACK && det > 0) {
      return;
    }
    float inv = 1 / det;
    float sx = ox - ax;
    float sy = oy - ay;
    float sz = oz - az;
    float b = (sx * px + sy * py + sz * pz) * inv;
    if (!(b >= -OVERLAP && b <= 1 + OVERLAP)) {
      return;
    }
    float qx = sy * uz - sz * uy;
    float qy = sz * ux - sx * uz;
    float qz = sx * uy - sy * ux;
    float c = (dx * qx + dy * qy + dz * qz) * inv;
    if (!(c >= -OVERLAP && b + c <= 1 + OVERLAP)) {
      return;
    }
    float t = (vx * qx + vy * qy + vz * qz) * inv;
    int id = bvh.ids[i];
    // Equal distances go to the lower number, whatever the order of the leaves.
    if (t >= from && (t < distance || t == distance && triangle >= 0 && id < triangle)) {
      distance = t;
      triangle = id;
      u = b;
      v = c;
    }
  }

  /**
   * The closest point of the surface within {@code limit} of a point. Fills the answer and returns
   * whether there is one.
   */
  public boolean closest(float x, float y, float z, float limit) {
    triangle = -1;
    distance = limit;
    if (bvh.ids.length == 0) {
      return false;
    }
    float best = limit * limit;
    if (Float.isInfinite(best)) {
      best = Float.MAX_VALUE;
    }
    int top = 0;
    int ref = bvh.root;
    while (true) {
      if (ref < 0) {
        int leaf = ~ref;
        int first = leaf >>> 3;
        int end = first + (leaf & 7) + 1;
        for (int i = first; i < end; i++) {
          best = closer(i, x, y, z, best);
        }
      } else {
        float d0 = gap(12 * ref, x, y, z);
        float d1 = gap(12 * ref + 6, x, y, z);
        int a = bvh.children[2 * ref];
        int c = bvh.children[2 * ref + 1];
        if (d1 < d0) {
          int s = a;
          a = c;
          c = s;
          float d = d0;
          d0 = d1;
          d1 = d;
        }
        if (d1 <= best) {
          stack[top] = c;
          near[top++] = d1;
        }
        if (d0 <= best) {
          ref = a;
          continue;
        }
      }
      do {
        if (top == 0) {
          distance = (float) Math.sqrt(best);
          return triangle >= 0;
        }
        ref = stack[--top];
      } while (near[top] > best);
    }
  }

  private float gap(int b, float x, float y, float z) {
    float[] boxes = bvh.boxes;
    float dx = max(max(boxes[b] - x, x - boxes[b + 3]), 0);
    float dy = max(max(boxes[b + 1] - y, y - boxes[b + 4]), 0);
    float dz = max(max(boxes[b + 2] - z, z - boxes[b + 5]), 0);
    return dx * dx + dy * dy + dz * dz;
  }

  private float closer(int i, float x, float y, float z, float best) {
    int o = 9 * i;
    float d = point.square(bvh.corners, o, o + 3, o + 6, x, y, z);
    int id = bvh.ids[i];
    if (d < best || d == best && (triangle < 0 || id < triangle)) {
      triangle = id;
      u = point.s();
      v = point.t();
      return d;
    }
    return best;
  }
}

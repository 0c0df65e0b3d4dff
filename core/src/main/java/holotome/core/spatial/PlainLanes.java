package holotome.core.spatial;

/** One after the other. */
final class PlainLanes extends Lanes {
  // Ordered comparisons compile to one instruction each; Math.min also orders NaN and signed zero.
  private static float min(float a, float b) {
    return a < b ? a : b;
  }

  private static float max(float a, float b) {
    return a > b ? a : b;
  }

  @Override
  int boxes(BvhQuery ray, int node, float to) {
    float[] f = ray.bvh.frames;
    byte[] q = ray.bvh.planes;
    int[] children = ray.bvh.children;
    int at = 6 * node;
    float ax = f[at + 3] * ray.ix;
    float ay = f[at + 4] * ray.iy;
    float az = f[at + 5] * ray.iz;
    float bx = (f[at] - ray.ox) * ray.ix;
    float by = (f[at + 1] - ray.oy) * ray.iy;
    float bz = (f[at + 2] - ray.oz) * ray.iz;
    int p = 48 * node;
    int nx = p + ray.nearX;
    int ny = p + ray.nearY;
    int nz = p + ray.nearZ;
    int fx = p + 24 - ray.nearX;
    int fy = p + 40 - ray.nearY;
    int fz = p + 56 - ray.nearZ;
    int bits = 0;
    for (int i = 0; i < Bvh.WIDE && children[Bvh.WIDE * node + i] != Bvh.NONE; i++) {
      float near = max(max(q[nx + i] * ax + bx, q[ny + i] * ay + by), q[nz + i] * az + bz);
      float far = min(min(q[fx + i] * ax + bx, q[fy + i] * ay + by), q[fz + i] * az + bz);
      near = max(near, ray.from);
      far = min(far, to) * BEYOND;
      ray.at[i] = near;
      bits |= near <= far ? 1 << i : 0;
    }
    return bits;
  }

  @Override
  int triangles(BvhQuery ray, int first, int count, float to, BvhQuery.Facing facing) {
    float[] p = ray.bvh.corners;
    int base = 9 * first;
    int bits = 0;
    for (int i = 0; i < count; i++) {
      int x = base + i + ray.kx * count;
      int y = base + i + ray.ky * count;
      int z = base + i + ray.kz * count;
      int next = 3 * count;
      float az = p[z] - ray.pz;
      float bz = p[z + next] - ray.pz;
      float cz = p[z + 2 * next] - ray.pz;
      float ax = p[x] - ray.px - ray.sx * az;
      float ay = p[y] - ray.py - ray.sy * az;
      float bx = p[x + next] - ray.px - ray.sx * bz;
      float by = p[y + next] - ray.py - ray.sy * bz;
      float cx = p[x + 2 * next] - ray.px - ray.sx * cz;
      float cy = p[y + 2 * next] - ray.py - ray.sy * cz;
      float u = cx * by - cy * bx;
      float v = ax * cy - ay * cx;
      float w = bx * ay - by * ax;
      boolean isFront = u >= 0 && v >= 0 && w >= 0 && facing != BvhQuery.Facing.BACK;
      boolean isBack = u <= 0 && v <= 0 && w <= 0 && facing != BvhQuery.Facing.FRONT;
      float det = u + v + w;
      if (!(isFront || isBack) || det == 0) {
        continue;
      }
      float t = (u * az + v * bz + w * cz) * ray.sz / det;
      if (t >= ray.from && t <= to) {
        ray.at[i] = t;
        ray.second[i] = v / det;
        ray.third[i] = w / det;
        bits |= 1 << i;
      }
    }
    return bits;
  }

  @Override
  int nearTriangles(BvhQuery point, int first, int count, float reach) {
    float[] p = point.bvh.corners;
    int bits = 0;
    for (int i = 0; i < count; i++) {
      int at = 9 * first + i;
      float d = 0;
      for (int axis = 0; axis < 3; axis++) {
        float x = axis == 0 ? point.ox : axis == 1 ? point.oy : point.oz;
        int o = at + axis * count;
        float a = p[o] - x;
        float b = p[o + 3 * count] - x;
        float c = p[o + 6 * count] - x;
        float out = max(max(min(min(a, b), c), -max(max(a, b), c)), 0);
        d += out * out;
      }
      bits |= d <= reach * BEYOND ? 1 << i : 0;
    }
    return bits;
  }

  @Override
  int near(BvhQuery point, int node, float reach) {
    float[] f = point.bvh.frames;
    byte[] q = point.bvh.planes;
    int[] children = point.bvh.children;
    int at = 6 * node;
    float sx = f[at + 3];
    float sy = f[at + 4];
    float sz = f[at + 5];
    float x = f[at] - point.ox;
    float y = f[at + 1] - point.oy;
    float z = f[at + 2] - point.oz;
    int p = 48 * node;
    int bits = 0;
    for (int i = 0; i < Bvh.WIDE && children[Bvh.WIDE * node + i] != Bvh.NONE; i++) {
      float dx = max(max(q[p + i] * sx + x, -(q[p + 24 + i] * sx + x)), 0);
      float dy = max(max(q[p + 8 + i] * sy + y, -(q[p + 32 + i] * sy + y)), 0);
      float dz = max(max(q[p + 16 + i] * sz + z, -(q[p + 40 + i] * sz + z)), 0);
      float d = dx * dx + dy * dy + dz * dz;
      point.at[i] = d;
      bits |= d <= reach ? 1 << i : 0;
    }
    return bits;
  }
}

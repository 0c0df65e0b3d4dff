package holotome.core.spatial;

/**
 * Asks a {@link Bvh} for ray hits and closest points. One query object per thread: it holds the
 * stack and the last answer.
 *
 * <p>Rays are watertight along edges and at vertices: two triangles that share an edge put the ray
 * on the same side of it to the last bit, and what lies on it belongs to both (Woop, Benthin and
 * Wald, "Watertight ray/triangle intersection", JCGT 2, 2013; boxes reach out by more than rounding
 * takes away, after Ize, "Robust BVH ray traversal", JCGT 2, 2013). Closest points follow Ericson,
 * "Real-Time Collision Detection" (2005), section 5.1.5.
 */
public final class BvhQuery {
  /** Seven more for each level of the deepest tree. */
  private static final int STACK = 640;

  final Bvh bvh;
  private final Lanes lanes;
  private final int[] stack = new int[STACK];
  private final float[] entry = new float[STACK];
  private final TrianglePoint point = new TrianglePoint();

  /** Where the ray starts, or the point; the inverse of its direction. */
  float ox;

  float oy;
  float oz;
  float ix;
  float iy;
  float iz;
  float from;

  /** Which of a node's planes the ray meets first. */
  int nearX;

  int nearY;
  int nearZ;

  /** The axes in the order in which the ray runs along the last, its start and its slopes there. */
  int kx;

  int ky;
  int kz;
  float px;
  float py;
  float pz;
  float sx;
  float sy;
  float sz;

  /** What {@link Lanes} leave. */
  final float[] at = new float[Bvh.WIDE];

  final float[] second = new float[Bvh.WIDE];
  final float[] third = new float[Bvh.WIDE];

  /** The triangle of the last answer, in the numbering of the mesh; -1 for none. */
  public int triangle = -1;

  /** The weights of the second and third corner at the last answer. */
  public float u;

  public float v;

  /** Along the ray, in lengths of its direction; or the distance to the closest point. */
  public float distance;

  public BvhQuery(Bvh bvh) {
    this(bvh, Lanes.best());
  }

  BvhQuery(Bvh bvh, Lanes lanes) {
    this.bvh = bvh;
    this.lanes = lanes;
  }

  /** Which hits count, by whether the ray meets the front (outside) of the triangle. */
  public enum Facing {
    ANY,
    FRONT,
    BACK
  }

  /**
   * The first hit between {@code start} and {@code end} along the ray, in lengths of its direction,
   * neither below 0. Fills the answer and returns whether there is one.
   */
  public boolean ray(
      float x,
      float y,
      float z,
      float dx,
      float dy,
      float dz,
      float start,
      float end,
      Facing facing) {
    triangle = -1;
    distance = end;
    if (bvh.ids.length == 0) {
      return false;
    }
    aim(x, y, z, dx, dy, dz, start);
    int top = 0;
    int ref = 0;
    while (true) {
      if (ref >= 0) {
        top = push(lanes.boxes(this, ref, distance), ref, top);
      } else if (ref != Bvh.NONE) {
        int first = Bvh.firstOf(ref);
        take(lanes.triangles(this, first, Bvh.countOf(ref), distance, facing), first);
      }
      do {
        if (top == 0) {
          return triangle >= 0;
        }
        ref = stack[--top];
      } while (entry[top] > distance);
    }
  }

  /**
   * Puts children onto the stack, the nearest on top.
   *
   * @param hits a bit each; how far they are stands in {@link #at}
   * @return the new top
   */
  private int push(int hits, int node, int base) {
    int top = base;
    for (int left = hits; left != 0; left &= left - 1) {
      int i = Integer.numberOfTrailingZeros(left);
      float d = at[i];
      int j = top++;
      while (j > base && entry[j - 1] < d) {
        entry[j] = entry[j - 1];
        stack[j] = stack[j - 1];
        j--;
      }
      entry[j] = d;
      stack[j] = bvh.children[Bvh.WIDE * node + i];
    }
    return top;
  }

  /** The nearest of several hits; of equal ones the lower number, whatever the order of leaves. */
  private void take(int hits, int first) {
    for (int left = hits; left != 0; left &= left - 1) {
      int i = Integer.numberOfTrailingZeros(left);
      int id = bvh.ids[first + i];
      if (at[i] < distance || at[i] == distance && triangle >= 0 && id < triangle) {
        distance = at[i];
        triangle = id;
        u = second[i];
        v = third[i];
      }
    }
  }

  /**
   * Whether anything is hit between {@code start} and {@code end} along the ray: quicker than
   * asking for the first. Fills no answer.
   */
  public boolean isBlocked(
      float x,
      float y,
      float z,
      float dx,
      float dy,
      float dz,
      float start,
      float end,
      Facing facing) {
    if (bvh.ids.length == 0) {
      return false;
    }
    aim(x, y, z, dx, dy, dz, start);
    int top = 0;
    int ref = 0;
    while (true) {
      if (ref >= 0) {
        // Fetched with the boxes, not after them: of the first child there always is one.
        if (bvh.children[Bvh.WIDE * ref] == Bvh.NONE) {
          return false;
        }
        int hits = lanes.boxes(this, ref, end);
        while (hits != 0) {
          stack[top++] = bvh.children[Bvh.WIDE * ref + Integer.numberOfTrailingZeros(hits)];
          hits &= hits - 1;
        }
      } else if (ref != Bvh.NONE
          && lanes.triangles(this, Bvh.firstOf(ref), Bvh.countOf(ref), end, facing) != 0) {
        return true;
      }
      if (top == 0) {
        return false;
      }
      ref = stack[--top];
    }
  }

  private void aim(float x, float y, float z, float dx, float dy, float dz, float start) {
    ox = x;
    oy = y;
    oz = z;
    from = start;
    ix = 1 / (Math.abs(dx) < 1e-30f ? Math.copySign(1e-30f, dx) : dx);
    iy = 1 / (Math.abs(dy) < 1e-30f ? Math.copySign(1e-30f, dy) : dy);
    iz = 1 / (Math.abs(dz) < 1e-30f ? Math.copySign(1e-30f, dz) : dz);
    nearX = ix < 0 ? 24 : 0;
    nearY = iy < 0 ? 32 : 8;
    nearZ = iz < 0 ? 40 : 16;
    float ax = Math.abs(dx);
    float ay = Math.abs(dy);
    float az = Math.abs(dz);
    if (ax > ay && ax > az) {
      along(0, y, z, x, dy, dz, dx);
    } else if (ay > az) {
      along(1, z, x, y, dz, dx, dy);
    } else {
      along(2, x, y, z, dx, dy, dz);
    }
  }

  /** Seen along the axis that the ray runs along most, triangles keep their sense. */
  private void along(int axis, float x, float y, float z, float dx, float dy, float dz) {
    boolean isBack = dz < 0;
    kz = axis;
    int next = axis == 2 ? 0 : axis + 1;
    int last = axis == 0 ? 2 : axis - 1;
    kx = isBack ? last : next;
    ky = isBack ? next : last;
    px = isBack ? y : x;
    py = isBack ? x : y;
    pz = z;
    sx = (isBack ? dy : dx) / dz;
    sy = (isBack ? dx : dy) / dz;
    sz = 1 / dz;
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
    ox = x;
    oy = y;
    oz = z;
    float best = limit * limit;
    if (Float.isInfinite(best)) {
      best = Float.MAX_VALUE;
    }
    int top = 0;
    int ref = 0;
    while (true) {
      if (ref >= 0) {
        top = push(lanes.near(this, ref, best), ref, top);
      } else if (ref != Bvh.NONE) {
        best = closer(ref, x, y, z, best);
      }
      do {
        if (top == 0) {
          distance = (float) Math.sqrt(best);
          return triangle >= 0;
        }
        ref = stack[--top];
      } while (entry[top] > best);
    }
  }

  private float closer(int leaf, float x, float y, float z, float limit) {
    float best = limit;
    int first = Bvh.firstOf(leaf);
    int count = Bvh.countOf(leaf);
    for (int left = lanes.nearTriangles(this, first, count, limit); left != 0; left &= left - 1) {
      int i = Integer.numberOfTrailingZeros(left);
      int o = 9 * first + i;
      float d = point.square(bvh.corners, o, o + 3 * count, o + 6 * count, count, x, y, z);
      int id = bvh.ids[first + i];
      if (d < best || d == best && (triangle < 0 || id < triangle)) {
        triangle = id;
        u = point.s();
        v = point.t();
        best = d;
      }
    }
    return best;
  }
}

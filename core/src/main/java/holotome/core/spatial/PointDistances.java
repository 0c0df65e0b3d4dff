package holotome.core.spatial;

import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.concurrent.atomic.AtomicIntegerArray;

/**
 * How far few points lie from a surface of many triangles, exactly, without an index of it: an
 * index of some of the triangles says how far each point is at most, and then all triangles are
 * held against the points so near to them, which stand in a tree (a k-d tree, Bentley 1975, with
 * the box of each node).
 *
 * <p>For n points and T triangles O(T log n), and some 50 bytes a point and 40 a sampled triangle.
 * Triangles that follow one another should be neighbours, as they are in scans; where they are not
 * it takes some times as long. The result does not depend on the number of threads.
 */
public final class PointDistances {
  /** Fewer triangles than so many times the points are indexed instead. */
  private static final int MANY = 8;

  /** Of the triangles so many times the points say how far each point is at most. */
  private static final int SAMPLED = 4;

  private static final int GRAIN = 1 << 14;
  private static final int BLOCK = 64;
  private static final int LEAF = 4;

  /** Leaves near a block of triangles, more than which it is halved. */
  private static final int MOST_NEAR = 24;

  /** What roundings of floats may add to a distance. */
  private static final float SLACK = 1 + 1e-5f;

  private final float[] xyz;
  private final int[] triangles;

  /** The points in the order of the tree, 3 floats each, and which each of them is. */
  private final float[] points;

  private final int[] order;

  /** Squares of how far each is at most. */
  private final float[] most;

  /** Squares of the distances as bits, which are ordered as the floats are. */
  private final AtomicIntegerArray best;

  /** Of each node: its box, and the largest square of its points' first distances. */
  private final float[] boxes;

  private final float[] bound;
  private final int leaves;

  /** The first point of each leaf, and at the end how many points there are. */
  private final int[] first;

  private PointDistances(Mesh mesh, float[] given, float[] atMost) {
    xyz = mesh.xyz();
    triangles = mesh.triangles();
    int n = atMost.length;
    order = new int[n];
    Arrays.setAll(order, i -> i);
    int l = 1;
    while (l * LEAF < n) {
      l *= 2;
    }
    leaves = l;
    first = new int[leaves + 1];
    first[leaves] = n;
    split(given, 1, 0, n);
    points = new float[3 * n];
    most = new float[n];
    best = new AtomicIntegerArray(n);
    boxes = new float[12 * leaves];
    bound = new float[2 * leaves];
    for (int i = 0; i < n; i++) {
      System.arraycopy(given, 3 * order[i], points, 3 * i, 3);
      float d = atMost[order[i]] * SLACK;
      most[i] = d * d;
      best.set(i, Float.floatToRawIntBits(d * d));
    }
    enclose(1, 0, n);
  }

  /**
   * The distance of each point to the surface.
   *
   * @param points 3 floats each
   */
  public static float[] to(Mesh mesh, float[] points, Work work) {
    int n = points.length / 3;
    int t = mesh.triangleCount();
    if (t < (long) MANY * n || n == 0) {
      Bvh bvh = Bvh.of(mesh, work.part(0.7, CoreWords.of("work.indexing-the-surface")));
      return SurfaceDistance.distances(points, bvh, work.part(0.3, label()));
    }
    float[] most =
        SurfaceDistance.distances(points, some(mesh, SAMPLED * n), work.part(0.2, label()));
    PointDistances d = new PointDistances(mesh, points, most);
    Parallel.range(t, GRAIN, work.part(0.8, label()), (from, to) -> d.new Query().all(from, to));
    float[] out = new float[n];
    for (int i = 0; i < n; i++) {
      out[d.order[i]] = (float) Math.sqrt(Float.intBitsToFloat(d.best.get(i)));
    }
    return out;
  }

  private static String label() {
    return CoreWords.of("work.measuring-distances");
  }

  /** An index of so many of the triangles. */
  private static Bvh some(Mesh mesh, int wanted) {
    int[] tri = new int[3 * wanted];
    for (int i = 0; i < wanted; i++) {
      int t = (int) ((long) i * mesh.triangleCount() / wanted);
      System.arraycopy(mesh.triangles(), 3 * t, tri, 3 * i, 3);
    }
    return Bvh.of(new Mesh(mesh.xyz(), tri));
  }

  private int middle(int from, int to) {
    return (from + to) >>> 1;
  }

  /** Puts the points of a node in order: the lower half along its longest side first. */
  private void split(float[] p, int node, int from, int to) {
    if (node >= leaves) {
      return;
    }
    int axis = 0;
    float widest = -1;
    for (int k = 0; k < 3; k++) {
      float low = Float.POSITIVE_INFINITY;
      float high = Float.NEGATIVE_INFINITY;
      for (int i = from; i < to; i++) {
        low = Math.min(low, p[3 * order[i] + k]);
        high = Math.max(high, p[3 * order[i] + k]);
      }
      if (high - low > widest) {
        widest = high - low;
        axis = k;
      }
    }
    int mid = middle(from, to);
    select(p, axis, from, to - 1, mid);
    split(p, 2 * node, from, mid);
    split(p, 2 * node + 1, mid, to);
  }

  /** Quickselect (Hoare 1961): those below place k are no larger, those above no smaller. */
  private void select(float[] p, int axis, int from, int to, int k) {
    int low = from;
    int high = to;
    while (low < high) {
      float pivot = p[3 * order[middle(low, high)] + axis];
      int i = low;
      int j = high;
      while (i <= j) {
        while (p[3 * order[i] + axis] < pivot) {
          i++;
        }
        while (p[3 * order[j] + axis] > pivot) {
          j--;
        }
        if (i <= j) {
          int s = order[i];
          order[i++] = order[j];
          order[j--] = s;
        }
      }
      if (k <= j) {
        high = j;
      } else if (k >= i) {
        low = i;
      } else {
        return;
      }
    }
  }

  private void enclose(int node, int from, int to) {
    int o = 6 * node;
    if (node >= leaves) {
      first[node - leaves] = from;
      Arrays.fill(boxes, o, o + 3, Float.POSITIVE_INFINITY);
      Arrays.fill(boxes, o + 3, o + 6, Float.NEGATIVE_INFINITY);
      for (int i = from; i < to; i++) {
        for (int k = 0; k < 3; k++) {
          boxes[o + k] = Math.min(boxes[o + k], points[3 * i + k]);
          boxes[o + 3 + k] = Math.max(boxes[o + 3 + k], points[3 * i + k]);
        }
        bound[node] = Math.max(bound[node], most[i]);
      }
      return;
    }
    int mid = middle(from, to);
    enclose(2 * node, from, mid);
    enclose(2 * node + 1, mid, to);
    for (int k = 0; k < 3; k++) {
      boxes[o + k] = Math.min(boxes[2 * o + k], boxes[2 * o + 6 + k]);
      boxes[o + 3 + k] = Math.max(boxes[2 * o + 3 + k], boxes[2 * o + 9 + k]);
    }
    bound[node] = Math.max(bound[2 * node], bound[2 * node + 1]);
  }

  /** Holds triangles against points; one per thread. */
  private final class Query {
    private final TrianglePoint point = new TrianglePoint();
    private final int[] stack = new int[64];
    private final int[] near = new int[MOST_NEAR];
    private final float[] box = new float[6];
    private int size;

    void all(int from, int to) {
      for (int t = from; t < to; t += BLOCK) {
        some(t, Math.min(to, t + BLOCK));
      }
    }

    /** Some that follow one another: all of them against what is near their box, or by halves. */
    private void some(int from, int to) {
      box(from, to);
      if (!gather(to - from == 1 ? Integer.MAX_VALUE : MOST_NEAR, from)) {
        int mid = middle(from, to);
        some(from, mid);
        some(mid, to);
        return;
      }
      for (int t = from; to - from > 1 && t < to && size > 0; t++) {
        box(t, t + 1);
        for (int i = 0; i < size; i++) {
          int node = leaves + near[i];
          if (gap(boxes, 6 * node, 6 * node + 3) <= bound[node]) {
            hold(t, near[i]);
          }
        }
      }
    }

    private void box(int from, int to) {
      Arrays.fill(box, 0, 3, Float.POSITIVE_INFINITY);
      Arrays.fill(box, 3, 6, Float.NEGATIVE_INFINITY);
      for (int c = 3 * from; c < 3 * to; c++) {
        int v = 3 * triangles[c];
        for (int k = 0; k < 3; k++) {
          box[k] = Math.min(box[k], xyz[v + k]);
          box[3 + k] = Math.max(box[3 + k], xyz[v + k]);
        }
      }
    }

    /**
     * Finds the leaves with points that the box is near enough to; false where they are more than
     * so many. Where any number will do the box is one triangle's, which is held against each.
     */
    private boolean gather(int limit, int triangle) {
      size = 0;
      int top = 0;
      stack[top++] = 1;
      while (top > 0) {
        int node = stack[--top];
        // Places that are no numbers are near to nothing.
        if (!(gap(boxes, 6 * node, 6 * node + 3) <= bound[node])) {
          continue;
        }
        if (node < leaves) {
          stack[top++] = 2 * node;
          stack[top++] = 2 * node + 1;
        } else if (limit == Integer.MAX_VALUE) {
          hold(triangle, node - leaves);
        } else if (size == limit) {
          return false;
        } else {
          near[size++] = node - leaves;
        }
      }
      return true;
    }

    /** The square of the distance between the box and one whose corners stand at two places. */
    private float gap(float[] p, int low, int high) {
      float square = 0;
      for (int k = 0; k < 3; k++) {
        float d = Math.max(0, Math.max(p[low + k] - box[3 + k], box[k] - p[high + k]));
        square += d * d;
      }
      return square;
    }

    private void hold(int triangle, int leaf) {
      for (int i = first[leaf]; i < first[leaf + 1]; i++) {
        // Not the best so far: what is held against what would depend on who comes first.
        if (gap(points, 3 * i, 3 * i) <= most[i]) {
          float d =
              point.square(
                  xyz,
                  3 * triangles[3 * triangle],
                  3 * triangles[3 * triangle + 1],
                  3 * triangles[3 * triangle + 2],
                  points[3 * i],
                  points[3 * i + 1],
                  points[3 * i + 2]);
          if (d < Float.intBitsToFloat(best.get(i))) {
            best.accumulateAndGet(i, Float.floatToRawIntBits(d), Math::min);
          }
        }
      }
    }
  }
}

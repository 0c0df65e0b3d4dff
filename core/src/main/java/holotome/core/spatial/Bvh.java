package holotome.core.spatial;

import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;

/**
 * A bounding-volume hierarchy over the triangles of a mesh: two children per node, split by the
 * surface-area heuristic over 16 bins (Wald, "On fast construction of SAH-based bounding volume
 * hierarchies", 2007).
 *
 * <p>Queries go through a {@link BvhQuery}, one per thread. Building costs O(T log T) and about 110
 * bytes per triangle; at most 200 million triangles.
 *
 * <p>Layout: inner node i holds the boxes of its two children in {@code boxes[12 i ...]} (min x, y,
 * z, max x, y, z of the one, then of the other) and the children in {@code children[2 i]} and
 * {@code [2 i + 1]}: a node number, or for a leaf {@code ~(first * 8 + count - 1)} into the
 * triangles in leaf order. {@code corners} holds 9 floats per triangle in leaf order.
 */
public final class Bvh {
  static final int LEAF = 4;
  private static final int BINS = 16;
  private static final int GRAIN = 1 << 15;

  final float[] boxes;
  final int[] children;
  final float[] corners;
  final int[] ids;
  final int root;
  private final float[] rootBox;

  private Bvh(
      float[] boxes, int[] children, float[] corners, int[] ids, int root, float[] rootBox) {
    this.boxes = boxes;
    this.children = children;
    this.corners = corners;
    this.ids = ids;
    this.root = root;
    this.rootBox = rootBox;
  }

  public static Bvh of(Mesh mesh) {
    return of(mesh, Work.unwatched());
  }

  public static Bvh of(Mesh mesh, Work work) {
    return new Builder(mesh).build(work);
  }

  public int triangleCount() {
    return ids.length;
  }

  /** The box around everything: min x, y, z, max x, y, z. */
  public float[] bounds() {
    return rootBox.clone();
  }

  /** A growing list of nodes in the class's layout. */
  private static final class Nodes {
    float[] boxes = new float[12 * 64];
    int[] children = new int[2 * 64];
    int count;

    int add() {
      if (2 * count == children.length) {
        boxes = java.util.Arrays.copyOf(boxes, 24 * count);
        children = java.util.Arrays.copyOf(children, 4 * count);
      }
      return count++;
    }
  }

  /** A range of triangles still to be made into a subtree hung under a node of the top. */
  private record Branch(int from, int to, int parent, int side) {}

  private static final class Builder {
    private final Mesh mesh;
    private final int n;
    private final int[] ids;
    private final float[] lo;
    private final float[] hi;

    Builder(Mesh mesh) {
      this.mesh = mesh;
      n = mesh.triangleCount();
      ids = new int[n];
      lo = new float[3 * n];
      hi = new float[3 * n];
    }

    Bvh build(Work work) {
      int[] tri = mesh.triangles();
      float[] p = mesh.xyz();
      Parallel.range(
          n,
          GRAIN,
          work.part(0.1, CoreWords.of("work.indexing-the-surface")),
          (from, to) -> {
            for (int t = from; t < to; t++) {
              ids[t] = t;
              for (int k = 0; k < 3; k++) {
                float a = p[3 * tri[3 * t] + k];
                float b = p[3 * tri[3 * t + 1] + k];
                float c = p[3 * tri[3 * t + 2] + k];
                lo[3 * t + k] = Math.min(a, Math.min(b, c));
                hi[3 * t + k] = Math.max(a, Math.max(b, c));
              }
            }
          });
      float[] rootBox = new float[6];
      Nodes top = new Nodes();
      java.util.ArrayList<Branch> branches = new java.util.ArrayList<>();
      int rootRef;
      if (n == 0) {
        rootRef = Integer.MIN_VALUE;
      } else if (n <= LEAF) {
        box(0, n, rootBox, 0);
        rootRef = leaf(0, n);
      } else {
        box(0, n, rootBox, 0);
        int size = Math.max(4096, n / 64);
        rootRef = split(top, 0, n, size, branches, work, 0);
      }
      Nodes[] parts = new Nodes[branches.size()];
      int[] refs = new int[parts.length];
      Parallel.range(
          parts.length,
          1,
          work.part(0.6, CoreWords.of("work.indexing-the-surface")),
          (from, to) -> {
            for (int i = from; i < to; i++) {
              Branch b = branches.get(i);
              parts[i] = new Nodes();
              refs[i] = split(parts[i], b.from, b.to, 0, null, work, 0);
            }
          });
      int total = top.count;
      for (Nodes part : parts) {
        total += part.count;
      }
      float[] boxes = new float[12 * total];
      int[] children = new int[2 * total];
      System.arraycopy(top.boxes, 0, boxes, 0, 12 * top.count);
      System.arraycopy(top.children, 0, children, 0, 2 * top.count);
      int at = top.count;
      for (int i = 0; i < parts.length; i++) {
        Nodes part = parts[i];
        System.arraycopy(part.boxes, 0, boxes, 12 * at, 12 * part.count);
        for (int c = 0; c < 2 * part.count; c++) {
          int ref = part.children[c];
          children[2 * at + c] = ref >= 0 ? ref + at : ref;
        }
        Branch b = branches.get(i);
        children[2 * b.parent + b.side] = refs[i] >= 0 ? refs[i] + at : refs[i];
        at += part.count;
        parts[i] = null;
      }
      float[] corners = new float[9 * n];
      Parallel.range(
          n,
          GRAIN,
          work.part(0.2, CoreWords.of("work.indexing-the-surface")),
          (from, to) -> {
            for (int i = from; i < to; i++) {
              for (int k = 0; k < 3; k++) {
                System.arraycopy(p, 3 * tri[3 * ids[i] + k], corners, 9 * i + 3 * k, 3);
              }
            }
          });
      return new Bvh(boxes, children, corners, ids, rootRef, rootBox);
    }

    private static int leaf(int from, int count) {
      return ~(from * 8 + count - 1);
    }

    private void box(int from, int to, float[] out, int at) {
      float x0 = Float.POSITIVE_INFINITY;
      float y0 = x0;
      float z0 = x0;
      float x1 = -x0;
      float y1 = x1;
      float z1 = x1;
      for (int i = from; i < to; i++) {
        int t = 3 * ids[i];
        x0 = Math.min(x0, lo[t]);
        y0 = Math.min(y0, lo[t + 1]);
        z0 = Math.min(z0, lo[t + 2]);
        x1 = Math.max(x1, hi[t]);
        y1 = Math.max(y1, hi[t + 1]);
        z1 = Math.max(z1, hi[t + 2]);
      }
      out[at] = x0;
      out[at + 1] = y0;
      out[at + 2] = z0;
      out[at + 3] = x1;
      out[at + 4] = y1;
      out[at + 5] = z1;
    }

    /**
     * Splits a range of more than LEAF triangles. Ranges no larger than {@code branchSize} are put
     * off into {@code branches}; with 0 the whole subtree is made.
     */
    private int split(
        Nodes nodes,
        int from,
        int to,
        int branchSize,
        java.util.List<Branch> branches,
        Work work,
        int depth) {
      if (to - from > 100_000) {
        work.check();
      }
      int node = nodes.add();
      int mid = partition(from, to, depth);
      box(from, mid, nodes.boxes, 12 * node);
      box(mid, to, nodes.boxes, 12 * node + 6);
      for (int side = 0; side < 2; side++) {
        int a = side == 0 ? from : mid;
        int b = side == 0 ? mid : to;
        int ref = 0;
        if (b - a <= LEAF) {
          ref = leaf(a, b - a);
        } else if (b - a <= branchSize) {
          branches.add(new Branch(a, b, node, side));
        } else {
          ref = split(nodes, a, b, branchSize, branches, work, depth + 1);
        }
        nodes.children[2 * node + side] = ref;
      }
      return node;
    }

    /** Orders the range so that the two sides of the best split found stand apart. */
    private int partition(int from, int to, int depth) {
      float[] c0 = {Float.POSITIVE_INFINITY, Float.POSITIVE_INFINITY, Float.POSITIVE_INFINITY};
      float[] c1 = {Float.NEGATIVE_INFINITY, Float.NEGATIVE_INFINITY, Float.NEGATIVE_INFINITY};
      for (int i = from; i < to; i++) {
        int t = 3 * ids[i];
        for (int k = 0; k < 3; k++) {
          float c = lo[t + k] + hi[t + k];
          c0[k] = Math.min(c0[k], c);
          c1[k] = Math.max(c1[k], c);
        }
      }
      int axis = 0;
      for (int k = 1; k < 3; k++) {
        if (c1[k] - c0[k] > c1[axis] - c0[axis]) {
          axis = k;
        }
      }
      float extent = c1[axis] - c0[axis];
      int middle = (from + to) >>> 1;
      // Past this depth the tree would outgrow the queries' stacks; halving bounds it.
      if (!(extent > 0) || depth > 48) {
        return middle;
      }
      int[] count = new int[BINS];
      float[] bin = new float[6 * BINS];
      for (int b = 0; b < BINS; b++) {
        java.util.Arrays.fill(bin, 6 * b, 6 * b + 3, Float.POSITIVE_INFINITY);
        java.util.Arrays.fill(bin, 6 * b + 3, 6 * b + 6, Float.NEGATIVE_INFINITY);
      }
      float toBin = BINS * 0.9999f / extent;
      for (int i = from; i < to; i++) {
        int t = 3 * ids[i];
        int b = bin(t, axis, c0[axis], toBin);
        count[b]++;
        for (int k = 0; k < 3; k++) {
          bin[6 * b + k] = Math.min(bin[6 * b + k], lo[t + k]);
          bin[6 * b + 3 + k] = Math.max(bin[6 * b + 3 + k], hi[t + k]);
        }
      }
      int best = bestSplit(count, bin);
      if (best < 0) {
        return middle;
      }
      int i = from;
      int j = to - 1;
      while (i <= j) {
        if (bin(3 * ids[i], axis, c0[axis], toBin) <= best) {
          i++;
        } else {
          int s = ids[i];
          ids[i] = ids[j];
          ids[j] = s;
          j--;
        }
      }
      return i;
    }

    private int bin(int t, int axis, float origin, float toBin) {
      int b = (int) ((lo[t + axis] + hi[t + axis] - origin) * toBin);
      return b < 0 ? 0 : Math.min(b, BINS - 1);
    }

    private static int bestSplit(int[] count, float[] bin) {
      float[] areaRight = new float[BINS];
      int[] right = new int[BINS];
      float[] box = emptyBox();
      int n = 0;
      for (int b = BINS - 1; b > 0; b--) {
        grow(box, bin, b);
        n += count[b];
        areaRight[b] = n == 0 ? 0 : halfArea(box);
        right[b] = n;
      }
      box = emptyBox();
      n = 0;
      int best = -1;
      float bestCost = Float.POSITIVE_INFINITY;
      for (int b = 0; b < BINS - 1; b++) {
        grow(box, bin, b);
        n += count[b];
        if (n == 0 || right[b + 1] == 0) {
          continue;
        }
        float cost = n * halfArea(box) + right[b + 1] * areaRight[b + 1];
        if (cost < bestCost) {
          bestCost = cost;
          best = b;
        }
      }
      return best;
    }

    private static float[] emptyBox() {
      float f = Float.POSITIVE_INFINITY;
      return new float[] {f, f, f, -f, -f, -f};
    }

    private static void grow(float[] box, float[] bin, int b) {
      for (int k = 0; k < 3; k++) {
        box[k] = Math.min(box[k], bin[6 * b + k]);
        box[3 + k] = Math.max(box[3 + k], bin[6 * b + 3 + k]);
      }
    }

    private static float halfArea(float[] b) {
      float x = b[3] - b[0];
      float y = b[4] - b[1];
      float z = b[5] - b[2];
      return x * y + y * z + z * x;
    }
  }
}

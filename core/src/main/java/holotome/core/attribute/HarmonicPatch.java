package holotome.core.attribute;

import holotome.core.solve.SparseSystem;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.Arrays;

/**
 * Spreads values from the rim of patches evenly over their inner vertices: each inner value is the
 * mean of those around it, so that none leaves the range of the rim's (harmonic in the graph of
 * edges; Tutte, "How to draw a graph", 1963). Each patch is solved on its own, side by side, by
 * conjugate gradients to a millionth.
 */
public final class HarmonicPatch {
  private static final int MOST = 20_000;
  private static final double PRECISION = 1e-6;

  private final int oldVertices;

  /** Inner vertices by patch, and where each patch begins in that order. */
  private final int[] order;

  private final int[] begin;

  /** Place within its patch per inner vertex. */
  private final int[] place;

  /** Neighbours per inner vertex, each edge as often as it has triangles. */
  private final int[] start;

  private final int[] neighbour;

  /**
   * Prepares patches.
   *
   * @param patch 3 vertices per triangle of all patches
   * @param oldVertices vertices below are the mesh's own and known
   * @param inner how many are to be found, numbered on from there
   */
  public HarmonicPatch(int[] patch, int oldVertices, int inner) {
    this.oldVertices = oldVertices;
    start = new int[inner + 1];
    for (int v : patch) {
      if (v >= oldVertices) {
        start[v - oldVertices + 1] += 2;
      }
    }
    for (int i = 0; i < inner; i++) {
      start[i + 1] += start[i];
    }
    neighbour = new int[start[inner]];
    int[] fill = start.clone();
    int[] root = new int[inner];
    Arrays.setAll(root, i -> i);
    for (int h = 0; h < patch.length; h++) {
      int v = patch[h] - oldVertices;
      if (v < 0) {
        continue;
      }
      for (int k = 1; k < 3; k++) {
        int w = patch[h - h % 3 + (h % 3 + k) % 3];
        neighbour[fill[v]++] = w;
        if (w >= oldVertices) {
          join(root, v, w - oldVertices);
        }
      }
    }
    int[] number = new int[inner];
    int count = 0;
    for (int i = 0; i < inner; i++) {
      int r = find(root, i);
      number[i] = r == i ? count++ : number[r];
    }
    begin = new int[count + 1];
    for (int i = 0; i < inner; i++) {
      begin[number[i] + 1]++;
    }
    for (int c = 0; c < count; c++) {
      begin[c + 1] += begin[c];
    }
    order = new int[inner];
    place = new int[inner];
    int[] next = begin.clone();
    for (int i = 0; i < inner; i++) {
      place[i] = next[number[i]] - begin[number[i]];
      order[next[number[i]]++] = i;
    }
  }

  /** Roots are always the lowest of their patch. */
  private static void join(int[] root, int a, int b) {
    int x = find(root, a);
    int y = find(root, b);
    root[Math.max(x, y)] = Math.min(x, y);
  }

  private static int find(int[] root, int i) {
    int at = i;
    while (root[at] != at) {
      root[at] = root[root[at]];
      at = root[at];
    }
    return at;
  }

  /** A value of a known vertex. */
  @FunctionalInterface
  public interface Known {
    double of(int vertex, int channel);
  }

  /**
   * The values of the inner vertices, {@code channels} each.
   *
   * @param known of the mesh's own vertices along the rim
   */
  public double[] spread(int channels, Known known, Work work) {
    double[] out = new double[channels * order.length];
    int patches = begin.length - 1;
    Parallel.range(
        patches,
        1,
        work,
        (from, to) -> {
          for (int p = from; p < to; p++) {
            solve(p, channels, known, out, work);
          }
        });
    return out;
  }

  private void solve(int p, int channels, Known known, double[] out, Work work) {
    int n = begin[p + 1] - begin[p];
    int entries = n;
    for (int i = 0; i < n; i++) {
      int v = order[begin[p] + i];
      entries += start[v + 1] - start[v];
    }
    int[] row = new int[n + 1];
    int[] column = new int[entries];
    double[] value = new double[entries];
    int at = 0;
    for (int i = 0; i < n; i++) {
      int v = order[begin[p] + i];
      column[at] = i;
      value[at++] = start[v + 1] - start[v];
      for (int k = start[v]; k < start[v + 1]; k++) {
        int w = neighbour[k] - oldVertices;
        if (w >= 0) {
          column[at] = place[w];
          value[at++] = -1;
        }
      }
      row[i + 1] = at;
    }
    SparseSystem system =
        new SparseSystem(row, Arrays.copyOf(column, at), Arrays.copyOf(value, at));
    for (int c = 0; c < channels; c++) {
      double[] right = new double[n];
      double least = Double.POSITIVE_INFINITY;
      double most = Double.NEGATIVE_INFINITY;
      for (int i = 0; i < n; i++) {
        int v = order[begin[p] + i];
        for (int k = start[v]; k < start[v + 1]; k++) {
          if (neighbour[k] < oldVertices) {
            double x = known.of(neighbour[k], c);
            right[i] += x;
            least = Math.min(least, x);
            most = Math.max(most, x);
          }
        }
      }
      double[] x = new double[n];
      Arrays.fill(x, least <= most ? (least + most) / 2 : 0);
      if (least < most) {
        system.solve(right, x, PRECISION, MOST, work);
      }
      for (int i = 0; i < n; i++) {
        // What the solver leaves open must not lead out of the rim's range.
        double inside = least <= most ? Math.clamp(x[i], least, most) : 0;
        out[channels * order[begin[p] + i] + c] = inside;
      }
    }
  }
}

package holotome.core.spatial;

import holotome.core.array.Grouping;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.Arrays;

/**
 * Triangles dealt out to the cells of a grid by their first corners; a cell that gets very many (a
 * scan with a stray point far off lies in one) to a grid of its own. O(T).
 */
final class BvhCells {
  private static final int GRAIN = 1 << 15;

  /** Cells along a side of a grid: so that those a surface passes through hold some hundred. */
  private static final int LEAST_BITS = 3;

  private static final int MOST_BITS = 7;
  private static final double EACH = 1000;

  /** So many in one cell are worth a grid of its own. */
  private static final int HEAVY = 1 << 16;

  private final Mesh mesh;
  private final int[] order;
  private int[] starts = new int[1024];
  private int count;

  private BvhCells(Mesh mesh) {
    this.mesh = mesh;
    order = new int[mesh.triangleCount()];
  }

  /**
   * Deals them out.
   *
   * @param few so many triangles or fewer are one cell
   */
  static BvhCells of(Mesh mesh, int few, Work work) {
    BvhCells cells = new BvhCells(mesh);
    int n = cells.order.length;
    Arrays.setAll(cells.order, t -> t);
    if (n <= few) {
      cells.add(0);
    } else {
      cells.deal(0, n, work);
    }
    cells.starts = Arrays.copyOf(cells.starts, cells.count + 1);
    cells.starts[cells.count] = n;
    return cells;
  }

  int count() {
    return count;
  }

  /** Triangles, cell by cell. */
  int[] order() {
    return order;
  }

  /** Where the triangles of each cell begin, and the end. */
  int[] starts() {
    return starts;
  }

  private void add(int start) {
    starts = count == starts.length ? Arrays.copyOf(starts, 2 * count) : starts;
    starts[count++] = start;
  }

  /** Deals out a range of the order. */
  private void deal(int from, int to, Work work) {
    work.check();
    int n = to - from;
    float[] b = bounds(from, to);
    float longest = Math.max(b[3] - b[0], Math.max(b[4] - b[1], b[5] - b[2]));
    int bits =
        Math.clamp((int) Math.round(Math.log(n / EACH) / Math.log(4)), LEAST_BITS, MOST_BITS);
    int side = 1 << bits;
    float scale = side * 0.9999f / longest;
    if (!(longest > 0) || !Float.isFinite(scale)) {
      add(from);
      return;
    }
    int[] cell = new int[n];
    int[] tri = mesh.triangles();
    float[] p = mesh.xyz();
    Parallel.range(
        n,
        GRAIN,
        work.part(0.3, work.label()),
        (first, end) -> {
          for (int i = first; i < end; i++) {
            int v = 3 * tri[3 * order[from + i]];
            int code = 0;
            for (int k = 0; k < 3; k++) {
              int c = (int) ((p[v + k] - b[k]) * scale);
              code = code << bits | Math.clamp(c, 0, side - 1);
            }
            cell[i] = code;
          }
        });
    Grouping by = Grouping.of(cell, 1 << 3 * bits, work.part(0.6, work.label()));
    int[] old = from == 0 && n == order.length ? null : Arrays.copyOfRange(order, from, to);
    Parallel.range(
        n,
        GRAIN,
        work.part(0.1, work.label()),
        (first, end) -> {
          for (int i = first; i < end; i++) {
            order[from + i] = old == null ? by.order()[i] : old[by.order()[i]];
          }
        });
    for (int c = 0; c + 1 < by.start().length; c++) {
      int size = by.start()[c + 1] - by.start()[c];
      if (size > HEAVY && size < n) {
        deal(from + by.start()[c], from + by.start()[c + 1], Work.unwatched());
      } else if (size > 0) {
        add(from + by.start()[c]);
      }
    }
  }

  /** Low x, y, z, high x, y, z of the first corners of a range. */
  private float[] bounds(int from, int to) {
    float[][] found = new float[Parallel.chunks(to - from, GRAIN)][];
    int[] tri = mesh.triangles();
    float[] p = mesh.xyz();
    Parallel.chunked(
        to - from,
        GRAIN,
        Work.unwatched(),
        (chunk, first, end) -> {
          float[] b = none();
          for (int i = first; i < end; i++) {
            int v = 3 * tri[3 * order[from + i]];
            for (int k = 0; k < 3; k++) {
              float x = p[v + k];
              b[k] = x < b[k] ? x : b[k];
              b[3 + k] = x > b[3 + k] ? x : b[3 + k];
            }
          }
          found[chunk] = b;
        });
    float[] all = none();
    for (float[] b : found) {
      for (int k = 0; k < 3; k++) {
        all[k] = Math.min(all[k], b[k]);
        all[3 + k] = Math.max(all[3 + k], b[3 + k]);
      }
    }
    return all;
  }

  private static float[] none() {
    float[] b = new float[6];
    Arrays.fill(b, 0, 3, Float.POSITIVE_INFINITY);
    Arrays.fill(b, 3, 6, Float.NEGATIVE_INFINITY);
    return b;
  }
}

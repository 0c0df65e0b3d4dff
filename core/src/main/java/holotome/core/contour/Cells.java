package holotome.core.contour;

import holotome.core.array.LongIndex;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.Arrays;

/**
 * The cells of a lattice that the surface of a body passes through, and on which side their corners
 * are. Begun from the edges that a mesh crosses and followed from cell to cell wherever the body
 * ends elsewhere, as across an opening: memory follows the surface, not the volume.
 *
 * <p>{@link #sound} makes the set of points inside well-composed (Latecki, "3D well-composed
 * pictures", 1997): no two of them touch by an edge or a corner of their cubes alone. What bounds
 * such a set is a surface without a crowded edge or a pinched point, with one vertex a cell.
 */
final class Cells {
  private static final int GRAIN = 1 << 9;

  /** The corners of a cell's edges: from, to; bit 0 is x, 1 is y, 2 is z. */
  static final int[][] EDGES = {
    {0, 1}, {2, 3}, {4, 5}, {6, 7}, {0, 2}, {1, 3}, {4, 6}, {5, 7}, {0, 4}, {1, 5}, {2, 6}, {3, 7}
  };

  /** The corners of a cell's faces, going round. */
  private static final int[][] FACES = {
    {0, 1, 3, 2}, {4, 5, 7, 6}, {0, 1, 5, 4}, {2, 3, 7, 6}, {0, 2, 6, 4}, {1, 3, 7, 5}
  };

  final Lattice lattice;
  private final Field field;
  private final Reach reach;
  private final LongIndex points = new LongIndex();
  private final LongIndex cells = new LongIndex();
  private float[] value = new float[64];
  private boolean[] inside = new boolean[64];

  /** Points that were put inside against what the field says. */
  private int flipped;

  /** Cells whose neighbours were looked at. */
  private int grown;

  private Cells(Lattice lattice, Field field, Reach reach) {
    this.lattice = lattice;
    this.reach = reach;
    this.field = field;
  }

  /**
   * @param hits where a mesh crosses the lattice's edges
   * @param reach the surface is not followed beyond it
   */
  static Cells of(Lattice lattice, Field field, EdgeHits hits, Reach reach, Work work) {
    Cells c = new Cells(lattice, field, reach);
    for (int i = 0; i < hits.size(); i++) {
      if (i == 0 || hits.edges()[i] != hits.edges()[i - 1]) {
        c.addAround(hits.edges()[i] >> 2, (int) (hits.edges()[i] & 3));
      }
    }
    c.grow(work);
    return c;
  }

  int size() {
    return cells.size();
  }

  int flipped() {
    return flipped;
  }

  /** The lowest corner of a cell. */
  long cell(int number) {
    return cells.key(number);
  }

  /** The number of the cell with this lowest corner; -1 for none. */
  int find(long corner) {
    return cells.find(corner);
  }

  boolean isInside(long point) {
    int p = points.find(point);
    return p >= 0 && inside[p];
  }

  /** What the field says of a point that was asked about. */
  float value(long point) {
    return value[points.find(point)];
  }

  /** Which of a cell's corners are inside, a bit each. */
  int corners(int number) {
    long low = cells.key(number);
    int mask = 0;
    for (int k = 0; k < 8; k++) {
      mask |= isInside(corner(low, k)) ? 1 << k : 0;
    }
    return mask;
  }

  long corner(long low, int k) {
    return low
        + (k & 1) * lattice.stride(0)
        + (k >> 1 & 1) * lattice.stride(1)
        + (k >> 2 & 1) * lattice.stride(2);
  }

  /** The four cells around an edge. */
  private void addAround(long point, int axis) {
    long u = lattice.stride((axis + 1) % 3);
    long v = lattice.stride((axis + 2) % 3);
    add(point);
    add(point - u);
    add(point - v);
    add(point - u - v);
  }

  private void add(long cell) {
    double half = lattice.step() / 2;
    if (reach == Reach.ALL
        || cells.find(cell) < 0
            && reach.holds(
                lattice.placeX(cell) + half,
                lattice.placeY(cell) + half,
                lattice.placeZ(cell) + half)) {
      cells.add(cell);
    }
  }

  /** Whether all four cells around an edge are there. */
  boolean isWhole(long point, int axis) {
    long u = lattice.stride((axis + 1) % 3);
    long v = lattice.stride((axis + 2) % 3);
    return reach == Reach.ALL
        || find(point) >= 0
            && find(point - u) >= 0
            && find(point - v) >= 0
            && find(point - u - v) >= 0;
  }

  /** Asks about the corners of new cells and goes on wherever the surface does. */
  private void grow(Work work) {
    while (grown < cells.size()) {
      work.check();
      int end = cells.size();
      ask(grown, end);
      for (int c = grown; c < end; c++) {
        spread(c);
      }
      grown = end;
    }
  }

  private void spread(int c) {
    int mask = corners(c);
    if (mask == 0 || mask == 255) {
      return;
    }
    long low = cells.key(c);
    for (int e = 0; e < 12; e++) {
      if ((mask >> EDGES[e][0] & 1) != (mask >> EDGES[e][1] & 1)) {
        addAround(corner(low, EDGES[e][0]), e / 4);
      }
    }
  }

  /** Asks the field about those corners of cells that were not asked about before. */
  private void ask(int from, int to) {
    int before = points.size();
    for (int c = from; c < to; c++) {
      for (int k = 0; k < 8; k++) {
        points.add(corner(cells.key(c), k));
      }
    }
    int n = points.size();
    if (n > value.length) {
      value = Arrays.copyOf(value, Math.max(n, 2 * value.length));
      inside = Arrays.copyOf(inside, value.length);
    }
    Parallel.range(
        n - before,
        GRAIN,
        Work.unwatched(),
        (a, b) -> {
          Field.Probe probe = field.probe();
          for (int p = before + a; p < before + b; p++) {
            long key = points.key(p);
            if (lattice.isRim(key)) {
              value[p] = 0;
            } else {
              value[p] =
                  (float) probe.at(lattice.placeX(key), lattice.placeY(key), lattice.placeZ(key));
            }
            inside[p] = value[p] > Field.LEVEL;
          }
        });
  }

  /** Puts points inside until the set is well-composed; ends, as no point is ever taken out. */
  void sound(Work work) {
    int[] list = new int[cells.size()];
    Arrays.setAll(list, i -> i);
    while (list.length > 0) {
      work.check();
      LongIndex next = new LongIndex();
      for (int c : list) {
        long low = cells.key(c);
        long put = wanted(low, corners(c));
        if (put >= 0) {
          int p = points.find(put);
          inside[p] = true;
          flipped++;
          for (int k = 0; k < 8; k++) {
            long around = 2 * put - corner(put, k);
            cells.add(around);
            next.add(around);
          }
        }
      }
      grow(work);
      // Cells that were there before may have the surface pass through other edges now.
      for (int i = 0; i < next.size(); i++) {
        spread(cells.find(next.key(i)));
      }
      grow(work);
      list = new int[next.size()];
      for (int i = 0; i < list.length; i++) {
        list[i] = cells.find(next.key(i));
      }
    }
  }

  /** A corner that must be put inside; -1 if the cell is sound. */
  private long wanted(long low, int mask) {
    if (mask == 0 || mask == 255) {
      return -1;
    }
    for (int[] f : FACES) {
      boolean a = (mask >> f[0] & 1) != 0;
      boolean b = (mask >> f[1] & 1) != 0;
      if (a != b && a == ((mask >> f[2] & 1) != 0) && b == ((mask >> f[3] & 1) != 0)) {
        return a ? nearest(low, f[1], f[3]) : nearest(low, f[0], f[2]);
      }
    }
    for (int k = 0; k < 4; k++) {
      int pair = 1 << k | 1 << 7 - k;
      if (mask == (255 & ~pair)) {
        return nearest(low, k, 7 - k);
      }
      if (mask == pair) {
        return nearest(low, k ^ 1, k ^ 2);
      }
    }
    return -1;
  }

  /** Of two corners outside the one that is less so. */
  private long nearest(long low, int a, int b) {
    long p = corner(low, a);
    long q = corner(low, b);
    boolean second = lattice.isRim(p) || value[points.find(q)] > value[points.find(p)];
    return second && !lattice.isRim(q) ? q : p;
  }
}

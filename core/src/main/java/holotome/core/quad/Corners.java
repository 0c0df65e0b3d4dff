package holotome.core.quad;

import holotome.core.array.Grouping;
import holotome.core.array.LongIndex;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;

/**
 * Which points of faces are to lie at the corners of a surface's lines: of those nearby the
 * nearest, rather one where lines of the faces end or meet. O(points), by cells of a grid.
 *
 * @param at places of the points, 3 doubles each
 * @param kind what each point is held to, as {@link Holds} has it
 * @param along two neighbours of each along lines, -1 for none
 */
record Corners(double[] at, byte[] kind, int[] along) {
  /** What a point in the middle of a line counts as farther off, in sides. */
  private static final double IN_LINE = 0.4;

  private static final double FARTHEST = 1.1;

  /** Takes what was found. */
  interface Found {
    void is(int point, int corner);
  }

  void match(Mesh surface, Holds holds, Found found) {
    int n = kind.length;
    double sum = 0;
    int count = 0;
    for (int v = 0; v < n; v++) {
      if (kind[v] != Holds.FREE) {
        sum += side(v);
        count++;
      }
    }
    if (count == 0 || !(sum > 0)) {
      return;
    }
    double cell = 2 * FARTHEST * sum / count;
    int[] points = new int[count];
    int[] of = new int[count];
    LongIndex cells = new LongIndex();
    count = 0;
    for (int v = 0; v < n; v++) {
      if (kind[v] != Holds.FREE) {
        points[count] = v;
        of[count++] = cells.add(key(at[3 * v], at[3 * v + 1], at[3 * v + 2], cell, 0, 0, 0));
      }
    }
    Grouping by = Grouping.of(of, cells.size(), Work.unwatched());
    boolean[] taken = new boolean[n];
    for (int c = 0; c < holds.kind().length; c++) {
      if (holds.kind()[c] != Holds.PLACE) {
        continue;
      }
      int best = nearest(surface, c, cell, cells, by, points, taken);
      if (best >= 0) {
        taken[best] = true;
        found.is(best, c);
      }
    }
  }

  private int nearest(
      Mesh surface,
      int corner,
      double cell,
      LongIndex cells,
      Grouping by,
      int[] points,
      boolean[] taken) {
    float[] p = surface.xyz();
    double x = p[3 * corner];
    double y = p[3 * corner + 1];
    double z = p[3 * corner + 2];
    int best = -1;
    double least = FARTHEST;
    for (int i = 0; i < 27; i++) {
      int at = cells.find(key(x, y, z, cell, i % 3 - 1, i / 3 % 3 - 1, i / 9 - 1));
      for (int j = at < 0 ? 0 : by.start()[at]; at >= 0 && j < by.start()[at + 1]; j++) {
        int v = points[by.order()[j]];
        double cost = distance(v, x, y, z) / side(v) + (isInLine(v) ? IN_LINE : 0);
        if (!taken[v] && (cost < least || cost == least && best >= 0 && v < best)) {
          least = cost;
          best = v;
        }
      }
    }
    return best;
  }

  private boolean isInLine(int v) {
    return kind[v] == Holds.LINE;
  }

  /** How long the sides along the line are at a point. */
  private double side(int v) {
    double sum = 0;
    int count = 0;
    for (int i = 2 * v; i < 2 * v + 2; i++) {
      if (along[i] >= 0) {
        sum += Shape.distance(at, v, along[i]);
        count++;
      }
    }
    return count > 0 ? Math.max(Double.MIN_NORMAL, sum / count) : Double.MIN_NORMAL;
  }

  private double distance(int v, double x, double y, double z) {
    double dx = at[3 * v] - x;
    double dy = at[3 * v + 1] - y;
    double dz = at[3 * v + 2] - z;
    return Math.sqrt(dx * dx + dy * dy + dz * dz);
  }

  private static long key(double x, double y, double z, double cell, int i, int j, int k) {
    long a = (long) Math.floor(x / cell) + i & 0x1fffff;
    long b = (long) Math.floor(y / cell) + j & 0x1fffff;
    long c = (long) Math.floor(z / cell) + k & 0x1fffff;
    return a << 42 | b << 21 | c;
  }
}

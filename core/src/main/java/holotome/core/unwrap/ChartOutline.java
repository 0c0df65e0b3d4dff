package holotome.core.unwrap;

import holotome.core.array.LongIndex;
import holotome.core.topology.Adjacency;
import java.util.Arrays;
import java.util.BitSet;

/** The outline of a chart: the edges that have a triangle on one side only. */
final class ChartOutline {
  private ChartOutline() {}

  /** The half-edges without an opposite one, by number; 3 per triangle. */
  static int[] of(int[] corners) {
    int[] twin = twins(corners);
    int[] out = new int[corners.length];
    int n = 0;
    for (int h = 0; h < corners.length; h++) {
      if (twin[h] < 0) {
        out[n++] = h;
      }
    }
    return Arrays.copyOf(out, n);
  }

  /**
   * For each half-edge the opposite one, which joins the same vertices the other way round; -1 for
   * none. Of more than two at an edge the first that fit each other are taken.
   */
  private static int[] twins(int[] corners) {
    long[] keys = new long[corners.length];
    for (int h = 0; h < corners.length; h++) {
      int a = corners[h];
      int b = corners[Adjacency.next(h)];
      keys[h] = (long) Math.min(a, b) << 32 | Math.max(a, b);
    }
    int slots = Integer.highestOneBit(Math.max(4, 2 * corners.length)) << 1;
    int[] table = new int[slots];
    int[] twin = new int[corners.length];
    Arrays.fill(twin, -1);
    for (int h = 0; h < corners.length; h++) {
      int s = (int) (keys[h] * 0x9E3779B97F4A7C15L >>> 40) & slots - 1;
      while (table[s] != 0) {
        int g = table[s] - 1;
        if (keys[g] == keys[h] && twin[g] < 0 && corners[g] != corners[h]) {
          twin[g] = h;
          twin[h] = g;
          break;
        }
        s = s + 1 & slots - 1;
      }
      if (twin[h] < 0) {
        table[s] = h + 1;
      }
    }
    return twin;
  }

  /**
   * Whether the outline of a chart without turned triangles shows that it overlaps itself: two of
   * its edges that share no vertex cross or touch, or more than one of its loops runs around the
   * outside. Edges are looked for in a grid: O(b) for usual outlines of b edges.
   */
  static boolean overlaps(int[] corners, double[] uv, int[] outline) {
    int[] first = meeting(corners, uv, outline, true);
    return first == null || first.length > 0 || outerLoops(corners, uv, outline).length > 0;
  }

  /** The half-edges where such a chart overlaps itself, none where it does not. */
  static int[] over(int[] corners, double[] uv, int[] outline) {
    int[] all = meeting(corners, uv, outline, false);
    return all == null || all.length > 0 ? all : outerLoops(corners, uv, outline);
  }

  /**
   * Of each two edges that cross or touch and share no vertex the one of the higher number.
   *
   * @param isFirst whether one is enough
   * @return half-edges, in order, each once; null where the outline has no extent
   */
  private static int[] meeting(int[] corners, double[] uv, int[] outline, boolean isFirst) {
    int n = outline.length;
    double lowX = Double.POSITIVE_INFINITY;
    double lowY = lowX;
    double highX = -lowX;
    double highY = -lowX;
    double length = 0;
    for (int h : outline) {
      int a = 2 * corners[h];
      int b = 2 * corners[Adjacency.next(h)];
      lowX = Math.min(lowX, uv[a]);
      lowY = Math.min(lowY, uv[a + 1]);
      highX = Math.max(highX, uv[a]);
      highY = Math.max(highY, uv[a + 1]);
      length += Math.abs(uv[b] - uv[a]) + Math.abs(uv[b + 1] - uv[a + 1]);
    }
    double side = Math.max(length / n, Math.max(highX - lowX, highY - lowY) / (4 * n + 4));
    if (!(side > 0) || !Double.isFinite(side)) {
      return null;
    }
    int across = (int) ((highX - lowX) / side) + 1;
    int up = (int) ((highY - lowY) / side) + 1;
    // As many buckets as edges, whatever the grid: far cells may share one.
    int buckets = Integer.highestOneBit(2 * n + 1);
    int[] start = new int[buckets + 1];
    int[] items = null;
    for (int pass = 0; pass < 2; pass++) {
      for (int i = 0; i < n; i++) {
        int a = 2 * corners[outline[i]];
        int b = 2 * corners[Adjacency.next(outline[i])];
        int x0 = (int) ((Math.min(uv[a], uv[b]) - lowX) / side);
        int x1 = (int) Math.min(across - 1, (Math.max(uv[a], uv[b]) - lowX) / side);
        int y0 = (int) ((Math.min(uv[a + 1], uv[b + 1]) - lowY) / side);
        int y1 = (int) Math.min(up - 1, (Math.max(uv[a + 1], uv[b + 1]) - lowY) / side);
        for (int y = y0; y <= y1; y++) {
          for (int x = x0; x <= x1; x++) {
            int bucket = (x * 73856093 ^ y * 19349663) & buckets - 1;
            if (pass == 0) {
              start[bucket]++;
            } else {
              items[--start[bucket]] = i;
            }
          }
        }
      }
      if (pass == 0) {
        for (int k = 0; k < buckets; k++) {
          start[k + 1] += start[k];
        }
        items = new int[start[buckets]];
      }
    }
    BitSet found = new BitSet();
    for (int k = 0; k < buckets && !(isFirst && !found.isEmpty()); k++) {
      for (int i = start[k]; i < start[k + 1]; i++) {
        for (int j = i + 1; j < start[k + 1]; j++) {
          if (meet(corners, uv, outline[items[i]], outline[items[j]])) {
            found.set(Math.max(outline[items[i]], outline[items[j]]));
          }
        }
      }
    }
    return found.stream().toArray();
  }

  private static boolean meet(int[] corners, double[] uv, int g, int h) {
    int a = corners[g];
    int b = corners[Adjacency.next(g)];
    int c = corners[h];
    int d = corners[Adjacency.next(h)];
    if (a == c || a == d || b == c || b == d) {
      return false;
    }
    double s = side(uv, a, b, c);
    double t = side(uv, a, b, d);
    if (s * t > 0) {
      return false;
    }
    double u = side(uv, c, d, a);
    double v = side(uv, c, d, b);
    return u * v <= 0 && !(s == 0 && t == 0);
  }

  private static double side(double[] p, int a, int b, int c) {
    return (p[2 * b] - p[2 * a]) * (p[2 * c + 1] - p[2 * a + 1])
        - (p[2 * c] - p[2 * a]) * (p[2 * b + 1] - p[2 * a + 1]);
  }

  /**
   * The edges of loops with the chart on their inner side, but for the one around the largest area.
   * A chart that lies in one layer has that one only; turned triangles there are none, so a vertex
   * around which it winds twice makes another.
   */
  private static int[] outerLoops(int[] corners, double[] uv, int[] outline) {
    int[] loop = loops(corners, outline);
    double[] area = new double[outline.length];
    int largest = 0;
    for (int i = 0; i < outline.length; i++) {
      int a = 2 * corners[outline[i]];
      int b = 2 * corners[Adjacency.next(outline[i])];
      area[loop[i]] += uv[a] * uv[b + 1] - uv[b] * uv[a + 1];
    }
    for (int l = 1; l < area.length; l++) {
      largest = area[l] > area[largest] ? l : largest;
    }
    int[] out = new int[outline.length];
    int n = 0;
    for (int i = 0; i < outline.length; i++) {
      if (area[loop[i]] > 0 && loop[i] != largest) {
        out[n++] = outline[i];
      }
    }
    return Arrays.copyOf(out, n);
  }

  /**
   * The loop that each edge of the outline belongs to. One that passes a vertex twice is two: what
   * a bay encloses whose ends meet is one by itself.
   */
  private static int[] loops(int[] corners, int[] outline) {
    int[] next = following(corners, outline);
    int[] loop = new int[outline.length];
    Arrays.fill(loop, -1);
    LongIndex vertices = new LongIndex();
    // Where on the way each vertex begins an edge; -1 for one that is not on it.
    int[] place = new int[outline.length];
    Arrays.fill(place, -1);
    int[] way = new int[outline.length];
    boolean[] isPassed = new boolean[outline.length];
    int count = 0;
    for (int i = 0; i < outline.length; i++) {
      int length = 0;
      for (int j = i; !isPassed[j]; j = next[j]) {
        isPassed[j] = true;
        place[vertices.add(corners[outline[j]])] = length;
        way[length++] = j;
        int end = vertices.add(corners[Adjacency.next(outline[j])]);
        if (place[end] >= 0) {
          for (int back = place[end]; length > back; ) {
            int k = way[--length];
            loop[k] = count;
            place[vertices.find(corners[outline[k]])] = -1;
          }
          count++;
        }
      }
    }
    return loop;
  }

  /** For each edge of the outline the one that follows it around the same triangles. */
  private static int[] following(int[] corners, int[] outline) {
    LongIndex from = new LongIndex();
    int[] edge = new int[outline.length];
    boolean isPlain = true;
    for (int i = 0; i < outline.length; i++) {
      int at = from.add(corners[outline[i]]);
      isPlain &= at == i;
      edge[at] = i;
    }
    int[] next = new int[outline.length];
    if (isPlain) {
      for (int i = 0; i < outline.length; i++) {
        next[i] = edge[from.find(corners[Adjacency.next(outline[i])])];
      }
      return next;
    }
    // Where the outline passes a vertex twice, each fan of triangles there has its own way on.
    int[] twin = twins(corners);
    int[] place = new int[corners.length];
    for (int i = 0; i < outline.length; i++) {
      place[outline[i]] = i;
    }
    for (int i = 0; i < outline.length; i++) {
      int g = Adjacency.next(outline[i]);
      while (twin[g] >= 0) {
        g = Adjacency.next(twin[g]);
      }
      next[i] = place[g];
    }
    return next;
  }
}

package holotome.core.triangulation;

import earcut4j.Earcut;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Triangulates flat outlines with holes so that every corner of every outline is used, corners on a
 * straight line among them: the result meets its surroundings edge by edge.
 *
 * <p>Ear clipping with a z-order index by the earcut library, which passes over corners on straight
 * lines; these are worked back in by splitting the triangles that bridge them, or, where corners of
 * several rings lie on one line, by {@link Straightened}. About O(n log n).
 */
public final class Triangulator {
  private Triangulator() {}

  /**
   * Triangulates rings: those that run counter-clockwise (positive area) are outlines, the others
   * holes in the smallest outline around them.
   *
   * @param rings per ring x, y in turn
   * @param numbers per ring the caller's number of each corner
   * @return three of the caller's numbers per triangle, counter-clockwise; null where the rings
   *     cannot be triangulated (they cross themselves)
   */
  public static int[] triangulate(List<double[]> rings, List<int[]> numbers) {
    int n = rings.size();
    double[] area = new double[n];
    List<List<Integer>> holes = new ArrayList<>();
    for (int i = 0; i < n; i++) {
      area[i] = area(rings.get(i));
      holes.add(new ArrayList<>());
    }
    for (int i = 0; i < n; i++) {
      if (area[i] >= 0) {
        continue;
      }
      int around = -1;
      for (int j = 0; j < n; j++) {
        if (area[j] > -area[i]
            && (around < 0 || area[j] < area[around])
            && contains(rings.get(j), rings.get(i)[0], rings.get(i)[1])) {
          around = j;
        }
      }
      if (around < 0) {
        return null;
      }
      holes.get(around).add(i);
    }
    int[] out = new int[0];
    for (int i = 0; i < n; i++) {
      if (area[i] < 0) {
        continue;
      }
      int[] part = one(rings, numbers, i, holes.get(i));
      if (part == null) {
        return null;
      }
      int at = out.length;
      out = java.util.Arrays.copyOf(out, at + part.length);
      System.arraycopy(part, 0, out, at, part.length);
    }
    return out;
  }

  /** The signed area of a ring; positive where it runs counter-clockwise. */
  public static double area(double[] ring) {
    double s = 0;
    int n = ring.length;
    for (int i = 0, j = n - 2; i < n; j = i, i += 2) {
      s +=
          (ring[j] - ring[0]) * (ring[i + 1] - ring[1])
              - (ring[i] - ring[0]) * (ring[j + 1] - ring[1]);
    }
    return s / 2;
  }

  /**
   * Whether a place lies within a ring.
   *
   * @param ring x, y in turn
   */
  public static boolean contains(double[] ring, double x, double y) {
    boolean in = false;
    int n = ring.length;
    for (int i = 0, j = n - 2; i < n; j = i, i += 2) {
      if (ring[i + 1] > y != ring[j + 1] > y
          && x < (ring[j] - ring[i]) * (y - ring[i + 1]) / (ring[j + 1] - ring[i + 1]) + ring[i]) {
        in = !in;
      }
    }
    return in;
  }

  private static int[] one(
      List<double[]> rings, List<int[]> numbers, int outer, List<Integer> holes) {
    int total = rings.get(outer).length / 2;
    for (int h : holes) {
      total += rings.get(h).length / 2;
    }
    double[] flat = new double[2 * total];
    int[] number = new int[total];
    int[] next = new int[total];
    int[] starts = new int[holes.size()];
    int at = append(rings.get(outer), numbers.get(outer), flat, number, next, 0);
    double wanted = area(rings.get(outer));
    for (int i = 0; i < starts.length; i++) {
      starts[i] = at;
      at = append(rings.get(holes.get(i)), numbers.get(holes.get(i)), flat, number, next, at);
      wanted += area(rings.get(holes.get(i)));
    }
    List<int[]> triangles = plain(flat, starts, next, wanted);
    if (triangles == null) {
      triangles = Straightened.triangles(flat, starts, next, wanted);
    }
    if (triangles == null) {
      return null;
    }
    int[] out = new int[3 * triangles.size()];
    for (int i = 0; i < triangles.size(); i++) {
      for (int k = 0; k < 3; k++) {
        out[3 * i + k] = number[triangles.get(i)[k]];
      }
    }
    return out;
  }

  /** Null also where corners of several rings lie on one line and confuse it. */
  private static List<int[]> plain(double[] flat, int[] starts, int[] next, double wanted) {
    int total = next.length;
    List<Integer> ears = Earcut.earcut(flat, starts.length == 0 ? null : starts, 2);
    List<int[]> triangles = new ArrayList<>(total);
    for (int i = 0; i < ears.size(); i += 3) {
      int a = ears.get(i);
      int b = ears.get(i + 1);
      int c = ears.get(i + 2);
      boolean turned = twiceArea(flat, a, b, c) < 0;
      triangles.add(turned ? new int[] {a, c, b} : new int[] {a, b, c});
    }
    if (!haveArea(triangles, flat, wanted)) {
      return null;
    }
    triangles = useAllCorners(triangles, next, total);
    // More of them would overlap.
    return triangles == null || triangles.size() != total + 2 * starts.length - 2
        ? null
        : triangles;
  }

  static boolean haveArea(List<int[]> triangles, double[] flat, double wanted) {
    double got = 0;
    for (int[] t : triangles) {
      got += twiceArea(flat, t[0], t[1], t[2]) / 2;
    }
    return Math.abs(got - wanted) <= 1e-6 * Math.abs(wanted);
  }

  private static int append(
      double[] ring, int[] numbers, double[] flat, int[] number, int[] next, int at) {
    int n = ring.length / 2;
    System.arraycopy(ring, 0, flat, 2 * at, ring.length);
    for (int i = 0; i < n; i++) {
      number[at + i] = numbers[i];
      next[at + i] = at + (i + 1) % n;
    }
    return at + n;
  }

  static double twiceArea(double[] p, int a, int b, int c) {
    return (p[2 * b] - p[2 * a]) * (p[2 * c + 1] - p[2 * a + 1])
        - (p[2 * c] - p[2 * a]) * (p[2 * b + 1] - p[2 * a + 1]);
  }

  /** Splits every triangle whose outer edge passes over corners of a ring. */
  private static List<int[]> useAllCorners(List<int[]> triangles, int[] next, int total) {
    Map<Long, Integer> edges = new HashMap<>();
    for (int[] t : triangles) {
      for (int k = 0; k < 3; k++) {
        edges.merge(key(t[k], t[(k + 1) % 3]), 1, Integer::sum);
      }
    }
    List<int[]> out = new ArrayList<>(triangles.size());
    java.util.ArrayDeque<int[]> open = new java.util.ArrayDeque<>(triangles);
    int guard = 8 * total + 64;
    while (!open.isEmpty()) {
      int[] t = open.poll();
      boolean whole = true;
      for (int k = 0; k < 3 && whole; k++) {
        int a = t[k];
        int b = t[(k + 1) % 3];
        if (edges.containsKey(key(b, a))) {
          continue;
        }
        if (next[a] == b) {
          continue;
        }
        // An outer edge that is no edge of a ring: it passes over next[a].
        int c = t[(k + 2) % 3];
        int over = next[a];
        if (over == b || over == c || guard-- < 0) {
          return null;
        }
        edges.put(key(over, c), 1);
        edges.put(key(c, over), 1);
        open.push(new int[] {over, b, c});
        open.push(new int[] {a, over, c});
        whole = false;
      }
      if (whole) {
        out.add(t);
      }
    }
    return allRingEdges(out, next) ? out : null;
  }

  /** Whether triangles have every edge of some rings. */
  static boolean allRingEdges(List<int[]> triangles, int[] next) {
    java.util.HashSet<Long> edges = new java.util.HashSet<>();
    for (int[] t : triangles) {
      for (int k = 0; k < 3; k++) {
        edges.add(key(t[k], t[(k + 1) % 3]));
      }
    }
    for (int a = 0; a < next.length; a++) {
      if (!edges.contains(key(a, next[a]))) {
        return false;
      }
    }
    return true;
  }

  static long key(int a, int b) {
    return (long) a << 32 | b;
  }
}

package holotome.core.triangulation;

import earcut4j.Earcut;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;

/**
 * Triangulates rings many of whose corners lie on the same lines, as on a grid: triangulated with
 * the corners stirred a little, so that none lies on a line; triangles that then turn out flat are
 * turned away, each with its neighbour across its longest edge.
 */
final class Straightened {
  /** Corners are moved by so much of the whole size at most. */
  private static final double STIR = 1e-9;

  /** So often, every few times farther. */
  private static final int TRIES = 16;

  /** A triangle with so little area, of its longest edge squared, is flat. */
  private static final double FLAT = 1e-7;

  private final double[] p;
  private final List<int[]> triangles = new ArrayList<>();
  private final Map<Long, Integer> edges = new HashMap<>();

  private Straightened(double[] p) {
    this.p = p;
  }

  /**
   * Triangles that use every corner, counter-clockwise; null where there are none.
   *
   * @param p corners x, y in turn
   * @param starts where each hole begins among them
   * @param next the corner after each, round its ring
   * @param area of all together
   */
  static List<int[]> triangles(double[] p, int[] starts, int[] next, double area) {
    double size = 0;
    for (int i = 2; i < p.length; i++) {
      size = Math.max(size, Math.abs(p[i] - p[i % 2]));
    }
    SplittableRandom random = new SplittableRandom(1);
    for (int i = 0; i < TRIES; i++) {
      Straightened s = new Straightened(p);
      s.triangulate(starts, size * STIR * Math.pow(10, i / 4), random);
      if (Triangulator.haveArea(s.triangles, p, area)
          && s.turnFlatAway()
          && Triangulator.allRingEdges(s.triangles, next)) {
        return s.triangles;
      }
    }
    return null;
  }

  private void triangulate(int[] starts, double by, SplittableRandom random) {
    double[] stirred = p.clone();
    for (int i = 0; i < p.length; i++) {
      stirred[i] += by * (random.nextDouble() - 0.5);
    }
    List<Integer> ears = Earcut.earcut(stirred, starts.length == 0 ? null : starts, 2);
    for (int i = 0; i < ears.size(); i += 3) {
      int a = ears.get(i);
      int b = ears.get(i + 1);
      int c = ears.get(i + 2);
      boolean turned = Triangulator.twiceArea(stirred, a, b, c) < 0;
      triangles.add(turned ? new int[] {a, c, b} : new int[] {a, b, c});
      put(i / 3);
    }
  }

  private void put(int t) {
    int[] c = triangles.get(t);
    for (int k = 0; k < 3; k++) {
      edges.put(Triangulator.key(c[k], c[(k + 1) % 3]), t);
    }
  }

  private void take(int t) {
    int[] c = triangles.get(t);
    for (int k = 0; k < 3; k++) {
      edges.remove(Triangulator.key(c[k], c[(k + 1) % 3]));
    }
  }

  private double squared(int a, int b) {
    double x = p[2 * a] - p[2 * b];
    double y = p[2 * a + 1] - p[2 * b + 1];
    return x * x + y * y;
  }

  /** The place in a flat triangle where its longest edge begins; -1 for one that is not flat. */
  private int longest(int[] t) {
    int out = 0;
    for (int k = 1; k < 3; k++) {
      if (squared(t[k], t[(k + 1) % 3]) > squared(t[out], t[(out + 1) % 3])) {
        out = k;
      }
    }
    double most = squared(t[out], t[(out + 1) % 3]);
    return Triangulator.twiceArea(p, t[0], t[1], t[2]) > FLAT * most ? -1 : out;
  }

  /** Whether no flat triangle is left. */
  private boolean turnFlatAway() {
    boolean any = true;
    for (int guard = triangles.size(); any && guard > 0; guard--) {
      any = false;
      for (int t = 0; t < triangles.size(); t++) {
        int k = longest(triangles.get(t));
        any |= k >= 0;
        if (k >= 0) {
          turn(t, k);
        }
      }
    }
    return !any;
  }

  private void turn(int t, int k) {
    int[] flat = triangles.get(t);
    int a = flat[k];
    int b = flat[(k + 1) % 3];
    int x = flat[(k + 2) % 3];
    Integer other = edges.get(Triangulator.key(b, a));
    if (other == null) {
      return;
    }
    int c = -1;
    for (int v : triangles.get(other)) {
      c = v != a && v != b ? v : c;
    }
    if (edges.containsKey(Triangulator.key(x, c)) || edges.containsKey(Triangulator.key(c, x))) {
      return;
    }
    take(t);
    take(other);
    triangles.set(t, new int[] {x, c, b});
    triangles.set(other, new int[] {c, x, a});
    put(t);
    put(other);
  }
}

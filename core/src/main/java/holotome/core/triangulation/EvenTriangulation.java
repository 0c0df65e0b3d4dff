package holotome.core.triangulation;

import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import java.util.Arrays;

/**
 * Refines a triangulation in the plane until its triangles are about as large as the edges around
 * them.
 *
 * <p>The outer edges stay as they are. A triangle that is large beside the lengths wanted at its
 * corners gets a vertex at its centre, and edges are turned until every one is locally Delaunay,
 * again and again (after Liepa, "Filling holes in meshes", SGP 2003); the new vertices are then
 * evened out. New vertices take the length of those they lie between. About O(n log n) for n
 * triangles made.
 */
public final class EvenTriangulation {
  private static final double ALPHA2 = 2;
  private static final int EVENED = 4;

  private double[] xy;
  private double[] length;
  private int points;
  private final int given;
  private int[] tri;
  private int[] twin;
  private int corners;
  private int[] stack = new int[256];
  private int top;

  private EvenTriangulation(double[] xy, double[] length, int[] triangles) {
    this.given = length.length;
    this.points = given;
    this.xy = xy.clone();
    this.length = length.clone();
    this.tri = triangles.clone();
    this.corners = tri.length;
    this.twin = Adjacency.of(new Mesh(new float[3 * given], tri)).twin();
  }

  /**
   * What came of it.
   *
   * @param xy of the new vertices, x, y in turn; they are numbered on from those given
   * @param triangles over old and new vertices
   */
  public record Result(double[] xy, int[] triangles) {}

  /**
   * Refines.
   *
   * @param xy x, y of the vertices in turn
   * @param length the length of edge wanted at each
   * @param triangles counter-clockwise; edges of one triangle only are outer ones
   */
  public static Result refine(double[] xy, double[] length, int[] triangles, Work work) {
    return new EvenTriangulation(xy, length, triangles).run(work);
  }

  private Result run(Work work) {
    for (int h = 0; h < corners; h++) {
      push(h);
    }
    turnEdges();
    boolean more = true;
    while (more) {
      more = false;
      int before = corners;
      for (int h = 0; h < before; h += 3) {
        if ((h & 0xfffff) == 0) {
          work.check();
        }
        more |= splitIfLarge(h);
      }
      turnEdges();
    }
    work.advance(0.7);
    for (int i = 0; i < EVENED; i++) {
      even();
      for (int h = 0; h < corners; h++) {
        push(h);
      }
      turnEdges();
      work.advance(0.3 / EVENED);
    }
    return new Result(Arrays.copyOfRange(xy, 2 * given, 2 * points), Arrays.copyOf(tri, corners));
  }

  private boolean splitIfLarge(int h) {
    int a = tri[h];
    int b = tri[h + 1];
    int c = tri[h + 2];
    double x = (xy[2 * a] + xy[2 * b] + xy[2 * c]) / 3;
    double y = (xy[2 * a + 1] + xy[2 * b + 1] + xy[2 * c + 1]) / 3;
    double l = (length[a] + length[b] + length[c]) / 3;
    for (int k = 0; k < 3; k++) {
      int v = tri[h + k];
      double d2 = sq(x - xy[2 * v]) + sq(y - xy[2 * v + 1]);
      if (ALPHA2 * d2 <= l * l || ALPHA2 * d2 <= length[v] * length[v]) {
        return false;
      }
    }
    int v = point(x, y, l, a, b, c);
    grow(corners + 6);
    int first = corners;
    int second = corners + 3;
    corners += 6;
    int twinB = twin[h + 1];
    int twinC = twin[h + 2];
    // a b v stays in place; b c v and c a v are new. Edge k runs from corner k to the next.
    tri[h + 2] = v;
    set(first, b, c, v);
    set(second, c, a, v);
    join(h + 1, first + 2);
    join(first + 1, second + 2);
    join(second + 1, h + 2);
    outer(first, twinB);
    outer(second, twinC);
    push(h);
    push(first);
    push(second);
    return true;
  }

  private int point(double x, double y, double l, int a, int b, int c) {
    if (2 * points == xy.length) {
      xy = Arrays.copyOf(xy, 2 * xy.length + 64);
      length = Arrays.copyOf(length, xy.length / 2);
    }
    xy[2 * points] = x;
    xy[2 * points + 1] = y;
    length[points] = l;
    return points++;
  }

  private void grow(int to) {
    if (to > tri.length) {
      tri = Arrays.copyOf(tri, 2 * tri.length + 12);
      twin = Arrays.copyOf(twin, tri.length);
    }
  }

  private void set(int h, int a, int b, int c) {
    tri[h] = a;
    tri[h + 1] = b;
    tri[h + 2] = c;
  }

  private void join(int g, int h) {
    twin[g] = h;
    twin[h] = g;
  }

  private void outer(int h, int other) {
    twin[h] = other;
    if (other >= 0) {
      twin[other] = h;
    }
  }

  private void push(int h) {
    if (top == stack.length) {
      stack = Arrays.copyOf(stack, 2 * top);
    }
    stack[top++] = h;
  }

  /** Turns edges until all that were pushed, and those they lead to, are locally Delaunay. */
  private void turnEdges() {
    while (top > 0) {
      int h = stack[--top];
      int g = twin[h];
      if (g >= 0 && shouldTurn(h, g)) {
        turn(h, g);
      }
    }
  }

  private boolean shouldTurn(int h, int g) {
    int a = tri[h];
    int b = tri[Adjacency.next(h)];
    int c = tri[Adjacency.previous(h)];
    int d = tri[Adjacency.previous(g)];
    if (c == d) {
      return false;
    }
    double ax = xy[2 * a] - xy[2 * d];
    double ay = xy[2 * a + 1] - xy[2 * d + 1];
    double bx = xy[2 * b] - xy[2 * d];
    double by = xy[2 * b + 1] - xy[2 * d + 1];
    double cx = xy[2 * c] - xy[2 * d];
    double cy = xy[2 * c + 1] - xy[2 * d + 1];
    double aa = ax * ax + ay * ay;
    double bb = bx * bx + by * by;
    double cc = cx * cx + cy * cy;
    double in = aa * (bx * cy - cx * by) - bb * (ax * cy - cx * ay) + cc * (ax * by - bx * ay);
    // Nearly on the circle is good enough, and turning back and forth must end.
    double size = Math.max(aa, Math.max(bb, cc));
    return in > 1e-10 * size * size && area(c, d, b) > 0 && area(d, c, a) > 0;
  }

  private double area(int a, int b, int c) {
    return (xy[2 * b] - xy[2 * a]) * (xy[2 * c + 1] - xy[2 * a + 1])
        - (xy[2 * c] - xy[2 * a]) * (xy[2 * b + 1] - xy[2 * a + 1]);
  }

  /** Turns the edge a b of triangles a b c and b a d into c d: triangles d b c and c a d. */
  private void turn(int h, int g) {
    int h1 = Adjacency.next(h);
    int h2 = Adjacency.previous(h);
    int g1 = Adjacency.next(g);
    int g2 = Adjacency.previous(g);
    int c = tri[h2];
    int d = tri[g2];
    int twinCa = twin[h2];
    int twinDb = twin[g2];
    // h: d b c with edges d-b, b-c, c-d; g: c a d with edges c-a, a-d, d-c.
    tri[h] = d;
    tri[g] = c;
    outer(h, twinDb);
    outer(g, twinCa);
    join(h2, g2);
    push(h);
    push(h1);
    push(g);
    push(g1);
  }

  /** Moves each new vertex to the middle of its neighbours, unless a triangle would turn over. */
  private void even() {
    double[] sum = new double[2 * points];
    int[] count = new int[points];
    for (int h = 0; h < corners; h++) {
      int v = tri[h];
      int w = tri[Adjacency.next(h)];
      sum[2 * v] += xy[2 * w];
      sum[2 * v + 1] += xy[2 * w + 1];
      count[v]++;
    }
    double[] old = xy.clone();
    for (int v = given; v < points; v++) {
      xy[2 * v] = sum[2 * v] / count[v];
      xy[2 * v + 1] = sum[2 * v + 1] / count[v];
    }
    boolean turned = true;
    while (turned) {
      turned = false;
      for (int h = 0; h < corners; h += 3) {
        if (!(area(tri[h], tri[h + 1], tri[h + 2]) > 0)) {
          for (int k = 0; k < 3; k++) {
            int v = tri[h + k];
            if (xy[2 * v] != old[2 * v] || xy[2 * v + 1] != old[2 * v + 1]) {
              xy[2 * v] = old[2 * v];
              xy[2 * v + 1] = old[2 * v + 1];
              turned = true;
            }
          }
        }
      }
    }
  }

  private static double sq(double x) {
    return x * x;
  }
}

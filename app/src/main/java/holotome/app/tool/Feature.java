package holotome.app.tool;

import holotome.core.geometry.Vec;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.UnaryOperator;

/**
 * A point, an edge or a triangle of the mesh, by the places of its corners.
 *
 * @param points 3 doubles a corner, in working space
 */
record Feature(double[] points) {
  int size() {
    return points.length / 3;
  }

  double[] corner(int i) {
    return Arrays.copyOfRange(points, 3 * i, 3 * i + 3);
  }

  /** Whether the other has the same corners, in any order. */
  boolean isSame(Feature o) {
    return o.size() == size() && all(List.of(this, o)).size() == size();
  }

  /** Several with this one more, or without it where it was among them. */
  List<Feature> toggledIn(List<Feature> of) {
    List<Feature> next = new ArrayList<>(of);
    if (!next.removeIf(this::isSame)) {
      next.add(this);
    }
    return next;
  }

  Feature moved(double[] by) {
    double[] out = points.clone();
    for (int i = 0; i < out.length; i++) {
      out[i] += by[i % 3];
    }
    return new Feature(out);
  }

  /** The same with its corners elsewhere. */
  Feature at(UnaryOperator<double[]> to) {
    double[] out = new double[points.length];
    for (int i = 0; i < size(); i++) {
      System.arraycopy(to.apply(corner(i)), 0, out, 3 * i, 3);
    }
    return new Feature(out);
  }

  /** The corners of several, each place once. */
  static List<double[]> all(List<Feature> of) {
    List<double[]> out = new ArrayList<>();
    for (Feature f : of) {
      for (int i = 0; i < f.size(); i++) {
        double[] p = f.corner(i);
        if (out.stream().noneMatch(q -> Arrays.equals(p, q))) {
          out.add(p);
        }
      }
    }
    return out;
  }

  static double[] flat(List<double[]> points) {
    double[] out = new double[3 * points.size()];
    for (int i = 0; i < points.size(); i++) {
      System.arraycopy(points.get(i), 0, out, 3 * i, 3);
    }
    return out;
  }

  /**
   * Edges that hang together and single points as runs of points, each from one end to the other;
   * null where edges branch or close a ring.
   */
  static List<List<double[]>> runs(List<Feature> of) {
    List<Feature> edges = new ArrayList<>(of.stream().filter(f -> f.size() == 2).toList());
    List<List<double[]>> out = new ArrayList<>();
    while (!edges.isEmpty()) {
      Feature first = edges.removeFirst();
      List<double[]> run = new ArrayList<>(List.of(first.corner(0), first.corner(1)));
      boolean grows = true;
      while (grows) {
        grows = false;
        for (int i = 0; i < edges.size() && !grows; i++) {
          grows = joined(run, edges.get(i));
          if (grows) {
            edges.remove(i);
          }
        }
      }
      if (all(List.of(new Feature(flat(run)))).size() < run.size()) {
        return null;
      }
      out.add(run);
    }
    of.stream().filter(f -> f.size() == 1).forEach(f -> out.add(List.of(f.corner(0))));
    return out;
  }

  private static boolean joined(List<double[]> run, Feature edge) {
    for (int k = 0; k < 2; k++) {
      if (Arrays.equals(edge.corner(k), run.getLast())) {
        run.add(edge.corner(1 - k));
        return true;
      }
      if (Arrays.equals(edge.corner(k), run.getFirst())) {
        run.addFirst(edge.corner(1 - k));
        return true;
      }
    }
    return false;
  }

  /**
   * Of a triangle, what lies under a pixel: a corner within reach of it, else an edge, else all of
   * it; or only what is asked for.
   *
   * @param size 1 for corners, 2 for edges, 3 for triangles only; 0 for whatever is nearest
   */
  static Feature under(ViewPort view, double[] triangle, int size, double x, double y) {
    double[][] at = new double[3][];
    for (int k = 0; k < 3; k++) {
      at[k] = view.project(Arrays.copyOfRange(triangle, 3 * k, 3 * k + 3));
      if (at[k] == null) {
        return null;
      }
    }
    int corner = 0;
    int edge = 0;
    double[] p = {x, y, 0};
    double[] toCorner = new double[3];
    double[] toEdge = new double[3];
    for (int k = 0; k < 3; k++) {
      toCorner[k] = Math.hypot(at[k][0] - x, at[k][1] - y);
      toEdge[k] = toSegment(at[k], at[(k + 1) % 3], p);
      corner = toCorner[k] < toCorner[corner] ? k : corner;
      edge = toEdge[k] < toEdge[edge] ? k : edge;
    }
    if (size == 1 || size == 0 && toCorner[corner] <= NEAR_CORNER) {
      return new Feature(Arrays.copyOfRange(triangle, 3 * corner, 3 * corner + 3));
    }
    if (size == 2 || size == 0 && toEdge[edge] <= NEAR_EDGE) {
      double[] two = new double[6];
      System.arraycopy(triangle, 3 * edge, two, 0, 3);
      System.arraycopy(triangle, 3 * ((edge + 1) % 3), two, 3, 3);
      return new Feature(two);
    }
    return new Feature(triangle);
  }

  private static final double NEAR_CORNER = 8;
  private static final double NEAR_EDGE = 5;

  private static double toSegment(double[] a, double[] b, double[] p) {
    double[] d = {b[0] - a[0], b[1] - a[1], 0};
    double[] e = {p[0] - a[0], p[1] - a[1], 0};
    double length = Vec.dot(d, d);
    double t = length > 0 ? Math.clamp(Vec.dot(d, e) / length, 0, 1) : 0;
    return Math.hypot(e[0] - t * d[0], e[1] - t * d[1]);
  }
}

package holotome.app.tool;

import holotome.core.geometry.Vec;
import holotome.core.polygon.FaceLists;
import holotome.core.polygon.Triangulated;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * What of a small polygon mesh lies under a pixel, told from the polygons themselves, whatever else
 * is shown: the nearest face, and edges and points that no face hides. O(n) a question.
 */
final class PolygonPicking {
  /** Pixels from which points and edges are taken. */
  private static final double POINT = 11;

  private static final double EDGE = 7;

  /** So much nearer a face must be to hide what lies behind it. */
  private static final double HIDES = 2e-3;

  private final double[][] at;
  private final int[][] faces;
  private final List<int[]> edges;
  private final int[][] triangles;

  /**
   * @param of in working space
   */
  PolygonPicking(FaceLists of) {
    at = new double[of.vertexCount()][];
    for (int v = 0; v < at.length; v++) {
      at[v] = of.at(v);
    }
    faces = of.faces();
    edges = of.edges();
    triangles = new int[faces.length][];
    for (int f = 0; f < faces.length; f++) {
      triangles[f] = Triangulated.triangles(of.corners(f));
    }
  }

  /** Pixels and how far before the eye: x, y, w. */
  private record Seen(double[][] p) {}

  private Seen seen(ViewPort view) {
    double[] m = view.toPixels();
    double[][] out = new double[at.length][];
    for (int v = 0; v < out.length; v++) {
      double[] q = at[v];
      double w = m[12] * q[0] + m[13] * q[1] + m[14] * q[2] + m[15];
      double x = m[0] * q[0] + m[1] * q[1] + m[2] * q[2] + m[3];
      double y = m[4] * q[0] + m[5] * q[1] + m[6] * q[2] + m[7];
      double depth = Vec.dot(Vec.sub(q, view.camera().eye()), view.camera().forward());
      out[v] = w > 0 ? new double[] {x / w, y / w, depth} : null;
    }
    return new Seen(out);
  }

  /**
   * What lies under a pixel.
   *
   * @param size 1 points, 2 edges, 3 faces, 0 whatever is nearest
   * @return null for nothing
   */
  Feature under(ViewPort view, double x, double y, int size) {
    Seen s = seen(view);
    Feature out = size == 0 || size == 1 ? point(s, x, y) : null;
    if (out == null && (size == 0 || size == 2)) {
      out = edge(s, x, y);
    }
    if (out == null && (size == 0 || size == 3)) {
      int f = face(s, x, y, null);
      out = f < 0 ? null : feature(faces[f]);
    }
    return out;
  }

  /** Everything of a size within a rectangle of pixels, seen or not. */
  List<Feature> within(ViewPort view, double[] low, double[] high, int size) {
    Seen s = seen(view);
    boolean[] in = new boolean[at.length];
    for (int v = 0; v < at.length; v++) {
      double[] p = s.p[v];
      in[v] = p != null && p[0] >= low[0] && p[0] <= high[0] && p[1] >= low[1] && p[1] <= high[1];
    }
    List<Feature> out = new ArrayList<>();
    for (int v = 0; v < at.length && size < 2; v++) {
      if (in[v]) {
        out.add(feature(v));
      }
    }
    for (int i = 0; i < edges.size() && size == 2; i++) {
      if (in[edges.get(i)[0]] && in[edges.get(i)[1]]) {
        out.add(feature(edges.get(i)));
      }
    }
    for (int i = 0; i < faces.length && size == 3; i++) {
      if (Arrays.stream(faces[i]).allMatch(v -> in[v])) {
        out.add(feature(faces[i]));
      }
    }
    return out;
  }

  private Feature feature(int... vertices) {
    List<double[]> corners = new ArrayList<>();
    for (int v : vertices) {
      corners.add(at[v]);
    }
    return new Feature(Feature.flat(corners));
  }

  private Feature point(Seen s, double x, double y) {
    int best = -1;
    double least = POINT;
    for (int v = 0; v < at.length; v++) {
      double[] p = s.p[v];
      double d = p == null ? least : Math.hypot(p[0] - x, p[1] - y);
      if (d < least && !isHidden(s, p)) {
        least = d;
        best = v;
      }
    }
    return best < 0 ? null : feature(best);
  }

  private Feature edge(Seen s, double x, double y) {
    int[] best = null;
    double least = EDGE;
    for (int[] ends : edges) {
      double[] a = s.p[ends[0]];
      double[] b = s.p[ends[1]];
      if (a == null || b == null) {
        continue;
      }
      double dx = b[0] - a[0];
      double dy = b[1] - a[1];
      double l = dx * dx + dy * dy;
      double t = l > 0 ? Math.clamp(((x - a[0]) * dx + (y - a[1]) * dy) / l, 0.0, 1.0) : 0;
      double[] p = {a[0] + t * dx, a[1] + t * dy, a[2] + t * (b[2] - a[2])};
      double d = Math.hypot(p[0] - x, p[1] - y);
      if (d < least && !isHidden(s, p)) {
        least = d;
        best = ends;
      }
    }
    return best == null ? null : feature(best);
  }

  /** Whether a face lies before a place in the picture. */
  private boolean isHidden(Seen s, double[] p) {
    double[] depth = {p[2] * (1 - HIDES) - 1e-12};
    return face(s, p[0], p[1], depth) >= 0;
  }

  /**
   * The nearest face under a pixel; -1 for none.
   *
   * @param before one number: only what is nearer than that counts; null for all
   */
  private int face(Seen s, double x, double y, double[] before) {
    int best = -1;
    double least = before == null ? Double.POSITIVE_INFINITY : before[0];
    for (int f = 0; f < faces.length; f++) {
      int[] c = triangles[f];
      for (int t = 0; t < c.length; t += 3) {
        double d =
            depth(s.p[faces[f][c[t]]], s.p[faces[f][c[t + 1]]], s.p[faces[f][c[t + 2]]], x, y);
        if (d < least) {
          least = d;
          best = f;
        }
      }
    }
    return best;
  }

  /** How far before the eye a triangle is at a pixel; without end where it is not. */
  private static double depth(double[] a, double[] b, double[] c, double x, double y) {
    if (a == null || b == null || c == null) {
      return Double.POSITIVE_INFINITY;
    }
    double u = (b[0] - x) * (c[1] - y) - (b[1] - y) * (c[0] - x);
    double v = (c[0] - x) * (a[1] - y) - (c[1] - y) * (a[0] - x);
    double w = (a[0] - x) * (b[1] - y) - (a[1] - y) * (b[0] - x);
    boolean isIn = u >= 0 && v >= 0 && w >= 0 || u <= 0 && v <= 0 && w <= 0;
    double sum = u + v + w;
    return isIn && sum != 0 ? (u * a[2] + v * b[2] + w * c[2]) / sum : Double.POSITIVE_INFINITY;
  }
}

package holotome.core.polygon;

import holotome.core.array.LongIndex;
import holotome.core.geometry.Vec;

/**
 * Parts every face into as many quads as it has corners: flat, by the middles of faces and edges,
 * or rounded (Catmull and Clark, "Recursively generated B-spline surfaces on arbitrary topological
 * meshes", 1978; along borders and where more than two faces meet, the curve of their edges alone).
 */
public final class Subdivision {
  private final FaceLists of;
  private final LongIndex edges = new LongIndex();

  /** Per edge how many faces it has, and the sum of their middles. */
  private final int[] sides;

  private final double[] beside;

  private Subdivision(FaceLists of) {
    this.of = of;
    int corners = 0;
    for (int[] face : of.faces()) {
      corners += face.length;
    }
    sides = new int[corners];
    beside = new double[3 * corners];
    for (int f = 0; f < of.faces().length; f++) {
      int[] face = of.faces()[f];
      double[] middle = of.middle(f);
      for (int i = 0; i < face.length; i++) {
        int e = edges.add(edge(face[i], face[(i + 1) % face.length]));
        sides[e]++;
        for (int k = 0; k < 3; k++) {
          beside[3 * e + k] += middle[k];
        }
      }
    }
  }

  /** So many quads one round makes. */
  public static long quads(FaceLists of) {
    long n = 0;
    for (int[] face : of.faces()) {
      n += face.length;
    }
    return n;
  }

  /** One round. Vertices keep their numbers, then come one an edge, then one a face. O(n). */
  public static FaceLists of(FaceLists faces, boolean rounded) {
    return new Subdivision(faces).divided(rounded);
  }

  private static long edge(int a, int b) {
    return (long) Math.min(a, b) << 32 | Math.max(a, b);
  }

  private FaceLists divided(boolean rounded) {
    int n = of.vertexCount();
    int first = n + edges.size();
    double[] xyz = new double[3 * (first + of.faces().length)];
    System.arraycopy(of.xyz(), 0, xyz, 0, of.xyz().length);
    for (int e = 0; e < edges.size(); e++) {
      double[] at = Vec.mul(ends(e), 0.5);
      if (rounded && sides[e] == 2) {
        at = Vec.mul(Vec.add(Vec.mul(at, 2), beside(e)), 0.25);
      }
      System.arraycopy(at, 0, xyz, 3 * (n + e), 3);
    }
    int[][] quads = new int[(int) quads(of)][];
    int q = 0;
    for (int f = 0; f < of.faces().length; f++) {
      System.arraycopy(of.middle(f), 0, xyz, 3 * (first + f), 3);
      int[] face = of.faces()[f];
      int before = n + edges.find(edge(face[face.length - 1], face[0]));
      for (int i = 0; i < face.length; i++) {
        int after = n + edges.find(edge(face[i], face[(i + 1) % face.length]));
        quads[q++] = new int[] {face[i], after, first + f, before};
        before = after;
      }
    }
    if (rounded) {
      round(xyz);
    }
    return new FaceLists(xyz, quads);
  }

  /** The sum of an edge's ends. */
  private double[] ends(int e) {
    long key = edges.key(e);
    return Vec.add(of.at((int) (key >>> 32)), of.at((int) key));
  }

  private double[] beside(int e) {
    return new double[] {beside[3 * e], beside[3 * e + 1], beside[3 * e + 2]};
  }

  /** Moves the vertices that were there. */
  private void round(double[] xyz) {
    int n = of.vertexCount();
    int[] count = new int[n];
    int[] rims = new int[n];
    double[] sum = new double[3 * n];
    double[] rim = new double[3 * n];
    for (int e = 0; e < edges.size(); e++) {
      double[] twice = ends(e);
      double[] by = beside(e);
      for (int v : new int[] {(int) (edges.key(e) >>> 32), (int) edges.key(e)}) {
        count[v]++;
        rims[v] += sides[e] == 2 ? 0 : 1;
        for (int k = 0; k < 3; k++) {
          // An edge's middle counts twice; each face's middle comes by two of its edges.
          sum[3 * v + k] += twice[k] + by[k] / 2;
          rim[3 * v + k] += sides[e] == 2 ? 0 : twice[k] / 2;
        }
      }
    }
    for (int v = 0; v < n; v++) {
      double m = count[v];
      for (int k = 0; k < 3; k++) {
        double old = of.xyz()[3 * v + k];
        if (rims[v] == 0 && m > 0) {
          xyz[3 * v + k] = (sum[3 * v + k] / m + (m - 3) * old) / m;
        } else if (rims[v] == 2) {
          xyz[3 * v + k] = (rim[3 * v + k] / 2 + old) / 2;
        }
      }
    }
  }
}

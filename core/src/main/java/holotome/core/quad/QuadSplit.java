package holotome.core.quad;

import holotome.core.array.LongIndex;
import java.util.Arrays;

/**
 * Makes quads of faces with any number of corners: a point in the middle of each face and each edge
 * (the way Catmull and Clark, "Recursively generated B-spline surfaces on arbitrary topological
 * meshes", 1978, divide them), which makes of a face as many quads as it has corners.
 */
final class QuadSplit {
  private QuadSplit() {}

  static Faces of(Faces f) {
    LongIndex edges = new LongIndex();
    int quads = 0;
    for (int[] c : f.corners()) {
      quads += c.length;
      for (int i = 0; i < c.length; i++) {
        edges.add(Faces.edge(c[i], c[(i + 1) % c.length]));
      }
    }
    int points = f.points();
    int faces = f.corners().length;
    double[] at = Arrays.copyOf(f.at(), 3 * (points + edges.size() + faces));
    int[] from = Arrays.copyOf(f.from(), points + edges.size() + faces);
    LongIndex lines = new LongIndex();
    for (int e = 0; e < edges.size(); e++) {
      int a = (int) (edges.key(e) >>> 32);
      int b = (int) edges.key(e);
      int m = points + e;
      for (int k = 0; k < 3; k++) {
        at[3 * m + k] = 0.5 * (at[3 * a + k] + at[3 * b + k]);
      }
      from[m] = from[a];
      if (f.isLine(a, b)) {
        lines.add(Faces.edge(a, m));
        lines.add(Faces.edge(b, m));
      }
    }
    int[][] corners = new int[quads][];
    int n = 0;
    for (int i = 0; i < faces; i++) {
      int[] c = f.corners()[i];
      int m = points + edges.size() + i;
      for (int v : c) {
        for (int k = 0; k < 3; k++) {
          at[3 * m + k] += at[3 * v + k] / c.length;
        }
      }
      from[m] = from[c[0]];
      for (int j = 0; j < c.length; j++) {
        int before = c[(j + c.length - 1) % c.length];
        int after = c[(j + 1) % c.length];
        corners[n++] =
            new int[] {
              c[j],
              points + edges.find(Faces.edge(c[j], after)),
              m,
              points + edges.find(Faces.edge(before, c[j]))
            };
      }
    }
    return new Faces(at, corners, lines, from);
  }
}

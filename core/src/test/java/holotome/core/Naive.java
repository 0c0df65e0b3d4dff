package holotome.core;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/** Counts made the slow and obvious way, independent of the code under test. */
public final class Naive {
  private Naive() {}

  /** How many triangles use each edge. */
  public static Map<Long, Integer> edges(Mesh m) {
    Map<Long, Integer> out = new HashMap<>();
    int[] t = m.triangles();
    for (int i = 0; i < t.length; i += 3) {
      for (int k = 0; k < 3; k++) {
        long a = t[i + k];
        long b = t[i + (k + 1) % 3];
        out.merge(Math.min(a, b) << 32 | Math.max(a, b), 1, Integer::sum);
      }
    }
    return out;
  }

  public static long border(Mesh m) {
    return edges(m).values().stream().filter(n -> n == 1).count();
  }

  public static long crowded(Mesh m) {
    return edges(m).values().stream().filter(n -> n > 2).count();
  }

  /** Whether every edge is run along once in each direction: closed and oriented. */
  public static boolean closedAndOriented(Mesh m) {
    Set<Long> seen = new HashSet<>();
    int[] t = m.triangles();
    for (int i = 0; i < t.length; i += 3) {
      for (int k = 0; k < 3; k++) {
        if (!seen.add((long) t[i + k] << 32 | t[i + (k + 1) % 3])) {
          return false;
        }
      }
    }
    for (long e : seen) {
      if (!seen.contains(e << 32 | e >>> 32)) {
        return false;
      }
    }
    return true;
  }

  /** Whether two triangles have two different vertices in common. */
  private static boolean shareAnEdge(Mesh m, int t, int u) {
    java.util.Set<Integer> common = new java.util.HashSet<>();
    for (int k = 0; k < 3; k++) {
      for (int j = 0; j < 3; j++) {
        if (m.triangles()[3 * t + k] == m.triangles()[3 * u + j]) {
          common.add(m.triangles()[3 * t + k]);
        }
      }
    }
    return common.size() >= 2;
  }

  /** Pieces that share no edge. */
  public static int islands(Mesh m) {
    Map<Integer, List<Integer>> byVertex = new HashMap<>();
    for (int i = 0; i < m.triangles().length; i++) {
      byVertex.computeIfAbsent(m.triangles()[i], k -> new ArrayList<>()).add(i / 3);
    }
    boolean[] seen = new boolean[m.triangleCount()];
    int n = 0;
    for (int t = 0; t < seen.length; t++) {
      if (seen[t]) {
        continue;
      }
      n++;
      ArrayDeque<Integer> queue = new ArrayDeque<>(List.of(t));
      seen[t] = true;
      while (!queue.isEmpty()) {
        int u = queue.poll();
        for (int k = 0; k < 3; k++) {
          for (int w : byVertex.get(m.triangles()[3 * u + k])) {
            if (!seen[w] && shareAnEdge(m, u, w)) {
              seen[w] = true;
              queue.add(w);
            }
          }
        }
      }
    }
    return n;
  }

  public static int doubledPoints(Mesh m) {
    Set<List<Float>> seen = new HashSet<>();
    int n = 0;
    for (int v = 0; v < m.vertexCount(); v++) {
      float[] p = m.xyz();
      n += seen.add(List.of(p[3 * v] + 0f, p[3 * v + 1] + 0f, p[3 * v + 2] + 0f)) ? 0 : 1;
    }
    return n;
  }

  public static int duplicateTriangles(Mesh m) {
    Set<TreeSet<Integer>> seen = new HashSet<>();
    int n = 0;
    for (int t = 0; t < m.triangleCount(); t++) {
      TreeSet<Integer> s =
          new TreeSet<>(
              List.of(m.triangles()[3 * t], m.triangles()[3 * t + 1], m.triangles()[3 * t + 2]));
      n += s.size() < 3 || seen.add(s) ? 0 : 1;
    }
    return n;
  }

  /** Fans around each vertex, by joining triangles over edges of exactly two triangles. */
  public static int verticesWithSeveralFans(Mesh m) {
    Map<Long, Integer> edges = edges(m);
    Map<Integer, List<Integer>> byVertex = new HashMap<>();
    for (int i = 0; i < m.triangles().length; i++) {
      byVertex.computeIfAbsent(m.triangles()[i], k -> new ArrayList<>()).add(i / 3);
    }
    int out = 0;
    for (var e : byVertex.entrySet()) {
      int v = e.getKey();
      List<Integer> around = new ArrayList<>(new TreeSet<>(e.getValue()));
      Set<Integer> left = new HashSet<>(around);
      int fans = 0;
      while (!left.isEmpty()) {
        fans++;
        ArrayDeque<Integer> queue = new ArrayDeque<>(List.of(left.iterator().next()));
        left.remove(queue.peek());
        while (!queue.isEmpty()) {
          int t = queue.poll();
          for (int u : List.copyOf(left)) {
            if (shareRegularEdgeAt(m, edges, v, t, u)) {
              left.remove(u);
              queue.add(u);
            }
          }
        }
      }
      out += fans > 1 ? 1 : 0;
    }
    return out;
  }

  private static boolean shareRegularEdgeAt(Mesh m, Map<Long, Integer> edges, int v, int t, int u) {
    for (int i = 0; i < 3; i++) {
      int w = m.triangles()[3 * t + i];
      for (int j = 0; j < 3 && w != v; j++) {
        if (m.triangles()[3 * u + j] == w) {
          long key = (long) Math.min(v, w) << 32 | Math.max(v, w);
          if (edges.getOrDefault(key, 0) == 2) {
            return true;
          }
        }
      }
    }
    return false;
  }

  /**
   * Checks what every mesh must hold: numbers in range, arrays of the right length, finite places.
   */
  public static void assertSound(Mesh m) {
    for (int v : m.triangles()) {
      if (v < 0 || v >= m.vertexCount()) {
        throw new AssertionError("vertex " + v + " of " + m.vertexCount());
      }
    }
    for (float f : m.xyz()) {
      if (!Float.isFinite(f)) {
        throw new AssertionError("a coordinate is not finite");
      }
    }
    if (m.uv() != null) {
      for (int c : m.uv().corners()) {
        if (c < 0 || c >= m.uv().coords().length / 2) {
          throw new AssertionError("texture vertex " + c);
        }
      }
    }
  }

  /** How far a point is from a mesh: from each triangle in turn, in doubles. */
  public static double distance(double[] p, Mesh m) {
    double least = Double.POSITIVE_INFINITY;
    for (int t = 0; t < m.triangleCount(); t++) {
      double[][] c = new double[3][];
      for (int k = 0; k < 3; k++) {
        c[k] = Vec.at(m.xyz(), m.triangles()[3 * t + k]);
      }
      double[] n = Vec.cross(Vec.sub(c[1], c[0]), Vec.sub(c[2], c[0]));
      double area = Vec.length(n);
      boolean isOver = area > 0;
      for (int k = 0; k < 3; k++) {
        double[] e = Vec.sub(c[(k + 1) % 3], c[k]);
        double[] d = Vec.sub(p, c[k]);
        isOver &= Vec.dot(Vec.cross(n, e), d) >= 0;
        double l = Vec.dot(e, e);
        double s = l > 0 ? Math.clamp(Vec.dot(d, e) / l, 0.0, 1.0) : 0;
        least = Math.min(least, Vec.length(Vec.sub(d, Vec.mul(e, s))));
      }
      if (isOver) {
        least = Math.min(least, Math.abs(Vec.dot(n, Vec.sub(p, c[0]))) / area);
      }
    }
    return least;
  }
}

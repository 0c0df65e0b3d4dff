package holotome.core.reduce;

import holotome.core.attribute.Attribute;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.VertexFans;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Where what a mesh carries breaks off: the corners around a vertex that have the same texture
 * coordinates are a wedge (Hoppe, "Efficient implementation of progressive meshes", 1998), and an
 * edge across which they differ, or the material does, or that is sharp, is a line.
 *
 * @param ofCorner the wedge of each corner; null where each vertex is one
 * @param vertex the vertex of each wedge; null likewise
 * @param lines three bits a triangle, bit k for its half-edge k; null where there are none
 */
record Wedges(int[] ofCorner, int[] vertex, byte[] lines) {
  static final Wedges NONE = new Wedges(null, null, null);

  private static final int GRAIN = 1 << 14;

  /**
   * Finds them. O(T) on all cores, the numbering of wedges in one.
   *
   * @param keepsUv whether seams of texture coordinates are lines
   * @param keepsMaterials whether borders of materials and labels are
   * @param sharp the cosine of the turn from which on an edge is one; -1 for none
   */
  static Wedges of(Mesh mesh, boolean keepsUv, boolean keepsMaterials, double sharp, Work work) {
    List<Attribute> uv = new ArrayList<>();
    List<Attribute> marks = new ArrayList<>();
    for (Attribute a : mesh.attributes()) {
      if (keepsUv && a.kind() == Attribute.Kind.UV) {
        uv.add(a);
      }
      if (keepsMaterials && a.domain() == Attribute.Domain.TRIANGLE && isMark(a)) {
        marks.add(a);
      }
    }
    if (uv.isEmpty() && marks.isEmpty() && sharp <= -1) {
      return NONE;
    }
    int[] ofCorner = null;
    int[] vertex = null;
    if (!uv.isEmpty()) {
      ofCorner = new int[mesh.triangles().length];
      vertex = number(mesh, uv, ofCorner, work.part(0.5, CoreWords.of("work.finding-seams")));
    }
    Work finding = work.part(0.3, CoreWords.of("work.finding-neighbours"));
    int[] twin = Adjacency.of(mesh, finding).twin();
    byte[] lines = new byte[mesh.triangleCount()];
    int[] wedge = ofCorner;
    Parallel.range(
        lines.length,
        GRAIN,
        work.part(0.2, CoreWords.of("work.finding-seams")),
        (from, to) -> {
          for (int h = 3 * from; h < 3 * to; h++) {
            int g = twin[h];
            if (g >= 0 && isLine(mesh, wedge, marks, sharp, h, g)) {
              lines[h / 3] |= (byte) (1 << h % 3);
            }
          }
        });
    return new Wedges(ofCorner, vertex, lines);
  }

  private static boolean isMark(Attribute a) {
    return a.kind() == Attribute.Kind.MATERIAL || a.kind() == Attribute.Kind.LABEL;
  }

  private static boolean isLine(
      Mesh mesh, int[] wedge, List<Attribute> marks, double sharp, int h, int g) {
    if (wedge != null
        && (wedge[h] != wedge[Adjacency.next(g)] || wedge[Adjacency.next(h)] != wedge[g])) {
      return true;
    }
    for (Attribute a : marks) {
      boolean isMaterial = a.kind() == Attribute.Kind.MATERIAL;
      if (isMaterial
          ? a.shorts()[h / 3] != a.shorts()[g / 3]
          : a.ints()[h / 3] != a.ints()[g / 3]) {
        return true;
      }
    }
    if (sharp <= -1) {
      return false;
    }
    double[] a = Measures.cross(mesh, h / 3);
    double[] b = Measures.cross(mesh, g / 3);
    double aa = a[0] * a[0] + a[1] * a[1] + a[2] * a[2];
    double bb = b[0] * b[0] + b[1] * b[1] + b[2] * b[2];
    double ab = a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
    return aa > 0 && bb > 0 && ab < sharp * Math.sqrt(aa) * Math.sqrt(bb);
  }

  /** Numbers the wedges, vertex by vertex; returns the vertex of each. */
  private static int[] number(Mesh mesh, List<Attribute> uv, int[] ofCorner, Work work) {
    int n = mesh.vertexCount();
    int[] tri = mesh.triangles();
    VertexFans fans = VertexFans.of(n, tri, work);
    int[] vertex = new int[n + n / 2 + 16];
    int count = 0;
    for (int v = 0; v < n; v++) {
      if (v % GRAIN == 0) {
        work.check();
      }
      for (int k = fans.start()[v]; k < fans.start()[v + 1]; k++) {
        int t = 3 * fans.triangles()[k];
        for (int c = t; c < t + 3; c++) {
          if (tri[c] != v) {
            continue;
          }
          int same = sameBefore(uv, fans, tri, ofCorner, v, k, c);
          if (same < 0) {
            if (count == vertex.length) {
              vertex = Arrays.copyOf(vertex, count + count / 2);
            }
            vertex[count] = v;
            same = count++;
          }
          ofCorner[c] = same;
        }
      }
    }
    return Arrays.copyOf(vertex, count);
  }

  /** The wedge of an earlier corner at the vertex with the same coordinates; -1 if none has. */
  private static int sameBefore(
      List<Attribute> uv, VertexFans fans, int[] tri, int[] ofCorner, int v, int upTo, int corner) {
    for (int k = fans.start()[v]; k <= upTo; k++) {
      int t = 3 * fans.triangles()[k];
      for (int c = t; c < t + 3; c++) {
        if (tri[c] == v && (k < upTo || c < corner) && isSame(uv, c, corner)) {
          return ofCorner[c];
        }
      }
    }
    return -1;
  }

  private static boolean isSame(List<Attribute> uv, int c, int d) {
    for (Attribute a : uv) {
      int i = 2 * a.index()[c];
      int j = 2 * a.index()[d];
      if (a.floats()[i] != a.floats()[j] || a.floats()[i + 1] != a.floats()[j + 1]) {
        return false;
      }
    }
    return true;
  }
}

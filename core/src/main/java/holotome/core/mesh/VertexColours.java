package holotome.core.mesh;

import holotome.core.image.Colours;
import holotome.core.task.Parallel;
import holotome.core.task.Work;

/** One colour per vertex, whatever a mesh's colour comes from. */
public final class VertexColours {
  private VertexColours() {}

  /**
   * The mesh's own vertex colours; else the picture's colour at each vertex (at the first corner
   * that uses it); null where there is no colour at all.
   */
  public static int[] of(Mesh mesh) {
    if (!mesh.hasTexture()) {
      return mesh.colours();
    }
    int[] corner = new int[mesh.vertexCount()];
    int[] tri = mesh.triangles();
    for (int c = tri.length - 1; c >= 0; c--) {
      corner[tri[c]] = c + 1;
    }
    int[] out = new int[corner.length];
    Parallel.range(
        out.length,
        1 << 14,
        Work.unwatched(),
        (from, to) -> {
          for (int v = from; v < to; v++) {
            out[v] = corner[v] == 0 ? 0xff808080 : atCorner(mesh, corner[v] - 1);
          }
        });
    return out;
  }

  private static int atCorner(Mesh mesh, int c) {
    return at(mesh, c / 3, c % 3 == 1 ? 1 : 0, c % 3 == 2 ? 1 : 0);
  }

  /**
   * The colour inside a triangle.
   *
   * @param u weight of the second corner
   * @param v weight of the third corner
   */
  public static int at(Mesh mesh, int triangle, float u, float v) {
    Material m = mesh.materialOf(triangle);
    if (m != null && m.image() != null && mesh.uv() != null) {
      float[] c = mesh.uv().coords();
      int a = 2 * mesh.uv().corners()[3 * triangle];
      int b = 2 * mesh.uv().corners()[3 * triangle + 1];
      int d = 2 * mesh.uv().corners()[3 * triangle + 2];
      float w = 1 - u - v;
      return m.image()
          .sample(c[a] * w + c[b] * u + c[d] * v, c[a + 1] * w + c[b + 1] * u + c[d + 1] * v);
    }
    int[] colours = mesh.colours();
    if (colours != null) {
      int[] t = mesh.triangles();
      return Colours.mix(
          colours[t[3 * triangle]],
          colours[t[3 * triangle + 1]],
          colours[t[3 * triangle + 2]],
          1 - u - v,
          u,
          v);
    }
    return m != null ? m.argb() : 0xffb0aca4;
  }
}

package holotome.core.trim;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.mesh.Uv;
import java.util.Arrays;

/**
 * A mesh put together from the vertices of another and new ones numbered on from them; what no
 * triangle uses is left out.
 *
 * @param mesh the mesh
 * @param map its vertex per old or new vertex, -1 where it is left out
 */
record Assembly(Mesh mesh, int[] map) {

  /**
   * @param corners 3 vertices per triangle, old or new; numbered anew in place
   * @param uvCorners likewise for texture vertices, or null
   * @param material per triangle, or null
   * @param xyz of the new vertices
   * @param colours of the new vertices; null where the mesh has none
   * @param uv of the new texture vertices; null where the mesh has none
   */
  static Assembly of(
      Mesh from,
      int[] corners,
      int[] uvCorners,
      short[] material,
      float[] xyz,
      int[] colours,
      float[] uv) {
    int old = from.vertexCount();
    int all = old + xyz.length / 3;
    int[] map = Submesh.compact(corners, all);
    int count = map[map.length - 1];
    float[] p = new float[3 * count];
    int[] c = from.colours() == null ? null : new int[count];
    for (int v = 0; v < all; v++) {
      int w = map[v];
      if (w < 0) {
        continue;
      }
      if (v < old) {
        System.arraycopy(from.xyz(), 3 * v, p, 3 * w, 3);
      } else {
        System.arraycopy(xyz, 3 * (v - old), p, 3 * w, 3);
      }
      if (c != null) {
        c[w] = v < old ? from.colours()[v] : colours[v - old];
      }
    }
    Uv texture = uvCorners == null ? null : texture(from.uv().coords(), uv, uvCorners);
    return new Assembly(
        new Mesh(p, corners, c, texture, material, from.materials()), Arrays.copyOf(map, all));
  }

  private static Uv texture(float[] old, float[] added, int[] corners) {
    int all = (old.length + added.length) / 2;
    int[] map = Submesh.compact(corners, all);
    float[] coords = new float[2 * map[map.length - 1]];
    for (int v = 0; v < all; v++) {
      if (map[v] >= 0) {
        float[] source = 2 * v < old.length ? old : added;
        int at = 2 * v < old.length ? 2 * v : 2 * v - old.length;
        coords[2 * map[v]] = source[at];
        coords[2 * map[v] + 1] = source[at + 1];
      }
    }
    return new Uv(coords, corners);
  }
}

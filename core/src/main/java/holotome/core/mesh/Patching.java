package holotome.core.mesh;

import java.util.Arrays;

/** Adds vertices and triangles to a mesh. */
public final class Patching {
  private Patching() {}

  /** Adds triangles over the vertices there are; see {@link #add(Mesh, float[], int[], int[])}. */
  public static Mesh add(Mesh mesh, int[] triangles) {
    return add(mesh, new float[0], null, triangles);
  }

  /**
   * Adds vertices (numbered on from those there are) and triangles.
   *
   * <p>New triangles have no place in the texture: their corners get a texture vertex of their own
   * per vertex, taken from a neighbour where there is one, so that colour runs on; their material
   * is that neighbour's.
   *
   * @param colours of the new vertices, or null
   */
  public static Mesh add(Mesh mesh, float[] xyz, int[] colours, int[] triangles) {
    if (triangles.length == 0) {
      return mesh;
    }
    int old = mesh.vertexCount();
    int added = xyz.length / 3;
    float[] p = Arrays.copyOf(mesh.xyz(), 3 * (old + added));
    System.arraycopy(xyz, 0, p, 3 * old, xyz.length);
    int[] c = null;
    if (mesh.colours() != null) {
      c = Arrays.copyOf(mesh.colours(), old + added);
      for (int i = 0; i < added; i++) {
        c[old + i] = colours == null ? 0xff808080 : colours[i];
      }
    }
    int n = mesh.triangles().length;
    int[] tri = Arrays.copyOf(mesh.triangles(), n + triangles.length);
    System.arraycopy(triangles, 0, tri, n, triangles.length);
    Uv uv = null;
    short[] material = mesh.material();
    if (mesh.uv() != null) {
      int[] cornerOf = new int[old + added];
      Arrays.fill(cornerOf, -1);
      for (int i = 0; i < n; i++) {
        cornerOf[mesh.triangles()[i]] = i;
      }
      int[] corners = Arrays.copyOf(mesh.uv().corners(), tri.length);
      int borrowed = 0;
      for (int i = 0; i < triangles.length; i += 3) {
        for (int k = 0; k < 3; k++) {
          int from = cornerOf[triangles[i + k]];
          if (from >= 0) {
            borrowed = from;
          }
        }
        for (int k = 0; k < 3; k++) {
          int from = cornerOf[triangles[i + k]];
          corners[n + i + k] = mesh.uv().corners()[from >= 0 ? from : borrowed];
        }
      }
      uv = new Uv(mesh.uv().coords(), corners);
    }
    if (material != null) {
      int count = material.length;
      material = Arrays.copyOf(material, tri.length / 3);
      Arrays.fill(material, count, material.length, count == 0 ? 0 : material[0]);
    }
    return new Mesh(p, tri, c, uv, material, mesh.materials());
  }
}

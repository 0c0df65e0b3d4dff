package holotome.core.mesh;

import java.util.Arrays;

/** Two meshes as one, the second's vertices numbered on from the first's; nothing is welded. */
public final class Joined {
  private Joined() {}

  /**
   * Joins meshes that have the same attributes and share their materials, as pieces of one mesh do.
   */
  public static Mesh of(Mesh a, Mesh b) {
    float[] xyz = Arrays.copyOf(a.xyz(), a.xyz().length + b.xyz().length);
    System.arraycopy(b.xyz(), 0, xyz, a.xyz().length, b.xyz().length);
    int[] colours = null;
    if (a.colours() != null) {
      colours = Arrays.copyOf(a.colours(), xyz.length / 3);
      System.arraycopy(b.colours(), 0, colours, a.vertexCount(), b.vertexCount());
    }
    Uv uv = null;
    if (a.uv() != null) {
      float[] c = a.uv().coords();
      float[] coords = Arrays.copyOf(c, c.length + b.uv().coords().length);
      System.arraycopy(b.uv().coords(), 0, coords, c.length, b.uv().coords().length);
      uv = new Uv(coords, shifted(a.uv().corners(), b.uv().corners(), c.length / 2));
    }
    short[] material = null;
    if (a.material() != null) {
      material = Arrays.copyOf(a.material(), a.triangleCount() + b.triangleCount());
      System.arraycopy(b.material(), 0, material, a.triangleCount(), b.triangleCount());
    }
    int[] tri = shifted(a.triangles(), b.triangles(), a.vertexCount());
    return new Mesh(xyz, tri, colours, uv, material, a.materials());
  }

  private static int[] shifted(int[] a, int[] b, int by) {
    int[] out = Arrays.copyOf(a, a.length + b.length);
    for (int i = 0; i < b.length; i++) {
      out[a.length + i] = b[i] + by;
    }
    return out;
  }
}

package holotome.core.mesh;

import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attributes;
import java.util.Arrays;

/** Two meshes as one, the second's vertices numbered on from the first's; nothing is welded. */
public final class Joined {
  private Joined() {}

  /**
   * Joins meshes that have the same attributes and share their materials, as pieces of one mesh do.
   *
   * @throws IllegalArgumentException if an attribute of the first is missing in the second
   */
  public static Mesh of(Mesh a, Mesh b) {
    float[] xyz = Arrays.copyOf(a.xyz(), a.xyz().length + b.xyz().length);
    System.arraycopy(b.xyz(), 0, xyz, a.xyz().length, b.xyz().length);
    int[] tri = shifted(a.triangles(), b.triangles(), a.vertexCount());
    Attributes all = Attributes.NONE;
    for (Attribute x : a.attributes()) {
      Attribute y = b.attributes().named(x.name());
      if (y == null) {
        throw new IllegalArgumentException("only one of the meshes has " + x);
      }
      all = all.with(x.followedBy(y));
    }
    return new Mesh(xyz, tri, all, a.materials()).of(a.lineage().withMore(tri.length / 3));
  }

  private static int[] shifted(int[] a, int[] b, int by) {
    int[] out = Arrays.copyOf(a, a.length + b.length);
    for (int i = 0; i < b.length; i++) {
      out[a.length + i] = b[i] + by;
    }
    return out;
  }
}

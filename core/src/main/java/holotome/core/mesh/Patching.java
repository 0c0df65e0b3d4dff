package holotome.core.mesh;

import holotome.core.attribute.Blends;
import holotome.core.attribute.Provenance;
import holotome.core.attribute.Redrawn;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.function.Supplier;

/** Adds vertices and triangles to a mesh that close openings of it. */
public final class Patching {
  private Patching() {}

  /** Adds triangles over the vertices there are; see {@link #add(Mesh, float[], int[], Work)}. */
  public static Mesh add(Mesh mesh, int[] triangles, Work work) {
    return add(mesh, new float[0], triangles, work);
  }

  /**
   * Adds vertices (numbered on from those there are) and triangles. What the mesh carries runs on
   * from the rim into the patches; where it has pictures, so does their colour ({@link
   * PatchTexture}).
   */
  public static Mesh add(Mesh mesh, float[] xyz, int[] triangles, Work work) {
    return add(mesh, xyz, triangles, null, work);
  }

  /** What is to be seen at a place of a patch: a colour as ARGB. */
  public interface Seen {
    int argb(double x, double y, double z);
  }

  /**
   * As {@link #add(Mesh, float[], int[], Work)}, with pictures that show what is known of each
   * place.
   *
   * @param seen makes what tells of it, one for each thread; null where the colour runs on from the
   *     rim
   */
  public static Mesh add(Mesh mesh, float[] xyz, int[] triangles, Supplier<Seen> seen, Work work) {
    if (triangles.length == 0) {
      work.advance(1);
      return mesh;
    }
    int n = mesh.triangles().length;
    int[] all = Arrays.copyOf(mesh.triangles(), n + triangles.length);
    System.arraycopy(triangles, 0, all, n, triangles.length);
    Provenance p =
        Provenance.of(mesh.vertexCount(), n / 3)
            .added(Blends.patch(mesh.vertexCount(), xyz.length / 3))
            .redrawn(Redrawn.patch(n / 3, all.length / 3))
            .build();
    Mesh patched =
        mesh.derive(p, xyz, all, work.part(0.6, CoreWords.of("work.filling-in-what-is-carried")));
    return mesh.hasTexture()
        ? PatchTexture.paint(
            mesh, patched, seen, work.part(0.4, CoreWords.of("work.filling-in-the-texture")))
        : patched;
  }
}

package holotome.core.topology;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;

/** Islands too small to mean anything. */
public final class Crumbs {
  private Crumbs() {}

  /**
   * The mesh without islands that are less than so much across; itself where there are none. O(T).
   *
   * @param least in base units
   */
  public static Mesh dropped(Mesh mesh, double least, Work work) {
    if (mesh.isEmpty()) {
      return mesh;
    }
    Islands islands = Islands.of(mesh);
    double[] across = islands.diameters(mesh, work);
    boolean all = true;
    for (double d : across) {
      all &= d >= least;
    }
    int[] of = islands.ofTriangle();
    return all
        ? mesh
        : Submesh.used(
            Submesh.of(
                mesh,
                t -> across[of[t]] >= least,
                work.part(0.05, CoreWords.of("work.dropping-triangles"))));
  }
}

package holotome.core.bake;

import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.Bvh;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;

/** From where the rays of a bake start, as a mesh: the Cast, its vertices moved out by the cage. */
public final class CageShell {
  private CageShell() {}

  /** Makes the shell of the automatic cage, as painted; takes the index of the Scan. */
  public static Mesh of(Mesh cast, Mesh scan, Work work) {
    String label = CoreWords.of("work.making-the-cage");
    Bvh index = Bvh.of(scan, work.part(0.7, label));
    float[] out = Cage.of(cast, scan, index, work.part(0.3, label));
    float[] n = Measures.vertexNormals(cast);
    float[] p = cast.xyz().clone();
    for (int i = 0; i < p.length; i++) {
      p[i] += out[i / 3] * n[i];
    }
    return new Mesh(p, cast.triangles());
  }
}

package holotome.core.select;

import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.step.Parameter;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.words.CoreWords;
import java.util.BitSet;

/** What lies along the open borders of the scan. */
public record Rim(
    @Parameter(help = "So many rings of triangles", min = 1, max = 1000, preset = "1") int rings)
    implements Rule {

  @Override
  public BitSet select(Mesh mesh, Frame frame, Work work) {
    int[] twin =
        Adjacency.of(mesh, work.part(0.5, CoreWords.of("work.finding-the-borders"))).twin();
    byte[] marked = new byte[mesh.vertexCount()];
    int[] tri = mesh.triangles();
    for (int h = 0; h < twin.length; h++) {
      if (twin[h] == Adjacency.BORDER) {
        marked[tri[h]] = 1;
        marked[tri[Adjacency.next(h)]] = 1;
      }
    }
    BitSet first = Rings.touching(mesh, marked, work.part(0.1, CoreWords.of("work.selecting")));
    return Rings.grown(mesh, first, rings - 1, work.part(0.4, CoreWords.of("work.selecting")));
  }
}

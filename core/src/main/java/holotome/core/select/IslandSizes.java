package holotome.core.select;

import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.step.Parameter;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Islands;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.BitSet;

/** Islands by how large they are, or how far from the largest; every limit given must hold. */
public record IslandSizes(
    @Parameter(help = "Of at least so many triangles", optional = true, min = 1, max = 2e9)
        Integer fromTriangles,
    @Parameter(help = "Of at most so many triangles", optional = true, min = 1, max = 2e9)
        Integer toTriangles,
    @Parameter(help = "At least so far across", optional = true, min = 0) Length fromAcross,
    @Parameter(help = "At most so far across", optional = true, min = 0) Length toAcross,
    @Parameter(help = "At least so far from the largest island", optional = true, min = 0)
        Length away)
    implements Rule {

  public IslandSizes {
    if (fromTriangles == null
        && toTriangles == null
        && fromAcross == null
        && toAcross == null
        && away == null) {
      throw Failure.usage(CoreWords.of("island-sizes.give-at-least-one-limit"));
    }
  }

  @Override
  public BitSet select(Mesh mesh, Frame frame, Work work) {
    Islands islands = Islands.of(mesh, work.part(0.5, CoreWords.of("work.finding-islands")));
    boolean[] chosen =
        chosen(islands, mesh, frame, work.part(0.3, CoreWords.of("work.measuring-islands")));
    int[] of = islands.ofTriangle();
    return TriangleTest.select(
        mesh, work.part(0.2, CoreWords.of("work.selecting")), (t, x, y, z) -> chosen[of[t]]);
  }

  /** Which islands the limits name, by rank. */
  public boolean[] chosen(Islands islands, Mesh mesh, Frame frame, Work work) {
    boolean[] chosen = new boolean[islands.count()];
    Arrays.fill(chosen, true);
    int[] sizes = islands.sizes();
    for (int i = 0; i < chosen.length; i++) {
      chosen[i] =
          (fromTriangles == null || sizes[i] >= fromTriangles)
              && (toTriangles == null || sizes[i] <= toTriangles);
    }
    if (fromAcross != null || toAcross != null) {
      double[] across = islands.diameters(mesh, work);
      double scale = frame.toWork().scale();
      for (int i = 0; i < chosen.length; i++) {
        double a = across[i] * scale;
        chosen[i] &=
            (fromAcross == null || a >= fromAcross.metres())
                && (toAcross == null || a <= toAcross.metres());
      }
    }
    if (away != null && chosen.length > 0) {
      double[] gap = IslandGaps.of(islands, mesh, frame.toBaseLength(away.metres()), work);
      for (int i = 0; i < chosen.length; i++) {
        chosen[i] &= i > 0 && gap[i] >= frame.toBaseLength(away.metres());
      }
    }
    return chosen;
  }
}

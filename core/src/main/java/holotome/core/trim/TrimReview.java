package holotome.core.trim;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Islands;
import holotome.core.words.CoreWords;
import java.util.BitSet;

/**
 * What trimming may have left to do: measured for the findings.
 *
 * @param slivers thin triangles along the borders, see {@link TrimFringe}
 * @param strips islands by rank that are long and narrow, as a lasso leaves them that missed a rim
 * @param pieces islands by rank that are so large beside the largest (a twentieth of its area or
 *     more) that the subject may have been cut in two; the largest comes first
 * @param backs of what is seen from outside, the share that are the backs of triangles
 */
public record TrimReview(BitSet slivers, int[] strips, int[] pieces, double backs) {
  /** Length over width of an island from which on it passes for a strip. */
  private static final double LONG = 12;

  private static final int LEAST_TRIANGLES = 6;
  private static final double PIECE = 0.05;

  public static TrimReview of(Mesh mesh, Islands islands, Adjacency adjacency, Work work) {
    int[] twin = adjacency.twin();
    int[] tri = mesh.triangles();
    int n = islands.count();
    double[] area = new double[n];
    double[] border = new double[n];
    float[] p = mesh.xyz();
    int[] of = islands.ofTriangle();
    for (int t = 0; t < of.length; t++) {
      if ((t & 0xfffff) == 0) {
        work.check();
      }
      area[of[t]] += Vec.length(Measures.cross(mesh, t)) / 2;
      for (int h = 3 * t; h < 3 * t + 3; h++) {
        if (twin[h] == Adjacency.BORDER) {
          border[of[t]] += Vec.distance(Vec.at(p, tri[h]), Vec.at(p, tri[Adjacency.next(h)]));
        }
      }
    }
    work.advance(0.3);
    int[] strips = new int[n];
    int stripCount = 0;
    int[] pieces = new int[n];
    int pieceCount = 0;
    for (int i = 0; i < n; i++) {
      // A strip of length l and width w has the area l w and a border of 2 l or so.
      if (i > 0
          && islands.sizes()[i] >= LEAST_TRIANGLES
          && border[i] * border[i] > 4 * LONG * area[i]
          && area[i] > 0) {
        strips[stripCount++] = i;
      } else if (i == 0 || area[i] >= PIECE * area[0]) {
        pieces[pieceCount++] = i;
      }
    }
    BitSet slivers = TrimFringe.slivers(mesh, adjacency, TrimFringe.THIN);
    work.advance(0.1);
    return new TrimReview(
        slivers,
        java.util.Arrays.copyOf(strips, stripCount),
        java.util.Arrays.copyOf(pieces, pieceCount),
        OutsideView.backs(mesh, work.part(0.6, CoreWords.of("work.inspecting"))));
  }
}

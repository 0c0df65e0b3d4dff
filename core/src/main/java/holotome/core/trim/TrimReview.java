package holotome.core.trim;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Islands;
import holotome.core.words.CoreWords;
import java.util.Arrays;
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

  private static final int GRAIN = 1 << 16;

  /** So many of the largest islands are measured on all cores. */
  private static final int LARGER = 256;

  private static final int LEAST_TRIANGLES = 6;
  private static final double PIECE = 0.05;

  public static TrimReview of(Mesh mesh, Islands islands, Adjacency adjacency, Work work) {
    int n = islands.count();
    double[] area = new double[n];
    double[] border = new double[n];
    measure(mesh, islands, adjacency, area, border, work);
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
        Arrays.copyOf(strips, stripCount),
        Arrays.copyOf(pieces, pieceCount),
        OutsideView.backs(mesh, work.part(0.6, CoreWords.of("work.inspecting"))));
  }

  /**
   * Each island's area and the length of its borders: larger ones on all cores, then the others.
   */
  private static void measure(
      Mesh mesh, Islands islands, Adjacency adjacency, double[] area, double[] border, Work work) {
    int[] of = islands.ofTriangle();
    int larger = Math.min(area.length, LARGER);
    double[][] parts = new double[Parallel.chunks(of.length, GRAIN)][];
    Parallel.chunked(
        of.length,
        GRAIN,
        Work.unwatched(),
        (c, from, to) -> {
          work.check();
          double[] sum = new double[2 * larger];
          double[] cross = new double[3];
          for (int t = from; t < to; t++) {
            if (of[t] < larger) {
              Measures.cross(mesh.xyz(), mesh.triangles(), t, cross);
              sum[2 * of[t]] += Vec.length(cross) / 2;
              sum[2 * of[t] + 1] += border(mesh, adjacency, t);
            }
          }
          parts[c] = sum;
        });
    for (double[] sum : parts) {
      for (int i = 0; i < larger; i++) {
        area[i] += sum[2 * i];
        border[i] += sum[2 * i + 1];
      }
    }
    for (int t = 0; t < of.length && larger < area.length; t++) {
      if (of[t] >= larger) {
        area[of[t]] += Vec.length(Measures.cross(mesh, t)) / 2;
        border[of[t]] += border(mesh, adjacency, t);
      }
    }
  }

  private static double border(Mesh mesh, Adjacency adjacency, int t) {
    double length = 0;
    for (int h = 3 * t; h < 3 * t + 3; h++) {
      if (adjacency.twin()[h] == Adjacency.BORDER) {
        double[] from = Vec.at(mesh.xyz(), mesh.triangles()[h]);
        length += Vec.distance(from, Vec.at(mesh.xyz(), mesh.triangles()[Adjacency.next(h)]));
      }
    }
    return length;
  }
}

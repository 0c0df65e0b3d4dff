package holotome.core.mend;

import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.VertexFans;
import holotome.core.words.CoreWords;
import java.util.BitSet;

/**
 * Spikes and folds: a vertex that stands higher over the mean of its neighbours than these lie wide
 * around it, and an edge whose two triangles lie back to back or face to face. Common practice, no
 * source.
 *
 * <p>O(T) on all cores; 4 bytes a triangle corner beside what is given.
 */
final class Spikes {
  /** How many times higher than wide, unless told: a tip of less than 67 degrees. */
  static final double SHARP = 1.5;

  /** The cosine between the normals of two triangles that are folded: 150 degrees. */
  private static final double FOLDED = -0.866;

  private static final int GRAIN = 1 << 13;

  private Spikes() {}

  /**
   * The vertices that stand out.
   *
   * @param among those that are asked; null for all
   */
  static BitSet tips(
      float[] xyz, int[] corners, VertexFans fans, double sharp, BitSet among, Work work) {
    if (among != null) {
      BitSet out = new BitSet();
      double[] sum = new double[3];
      among.stream().filter(v -> standsOut(v, xyz, corners, fans, sharp, sum)).forEach(out::set);
      return out;
    }
    int n = xyz.length / 3;
    long[] words = new long[(n >>> 6) + 1];
    Parallel.range(
        n,
        GRAIN,
        work,
        (from, to) -> {
          double[] sum = new double[3];
          for (int v = from; v < to; v++) {
            if (standsOut(v, xyz, corners, fans, sharp, sum)) {
              words[v >>> 6] |= 1L << v;
            }
          }
        });
    return BitSet.valueOf(words);
  }

  private static boolean standsOut(
      int v, float[] p, int[] corners, VertexFans fans, double sharp, double[] sum) {
    if (fans.count(v) < 3) {
      return false;
    }
    int n = fans.around(v, corners, p, sum);
    double x = sum[0] / n;
    double y = sum[1] / n;
    double z = sum[2] / n;
    double wide = 0;
    for (int i = fans.start()[v]; i < fans.start()[v + 1]; i++) {
      int t = 3 * fans.triangles()[i];
      for (int k = 0; k < 3; k++) {
        int u = 3 * corners[t + k];
        if (u != 3 * v) {
          wide += distance(p[u] - x, p[u + 1] - y, p[u + 2] - z);
        }
      }
    }
    return distance(p[3 * v] - x, p[3 * v + 1] - y, p[3 * v + 2] - z) > sharp * wide / n;
  }

  private static double distance(double x, double y, double z) {
    return Math.sqrt(x * x + y * y + z * z);
  }

  /** The half-edges whose triangle lies folded on the one across; the lower of each two. */
  static BitSet folds(Mesh mesh, Adjacency adjacency, Work work) {
    int[] twin = adjacency.twin();
    long[] words = new long[(twin.length >>> 6) + 1];
    Parallel.range(
        words.length,
        1 << 10,
        work.part(1, CoreWords.of("work.finding-spikes")),
        (from, to) -> {
          Fold fold = new Fold(mesh.xyz(), mesh.triangles(), twin);
          int end = (int) Math.min(twin.length, 64L * to);
          for (int h = 64 * from; h < end; h++) {
            if (twin[h] > h && fold.isAt(h)) {
              words[h >>> 6] |= 1L << h;
            }
          }
        });
    return BitSet.valueOf(words);
  }

  /** The same among the edges of the triangles at some vertices. */
  static BitSet folds(float[] xyz, Adjacency adjacency, VertexFans fans, BitSet among) {
    int[] twin = adjacency.twin();
    Fold fold = new Fold(xyz, adjacency.mesh().triangles(), twin);
    BitSet out = new BitSet();
    for (int v = among.nextSetBit(0); v >= 0; v = among.nextSetBit(v + 1)) {
      for (int i = fans.start()[v]; i < fans.start()[v + 1]; i++) {
        int t = 3 * fans.triangles()[i];
        for (int h = t; h < t + 3; h++) {
          if (twin[h] >= 0 && fold.isAt(h)) {
            out.set(Math.min(h, twin[h]));
          }
        }
      }
    }
    return out;
  }

  /** Tells whether the two triangles of an edge are folded; one a thread. */
  private static final class Fold {
    private final float[] xyz;
    private final int[] tri;
    private final int[] twin;
    private final double[] a = new double[3];
    private final double[] b = new double[3];

    Fold(float[] xyz, int[] tri, int[] twin) {
      this.xyz = xyz;
      this.tri = tri;
      this.twin = twin;
    }

    boolean isAt(int h) {
      Measures.cross(xyz, tri, h / 3, a);
      Measures.cross(xyz, tri, twin[h] / 3, b);
      double dot = a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
      double l = distance(a[0], a[1], a[2]) * distance(b[0], b[1], b[2]);
      return l > 0 && dot < FOLDED * l;
    }
  }
}

package holotome.core.topology;

import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;

/**
 * The pieces of a mesh: triangles that share an edge belong together; what hangs on by single
 * points is a piece of its own.
 *
 * @param count how many there are
 * @param ofTriangle island per triangle, numbered from the largest (most triangles) down; equal
 *     ones in the order of their first triangle
 * @param sizes triangles per island
 */
public record Islands(int count, int[] ofTriangle, int[] sizes) {

  /** So many of the largest are measured on all cores. */
  private static final int LARGER = 256;

  /** Triangles between two looks for a cancel. */
  private static final int OFTEN = 1 << 18;

  /** Finds the islands; see {@link EdgeJoin}. */
  public static Islands of(Mesh mesh) {
    return of(mesh, Work.unwatched());
  }

  /** Finds the islands; O(T) in practice, 8 bytes per triangle. */
  public static Islands of(Mesh mesh, Work work) {
    return ofRoots(
        EdgeJoin.roots(
            mesh.triangles(),
            mesh.vertexCount(),
            work.part(0.8, CoreWords.of("work.finding-islands"))),
        work);
  }

  /** The same where neighbours are known, in half the time. */
  public static Islands of(Adjacency adjacency, Work work) {
    return ofRoots(
        EdgeJoin.roots(adjacency, work.part(0.8, CoreWords.of("work.finding-islands"))), work);
  }

  private static Islands ofRoots(int[] of, Work work) {
    int t = of.length;
    // A root is the first triangle of its island: it is met before all others of it.
    int[] sizeByLabel = new int[16];
    int count = 0;
    for (int i = 0; i < t; i++) {
      if (of[i] == i) {
        if (count == sizeByLabel.length) {
          sizeByLabel = Arrays.copyOf(sizeByLabel, 2 * count);
        }
        of[i] = -1 - count++;
      } else {
        of[i] = of[of[i]];
      }
      sizeByLabel[-1 - of[i]]++;
      if (i % OFTEN == 0) {
        work.check();
      }
    }
    work.advance(0.1);
    long[] order = new long[count];
    for (int i = 0; i < count; i++) {
      order[i] = (long) (Integer.MAX_VALUE - sizeByLabel[i]) << 32 | i;
    }
    Arrays.sort(order);
    int[] rank = new int[count];
    int[] sizes = new int[count];
    for (int i = 0; i < count; i++) {
      rank[(int) order[i]] = i;
      sizes[i] = sizeByLabel[(int) order[i]];
    }
    for (int i = 0; i < t; i++) {
      of[i] = rank[-1 - of[i]];
    }
    work.advance(0.1);
    return new Islands(count, of, sizes);
  }

  /** How many islands there are, without telling which triangle is where; 4 bytes per triangle. */
  static int count(Mesh mesh, Work work) {
    return EdgeJoin.count(mesh.triangles(), mesh.vertexCount(), work);
  }

  /** The box around each island, 6 doubles each: min x, y, z, max x, y, z. */
  public double[] boxes(Mesh mesh, Work work) {
    double[] box = new double[6 * count];
    for (int i = 0; i < count; i++) {
      for (int k = 0; k < 3; k++) {
        box[6 * i + k] = Double.POSITIVE_INFINITY;
        box[6 * i + 3 + k] = Double.NEGATIVE_INFINITY;
      }
    }
    // The larger ones on all cores, then the others.
    int larger = Math.min(count, LARGER);
    double[][] parts = new double[Parallel.chunks(ofTriangle.length, OFTEN)][];
    Parallel.chunked(
        ofTriangle.length,
        OFTEN,
        Work.unwatched(),
        (c, from, to) -> {
          work.check();
          double[] own = Arrays.copyOf(box, 6 * larger);
          for (int t = from; t < to; t++) {
            if (ofTriangle[t] < larger) {
              widen(mesh, t, own, 6 * ofTriangle[t]);
            }
          }
          parts[c] = own;
        });
    for (double[] own : parts) {
      for (int k = 0; k < own.length; k++) {
        box[k] = k % 6 < 3 ? Math.min(box[k], own[k]) : Math.max(box[k], own[k]);
      }
    }
    for (int t = 0; t < ofTriangle.length && larger < count; t++) {
      if (ofTriangle[t] >= larger) {
        widen(mesh, t, box, 6 * ofTriangle[t]);
      }
    }
    return box;
  }

  private static void widen(Mesh mesh, int t, double[] box, int o) {
    for (int c = 3 * t; c < 3 * t + 3; c++) {
      for (int k = 0; k < 3; k++) {
        double p = mesh.xyz()[3 * mesh.triangles()[c] + k];
        box[o + k] = Math.min(box[o + k], p);
        box[o + 3 + k] = Math.max(box[o + 3 + k], p);
      }
    }
  }

  /** The diagonal of each island's box. */
  public double[] diameters(Mesh mesh, Work work) {
    double[] box = boxes(mesh, work);
    double[] d = new double[count];
    for (int i = 0; i < count; i++) {
      d[i] =
          Math.sqrt(
              sq(box[6 * i + 3] - box[6 * i])
                  + sq(box[6 * i + 4] - box[6 * i + 1])
                  + sq(box[6 * i + 5] - box[6 * i + 2]));
    }
    return d;
  }

  private static double sq(double x) {
    return x * x;
  }
}

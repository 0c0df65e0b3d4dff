package holotome.core.mend;

import holotome.core.mesh.Mesh;

/**
 * One kind of fault of a mesh: how many there are, and where.
 *
 * @param kind what is wrong
 * @param count how many there are
 * @param places where, worst first, 3 floats each in base coordinates; the worst {@link #MOST} only
 * @param sizes how large each is, in base units: an edge, a girth, a height, what is apart
 */
public record Fault(Kind kind, long count, float[] places, float[] sizes) {
  /** Places that are kept. */
  public static final int MOST = 1000;

  /** What can be wrong, in the order it is mended. */
  public enum Kind {
    DOUBLED_POINTS,
    NEAR_POINTS,
    UNUSED_POINTS,
    DEGENERATE,
    DUPLICATE,
    SLIVERS,
    CROWDED_EDGES,
    PINCHED_POINTS,
    DISAGREEING,
    INSIDE_OUT,
    SHELLS,
    SPIKES,
    FOLDS,
    CROSSINGS,
    HANDLES,
    HOLES
  }

  /** Gathers places and keeps the worst. */
  static final class Gathered {
    private final java.util.PriorityQueue<float[]> worst =
        new java.util.PriorityQueue<>(
            (a, b) -> a[3] != b[3] ? Float.compare(a[3], b[3]) : Float.compare(b[4], a[4]));
    private long count;

    /** Adds a fault; earlier ones go first among equals. */
    void add(double x, double y, double z, double size) {
      float[] one = {(float) x, (float) y, (float) z, (float) size, count++};
      if (worst.size() < MOST) {
        worst.add(one);
      } else if (one[3] > worst.peek()[3]) {
        worst.poll();
        worst.add(one);
      }
    }

    /** Adds a fault at the middle of a triangle. */
    void addTriangle(Mesh m, int t, double size) {
      double[] s = new double[3];
      for (int c = 3 * t; c < 3 * t + 3; c++) {
        for (int k = 0; k < 3; k++) {
          s[k] += m.xyz()[3 * m.triangles()[c] + k] / 3.0;
        }
      }
      add(s[0], s[1], s[2], size);
    }

    void addVertex(Mesh m, int v, double size) {
      add(m.xyz()[3 * v], m.xyz()[3 * v + 1], m.xyz()[3 * v + 2], size);
    }

    long count() {
      return count;
    }

    Fault done(Kind kind) {
      return done(kind, count);
    }

    Fault done(Kind kind, long known) {
      float[][] all = worst.toArray(float[][]::new);
      java.util.Arrays.sort(
          all, (a, b) -> a[3] != b[3] ? Float.compare(b[3], a[3]) : Float.compare(a[4], b[4]));
      float[] places = new float[3 * all.length];
      float[] sizes = new float[all.length];
      for (int i = 0; i < all.length; i++) {
        System.arraycopy(all[i], 0, places, 3 * i, 3);
        sizes[i] = all[i][3];
      }
      return new Fault(kind, known, places, sizes);
    }
  }
}

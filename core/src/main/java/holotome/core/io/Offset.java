package holotome.core.io;

import holotome.core.frame.Frame;
import holotome.core.geometry.Box;
import holotome.core.geometry.Similarity;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;

/**
 * Keeps far-off coordinates exact. Coordinates are read in double precision and an offset, taken
 * from the first vertex, is subtracted before they are rounded to floats; the offset is kept in the
 * {@link Frame}.
 */
final class Offset {
  /** Below this size a float still resolves better than a thousandth of a unit. */
  private static final double FAR = 8192;

  private Offset() {}

  /** The offset for a file whose first vertex stands here: null vector when it is near enough. */
  static double[] of(double x, double y, double z) {
    if (Math.max(Math.abs(x), Math.max(Math.abs(y), Math.abs(z))) < FAR) {
      return new double[3];
    }
    return new double[] {Math.rint(x), Math.rint(y), Math.rint(z)};
  }

  /** Whether coordinates less an offset are within what a float holds. */
  static boolean fits(double x, double y, double z, double[] offset) {
    return Math.abs(x - offset[0]) <= Float.MAX_VALUE
        && Math.abs(y - offset[1]) <= Float.MAX_VALUE
        && Math.abs(z - offset[2]) <= Float.MAX_VALUE;
  }

  /**
   * Re-centres a mesh of floats that stands far from the origin for its size. The differences of
   * neighbouring floats are exact (Sterbenz), so nothing more is lost.
   */
  static Loaded settle(Mesh mesh, double[] offset, String format, java.util.List<String> notes) {
    Box b = mesh.bounds();
    double[] c = b.centre();
    double far = Math.max(Math.abs(c[0]), Math.max(Math.abs(c[1]), Math.abs(c[2])));
    if (b.isEmpty() || far < 8 * b.diagonal() || b.diagonal() == 0) {
      return new Loaded(mesh, Frame.ofOffset(offset), format, notes);
    }
    float[] shift = {(float) c[0], (float) c[1], (float) c[2]};
    float[] old = mesh.xyz();
    float[] xyz = new float[old.length];
    Parallel.range(
        old.length / 3,
        1 << 16,
        Work.unwatched(),
        (from, to) -> {
          for (int i = 3 * from; i < 3 * to; i += 3) {
            xyz[i] = old[i] - shift[0];
            xyz[i + 1] = old[i + 1] - shift[1];
            xyz[i + 2] = old[i + 2] - shift[2];
          }
        });
    Similarity back =
        Similarity.translation(
            new double[] {offset[0] + shift[0], offset[1] + shift[1], offset[2] + shift[2]});
    return new Loaded(
        mesh.withPositions(xyz), new Frame(back, Similarity.IDENTITY, false), format, notes);
  }
}

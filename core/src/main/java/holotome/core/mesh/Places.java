package holotome.core.mesh;

import holotome.core.task.Failure;
import holotome.core.words.CoreWords;

/**
 * Whether the points of what rays are cast at are anywhere: rays from or to one that is not tell
 * nothing.
 */
public final class Places {
  private Places() {}

  /**
   * O(vertices).
   *
   * @throws Failure where a point of either is no number, or without end
   */
  public static void check(Mesh scan, Mesh cast) {
    check(scan);
    checkCast(cast);
  }

  /** The same of the Cast alone. */
  public static void checkCast(Mesh cast) {
    int n = nowhere(cast);
    if (n > 0) {
      throw Failure.cannot(CoreWords.of("baking.cast-is-nowhere", n));
    }
  }

  /** The same of the Scan alone. */
  public static void check(Mesh scan) {
    int n = nowhere(scan);
    if (n > 0) {
      throw Failure.cannot(CoreWords.of("baking.scan-is-nowhere", n));
    }
  }

  private static int nowhere(Mesh mesh) {
    float[] p = mesh.xyz();
    int n = 0;
    for (int i = 0; i < p.length; i += 3) {
      n += Float.isFinite(p[i]) && Float.isFinite(p[i + 1]) && Float.isFinite(p[i + 2]) ? 0 : 1;
    }
    return n;
  }
}

package holotome.core.geometry;

import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.BitSet;

/** A box along the axes. An empty box has min above max. */
public record Box(double minX, double minY, double minZ, double maxX, double maxY, double maxZ) {
  private static final double INF = Double.POSITIVE_INFINITY;
  public static final Box EMPTY = new Box(INF, INF, INF, -INF, -INF, -INF);
  private static final int GRAIN = 1 << 18;

  /** The box around points of 3 floats each; costs one parallel pass. */
  public static Box of(float[] xyz) {
    return of(xyz, null);
  }

  /**
   * The box around some points of 3 floats each; costs one parallel pass.
   *
   * @param without points that do not count; null for none
   */
  public static Box of(float[] xyz, BitSet without) {
    int n = xyz.length / 3;
    Box[] parts = new Box[Parallel.chunks(n, GRAIN)];
    Parallel.chunked(
        n, GRAIN, Work.unwatched(), (c, from, to) -> parts[c] = of(xyz, without, from, to));
    Box all = EMPTY;
    for (Box b : parts) {
      all = all.union(b);
    }
    return all;
  }

  private static Box of(float[] xyz, BitSet without, int from, int to) {
    float x0 = Float.POSITIVE_INFINITY;
    float y0 = x0;
    float z0 = x0;
    float x1 = -x0;
    float y1 = x1;
    float z1 = x1;
    for (int i = 3 * from; i < 3 * to; i += 3) {
      if (without != null && without.get(i / 3)) {
        continue;
      }
      float x = xyz[i];
      float y = xyz[i + 1];
      float z = xyz[i + 2];
      x0 = Math.min(x0, x);
      y0 = Math.min(y0, y);
      z0 = Math.min(z0, z);
      x1 = Math.max(x1, x);
      y1 = Math.max(y1, y);
      z1 = Math.max(z1, z);
    }
    return new Box(x0, y0, z0, x1, y1, z1);
  }

  public boolean isEmpty() {
    return minX > maxX;
  }

  public double width() {
    return isEmpty() ? 0 : maxX - minX;
  }

  public double depth() {
    return isEmpty() ? 0 : maxY - minY;
  }

  public double height() {
    return isEmpty() ? 0 : maxZ - minZ;
  }

  public double diagonal() {
    return Math.sqrt(width() * width() + depth() * depth() + height() * height());
  }

  public double[] min() {
    return new double[] {minX, minY, minZ};
  }

  public double[] max() {
    return new double[] {maxX, maxY, maxZ};
  }

  public double[] centre() {
    return isEmpty()
        ? new double[3]
        : new double[] {(minX + maxX) / 2, (minY + maxY) / 2, (minZ + maxZ) / 2};
  }

  public Box union(Box o) {
    return new Box(
        Math.min(minX, o.minX),
        Math.min(minY, o.minY),
        Math.min(minZ, o.minZ),
        Math.max(maxX, o.maxX),
        Math.max(maxY, o.maxY),
        Math.max(maxZ, o.maxZ));
  }
}

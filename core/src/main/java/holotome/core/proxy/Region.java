package holotome.core.proxy;

import holotome.core.geometry.Vec;
import java.util.Arrays;
import java.util.stream.IntStream;

/**
 * Places spread evenly over a part of the Scan and which way it faces there, in the coordinates of
 * a {@link LocalScan}: what blocks are fitted to.
 */
final class Region {
  /** Places that face a direction by more than this, as a cosine, are of its side. */
  static final double OF_SIDE = 0.8;

  /** Fewer places than this share are no side. */
  private static final double LEAST = 0.01;

  /** So many of the outermost places are strays. */
  private static final double STRAY = 0.002;

  /** A side beyond which a larger share of the region lies is none. */
  private static final double BEYOND = 0.15;

  private final LocalScan scan;
  private final int[] some;

  private Region(LocalScan scan, int[] some) {
    this.scan = scan;
    this.some = some;
  }

  static Region of(LocalScan scan) {
    return new Region(scan, IntStream.range(0, scan.count()).toArray());
  }

  int count() {
    return some.length;
  }

  double[] at(int i) {
    return Arrays.copyOfRange(scan.some(), 3 * some[i], 3 * some[i] + 3);
  }

  double[] facing(int i) {
    return Vec.at(scan.facing(), some[i]);
  }

  /** Every so many of them, so that no more than wanted are left. */
  Region thinned(int most) {
    int by = Math.max(1, (count() + most - 1) / most);
    return new Region(
        scan, IntStream.range(0, count()).filter(i -> i % by == 0).map(i -> some[i]).toArray());
  }

  /** Those whose facing a test says yes to. */
  Region facing(java.util.function.Predicate<double[]> test) {
    return new Region(
        scan,
        IntStream.range(0, count()).filter(i -> test.test(facing(i))).map(i -> some[i]).toArray());
  }

  /** How far each lies along a direction. */
  double[] along(double[] direction) {
    double[] out = new double[count()];
    for (int i = 0; i < out.length; i++) {
      out[i] = Vec.dot(at(i), direction);
    }
    return out;
  }

  /** How far it reaches along a direction, without strays. */
  double end(double[] direction) {
    double[] all = along(direction);
    Arrays.sort(all);
    return all[Math.max(0, all.length - 1 - (int) (STRAY * all.length))];
  }

  /**
   * Where a side that faces a direction lies.
   *
   * @param at along the direction
   * @param rms of what was seen of it
   * @param seen how many places; 0 where it was not seen and it is where the region ends
   */
  record Side(double at, double rms, int seen) {}

  Side side(double[] outwards) {
    Region part = facing(n -> Vec.dot(n, outwards) > OF_SIDE);
    if (part.count() < Math.max(6, LEAST * count())) {
      return new Side(end(outwards), 0, 0);
    }
    Middle m = Middle.of(part.along(outwards));
    double reach = m.at() + Math.max(3 * m.rms(), 1e-3);
    long beyond = Arrays.stream(along(outwards)).filter(x -> x > reach).count();
    // What lies that far within, as eaves that face down, is no side of the whole.
    return beyond > BEYOND * count()
        ? new Side(end(outwards), 0, 0)
        : new Side(m.at(), m.rms(), part.count());
  }

  double[] mean() {
    double[] sum = new double[3];
    for (int i = 0; i < count(); i++) {
      sum = Vec.add(sum, at(i));
    }
    return Vec.mul(sum, 1.0 / Math.max(1, count()));
  }
}

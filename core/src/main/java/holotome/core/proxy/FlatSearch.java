package holotome.core.proxy;

import holotome.core.geometry.Vec;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.List;
import java.util.SplittableRandom;

/**
 * Finds the flat parts of a Scan by itself: grown from places taken by chance, by area, in what no
 * part has taken yet, until so many places in a row led to nothing worth having. The seed is fixed:
 * the same Scan gives the same parts. Looked for among some of the triangles; the parts themselves
 * are fitted to all of them.
 */
final class FlatSearch {
  /** Parts with less of the Scan's area than this are left to be pointed at. */
  private static final double LEAST = 0.001;

  /** A part is at least so many times as wide as it is rough. */
  private static final double FLAT = 10;

  /** So many places in a row without a part, and it is over. */
  private static final int PATIENCE = 60;

  /** More planes than this part the room into too many cells. */
  static final int MOST = 60;

  /** So many are looked for. */
  private static final int WANTED = 36;

  /** So many places of a part are tried for one to begin from. */
  private static final int LOOKED_AT = 100;

  /** So many triangles are enough to look among. */
  private static final int FEW = 60_000;

  private FlatSearch() {}

  /**
   * A place on each flat part, the largest first, in the scan's coordinates.
   *
   * @param within how far from its plane the points of a part may lie; 0 for what the surface is
   *     like there
   */
  static List<double[]> places(LocalScan scan, double within, Work work) {
    LocalScan few = scan.thinned(FEW);
    FlatGrowing growing = new FlatGrowing(few, within);
    int n = few.count();
    double[] areas = areas(few);
    double all = 0;
    for (double a : areas) {
      all += a;
    }
    BitSet taken = new BitSet(n);
    record Found(double[] place, double area) {}
    List<Found> found = new ArrayList<>();
    SplittableRandom random = new SplittableRandom(20_261_202);
    double left = all;
    int tries = 0;
    while (tries < PATIENCE && found.size() < WANTED && left > LEAST * all) {
      work.check();
      int seed = pick(areas, taken, random.nextDouble() * left);
      if (seed < 0) {
        break;
      }
      tries++;
      double[] at =
          Vec.of(few.some()[3 * seed], few.some()[3 * seed + 1], few.some()[3 * seed + 2]);
      FlatPart part = growing.around(at, Work.unwatched());
      if (part == null) {
        continue;
      }
      double fresh = 0;
      double own = 0;
      for (int t = part.triangles().nextSetBit(0); t >= 0; t = part.triangles().nextSetBit(t + 1)) {
        own += areas[t];
        fresh += taken.get(t) ? 0 : areas[t];
      }
      double flat = FLAT * part.within();
      if (fresh >= Math.max(LEAST * all, flat * flat) && 2 * fresh > own) {
        found.add(new Found(inMidst(few, part), fresh));
        taken.or(part.triangles());
        left -= fresh;
        tries = 0;
        work.advance(0.8 * fresh / all);
      }
    }
    found.sort(Comparator.comparingDouble(f -> -f.area));
    return found.stream().map(Found::place).toList();
  }

  private static double[] areas(LocalScan scan) {
    double[] out = new double[scan.count()];
    double[] p = new double[9];
    for (int t = 0; t < out.length; t++) {
      scan.corners(t, p);
      out[t] = Vec.length(LocalScan.cross(p)) / 2;
    }
    return out;
  }

  private static int pick(double[] areas, BitSet taken, double at) {
    double sum = 0;
    int last = -1;
    for (int t = taken.nextClearBit(0); t < areas.length; t = taken.nextClearBit(t + 1)) {
      if (areas[t] > 0) {
        last = t;
        sum += areas[t];
        if (sum >= at) {
          return t;
        }
      }
    }
    return last;
  }

  /** Of some of the part's places the one farthest from all that is not part of it. */
  private static double[] inMidst(LocalScan scan, FlatPart part) {
    double[] p = scan.some();
    int[] own = part.triangles().stream().toArray();
    int step = Math.max(1, own.length / LOOKED_AT);
    double[] best = null;
    double most = -1;
    for (int i = step / 2; i < own.length; i += step) {
      int t = own[i];
      double[] at = Vec.of(p[3 * t], p[3 * t + 1], p[3 * t + 2]);
      if (best != null && Math.abs(part.over(at)) > part.within() / 2) {
        continue;
      }
      double far = Double.POSITIVE_INFINITY;
      for (int o = part.triangles().nextClearBit(0);
          o < scan.count() && far > most;
          o = part.triangles().nextClearBit(o + 1)) {
        double x = p[3 * o] - at[0];
        double y = p[3 * o + 1] - at[1];
        double z = p[3 * o + 2] - at[2];
        far = Math.min(far, x * x + y * y + z * z);
      }
      if (far > most) {
        most = far;
        best = at;
      }
    }
    return best;
  }
}

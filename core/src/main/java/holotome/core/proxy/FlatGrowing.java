package holotome.core.proxy;

import holotome.core.geometry.Vec;
import holotome.core.solve.PlaneFit;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.Arrays;
import java.util.BitSet;

/**
 * Finds the flat part around a place: a plane through what lies close by, fitted again by least
 * squares over twice the reach until it takes in all that lies in it, and of that what hangs
 * together with the place as seen square on (connected in a grid on the plane, Schnabel and others
 * 2007); last over all triangles of the Scan, those farther off than two and a half standard
 * deviations left out, so that joints and ledges do not move it. O(T), some fifteen passes.
 */
final class FlatGrowing {
  /** So many triangles tell how a surface lies and how rough it is. */
  private static final int FEW = 24;

  private static final int ROUNDS = 3;

  /** Wider gaps than so many cells part a surface, however large its triangles are. */
  private static final int WIDEST = 6;

  /** So many triangles are enough to tell what lies too far off. */
  private static final int ENOUGH = 100_000;

  /** Of so many triangles each stands for its middle alone. */
  private static final int MANY = 1000;

  /** A standard deviation by the median of distances that are spread normally. */
  private static final double MEDIAN = 1.4826;

  private static final double OUTLYING = 2.5;

  /** Triangles that are turned away by more than 60 degrees belong to something else. */
  private static final double FACING = 0.5;

  /** A plane is fitted to what is turned away by less than 40 degrees. */
  private static final double LIKE = 0.766;

  /** Farther than this share of the Scan's diagonal nothing is taken for roughness unasked. */
  private static final double LEAST = 1e-3;

  private static final double MOST = 1e-2;

  /** What a plane looks like on its way. */
  private record Plane(double[] point, double[] normal) {
    double over(double x, double y, double z) {
      return (x - point[0]) * normal[0] + (y - point[1]) * normal[1] + (z - point[2]) * normal[2];
    }
  }

  private final LocalScan scan;
  private final double asked;

  /**
   * @param asked how far from a plane the points of a flat part may lie; 0 for what the surface
   *     around the place is like
   */
  FlatGrowing(LocalScan scan, double asked) {
    this.scan = scan;
    this.asked = asked;
  }

  /** The flat part around a place; null where nothing there is flat. */
  FlatPart around(double[] seed, Work work) {
    double[] off = new double[1];
    Plane plane = begun(seed, off);
    if (plane == null) {
      return null;
    }
    double within = asked > 0 ? asked : Math.clamp(3 * off[0], LEAST, MOST);
    for (double reach = 4 * scan.spacing(); reach < 2; reach *= 2) {
      work.check();
      Plane next = through(plane, within, seed, reach);
      plane = next == null ? plane : next;
    }
    int[] all = lyingIn(plane, within, work.part(0.7, ""));
    PlaneGrid grid = new PlaneGrid(plane.normal, scan.side());
    double[] p = new double[9];
    for (int t : all) {
      scan.corners(t, p);
      grid.cover(p, true);
    }
    work.check();
    double apart = scan.meshSpacing() / PlaneGrid.cell(scan.side());
    grid.keepAround(seed, Math.clamp((int) Math.round(2 * apart), 1, WIDEST));
    int n = 0;
    for (int t : all) {
      scan.corners(t, p);
      if (grid.isSet(grid.cell(p[0], p[1], p[2]))) {
        all[n++] = t;
      }
    }
    return n == 0 ? null : fitted(plane, within, Arrays.copyOf(all, n), work.part(0.3, ""));
  }

  /** The plane of what lies closest, and how rough that is. */
  private Plane begun(double[] seed, double[] off) {
    double[] p = scan.some();
    double[] far = new double[scan.count()];
    for (int i = 0; i < far.length; i++) {
      double x = p[3 * i] - seed[0];
      double y = p[3 * i + 1] - seed[1];
      double z = p[3 * i + 2] - seed[2];
      far[i] = x * x + y * y + z * z;
    }
    int[] near = nearest(far, FEW);
    double[] towards = towards(near, far);
    if (towards == null) {
      return null;
    }
    PlaneFit fit = null;
    double limit = Double.POSITIVE_INFINITY;
    for (int round = 0; round < ROUNDS; round++) {
      PlaneFit.Sum sum = new PlaneFit.Sum();
      double[] away = new double[near.length];
      int n = 0;
      for (int i : near) {
        if (facing(i, towards) < LIKE) {
          continue;
        }
        double d = fit == null ? 0 : over(fit, i);
        if (d <= limit) {
          sum.add(p[3 * i], p[3 * i + 1], p[3 * i + 2], 1);
        }
        away[n++] = d;
      }
      if (n < 3 || sum.weight() < 3) {
        break;
      }
      double[] sorted = Arrays.copyOf(away, n);
      Arrays.sort(sorted);
      off[0] = MEDIAN * sorted[n / 2];
      limit = fit == null ? limit : Math.max(OUTLYING * off[0], 1e-12);
      fit = sum.fit();
    }
    // A few large triangles: their own plane.
    return fit == null
        ? new Plane(Arrays.copyOfRange(p, 3 * near[0], 3 * near[0] + 3), towards)
        : turned(fit, towards);
  }

  private double over(PlaneFit fit, int i) {
    double[] p = scan.some();
    double[] at = Arrays.copyOfRange(p, 3 * i, 3 * i + 3);
    return Math.abs(Vec.dot(fit.normal(), Vec.sub(at, fit.point())));
  }

  private static Plane turned(PlaneFit fit, double[] towards) {
    boolean isBack = Vec.dot(fit.normal(), towards) < 0;
    return new Plane(fit.point(), isBack ? Vec.mul(fit.normal(), -1) : fit.normal());
  }

  private double facing(int i, double[] n) {
    float[] f = scan.facing();
    return f[3 * i] * n[0] + f[3 * i + 1] * n[1] + f[3 * i + 2] * n[2];
  }

  /** The mean direction of the nearest third of some triangles; null where they have none. */
  private double[] towards(int[] near, double[] far) {
    double[] sorted = new double[near.length];
    for (int i = 0; i < near.length; i++) {
      sorted[i] = far[near[i]];
    }
    Arrays.sort(sorted);
    double limit = sorted[near.length / 3];
    double[] sum = new double[3];
    for (int i : near) {
      if (far[i] <= limit) {
        float[] f = scan.facing();
        sum = Vec.add(sum, Vec.of(f[3 * i], f[3 * i + 1], f[3 * i + 2]));
      }
    }
    return Vec.length(sum) > 1e-6 ? Vec.unit(sum) : null;
  }

  /** The least of some numbers, at least so many of them, in the order of their places. */
  private static int[] nearest(double[] far, int count) {
    double least = Double.POSITIVE_INFINITY;
    for (double d : far) {
      least = Math.min(least, d);
    }
    double limit = Math.max(least * 1.5, 1e-12);
    while (true) {
      int n = 0;
      for (double d : far) {
        n += d <= limit ? 1 : 0;
      }
      if (n >= Math.min(count, far.length)) {
        int[] out = new int[n];
        n = 0;
        for (int i = 0; i < far.length; i++) {
          if (far[i] <= limit) {
            out[n++] = i;
          }
        }
        return out;
      }
      limit *= 2;
    }
  }

  /** The plane of those that lie in one and within a cube; null if there are too few. */
  private Plane through(Plane plane, double within, double[] seed, double reach) {
    double[] p = scan.some();
    PlaneFit.Sum[] sums = new PlaneFit.Sum[Parallel.chunks(scan.count(), LocalScan.GRAIN)];
    Parallel.chunked(
        scan.count(),
        LocalScan.GRAIN,
        Work.unwatched(),
        (c, from, to) -> {
          PlaneFit.Sum sum = new PlaneFit.Sum();
          for (int i = from; i < to; i++) {
            double x = p[3 * i];
            double y = p[3 * i + 1];
            double z = p[3 * i + 2];
            boolean isIn =
                Math.abs(plane.over(x, y, z)) <= within
                    && facing(i, plane.normal) >= LIKE
                    && Math.abs(x - seed[0]) <= reach
                    && Math.abs(y - seed[1]) <= reach
                    && Math.abs(z - seed[2]) <= reach;
            if (isIn) {
              sum.add(x, y, z, 1);
            }
          }
          sums[c] = sum;
        });
    PlaneFit.Sum all = joined(sums);
    return all.weight() < FEW ? null : turned(all.fit(), plane.normal);
  }

  private static PlaneFit.Sum joined(PlaneFit.Sum[] sums) {
    PlaneFit.Sum all = new PlaneFit.Sum();
    for (PlaneFit.Sum s : sums) {
      all.add(s);
    }
    return all;
  }

  /** Whether a triangle of the mesh lies in a plane; the corners are written to p. */
  private boolean isIn(int t, Plane plane, double within, double[] p) {
    scan.corners(t, p);
    double x = (p[0] + p[3] + p[6]) / 3;
    double y = (p[1] + p[4] + p[7]) / 3;
    double z = (p[2] + p[5] + p[8]) / 3;
    if (!(Math.abs(plane.over(x, y, z)) <= within)) {
      return false;
    }
    double[] n = LocalScan.cross(p);
    return Vec.dot(n, plane.normal) >= FACING * Vec.length(n);
  }

  /** The triangles that lie in a plane, in order. */
  private int[] lyingIn(Plane plane, double within, Work work) {
    int n = scan.mesh().triangleCount();
    int[][] parts = new int[Parallel.chunks(n, LocalScan.GRAIN)][];
    Parallel.chunked(
        n,
        LocalScan.GRAIN,
        work,
        (c, from, to) -> {
          int[] own = new int[64];
          int count = 0;
          double[] p = new double[9];
          for (int t = from; t < to; t++) {
            if (t % LocalScan.BLOCK == 0
                && !scan.reaches(t / LocalScan.BLOCK, plane.point, plane.normal, within)) {
              t += LocalScan.BLOCK - 1;
              continue;
            }
            if (isIn(t, plane, within, p)) {
              own = count == own.length ? Arrays.copyOf(own, 2 * count) : own;
              own[count++] = t;
            }
          }
          parts[c] = Arrays.copyOf(own, count);
        });
    return Arrays.stream(parts).flatMapToInt(Arrays::stream).toArray();
  }

  /** The plane that most of the members lie in, by their areas. */
  private FlatPart fitted(Plane plane, double within, int[] members, Work work) {
    int[] some = members;
    if (members.length > ENOUGH) {
      some = new int[ENOUGH];
      for (int i = 0; i < ENOUGH; i++) {
        some[i] = members[(int) ((long) i * members.length / ENOUGH)];
      }
    }
    double limit = within;
    Plane now = plane;
    for (int round = 0; round < ROUNDS; round++) {
      work.check();
      PlaneFit.Sum sum = summed(now, limit, some);
      if (!(sum.weight() > 0)) {
        break;
      }
      now = turned(sum.fit(), plane.normal);
      limit = Math.min(within, OUTLYING * MEDIAN * median(now, within, some));
    }
    PlaneFit.Sum sum = summed(now, limit, members);
    if (!(sum.weight() > 0)) {
      return null;
    }
    work.advance(1);
    PlaneFit fit = sum.fit();
    double area = 0;
    double[] p = new double[9];
    for (int t : members) {
      scan.corners(t, p);
      area += Vec.length(LocalScan.cross(p)) / 2;
    }
    BitSet set = new BitSet(scan.mesh().triangleCount());
    for (int t : members) {
      set.set(t);
    }
    double[] normal = turned(fit, plane.normal).normal;
    return new FlatPart(normal, fit.point(), sum.covariance(), area, within, set);
  }

  private PlaneFit.Sum summed(Plane plane, double limit, int[] members) {
    PlaneFit.Sum[] sums = new PlaneFit.Sum[Parallel.chunks(members.length, LocalScan.GRAIN)];
    Parallel.chunked(
        members.length,
        LocalScan.GRAIN,
        Work.unwatched(),
        (c, from, to) -> {
          PlaneFit.Sum sum = new PlaneFit.Sum();
          double[] p = new double[9];
          for (int i = from; i < to; i++) {
            scan.corners(members[i], p);
            double area = Vec.length(LocalScan.cross(p)) / 2;
            double x = (p[0] + p[3] + p[6]) / 3;
            double y = (p[1] + p[4] + p[7]) / 3;
            double z = (p[2] + p[5] + p[8]) / 3;
            if (area > 0 && Math.abs(plane.over(x, y, z)) <= limit) {
              if (members.length > MANY) {
                sum.add(x, y, z, area);
                continue;
              }
              // A triangle's own spread counts too, by its corners: few large ones say as much.
              for (int k = 0; k < 9; k += 3) {
                sum.add(
                    x + (p[k] - x) / 2, y + (p[k + 1] - y) / 2, z + (p[k + 2] - z) / 2, area / 3);
              }
            }
          }
          sums[c] = sum;
        });
    return joined(sums);
  }

  /** The median distance of the members, told to a thousandth of the tolerance. */
  private double median(Plane plane, double within, int[] members) {
    int steps = 1000;
    long[] counts = new long[steps + 1];
    double[] p = new double[9];
    for (int t : members) {
      scan.corners(t, p);
      double d =
          Math.abs(
              plane.over(
                  (p[0] + p[3] + p[6]) / 3, (p[1] + p[4] + p[7]) / 3, (p[2] + p[5] + p[8]) / 3));
      counts[(int) Math.min(steps, d / within * steps)]++;
    }
    long below = 0;
    for (int i = 0; i <= steps; i++) {
      below += counts[i];
      if (2 * below >= members.length) {
        return (i + 1) * within / steps;
      }
    }
    return within;
  }
}

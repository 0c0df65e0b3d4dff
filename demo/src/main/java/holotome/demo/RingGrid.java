package holotome.demo;

import java.util.Arrays;

/**
 * The rings that the scan's main surface is woven of: from the top of the bollard down its profile
 * to the foot, then out over the paving.
 *
 * <p>Each ring has a power-of-two multiple of 8 points, so that neighbours have as many, twice or
 * half as many and can be woven together; rings lie closer where their points lie wider, so that
 * cells keep their area.
 *
 * @param place how far along each ring lies: along the profile, then on from its end outwards
 * @param points points per ring
 * @param foot number of the ring at the foot
 */
record RingGrid(double[] place, int[] points, int foot) {
  private static final double OUTERMOST = 1.36;

  /** Paving cells are so much wider than the bollard's. */
  private static final double WIDER = 1.75;

  static double radius(double place) {
    return place <= Bollard.LENGTH
        ? Bollard.radius(place)
        : Bollard.FLANGE_RADIUS + place - Bollard.LENGTH;
  }

  /** A grid with cells of about {@code h} metres on the bollard. */
  static RingGrid of(double h) {
    double[] place = new double[1024];
    int[] points = new int[1024];
    int n = 0;
    int foot = -1;
    double end = Bollard.LENGTH + OUTERMOST - Bollard.FLANGE_RADIUS;
    double at = 0.6 * h;
    int count = 8;
    while (at < end) {
      boolean paving = foot >= 0;
      double cell = paving ? h * WIDER : h;
      double wanted = 2 * Math.PI * radius(at) / cell;
      if (count * 1.5 < wanted) {
        count *= 2;
      } else if (count * 0.70 > wanted && count > 8) {
        count /= 2;
      }
      if (n == place.length) {
        place = Arrays.copyOf(place, 2 * n);
        points = Arrays.copyOf(points, 2 * n);
      }
      place[n] = at;
      points[n++] = count;
      double wide = 2 * Math.PI * radius(at) / count;
      double uneven = 1 + 0.3 * Noise.value(18 * at, 0.5, 0.5, 61);
      double next = at + Math.clamp(cell * cell / wide, 0.5 * cell, 1.6 * cell) * uneven;
      if (foot < 0 && next > Bollard.LENGTH - 0.4 * h) {
        // The foot itself is a ring: there the subject ends and the paving begins.
        if (at < Bollard.LENGTH - 1e-12) {
          next = Bollard.LENGTH;
        }
        if (at == Bollard.LENGTH) {
          foot = n - 1;
          next = at + cell;
        }
      }
      at = next;
    }
    return new RingGrid(Arrays.copyOf(place, n), Arrays.copyOf(points, n), foot);
  }

  int rings() {
    return place.length;
  }

  /** Triangles between ring i and the next, before holes. */
  int strip(int i) {
    return points[i] + points[i + 1];
  }
}

package holotome.core.unwrap;

import java.util.ArrayList;
import java.util.List;

/**
 * Charts that are to keep their places beside one another while they are packed: put together into
 * one, at one scale for all. Those that lie mirrored are turned over where they lie.
 */
final class ChartGroup {
  private final boolean even;
  private final List<Charts.Chart> members = new ArrayList<>();
  private final List<Charts.Chart> over = new ArrayList<>();
  private double onSurface;
  private double wanted;
  private double inTexture;
  private boolean isHeld;

  /**
   * @param even whether they get, taken together, the area that they have on the surface times what
   *     it matters; else they keep that in the texture
   */
  ChartGroup(boolean even) {
    this.even = even;
  }

  boolean isEmpty() {
    return members.isEmpty();
  }

  /**
   * Takes one more.
   *
   * @param with what is laid over it
   * @param surface its area on the surface
   * @param area the same times what it matters
   * @param flat its area in the texture, below 0 where it lies mirrored
   * @param held whether it is to keep its size: all of them do then
   */
  void add(
      Charts.Chart chart,
      List<Charts.Chart> with,
      double surface,
      double area,
      double flat,
      boolean held) {
    double[] by = {1, 0};
    if (flat < 0) {
      double low = Double.POSITIVE_INFINITY;
      double high = Double.NEGATIVE_INFINITY;
      for (int i = 0; i < chart.uv().length; i += 2) {
        low = Math.min(low, chart.uv()[i]);
        high = Math.max(high, chart.uv()[i]);
      }
      by = new double[] {-1, low + high};
    }
    members.add(mapped(chart, by[0], by[1]));
    for (Charts.Chart w : with) {
      over.add(mapped(w, by[0], by[1]));
    }
    onSurface += surface;
    wanted += area;
    inTexture += Math.abs(flat);
    isHeld |= held;
  }

  /** How much they matter, in the mean. */
  double rank() {
    return onSurface > 0 ? wanted / onSurface : 0;
  }

  /** All of them as one. */
  Charts.Chart chart() {
    double scale = isHeld || !even ? 1 : inTexture > 0 ? Math.sqrt(wanted / inTexture) : 0;
    List<Charts.Chart> all = scaled(members, scale);
    Charts.Chart first = all.getFirst();
    return new Charts.Chart(
        first.triangles(),
        first.corners(),
        first.uv(),
        scaled(over, scale),
        List.copyOf(all.subList(1, all.size())),
        isHeld);
  }

  private static Charts.Chart mapped(Charts.Chart chart, double times, double plus) {
    double[] uv = chart.uv().clone();
    for (int i = 0; i < uv.length; i += 2) {
      uv[i] = times * uv[i] + plus;
    }
    return new Charts.Chart(chart.triangles(), chart.corners(), uv);
  }

  private static List<Charts.Chart> scaled(List<Charts.Chart> charts, double scale) {
    List<Charts.Chart> out = new ArrayList<>();
    for (Charts.Chart c : charts) {
      double[] uv = c.uv().clone();
      for (int i = 0; i < uv.length; i++) {
        uv[i] *= scale;
      }
      out.add(new Charts.Chart(c.triangles(), c.corners(), uv));
    }
    return out;
  }
}

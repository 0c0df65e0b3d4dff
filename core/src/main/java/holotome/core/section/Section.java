package holotome.core.section;

import java.util.List;

/**
 * What a plane cuts from a mesh.
 *
 * @param curves the longest first
 */
public record Section(SectionPlane plane, List<Curve> curves) {
  public Section {
    curves = List.copyOf(curves);
  }

  public boolean isEmpty() {
    return curves.isEmpty();
  }

  /** The length of all curves. */
  public double length() {
    return curves.stream().mapToDouble(Curve::length).sum();
  }

  /**
   * The area cut through: what closed curves enclose, less what lies in holes. Right where the
   * mesh's outside faces out, or all of it in.
   */
  public double area() {
    return Math.abs(curves.stream().mapToDouble(Curve::area).sum());
  }

  /** The middle of the area, in the plane; of the points where nothing is enclosed. */
  public double[] centroid() {
    double[] sum = new double[3];
    for (Curve c : curves) {
      if (c.closed()) {
        double[] m = c.moments();
        for (int k = 0; k < 3; k++) {
          sum[k] += m[k];
        }
      }
    }
    double scale = length() * length();
    if (Math.abs(sum[0]) > 1e-12 * scale) {
      return new double[] {sum[1] / sum[0], sum[2] / sum[0]};
    }
    return curves.isEmpty() ? new double[2] : curves.getFirst().centroid();
  }

  public long openCurves() {
    return curves.stream().filter(c -> !c.closed()).count();
  }

  /** Least x, least y, largest x, largest y; null where there is nothing. */
  public double[] bounds() {
    double[] b = {1e300, 1e300, -1e300, -1e300};
    for (Curve c : curves) {
      for (int i = 0; i < c.size(); i++) {
        b[0] = Math.min(b[0], c.xy()[2 * i]);
        b[1] = Math.min(b[1], c.xy()[2 * i + 1]);
        b[2] = Math.max(b[2], c.xy()[2 * i]);
        b[3] = Math.max(b[3], c.xy()[2 * i + 1]);
      }
    }
    return curves.isEmpty() ? null : b;
  }
}

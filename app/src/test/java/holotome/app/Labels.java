package holotome.app;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.demo.BollardScan;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;

/** What of a demo scan is subject, paving, bar and debris, to check what trimming left of each. */
final class Labels {
  private record Place(float x, float y, float z) {}

  private final Map<Place, Integer> parts = new HashMap<>();
  private final double[] area = new double[4];

  Labels(int triangles) {
    BollardScan.Made made = BollardScan.of(triangles).make(Work.unwatched());
    Mesh m = made.mesh();
    int part = 0;
    for (int t = 0; t < m.triangleCount(); t++) {
      while (t >= made.ends()[part]) {
        part++;
      }
      area[part] += Vec.length(Measures.cross(m, t)) / 2;
      for (int k = 0; k < 3; k++) {
        parts.merge(place(m, m.triangles()[3 * t + k]), 1 << part, (a, b) -> a | b);
      }
    }
  }

  private static Place place(Mesh m, int v) {
    float[] p = m.xyz();
    return new Place(p[3 * v], p[3 * v + 1], p[3 * v + 2]);
  }

  /**
   * The share of each part's area that is left: subject, paving, bar, debris. A triangle that a cut
   * made belongs with the corners it kept.
   */
  double[] left(Mesh m) {
    double[] left = new double[4];
    for (int t = 0; t < m.triangleCount(); t++) {
      int of = 15;
      boolean known = false;
      for (int k = 0; k < 3; k++) {
        Integer at = parts.get(place(m, m.triangles()[3 * t + k]));
        known |= at != null;
        of &= at == null ? 15 : at;
      }
      if (known && of != 0) {
        left[Integer.numberOfTrailingZeros(of)] += Vec.length(Measures.cross(m, t)) / 2;
      }
    }
    for (int i = 0; i < 4; i++) {
      left[i] /= area[i];
    }
    return left;
  }

  /** At least 99.9 % of what is stray gone, at most 0.05 % of the subject lost. */
  void assertTrimmed(Mesh m) {
    double[] left = left(m);
    String as = "subject, paving, bar, debris left: " + Arrays.toString(left);
    org.assertj.core.api.Assertions.assertThat(left[0]).as(as).isGreaterThan(0.9995);
    for (int i = 1; i < 4; i++) {
      org.assertj.core.api.Assertions.assertThat(left[i]).as(as).isLessThan(0.001);
    }
  }
}

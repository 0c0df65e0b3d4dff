package holotome.core.select;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class FenceOutlineTest {
  /** Every edge looked at: the plain even-odd rule. */
  private static boolean plain(double[] o, double x, double y) {
    boolean inside = false;
    for (int i = 0, j = o.length - 2; i < o.length; j = i, i += 2) {
      boolean crosses = o[i + 1] > y != o[j + 1] > y;
      if (crosses && x < (o[j] - o[i]) * (y - o[i + 1]) / (o[j + 1] - o[i + 1]) + o[i]) {
        inside = !inside;
      }
    }
    return inside;
  }

  @ParameterizedTest
  @ValueSource(ints = {3, 4, 7, 50, 400, 5000})
  void agreesWithThePlainRule(int corners) {
    Random r = new Random(corners);
    double[] outline = new double[2 * corners];
    for (int i = 0; i < outline.length; i++) {
      // Whole numbers among them: points at the very height of corners are the hard ones.
      outline[i] = r.nextBoolean() ? r.nextInt(40) : 40 * r.nextDouble();
    }
    FenceOutline o = new FenceOutline(outline);
    int inside = 0;
    for (int n = 0; n < 3000; n++) {
      double x = r.nextBoolean() ? r.nextInt(44) - 2 : 44 * r.nextDouble() - 2;
      double y = r.nextBoolean() ? r.nextInt(44) - 2 : 44 * r.nextDouble() - 2;
      boolean plain = plain(outline, x, y);
      inside += plain ? 1 : 0;
      assertThat(o.contains(x, y)).as("%s, %s", x, y).isEqualTo(plain);
    }
    assertThat(inside).isBetween(1, 2950);
  }

  @Test
  void aFlatOutlineHoldsNothing() {
    FenceOutline o = new FenceOutline(new double[] {0, 1, 5, 1, 9, 1});
    assertThat(o.contains(4, 1)).isFalse();
    assertThat(o.contains(Double.NaN, 1)).isFalse();
    assertThat(o.minY()).isEqualTo(o.maxY());
  }
}

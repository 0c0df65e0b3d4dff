package holotome.core.geometry;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Sides and turns against the same determinants in decimal numbers of any length. */
class PredicatesTest {
  private static BigDecimal at(float[] p, int v, int k) {
    return new BigDecimal(p[3 * v + k]);
  }

  /** The full 4 x 4 determinant, expanded another way than in the code. */
  private static int side(float[] p) {
    BigDecimal sum = BigDecimal.ZERO;
    for (int skip = 0; skip < 4; skip++) {
      int[] r = new int[3];
      int n = 0;
      for (int v = 0; v < 4; v++) {
        if (v != skip) {
          r[n++] = v;
        }
      }
      BigDecimal minor = BigDecimal.ZERO;
      for (int[] o :
          new int[][] {
            {0, 1, 2, 1}, {1, 2, 0, 1}, {2, 0, 1, 1}, {0, 2, 1, -1}, {1, 0, 2, -1}, {2, 1, 0, -1}
          }) {
        minor =
            minor.add(
                at(p, r[0], o[0])
                    .multiply(at(p, r[1], o[1]))
                    .multiply(at(p, r[2], o[2]))
                    .multiply(BigDecimal.valueOf(o[3])));
      }
      // Cofactors of the column of ones.
      sum = skip % 2 == 0 ? sum.subtract(minor) : sum.add(minor);
    }
    return sum.signum();
  }

  @Test
  void sidesOfPointsInOrNearlyInAPlaneAreExact() {
    Random random = new Random(3);
    int inPlane = 0;
    for (int i = 0; i < 3000; i++) {
      float[] p = new float[12];
      double scale = Math.pow(10, random.nextInt(9) - 4);
      for (int k = 0; k < 9; k++) {
        p[k] = (float) (scale * (i % 3 == 0 ? (double) random.nextInt(7) : random.nextDouble()));
      }
      double a = random.nextDouble();
      double b = random.nextDouble();
      for (int k = 0; k < 3; k++) {
        p[9 + k] =
            i % 3 == 0
                ? p[k] + p[3 + k] - p[6 + k]
                : (float) (p[k] + a * (p[3 + k] - p[k]) + b * (p[6 + k] - p[k]));
      }
      int told = Predicates.side(p, 0, 1, 2, 3);
      assertThat(told).isEqualTo(side(p));
      assertThat(Predicates.side(p, 1, 0, 2, 3)).isEqualTo(-told);
      inPlane += told == 0 ? 1 : 0;
    }
    assertThat(inPlane).isGreaterThan(500);
  }

  /** Coordinates of very unlike sizes, whose differences are not exact in doubles. */
  @Test
  void sidesOfPointsFarApartAreExact() {
    Random random = new Random(4);
    for (int i = 0; i < 500; i++) {
      float[] p = new float[12];
      for (int k = 0; k < 12; k++) {
        p[k] = (float) Math.scalb((double) (random.nextInt(8) - 3), random.nextInt(120) - 60);
      }
      assertThat(Predicates.side(p, 0, 1, 2, 3)).isEqualTo(side(p));
    }
  }

  @Test
  void turnsAreExact() {
    Random random = new Random(5);
    int straight = 0;
    for (int i = 0; i < 3000; i++) {
      float[] p = new float[9];
      for (int k = 0; k < 6; k++) {
        p[k] =
            i % 2 == 0
                ? (float) random.nextInt(9)
                : (float) Math.scalb(random.nextDouble(), random.nextInt(20));
      }
      float f = (float) random.nextInt(5);
      for (int k = 0; k < 3; k++) {
        p[6 + k] = p[k] + f * (p[3 + k] - p[k]);
      }
      BigDecimal det =
          at(p, 0, 0)
              .subtract(at(p, 2, 0))
              .multiply(at(p, 1, 1).subtract(at(p, 2, 1)))
              .subtract(
                  at(p, 0, 1).subtract(at(p, 2, 1)).multiply(at(p, 1, 0).subtract(at(p, 2, 0))));
      assertThat(Predicates.turn(p, 0, 1, 2, 0, 1)).isEqualTo(det.signum());
      straight += det.signum() == 0 ? 1 : 0;
    }
    assertThat(straight).isGreaterThan(500);
  }
}

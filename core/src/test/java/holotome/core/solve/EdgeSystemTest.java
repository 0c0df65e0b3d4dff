package holotome.core.solve;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Both ways of solving a graph's system, against what the right sides were made from. */
class EdgeSystemTest {

  /** A grid's edges with random weights, some of them twice, and a second part by itself. */
  @ParameterizedTest
  @ValueSource(ints = {2, 7, 23, 60})
  void solvesWhatItSays(int side) {
    int n = side * side + 3;
    Random random = new Random(4);
    int[] ends = new int[4 * side * side + 6];
    double[] weight = new double[ends.length / 2];
    int edges = 0;
    for (int y = 0; y < side; y++) {
      for (int x = 0; x < side; x++) {
        int v = y * side + x;
        if (x + 1 < side) {
          ends[2 * edges] = v;
          ends[2 * edges + 1] = v + 1;
          weight[edges++] = 0.1 + random.nextDouble();
        }
        if (y + 1 < side) {
          ends[2 * edges] = v + side;
          ends[2 * edges + 1] = v;
          weight[edges++] = 0.1 + random.nextDouble();
        }
      }
    }
    for (int k = 0; k < 3; k++) {
      ends[2 * edges] = side * side + k;
      ends[2 * edges + 1] = side * side + (k + 1) % 3;
      weight[edges++] = 2;
    }
    ends[2 * edges] = 0;
    ends[2 * edges + 1] = 1;
    weight[edges++] = 5;
    ends = Arrays.copyOf(ends, 2 * edges);
    weight = Arrays.copyOf(weight, edges);
    double[] extra = new double[n];
    extra[3] = 0.5;
    extra[n - 1] = 3;
    double[] wanted = new double[2 * n];
    for (int i = 0; i < wanted.length; i++) {
      wanted[i] = random.nextGaussian();
    }
    double[] xy = new double[2 * n];
    for (int i = 0; i < n; i++) {
      xy[2 * i] = extra[i] * wanted[2 * i];
      xy[2 * i + 1] = extra[i] * wanted[2 * i + 1];
    }
    for (int e = 0; e < edges; e++) {
      for (int k = 0; k < 2; k++) {
        double d = weight[e] * (wanted[2 * ends[2 * e] + k] - wanted[2 * ends[2 * e + 1] + k]);
        xy[2 * ends[2 * e] + k] += d;
        xy[2 * ends[2 * e + 1] + k] -= d;
      }
    }
    for (EdgeSystem s :
        List.of(
            new SkylineSystem(n, ends, weight, extra),
            new DissectedSystem(n, ends, weight, extra),
            EdgeSystem.of(n, ends, weight, extra))) {
      double[] found = xy.clone();
      s.solve(found);
      for (int i = 0; i < found.length; i++) {
        assertThat(found[i]).isCloseTo(wanted[i], within(1e-7));
      }
    }
  }

  /** Every row once; a grid's rows in an order that leaves few entries. */
  @ParameterizedTest
  @ValueSource(ints = {1, 5, 90})
  void dissectionIsAnOrderOfAllRows(int side) {
    int n = side * side;
    int[] start = new int[n + 1];
    int[] to = new int[4 * n];
    int k = 0;
    for (int v = 0; v < n; v++) {
      int x = v % side;
      start[v] = k;
      for (int w : new int[] {x > 0 ? v - 1 : -1, x + 1 < side ? v + 1 : -1, v - side, v + side}) {
        if (w >= 0 && w < n) {
          to[k++] = w;
        }
      }
    }
    start[n] = k;
    int[] order = Dissection.order(n, start, to);
    int[] sorted = order.clone();
    Arrays.sort(sorted);
    for (int i = 0; i < n; i++) {
      assertThat(sorted[i]).isEqualTo(i);
    }
  }
}

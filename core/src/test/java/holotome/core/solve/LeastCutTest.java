package holotome.core.solve;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.task.Work;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Held against every way there is to part a few nodes. */
class LeastCutTest {
  private static final int NODES = 9;

  private final long[] onFirst = new long[NODES];
  private final long[] onSecond = new long[NODES];
  private final long[][] apart = new long[NODES][NODES];

  private long costs(int firsts) {
    long sum = 0;
    for (int i = 0; i < NODES; i++) {
      sum += (firsts >> i & 1) == 1 ? onFirst[i] : onSecond[i];
      for (int j = 0; j < i; j++) {
        sum += (firsts >> i & 1) != (firsts >> j & 1) ? apart[i][j] : 0;
      }
    }
    return sum;
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12})
  void nothingIsCheaper(long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    LeastCut cut = new LeastCut(NODES);
    for (int i = 0; i < NODES; i++) {
      onFirst[i] = random.nextInt(20);
      onSecond[i] = random.nextInt(20);
      cut.cost(i, onFirst[i], onSecond[i]);
      for (int j = 0; j < i; j++) {
        if (random.nextInt(3) == 0) {
          apart[i][j] = random.nextInt(12);
          cut.apart(i, j, apart[i][j]);
        }
      }
    }
    boolean[] first = cut.first(Work.unwatched());
    int chosen = 0;
    for (int i = 0; i < NODES; i++) {
      chosen |= first[i] ? 1 << i : 0;
    }
    long least = Long.MAX_VALUE;
    int fewest = NODES;
    for (int s = 0; s < 1 << NODES; s++) {
      if (costs(s) < least) {
        least = costs(s);
        fewest = NODES;
      }
      fewest = costs(s) == least ? Math.min(fewest, Integer.bitCount(s)) : fewest;
    }
    assertThat(costs(chosen)).isEqualTo(least);
    assertThat(Integer.bitCount(chosen)).isEqualTo(fewest);
  }

  @Test
  void longRowsNeedNoDeepStack() {
    int n = 200_000;
    LeastCut cut = new LeastCut(n);
    cut.cost(0, 0, 10);
    cut.cost(n - 1, 10, 0);
    for (int i = 1; i < n; i++) {
      cut.apart(i - 1, i, i == n / 2 ? 3 : 5);
    }
    boolean[] first = cut.first(Work.unwatched());
    assertThat(first[n / 2 - 1]).isTrue();
    assertThat(first[n / 2]).isFalse();
  }
}

package holotome.core.array;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.BitSet;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Rank and select against counting. */
class RanksTest {
  @Test
  void ranksCountWhatIsBelow() {
    Random r = new Random(8);
    for (int n : new int[] {1, 63, 64, 65, 5000, 100_000}) {
      for (double share : new double[] {0, 0.002, 0.5, 1}) {
        Ranks ranks = new Ranks(n);
        BitSet set = new BitSet();
        for (int i = 0; i < n; i++) {
          if (r.nextDouble() < share) {
            ranks.add(i);
            set.set(i);
          }
        }
        ranks.done();
        assertThat(ranks.size()).isEqualTo(set.cardinality());
        int below = 0;
        for (int i = 0; i < n; i++) {
          assertThat(ranks.has(i)).isEqualTo(set.get(i));
          assertThat(ranks.rank(i)).isEqualTo(below);
          if (set.get(i)) {
            assertThat(ranks.select(below++)).isEqualTo(i);
            assertThat(ranks.next(i)).isEqualTo(i);
          } else if (set.nextSetBit(i) >= 0) {
            assertThat(ranks.next(i)).isEqualTo(set.nextSetBit(i));
          }
        }
      }
    }
  }
}

package holotome.core.array;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Numbers by keys beside a map of the library; sets beside the slow way. */
class LongIndexTest {
  @Test
  void keysAreNumberedAsTheyCome() {
    Random random = new Random(1);
    LongIndex index = new LongIndex();
    Map<Long, Integer> known = new HashMap<>();
    for (int i = 0; i < 50_000; i++) {
      long key = i % 3 == 0 ? random.nextLong() : random.nextInt(9000) * 1024L;
      assertThat(index.find(key)).isEqualTo(known.getOrDefault(key, -1));
      int number = known.computeIfAbsent(key, k -> known.size());
      assertThat(index.add(key)).isEqualTo(number);
      assertThat(index.key(number)).isEqualTo(key);
    }
    assertThat(index.size()).isEqualTo(known.size());
  }

  @Test
  void setsStandUnderTheirLowestNumber() {
    Random random = new Random(2);
    int n = 300;
    DisjointSets sets = new DisjointSets(n);
    int[] label = new int[n];
    for (int i = 0; i < n; i++) {
      label[i] = i;
    }
    for (int round = 0; round < 250; round++) {
      int a = random.nextInt(n);
      int b = random.nextInt(n);
      assertThat(sets.join(a, b)).isEqualTo(label[a] != label[b]);
      int low = Math.min(label[a], label[b]);
      int high = Math.max(label[a], label[b]);
      for (int i = 0; i < n; i++) {
        label[i] = label[i] == high ? low : label[i];
      }
    }
    for (int i = 0; i < n; i++) {
      assertThat(sets.find(i)).isEqualTo(label[i]);
    }
  }
}

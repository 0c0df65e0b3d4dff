package holotome.core.array;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class GroupingTest {
  @ParameterizedTest
  @CsvSource({"1000, 7", "300000, 20", "300000, 200000", "200000, 1", "5, 90000"})
  void eachGroupHasItsThingsInTheirOldOrder(int n, int groups) {
    Random r = new Random(3);
    int[] of = new int[n];
    List<List<Integer>> expected = new ArrayList<>();
    for (int g = 0; g < groups; g++) {
      expected.add(new ArrayList<>());
    }
    for (int i = 0; i < n; i++) {
      of[i] = r.nextInt(groups + 1) - 1;
      if (of[i] >= 0) {
        expected.get(of[i]).add(i);
      }
    }
    Grouping by = Grouping.of(of, groups, Work.unwatched());
    for (int g = 0; g < groups; g++) {
      List<Integer> here = new ArrayList<>();
      for (int k = by.start()[g]; k < by.start()[g + 1]; k++) {
        here.add(by.order()[k]);
      }
      assertThat(here).isEqualTo(expected.get(g));
    }
    assertThat(by.order()).hasSize(by.start()[groups]);
    Parallel.limitThreads(1);
    try {
      assertThat(Grouping.of(of, groups, Work.unwatched()).order()).isEqualTo(by.order());
    } finally {
      Parallel.limitThreads(64);
    }
  }

  @Test
  void nothingIsGroupedToo() {
    Grouping by = Grouping.of(new int[0], 4, Work.unwatched());
    assertThat(by.start()).containsExactly(0, 0, 0, 0, 0);
    assertThat(by.order()).isEmpty();
  }
}

package holotome.core.array;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.PriorityQueue;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Against a priority queue, with many equal keys and infinite ones. */
class LeastFirstTest {
  private record One(double key, int number) {}

  @Test
  void comesOutInOrder() {
    Random random = new Random(3);
    for (int run = 0; run < 50; run++) {
      LeastFirst waits = new LeastFirst();
      PriorityQueue<One> expected =
          new PriorityQueue<>(
              (a, b) ->
                  a.key != b.key
                      ? Double.compare(a.key, b.key)
                      : Integer.compare(a.number, b.number));
      for (int i = 0; i < 2000; i++) {
        if (random.nextInt(3) > 0 || expected.isEmpty()) {
          double key =
              random.nextInt(40) == 0 ? Double.POSITIVE_INFINITY : random.nextInt(30) / 4.0;
          int number = random.nextInt(100);
          waits.add(key, number);
          expected.add(new One(key, number));
        } else {
          assertThat(waits.key()).isEqualTo(expected.peek().key);
          assertThat(waits.take()).isEqualTo(expected.poll().number);
        }
      }
      while (!expected.isEmpty()) {
        assertThat(waits.isEmpty()).isFalse();
        assertThat(waits.take()).isEqualTo(expected.poll().number);
      }
      assertThat(waits.isEmpty()).isTrue();
    }
  }
}

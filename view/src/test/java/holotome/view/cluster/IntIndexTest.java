package holotome.view.cluster;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

/** Numbers for keys, whatever their pattern. */
class IntIndexTest {
  @Test
  void manyKeysAreNumberedInTurn() {
    // Multiples of 65,536, which a poor spread would put on top of each other.
    IntIndex index = new IntIndex();
    for (int i = 0; i < 30_000; i++) {
      assertThat(index.of(i << 16 ^ i >>> 14)).isEqualTo(i);
    }
    for (int i = 0; i < 400_000; i++) {
      index.of(2_000_000_000 + i);
    }
    assertThat(index.size()).isEqualTo(430_000);
    assertThat(index.key(29_999)).isEqualTo(29_999 << 16 ^ 29_999 >>> 14);
  }
}

package holotome.core.memory;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

class SpareTest {
  @Test
  void holdersAreAskedOnlyWhereMemoryIsShort() {
    AtomicInteger asked = new AtomicInteger();
    Spare.Holder holder = asked::incrementAndGet;
    Spare.add(holder);
    assertThat(Spare.makeRoom(1)).isPositive();
    assertThat(asked).hasValue(0);
    long all = Runtime.getRuntime().maxMemory();
    assertThat(Spare.makeRoom(2 * all)).isLessThanOrEqualTo(all);
    assertThat(asked).hasValue(1);
  }

  @Test
  void whatIsLetGoIsFree() {
    byte[][] held = {new byte[24 << 20]};
    Spare.Holder holder = () -> held[0] = null;
    Spare.add(holder);
    System.gc();
    long before = Spare.free();
    // More than there is with it, but not without.
    long now = Spare.makeRoom(before + (12 << 20));
    assertThat(held[0]).isNull();
    assertThat(now).isGreaterThan(before + (12 << 20));
  }
}

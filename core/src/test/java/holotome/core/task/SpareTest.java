package holotome.core.task;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
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

  @Test
  void whoWantsMoreThanThereIsIsTold() {
    try (Spare.Claim sand = Spare.claim(Long.MAX_VALUE / 2)) {
      assertThat(sand.await(0, Work.unwatched())).isFalse();
      assertThatThrownBy(() -> sand.require(0, "Counting the sand", Work.unwatched()))
          .isInstanceOfSatisfying(
              Failure.class, f -> assertThat(f.kind()).isEqualTo(Failure.Kind.MEMORY))
          .hasMessageContaining("Counting the sand needs");
      Work work = new Work();
      work.cancel();
      assertThatThrownBy(() -> sand.await(100, work))
          .isInstanceOfSatisfying(
              Failure.class, f -> assertThat(f.kind()).isEqualTo(Failure.Kind.CANCELLED));
    }
    try (Spare.Claim grain = Spare.claim(1)) {
      assertThat(grain.await(0, Work.unwatched())).isTrue();
    }
  }

  @Test
  void whatDoesNotFitBesideEachOtherWaitsForItsTurn() throws Exception {
    long most = Runtime.getRuntime().maxMemory();
    List<String> order = Collections.synchronizedList(new ArrayList<>());
    Spare.Claim first = Spare.claim(most);
    first.await(0, Work.unwatched());
    Spare.Claim second = Spare.claim(most);
    Spare.Claim third = Spare.claim(20 << 20);
    Spare.Claim urgent = Spare.urgentClaim(most);
    Thread[] threads = {
      waiting(third, "third", order),
      waiting(second, "second", order),
      waiting(urgent, "urgent", order)
    };
    Thread.sleep(300);
    assertThat(order).isEmpty();
    first.close();
    for (Thread t : threads) {
      t.join(10_000);
    }
    assertThat(order).containsExactly("urgent", "second", "third");
  }

  private static Thread waiting(Spare.Claim claim, String name, List<String> order) {
    Thread t =
        new Thread(
            () -> {
              try (claim) {
                claim.await(0, Work.unwatched());
                order.add(name);
              }
            });
    t.start();
    return t;
  }

  @Test
  void whatFitsBesideEachOtherRunsSideBySide() {
    try (Spare.Claim one = Spare.claim(20 << 20);
        Spare.Claim other = Spare.claim(20 << 20)) {
      assertThat(one.await(0, Work.unwatched())).isTrue();
      assertThat(other.await(0, Work.unwatched())).isTrue();
    }
  }

  @Test
  void whoWaitsForItsTurnCanBeCancelled() {
    long most = Runtime.getRuntime().maxMemory();
    try (Spare.Claim one = Spare.claim(most);
        Spare.Claim other = Spare.claim(most)) {
      one.await(0, Work.unwatched());
      Work work = new Work();
      work.cancel();
      assertThatThrownBy(() -> other.await(0, work))
          .isInstanceOfSatisfying(
              Failure.class, f -> assertThat(f.kind()).isEqualTo(Failure.Kind.CANCELLED));
    }
  }

  @Test
  void whatTakesNextToNothingWaitsForNobody() {
    long most = Runtime.getRuntime().maxMemory();
    try (Spare.Claim one = Spare.claim(most);
        Spare.Claim waiting = Spare.claim(most);
        Spare.Claim little = Spare.claim(1 << 20)) {
      one.await(0, Work.unwatched());
      assertThat(little.await(0, Work.unwatched())).isTrue();
      assertThat(waiting).isNotNull();
    }
  }

  @Test
  void whoseClaimIsGivenUpByAnotherIsCancelled() throws Exception {
    long most = Runtime.getRuntime().maxMemory();
    List<String> order = Collections.synchronizedList(new ArrayList<>());
    try (Spare.Claim one = Spare.claim(most)) {
      one.await(0, Work.unwatched());
      Spare.Claim other = Spare.claim(most);
      Thread t =
          new Thread(
              () ->
                  assertThatThrownBy(() -> other.await(0, Work.unwatched()))
                      .satisfies(f -> order.add(((Failure) f).kind().name())));
      t.start();
      Thread.sleep(150);
      other.close();
      t.join(10_000);
    }
    assertThat(order).containsExactly("CANCELLED");
  }
}

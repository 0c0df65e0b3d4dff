package holotome.core.memory;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import org.junit.jupiter.api.Test;

class ClaimTest {
  @Test
  void whoWantsMoreThanThereIsIsTold() {
    try (Claim sand = Claim.of(Long.MAX_VALUE / 2)) {
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
    try (Claim grain = Claim.of(1)) {
      assertThat(grain.await(0, Work.unwatched())).isTrue();
    }
  }

  @Test
  void whatDoesNotFitBesideEachOtherWaitsForItsTurn() throws Exception {
    long most = Runtime.getRuntime().maxMemory();
    List<String> order = Collections.synchronizedList(new ArrayList<>());
    Claim first = Claim.of(most);
    first.await(0, Work.unwatched());
    Claim second = Claim.of(most);
    Claim third = Claim.of(20 << 20);
    Claim urgent = Claim.urgent(most);
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

  private static Thread waiting(Claim claim, String name, List<String> order) {
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
    try (Claim one = Claim.of(20 << 20);
        Claim other = Claim.of(20 << 20)) {
      assertThat(one.await(0, Work.unwatched())).isTrue();
      assertThat(other.await(0, Work.unwatched())).isTrue();
    }
  }

  @Test
  void whoWaitsForItsTurnCanBeCancelled() {
    long most = Runtime.getRuntime().maxMemory();
    try (Claim one = Claim.of(most);
        Claim other = Claim.of(most)) {
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
    try (Claim one = Claim.of(most);
        Claim waiting = Claim.of(most);
        Claim little = Claim.of(1 << 20)) {
      one.await(0, Work.unwatched());
      assertThat(little.await(0, Work.unwatched())).isTrue();
      assertThat(waiting).isNotNull();
    }
  }

  @Test
  void whoseClaimIsGivenUpByAnotherIsCancelled() throws Exception {
    long most = Runtime.getRuntime().maxMemory();
    List<String> order = Collections.synchronizedList(new ArrayList<>());
    try (Claim one = Claim.of(most)) {
      one.await(0, Work.unwatched());
      Claim other = Claim.of(most);
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

package holotome.core.task;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.atomic.AtomicIntegerArray;
import org.junit.jupiter.api.Test;

class ParallelTest {
  @Test
  void everyElementIsHandledOnce() {
    for (int count : new int[] {0, 1, 7, 1000, 65_537}) {
      AtomicIntegerArray seen = new AtomicIntegerArray(count);
      Parallel.range(
          count,
          64,
          Work.unwatched(),
          (from, to) -> {
            for (int i = from; i < to; i++) {
              seen.incrementAndGet(i);
            }
          });
      for (int i = 0; i < count; i++) {
        assertThat(seen.get(i)).isEqualTo(1);
      }
    }
  }

  @Test
  void loopsMayBeNestedDeeperThanThePoolHasThreads() {
    AtomicIntegerArray seen = new AtomicIntegerArray(64);
    Parallel.range(
        4,
        1,
        Work.unwatched(),
        (a, b) ->
            Parallel.range(
                4,
                1,
                Work.unwatched(),
                (c, d) ->
                    Parallel.range(
                        4,
                        1,
                        Work.unwatched(),
                        (e, f) -> seen.incrementAndGet(16 * a + 4 * c + e))));
    for (int i = 0; i < 64; i++) {
      assertThat(seen.get(i)).isEqualTo(1);
    }
  }

  @Test
  void theFirstFailureIsThrownToTheCaller() {
    assertThatThrownBy(
            () ->
                Parallel.range(
                    1000,
                    1,
                    Work.unwatched(),
                    (from, to) -> {
                      if (from == 500) {
                        throw Failure.cannot("here");
                      }
                    }))
        .isInstanceOf(Failure.class)
        .hasMessage("here");
  }

  @Test
  void cancelEndsALoopBetweenChunks() throws InterruptedException {
    Work work = new Work();
    CountDownLatch begun = new CountDownLatch(1);
    Throwable[] thrown = new Throwable[1];
    Thread t =
        new Thread(
            () -> {
              try {
                Parallel.range(
                    1_000_000,
                    1,
                    work,
                    (from, to) -> {
                      begun.countDown();
                      Thread.onSpinWait();
                    });
              } catch (Failure f) {
                thrown[0] = f;
              }
            });
    t.start();
    begun.await();
    work.cancel();
    t.join();
    assertThat(thrown[0]).isNotNull();
    assertThat(((Failure) thrown[0]).kind()).isEqualTo(Failure.Kind.CANCELLED);
  }

  @Test
  void partsAddUpToTheWhole() {
    Work work = new Work();
    Work a = work.part(0.25, "first");
    assertThat(work.label()).isEqualTo("first");
    a.advance(1);
    assertThat(work.fraction()).isBetween(0.249, 0.251);
    Work b = work.part(0.75, "second");
    b.part(0.5, "inner").advance(1);
    assertThat(work.fraction()).isBetween(0.624, 0.626);
    b.advance(0.5);
    assertThat(work.fraction()).isBetween(0.999, 1.0);
    assertThat(work.secondsLeft()).isBetween(0.0, 1.0);
    assertThat(new Work().secondsLeft()).isNaN();
  }

  @Test
  void whateverGoesWrongBecomesOneLine() {
    assertThat(Failure.of(new OutOfMemoryError()).kind()).isEqualTo(Failure.Kind.MEMORY);
    assertThat(Failure.of(new java.nio.file.NoSuchFileException("x.ply")).getMessage())
        .isEqualTo("x.ply: no such file");
    Failure f = Failure.usage("so");
    assertThat(Failure.of(new ExecutionException(f))).isSameAs(f);
    assertThat(Failure.of(new IllegalStateException("odd")).getMessage()).contains("Internal");
    assertThat(Failure.cancelled().kind().exitCode()).isEqualTo(130);
  }
}

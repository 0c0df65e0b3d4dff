package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.app.model.Jobs;
import holotome.app.model.Measurements;
import holotome.core.measure.Measurement;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/** What tools look for beside the work: shown where it takes long, given up, cancelled. */
class LooksTest extends WindowCase {
  private Jobs jobs() {
    return d.desk().session().jobs();
  }

  private boolean isShown(String what) {
    return d.scene().lookup("#running") != null && d.textNow("running").contains(what);
  }

  private static Object until(Work work, CountDownLatch latch) throws InterruptedException {
    while (!latch.await(10, TimeUnit.MILLISECONDS)) {
      work.check();
    }
    return "found";
  }

  private void look(Object owner, String what, CountDownLatch latch, List<Object> told) {
    d.on(
        () -> {
          jobs()
              .<Object>look(
                  owner, what, work -> until(work, latch), told::add, f -> told.add(f.kind()));
          return null;
        });
  }

  @Test
  void aLongLookIsShownAndCanBeCancelled() {
    List<Object> told = new CopyOnWriteArrayList<>();
    look("tool", "Looking for the needle", new CountDownLatch(1), told);
    d.await("the look", () -> isShown("Looking for the needle"));
    assertThat(d.on(() -> jobs().isBusy())).isFalse();
    d.click("cancel");
    d.await("its end", () -> !told.isEmpty());
    assertThat(told).containsExactly(Failure.Kind.CANCELLED);
    d.settle();
    assertThat(d.on(() -> jobs().shown())).isNull();
  }

  @Test
  void aNewerLookOfTheSameToolTakesItsPlace() {
    List<Object> told = new CopyOnWriteArrayList<>();
    CountDownLatch first = new CountDownLatch(1);
    CountDownLatch second = new CountDownLatch(1);
    look("tool", "one", first, told);
    look("tool", "two", second, told);
    second.countDown();
    d.await("the second's answer", () -> !told.isEmpty());
    first.countDown();
    d.settle();
    assertThat(told).containsExactly("found");
  }

  @Test
  void whatIsComputedElsewhereIsShownToo() {
    List<Work> work = new CopyOnWriteArrayList<>();
    List<Object> told = new CopyOnWriteArrayList<>();
    List<java.util.function.Consumer<String>> answer = new CopyOnWriteArrayList<>();
    d.on(
        () -> {
          jobs()
              .<String>elsewhere(
                  "Far away",
                  (w, found) -> {
                    work.add(w);
                    answer.add(found);
                  },
                  told::add);
          return null;
        });
    d.await("the look", () -> isShown("Far away"));
    assertThat(d.on(() -> jobs().shown())).isSameAs(work.getFirst());
    d.on(
        () -> {
          answer.getFirst().accept("there");
          return null;
        });
    assertThat(told).containsExactly("there");
    assertThat(d.on(() -> jobs().isLooking())).isFalse();
  }

  @Test
  void stoppedMeasurementsShowNoOldFiguresAndCanBeTakenAgain() {
    Measurements all = d.desk().session().measurements();
    stage(KeyCode.DIGIT4);
    d.keys(KeyCode.DIGIT6);
    d.settle();
    // Something else is looked for first, so that the measuring has not begun yet.
    look("other", "Something else", new CountDownLatch(1), new CopyOnWriteArrayList<>());
    d.on(
        () -> {
          all.add(new Measurement("skin", Measurement.Kind.AREA, List.of()));
          jobs().cancel();
          return null;
        });
    d.await("the end", () -> !all.failed().isEmpty());
    assertThat(d.on(() -> all.failed().getFirst())).contains("stopped");
    assertThat(d.on(all::taken)).isEmpty();
    d.await("the button", () -> d.scene().lookup("#measure-again") != null);
    d.click("measure-again");
    d.await("the figure", () -> all.taken().size() == 1);
    d.settle();
    assertThat(d.on(all::failed)).isEmpty();
    assertThat(d.on(() -> all.taken().getFirst().value())).isPositive();
    assertThat(d.scene().lookup("#measure-again")).isNull();
  }

  @Test
  void aSectionThatWasStoppedIsCutAgainOnceThePlaneMoves() {
    stage(KeyCode.DIGIT4);
    d.keys(KeyCode.DIGIT8);
    d.settle();
    d.await("figures", () -> d.scene().lookup("#after-area") != null);
    String before = d.text("after-area");
    d.fill("field-place", "400");
    d.settle();
    assertThat(d.text("after-area")).isNotEqualTo(before);
    d.on(
        () -> {
          ((TextField) d.node("field-place")).setText("300");
          jobs().cancel();
          return null;
        });
    d.settle();
    d.fill("field-place", "400.5");
    d.settle();
    d.await("figures", () -> d.scene().lookup("#after-area") != null);
    assertThat(d.text("after-area")).isNotEmpty();
  }
}

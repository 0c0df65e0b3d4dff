package holotome.app.tool;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

class DraftTest {
  @Test
  void goesBackAndForthLikeAPlainList() {
    Random r = new Random(2);
    List<Integer> restored = new ArrayList<>();
    Draft<Integer> d = new Draft<>(0, restored::add);
    List<Integer> states = new ArrayList<>(List.of(0));
    int at = 0;
    for (int i = 1; i < 2000; i++) {
      switch (r.nextInt(5)) {
        case 0, 1 -> {
          d.set(i);
          states = new ArrayList<>(states.subList(0, at + 1));
          states.add(i);
          at++;
        }
        case 2 -> {
          d.change(-i);
          states.set(at, -i);
        }
        case 3 -> {
          assertThat(d.canUndo()).isEqualTo(at > 0);
          d.undo();
          at = Math.max(0, at - 1);
        }
        default -> {
          assertThat(d.canRedo()).isEqualTo(at < states.size() - 1);
          d.redo();
          at = Math.min(states.size() - 1, at + 1);
        }
      }
      assertThat(d.now()).isEqualTo(states.get(at));
    }
    assertThat(restored).isNotEmpty();
  }

  @Test
  void theSameAgainIsNoStepAndTheOldestAreForgotten() {
    Draft<Integer> d = new Draft<>(0, s -> {});
    d.set(0);
    assertThat(d.canUndo()).isFalse();
    for (int i = 1; i <= 700; i++) {
      d.set(i);
    }
    int undone = 0;
    while (d.canUndo()) {
      d.undo();
      undone++;
    }
    assertThat(undone).isEqualTo(500);
    assertThat(d.now()).isEqualTo(200);
    d.clear();
    assertThat(d.now()).isZero();
    assertThat(d.canRedo()).isFalse();
  }
}

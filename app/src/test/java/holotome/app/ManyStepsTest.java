package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.app.model.Session;
import holotome.core.mesh.Mesh;
import holotome.core.select.Heights;
import holotome.core.select.Pick;
import holotome.core.select.Reshape;
import holotome.core.task.Failure;
import holotome.core.trim.CutSelection;
import holotome.core.unit.Length;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Deque;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Long random work against a simple model, and work that fails in the middle. */
class ManyStepsTest extends WindowCase {
  private static final boolean AT_LENGTH = Boolean.getBoolean("holotome.long");
  private static final int OPERATIONS = AT_LENGTH ? 1000 : 250;

  /** So many changes of the selection since the last entry can be undone. */
  private static final int KEPT = 40;

  /**
   * What a simple mind knows of the work.
   *
   * @param alive the opened scan's triangles that are left
   * @param selected those of them that are selected
   * @param entries how many entries there are
   */
  private record State(BitSet alive, BitSet selected, int entries, int branch) {}

  private Mesh opened;
  private State now;
  private final Deque<State> undo = new ArrayDeque<>();
  private final Deque<State> redo = new ArrayDeque<>();
  private int branches;

  @Test
  void manyOperationsKeepTheMeshValidAndTheCountsEqual() {
    opened = mesh();
    BitSet all = new BitSet();
    all.set(0, opened.triangleCount());
    now = new State(all, new BitSet(), 0, 0);
    Random r = new Random(71);
    int[] done = new int[4];
    for (int i = 0; i < OPERATIONS; i++) {
      int what = r.nextInt(10);
      if (what < 5) {
        select(r);
        done[0]++;
      } else if (what < 7 && canRemove()) {
        remove(r.nextInt(12) == 0 && now.alive.cardinality() > 50_000);
        done[1]++;
      } else if (what < 9 && !undo.isEmpty()) {
        step(true);
        done[2]++;
      } else if (!redo.isEmpty()) {
        step(false);
        done[3]++;
      }
      check(i);
    }
    assertThat(done[0]).isGreaterThan(3 * OPERATIONS / 10);
    assertThat(done[1]).isGreaterThan(OPERATIONS / 50);
    assertThat(done[2]).isGreaterThan(OPERATIONS / 10);
    assertThat(done[3]).isGreaterThan(AT_LENGTH ? 30 : 2);
  }

  private void rest() {
    d.await("rest", () -> !d.desk().session().jobs().isBusy());
  }

  private Session session() {
    return d.desk().session();
  }

  private void select(Random r) {
    BitSet next = (BitSet) now.selected.clone();
    if (r.nextInt(6) == 0) {
      d.on(
          () -> {
            session().selecting().reshape(Reshape.How.INVERT, 1);
            return null;
          });
      next.xor(now.alive);
    } else {
      Pick.Join join = Pick.Join.values()[r.nextInt(4)];
      int axis = r.nextInt(3);
      double from = opened.bounds().min()[axis];
      double size = opened.bounds().max()[axis] - from;
      double low = from + size * r.nextDouble();
      double high = low + size * 0.1 * r.nextDouble();
      double[] along = new double[3];
      along[axis] = 1;
      Heights rule = new Heights(new Length(low), new Length(high), along);
      d.on(
          () -> {
            session().selecting().pick(Pick.of(join, rule));
            return null;
          });
      BitSet set = between(axis, low, high);
      switch (join) {
        case REPLACE -> next = set;
        case ADD -> next.or(set);
        case TAKE -> next.andNot(set);
        default -> next.and(set);
      }
    }
    rest();
    // Nothing selected before and after is no change, and not to be undone.
    if (!now.selected.isEmpty() || !next.isEmpty()) {
      undo.push(now);
      redo.clear();
      long same = undo.stream().filter(s -> s.branch == now.branch).count();
      if (same > KEPT) {
        State oldest = null;
        for (State s : undo) {
          oldest = s.branch == now.branch ? s : oldest;
        }
        undo.removeLastOccurrence(oldest);
      }
      now = new State(now.alive, next, now.entries, now.branch);
    }
  }

  private BitSet between(int axis, double low, double high) {
    BitSet set = new BitSet();
    float[] p = opened.xyz();
    int[] tri = opened.triangles();
    for (int t = now.alive.nextSetBit(0); t >= 0; t = now.alive.nextSetBit(t + 1)) {
      double x = 0;
      for (int k = 0; k < 3; k++) {
        x += p[3 * tri[3 * t + k] + axis];
      }
      set.set(t, x / 3 >= low && x / 3 <= high);
    }
    return set;
  }

  private boolean canRemove() {
    return !now.selected.isEmpty() && now.selected.cardinality() < now.alive.cardinality() - 1000;
  }

  private void remove(boolean keep) {
    List<Pick> picks = d.on(() -> session().selected().picks());
    CutSelection.Then then = keep ? CutSelection.Then.KEEP : CutSelection.Then.REMOVE;
    d.on(
        () -> {
          session().apply(CutSelection.of(picks, then));
          return null;
        });
    rest();
    BitSet left = (BitSet) now.alive.clone();
    if (keep) {
      left.and(now.selected);
    } else {
      left.andNot(now.selected);
    }
    undo.push(now);
    redo.clear();
    now = new State(left, new BitSet(), now.entries + 1, ++branches);
  }

  private void step(boolean back) {
    d.on(
        () -> {
          if (back) {
            session().undo();
          } else {
            session().redo();
          }
          return null;
        });
    rest();
    (back ? redo : undo).push(now);
    now = (back ? undo : redo).pop();
  }

  private void check(int operation) {
    String as = "after operation " + operation;
    Mesh m = mesh();
    assertThat(m.triangleCount()).as(as).isEqualTo(now.alive.cardinality());
    assertThat(selected()).as(as).isEqualTo(now.selected.cardinality());
    assertThat(entries()).as(as).isEqualTo(now.entries);
    int most = m.vertexCount();
    for (int v : m.triangles()) {
      if (v < 0 || v >= most) {
        throw new AssertionError(as + ": vertex " + v + " of " + most);
      }
    }
  }

  /** Out of memory or another failure in the middle of a step leaves everything as it was. */
  @Test
  void whatFailsInTheMiddleLeavesTheStateAsItWas() {
    List<Throwable> failures =
        new ArrayList<>(
            List.of(
                new OutOfMemoryError("Java heap space"),
                Failure.cannot("no"),
                new IllegalStateException("a defect")));
    d.on(
        () -> {
          session()
              .selecting()
              .pick(
                  Pick.of(
                      Pick.Join.REPLACE,
                      new Heights(new Length(700), null, new double[] {0, 0, 1})));
          return null;
        });
    rest();
    int selected = selected();
    Mesh before = mesh();
    assertThat(selected).isPositive();
    for (Throwable t : failures) {
      d.on(
          () -> {
            session()
                .change(
                    "Failing",
                    (h, run) -> {
                      h.apply(
                          CutSelection.of(session().selected().picks(), CutSelection.Then.REMOVE),
                          run);
                      throw ManyStepsTest.<RuntimeException>thrown(t);
                    });
            return null;
          });
      rest();
      assertThat(mesh()).isSameAs(before);
      assertThat(selected()).isEqualTo(selected);
      assertThat(entries()).isZero();
      assertThat(d.on(() -> session().failure())).isNotNull();
      d.on(
          () -> {
            session().dismiss();
            return null;
          });
    }
  }

  @SuppressWarnings("unchecked")
  private static <E extends Throwable> E thrown(Throwable t) throws E {
    throw (E) t;
  }
}

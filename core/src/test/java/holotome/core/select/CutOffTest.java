package holotome.core.select;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.task.Work;
import holotome.core.topology.Islands;
import java.util.BitSet;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** What hangs on to nothing but what is removed goes along; what goes on outside stays. */
class CutOffTest {
  private static final Work W = Work.unwatched();

  /** Speck by speck: a triangle of the sheet with all around it removed, inside and at the rim. */
  @Test
  void specksInsideAreFoundThoseThatGoOnAreNot() {
    Mesh m = Shapes.sheet(2, 20);
    BitSet within = new BitSet();
    BitSet removed = new BitSet();
    for (int t = 0; t < m.triangleCount(); t++) {
      double x = m.xyz()[3 * m.triangles()[3 * t]];
      double y = m.xyz()[3 * m.triangles()[3 * t] + 1];
      if (x > 0.45 && x < 1.55 && y > 0.45 && y < 1.55) {
        within.set(t);
        // Every seventh is not seen.
        removed.set(t, t % 7 != 0);
      }
    }
    BitSet cut = CutOff.of(m, removed, within, W);
    BitSet all = (BitSet) removed.clone();
    all.or(cut);
    Mesh rest = Submesh.of(m, t -> !all.get(t), W);
    assertThat(cut.cardinality()).isGreaterThan(5);
    assertThat(cut.intersects(removed)).isFalse();
    BitSet outside = (BitSet) cut.clone();
    outside.andNot(within);
    assertThat(outside.isEmpty()).isTrue();
    // Nothing else of the sheet is loose afterwards.
    assertThat(Naive.islands(rest)).isEqualTo(1);
  }

  @Test
  void loosePiecesThatTouchNothingRemovedStay() {
    Mesh m = Shapes.together(Shapes.sheet(2, 8), Shapes.moved(Shapes.cube(0.1), 1, 1, -1));
    BitSet within = new BitSet();
    within.set(0, m.triangleCount());
    BitSet removed = new BitSet();
    removed.set(0, 40);
    BitSet cut = CutOff.of(m, removed, within, W);
    for (int t = cut.nextSetBit(0); t >= 0; t = cut.nextSetBit(t + 1)) {
      assertThat(t).isLessThan(m.triangleCount() - 12);
    }
    assertThat(CutOff.of(m, removed, removed, W).isEmpty()).isTrue();
  }

  @Test
  void asIslandsOfTheRestTellItOnRandomSelections() {
    Random r = new Random(2);
    Mesh m = Shapes.sphere(1, 3);
    for (int round = 0; round < 20; round++) {
      BitSet removed = new BitSet();
      BitSet within = new BitSet();
      for (int t = 0; t < m.triangleCount(); t++) {
        within.set(t, m.xyz()[3 * m.triangles()[3 * t]] > -0.2);
        removed.set(t, within.get(t) && r.nextInt(3) > 0);
      }
      BitSet cut = CutOff.of(m, removed, within, W);
      BitSet rest = new BitSet();
      rest.set(0, m.triangleCount());
      rest.andNot(removed);
      Islands islands = Islands.of(Submesh.of(m, rest, W));
      boolean[] whole = new boolean[islands.count()];
      java.util.Arrays.fill(whole, true);
      int i = 0;
      for (int t = rest.nextSetBit(0); t >= 0; t = rest.nextSetBit(t + 1)) {
        whole[islands.ofTriangle()[i++]] &= within.get(t);
      }
      i = 0;
      for (int t = rest.nextSetBit(0); t >= 0; t = rest.nextSetBit(t + 1)) {
        assertThat(cut.get(t)).isEqualTo(whole[islands.ofTriangle()[i++]]);
      }
    }
  }
}

package holotome.view.cluster;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.task.Work;
import holotome.view.Meshes;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** What stays is found whatever was taken out, put in or added, and back again. */
class MeshMatchTest {
  private static final Work FREE = Work.unwatched();

  private static Mesh some(Mesh m, BitSet keep) {
    return Submesh.of(m, keep::get, FREE);
  }

  /** The same triangles, then some more beside them. */
  private static Mesh withMore(Mesh m, int more) {
    Mesh ball = Meshes.ball(12);
    float[] xyz = Arrays.copyOf(m.xyz(), m.xyz().length + ball.xyz().length);
    for (int i = 0; i < ball.xyz().length; i++) {
      xyz[m.xyz().length + i] = 3 + ball.xyz()[i];
    }
    int[] tri = Arrays.copyOf(m.triangles(), m.triangles().length + 3 * more);
    for (int i = 0; i < 3 * more; i++) {
      tri[m.triangles().length + i] = m.vertexCount() + ball.triangles()[i];
    }
    return new Mesh(xyz, tri);
  }

  private static String corners(Mesh m, int t) {
    StringBuilder s = new StringBuilder();
    for (int k = 0; k < 3; k++) {
      int v = m.triangles()[3 * t + k];
      s.append(Arrays.toString(Arrays.copyOfRange(m.xyz(), 3 * v, 3 * v + 3)));
    }
    return s.toString();
  }

  private static void check(Mesh from, Mesh to) {
    Map<String, Integer> byPlace = new HashMap<>();
    for (int t = 0; t < to.triangleCount(); t++) {
      byPlace.put(corners(to, t), t);
    }
    MeshMatch match = MeshMatch.of(from, to, FREE);
    BitSet met = new BitSet();
    for (int t = 0; t < from.triangleCount(); t++) {
      int expected = byPlace.getOrDefault(corners(from, t), -1);
      assertThat(match.to(t)).isEqualTo(expected);
      if (expected >= 0) {
        met.set(expected);
      }
    }
    met.flip(0, to.triangleCount());
    assertThat(match.added()).isEqualTo(met.stream().toArray());
  }

  @Test
  void takenOutAndAddedAndBack() {
    Random r = new Random(3);
    Mesh m = Meshes.ball(30);
    for (int i = 0; i < 20; i++) {
      BitSet keep = new BitSet();
      double share = r.nextDouble();
      for (int t = 0; t < m.triangleCount(); t++) {
        keep.set(t, r.nextDouble() < share);
      }
      Mesh less = some(m, keep);
      // Fewer are added than went: what is larger tells which way it was.
      int gone = m.triangleCount() - less.triangleCount();
      Mesh other = withMore(less, r.nextInt(Math.min(100, gone)));
      check(m, less);
      check(less, m);
      check(m, other);
      check(other, m);
    }
    check(m, m);
    check(m, withMore(m, 40));
    check(withMore(m, 40), m);
  }

  @Test
  void nothingInCommon() {
    Mesh m = Meshes.ball(10);
    Mesh other = Meshes.ball(11);
    MeshMatch match = MeshMatch.of(m, other, FREE);
    assertThat(match.added()).hasSize(other.triangleCount());
    for (int t = 0; t < m.triangleCount(); t++) {
      assertThat(match.to(t)).isEqualTo(-1);
    }
  }

  @Test
  void ranksCountWhatIsBelow() {
    Random r = new Random(8);
    for (int n : new int[] {1, 63, 64, 65, 5000, 100_000}) {
      for (double share : new double[] {0, 0.002, 0.5, 1}) {
        Ranks ranks = new Ranks(n);
        BitSet set = new BitSet();
        for (int i = 0; i < n; i++) {
          if (r.nextDouble() < share) {
            ranks.add(i);
            set.set(i);
          }
        }
        ranks.done();
        assertThat(ranks.size()).isEqualTo(set.cardinality());
        int below = 0;
        for (int i = 0; i < n; i++) {
          assertThat(ranks.has(i)).isEqualTo(set.get(i));
          assertThat(ranks.rank(i)).isEqualTo(below);
          if (set.get(i)) {
            assertThat(ranks.select(below++)).isEqualTo(i);
          }
        }
      }
    }
  }

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

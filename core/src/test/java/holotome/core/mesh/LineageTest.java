package holotome.core.mesh;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.Shapes;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/** What two meshes have in common is found, whatever was taken out or added, there and back. */
class LineageTest {
  private static final Work FREE = Work.unwatched();

  private static Mesh some(Mesh m, Random r, double share) {
    BitSet keep = new BitSet();
    for (int t = 0; t < m.triangleCount(); t++) {
      keep.set(t, r.nextDouble() < share);
    }
    keep.set(r.nextInt(m.triangleCount()));
    return Submesh.of(m, keep, FREE);
  }

  /** Some triangles more beside the others. */
  private static Mesh more(Mesh m, int count, double at) {
    float[] xyz = new float[9 * count];
    int[] tri = new int[3 * count];
    for (int i = 0; i < xyz.length; i++) {
      xyz[i] = (float) (at + i % 9 * 0.01 + i / 9);
    }
    for (int i = 0; i < tri.length; i++) {
      tri[i] = m.vertexCount() + i;
    }
    return Patching.add(m, xyz, tri, FREE);
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
    Lineage.Common common = Lineage.common(from.lineage(), to.lineage());
    assertThat(common).isNotNull();
    for (int t = 0; t < from.triangleCount(); t++) {
      int expected = byPlace.getOrDefault(corners(from, t), -1);
      assertThat(common.to(t)).isEqualTo(expected);
      if (expected >= 0) {
        assertThat(common.from(expected)).isEqualTo(t);
      }
    }
    long kept = IntStream.range(0, from.triangleCount()).filter(t -> common.to(t) >= 0).count();
    long known = IntStream.range(0, to.triangleCount()).filter(t -> common.from(t) >= 0).count();
    assertThat(known).isEqualTo(kept);
    assertThat(common.allFrom(to.triangleCount() + 2))
        .isEqualTo(
            IntStream.range(0, to.triangleCount() + 2)
                .map(t -> t < to.triangleCount() ? common.from(t) : -1)
                .toArray());
  }

  @Test
  void betweenAnyTwoOfAFamily() {
    Random r = new Random(3);
    for (int round = 0; round < 8; round++) {
      Mesh first = Shapes.sphere(1, 3);
      List<Mesh> family = new ArrayList<>(List.of(first));
      for (int i = 0; i < 9; i++) {
        Mesh parent = family.get(r.nextInt(family.size()));
        // What is added is added once: a triangle taken out never comes back in another way.
        family.add(
            r.nextBoolean() ? some(parent, r, 0.9) : more(parent, 1 + r.nextInt(9), 3 + 100.0 * i));
      }
      for (Mesh a : family) {
        for (Mesh b : family) {
          check(a, b);
        }
      }
    }
  }

  @Test
  void strangersHaveNothingInCommon() {
    Mesh m = Shapes.sphere(1, 2);
    assertThat(Lineage.common(m.lineage(), Shapes.sphere(1, 2).lineage())).isNull();
    assertThat(Lineage.common(m.lineage(), m.withPositions(m.xyz().clone()).lineage())).isNull();
    assertThat(Lineage.common(m.lineage(), Shapes.coloured(m).lineage())).isNull();
  }

  /** A long line of edits is remembered for a good while, and takes no more than that. */
  @Test
  void longLinesAreForgottenAtTheFarEnd() {
    Random r = new Random(1);
    List<Mesh> line = new ArrayList<>(List.of(Shapes.sphere(1, 4)));
    for (int i = 0; i < 100; i++) {
      line.add(some(line.getLast(), r, 0.99));
    }
    check(line.get(97), line.get(100));
    check(line.get(100), line.get(92));
    assertThat(Lineage.common(line.get(0).lineage(), line.get(100).lineage())).isNull();
  }
}

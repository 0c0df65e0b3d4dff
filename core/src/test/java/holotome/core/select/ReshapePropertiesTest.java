package holotome.core.select;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Changes of a selection against plain models of them, on clean and on messy meshes. */
class ReshapePropertiesTest {
  private static final Work W = Work.unwatched();

  private static List<Mesh> meshes(int seed) {
    return List.of(
        Shapes.sphere(1, 3),
        Shapes.sheet(4, 16),
        Shapes.torus(1, 0.3, 24, 12),
        Shapes.mess(900, seed),
        Shapes.together(
            Shapes.sphere(1, 2),
            Shapes.moved(Shapes.sheet(1, 6), 3, 0, 0),
            Shapes.mess(200, seed)));
  }

  private static BitSet random(Mesh m, Random r) {
    BitSet s = new BitSet(m.triangleCount());
    int kind = r.nextInt(4);
    if (kind == 0) {
      return s;
    }
    if (kind == 1) {
      for (int t = 0; t < m.triangleCount(); t++) {
        s.set(t, r.nextInt(3) == 0);
      }
      return s;
    }
    double[] up = {r.nextGaussian(), r.nextGaussian(), r.nextGaussian()};
    double at = r.nextGaussian() * 0.5;
    return new Heights(new Length(at), kind == 2 ? null : new Length(at + 0.7), up)
        .select(m, Frame.PLAIN, W);
  }

  private static BitSet after(Reshape.How how, int times, BitSet s, Mesh m) {
    BitSet before = (BitSet) s.clone();
    BitSet out = new Reshape(how, times).apply(s, m, W);
    assertThat(s).as("the old one is left alone").isEqualTo(before);
    assertThat(out.length()).isLessThanOrEqualTo(m.triangleCount());
    return out;
  }

  private static boolean within(BitSet small, BitSet large) {
    BitSet rest = (BitSet) small.clone();
    rest.andNot(large);
    return rest.isEmpty();
  }

  private static int corner(Mesh m, int t, int k) {
    return m.triangles()[3 * t + k];
  }

  /** All triangles with a corner at which a triangle of a set has one. */
  private static BitSet around(Mesh m, BitSet s) {
    Set<Integer> at = new HashSet<>();
    for (int t = s.nextSetBit(0); t >= 0; t = s.nextSetBit(t + 1)) {
      for (int k = 0; k < 3; k++) {
        at.add(corner(m, t, k));
      }
    }
    BitSet out = new BitSet();
    for (int t = 0; t < m.triangleCount(); t++) {
      for (int k = 0; k < 3; k++) {
        if (at.contains(corner(m, t, k))) {
          out.set(t);
        }
      }
    }
    return out;
  }

  private static BitSet inverse(BitSet s, Mesh m) {
    BitSet out = (BitSet) s.clone();
    out.flip(0, m.triangleCount());
    return out;
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3, 4})
  void growingTakesAllAroundAndShrinkingIsGrowingOfTheRest(int seed) {
    Random r = new Random(seed);
    for (Mesh m : meshes(seed)) {
      for (int i = 0; i < 8; i++) {
        BitSet s = random(m, r);
        BitSet grown = after(Reshape.How.GROW, 1, s, m);
        BitSet model = around(m, s);
        model.or(s);
        assertThat(grown).isEqualTo(model);
        assertThat(after(Reshape.How.GROW, 3, s, m))
            .isEqualTo(after(Reshape.How.GROW, 1, after(Reshape.How.GROW, 1, grown, m), m));
        BitSet shrunk = after(Reshape.How.SHRINK, 1, s, m);
        BitSet rest = inverse(s, m);
        BitSet left = around(m, rest);
        left.or(rest);
        assertThat(shrunk).isEqualTo(inverse(left, m));
        assertThat(within(shrunk, s)).isTrue();
        // Closing and opening never lose, never gain.
        assertThat(within(s, after(Reshape.How.SHRINK, 2, after(Reshape.How.GROW, 2, s, m), m)))
            .isTrue();
        assertThat(within(after(Reshape.How.GROW, 2, after(Reshape.How.SHRINK, 2, s, m), m), s))
            .isTrue();
      }
    }
  }

  /** Which triangles hang together over shared edges, by walking from each. */
  private static int[] parts(Mesh m, BitSet among) {
    Map<Long, List<Integer>> byEdge = new HashMap<>();
    for (int t = among.nextSetBit(0); t >= 0; t = among.nextSetBit(t + 1)) {
      for (int k = 0; k < 3; k++) {
        byEdge.computeIfAbsent(edge(m, t, k), e -> new ArrayList<>()).add(t);
      }
    }
    int[] part = new int[m.triangleCount()];
    java.util.Arrays.fill(part, -1);
    int count = 0;
    for (int from = among.nextSetBit(0); from >= 0; from = among.nextSetBit(from + 1)) {
      if (part[from] >= 0) {
        continue;
      }
      Deque<Integer> open = new ArrayDeque<>(List.of(from));
      part[from] = count;
      while (!open.isEmpty()) {
        int t = open.pop();
        for (int k = 0; k < 3; k++) {
          // From a vertex to itself is no edge.
          boolean isEdge = corner(m, t, k) != corner(m, t, (k + 1) % 3);
          for (int n : isEdge ? byEdge.get(edge(m, t, k)) : List.<Integer>of()) {
            if (part[n] < 0) {
              part[n] = count;
              open.push(n);
            }
          }
        }
      }
      count++;
    }
    return part;
  }

  private static long edge(Mesh m, int t, int k) {
    int a = corner(m, t, k);
    int b = corner(m, t, (k + 1) % 3);
    return (long) Math.min(a, b) << 32 | Math.max(a, b);
  }

  @ParameterizedTest
  @ValueSource(ints = {5, 6, 7})
  void islandsAreTakenWholeOrNotAtAll(int seed) {
    Random r = new Random(seed);
    for (Mesh m : meshes(seed)) {
      BitSet all = new BitSet();
      all.set(0, m.triangleCount());
      int[] part = parts(m, all);
      for (int i = 0; i < 5; i++) {
        BitSet s = random(m, r);
        BitSet whole = after(Reshape.How.ISLANDS, 1, s, m);
        assertThat(within(s, whole)).isTrue();
        Set<Integer> touched = new HashSet<>();
        s.stream().forEach(t -> touched.add(part[t]));
        for (int t = 0; t < m.triangleCount(); t++) {
          // What shares an edge is one island, whatever else may join it.
          if (touched.contains(part[t])) {
            assertThat(whole.get(t)).isTrue();
          }
        }
        assertThat(after(Reshape.How.ISLANDS, 1, whole, m)).isEqualTo(whole);
      }
    }
  }

  @ParameterizedTest
  @ValueSource(ints = {8, 9, 10})
  void fillingOnlyAddsAndOnlyOnce(int seed) {
    Random r = new Random(seed);
    for (Mesh m : meshes(seed)) {
      for (int i = 0; i < 6; i++) {
        BitSet s = random(m, r);
        BitSet filled = after(Reshape.How.FILL, 1, s, m);
        assertThat(within(s, filled)).isTrue();
        if (s.isEmpty()) {
          assertThat(filled).isEqualTo(s);
        }
        // Each part of what was not selected is taken in whole or not at all.
        int[] part = parts(m, inverse(s, m));
        Map<Integer, Boolean> taken = new HashMap<>();
        for (int t = 0; t < m.triangleCount(); t++) {
          if (part[t] >= 0) {
            Boolean before = taken.put(part[t], filled.get(t));
            assertThat(before == null || before == filled.get(t)).isTrue();
          }
        }
      }
    }
  }

  @ParameterizedTest
  @ValueSource(ints = {11, 12})
  void smoothingLeavesAllAndNothingAsTheyAre(int seed) {
    Random r = new Random(seed);
    for (Mesh m : meshes(seed)) {
      BitSet none = new BitSet();
      BitSet all = inverse(none, m);
      assertThat(after(Reshape.How.SMOOTH, 3, none, m)).isEqualTo(none);
      assertThat(after(Reshape.How.SMOOTH, 3, all, m)).isEqualTo(all);
      for (int i = 0; i < 6; i++) {
        BitSet s = random(m, r);
        // What is selected and what is not are treated alike but where it is just half and half.
        BitSet a = after(Reshape.How.SMOOTH, 1, s, m);
        BitSet b = inverse(after(Reshape.How.SMOOTH, 1, inverse(s, m), m), m);
        a.xor(b);
        assertThat(a.cardinality()).isZero();
      }
    }
  }

  @ParameterizedTest
  @ValueSource(ints = {13, 14, 15})
  void fencesTakeWhatProjectsIntoThem(int seed) {
    Random r = new Random(seed);
    for (Mesh m : meshes(seed)) {
      // Looking along z, a pixel a hundredth wide.
      double[] view = {100, 0, 0, 320, 0, -100, 0, 240, 0, 0, 0.01, 0.5, 0, 0, 0, 1};
      double[] outline = new double[16];
      double x = 320 + 60 * r.nextGaussian();
      double y = 240 + 60 * r.nextGaussian();
      for (int i = 0; i < 8; i++) {
        double radius = 30 + 90 * r.nextDouble();
        outline[2 * i] = x + radius * Math.cos(Math.PI * i / 4);
        outline[2 * i + 1] = y + radius * Math.sin(Math.PI * i / 4);
      }
      BitSet taken = new Fence(view, outline).select(m, Frame.PLAIN, W);
      java.awt.geom.Path2D.Double path = new java.awt.geom.Path2D.Double();
      path.moveTo(outline[0], outline[1]);
      for (int i = 1; i < 8; i++) {
        path.lineTo(outline[2 * i], outline[2 * i + 1]);
      }
      path.closePath();
      int inside = 0;
      for (int t = 0; t < m.triangleCount(); t++) {
        double[] c = new double[3];
        for (int k = 0; k < 3; k++) {
          c = Vec.add(c, Vec.mul(Vec.at(m.xyz(), corner(m, t, k)), 1 / 3.0));
        }
        double px = 320 + 100 * c[0];
        double py = 240 - 100 * c[1];
        // The middle decides; right on the line either may be.
        boolean near = path.intersects(px - 0.01, py - 0.01, 0.02, 0.02) != path.contains(px, py);
        if (!near) {
          assertThat(taken.get(t)).as("triangle %d", t).isEqualTo(path.contains(px, py));
          inside += taken.get(t) ? 1 : 0;
        }
      }
      assertThat(inside).isLessThanOrEqualTo(m.triangleCount());
    }
  }
}

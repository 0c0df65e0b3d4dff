package holotome.view.cluster;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Patching;
import holotome.core.mesh.Submesh;
import holotome.core.task.Work;
import holotome.view.Meshes;
import java.util.BitSet;
import java.util.TreeMap;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;

/** An edited mesh's hierarchy holds what one made from nothing holds, and is as finely parted. */
class UpdateTest {
  private static final Work FREE = Work.unwatched();

  private static Mesh without(Mesh m, double share) {
    // A whole side goes, so that cubes of the tree go with it.
    double from = m.bounds().maxX() - share * m.bounds().width();
    return Submesh.of(m, t -> m.xyz()[3 * m.triangles()[3 * t]] < from, FREE);
  }

  @Test
  void whatIsTakenBackIsPartedAsFinelyAsBefore() {
    Mesh m = Meshes.stone(300);
    Mesh less = without(m, 0.16);
    assertThat(less.triangleCount()).isBetween(m.triangleCount() * 4 / 5, m.triangleCount() - 9000);
    Hierarchy cut = Update.of(Hierarchy.of(m, FREE), less, FREE);
    Hierarchy back = Update.of(cut, m, FREE);
    // Both by updating, none from nothing.
    assertThat(cut).isNotNull();
    assertThat(back).isNotNull();
    assertThat(check(cut)).isGreaterThan(50);
    assertThat(check(back)).isGreaterThan(check(cut));
    DeviationTest.check(back);
  }

  @Test
  void manyTrianglesAddedAtOnePlaceArePartedToo() {
    Mesh m = Meshes.stone(200);
    Mesh fine = Meshes.ball(75);
    // A small ball within one leaf's reach, after all that is there.
    Mesh bare = plain(m);
    float[] xyz = fine.xyz().clone();
    for (int i = 0; i < xyz.length; i++) {
      xyz[i] = 0.02f * xyz[i] + (i % 3 == 0 ? 0.9f : 0);
    }
    int[] tri = fine.triangles().clone();
    for (int i = 0; i < tri.length; i++) {
      tri[i] += m.vertexCount();
    }
    Mesh more = Patching.add(bare, xyz, tri, FREE);
    Hierarchy h = Update.of(Hierarchy.of(bare, FREE), more, FREE);
    assertThat(h).isNotNull();
    assertThat(check(h)).isGreaterThan(50);
    DeviationTest.check(h);
  }

  /** Jumbles without neighbours, crowded edges, and coordinates in the millions. */
  @Test
  void roughMeshesAreCutAndTakenBackToo() {
    for (Mesh m : new Mesh[] {Meshes.rubbish(9000), Meshes.crowd(9000), far(Meshes.crowd(9000))}) {
      Mesh less = Submesh.of(m, t -> t % 40 > 3, FREE);
      Hierarchy cut = Update.of(Hierarchy.of(m, FREE), less, FREE);
      Hierarchy back = Update.of(cut, m, FREE);
      // Thousands of triangles on one spot cannot be parted.
      assertThat(check(cut, Integer.MAX_VALUE)).isPositive();
      assertThat(check(back, Integer.MAX_VALUE)).isPositive();
      DeviationTest.check(back);
    }
    Mesh one = new Mesh(new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0}, new int[] {0, 1, 2});
    assertThat(check(Hierarchy.of(one, FREE).updated(one, FREE))).isEqualTo(1);
  }

  private static Mesh far(Mesh m) {
    float[] xyz = m.xyz().clone();
    for (int i = 0; i < xyz.length; i++) {
      xyz[i] = 5e6f + 1e4f * xyz[i];
    }
    return new Mesh(xyz, m.triangles(), m.colours());
  }

  private static Mesh plain(Mesh m) {
    return new Mesh(m.xyz(), m.triangles());
  }

  /** A stray point far off must not put all else into one cell. */
  @Test
  void aSpeckFarOffLeavesTheRestFinelyParted() {
    Mesh m = Meshes.stone(200);
    for (float off : new float[] {30, 1e3f, 1e7f, 1e30f}) {
      float[] xyz = java.util.Arrays.copyOf(m.xyz(), m.xyz().length + 9);
      for (int i = m.xyz().length; i < xyz.length; i++) {
        xyz[i] = off * (1 + 0.001f * (i % 5));
      }
      int[] tri = java.util.Arrays.copyOf(m.triangles(), m.triangles().length + 3);
      for (int k = 0; k < 3; k++) {
        tri[m.triangles().length + k] = m.vertexCount() + k;
      }
      Mesh speck = new Mesh(xyz, tri);
      Mesh without = Submesh.of(speck, t -> t < m.triangleCount(), FREE);
      Hierarchy h = Hierarchy.of(speck, FREE);
      assertThat(check(h)).isGreaterThan(50);
      DeviationTest.check(h);
      Hierarchy gone = Update.of(h, without, FREE);
      assertThat(check(gone)).isGreaterThan(50);
    }
  }

  @Test
  void itIsTheSameOnOneThreadAndMany() {
    Mesh m = Meshes.stone(240);
    Mesh less = without(m, 0.1);
    Hierarchy once = Update.of(Update.of(Hierarchy.of(m, FREE), less, FREE), m, FREE);
    Hierarchy again = Update.of(Update.of(Hierarchy.of(m, FREE), less, FREE), m, FREE);
    assertThat(once.normals()).isEqualTo(again.normals());
    assertSame(once.root(), again.root());
  }

  private static void assertSame(Node a, Node b) {
    assertThat(a.key).isEqualTo(b.key);
    assertThat(a.depth).isEqualTo(b.depth);
    assertThat(a.error()).isEqualTo(b.error());
    assertThat(a.isLeaf()).isEqualTo(b.isLeaf());
    if (a.isLeaf()) {
      assertThat(a.leaf.ids()).isDeepEqualTo(b.leaf.ids());
      return;
    }
    assertThat(a.children()).hasSameSizeAs(b.children());
    for (int i = 0; i < a.children().length; i++) {
      assertSame(a.children()[i], b.children()[i]);
    }
  }

  /** Holds every leaf against the mesh; returns how many there are. */
  private static int check(Hierarchy h) {
    // What VertexTree parts by vertices may reach a little over a piece.
    return check(h, 2 * Piece.MOST);
  }

  /**
   * @param most no leaf has so many triangles
   */
  private static int check(Hierarchy h, int most) {
    Mesh m = h.mesh();
    TreeMap<String, TreeSet<Integer>> byCube = new TreeMap<>();
    leaves(h.root(), byCube, most);
    BitSet all = new BitSet();
    int[] depths = byCube.keySet().stream().mapToInt(UpdateTest::depth).distinct().toArray();
    TreeMap<String, TreeSet<Integer>> wanted = new TreeMap<>();
    for (int t = 0; t < m.triangleCount(); t++) {
      for (int k = 0; k < 3; k++) {
        long finest = h.cells.of(m.xyz(), m.triangles()[3 * t + k]);
        int found = 0;
        for (int d : depths) {
          String cube = cube(d, Cells.node(finest, d));
          if (byCube.containsKey(cube)) {
            wanted.computeIfAbsent(cube, x -> new TreeSet<>()).add(t);
            found++;
          }
        }
        assertThat(found).isEqualTo(1);
      }
      all.set(t);
    }
    assertThat(byCube).isEqualTo(wanted);
    assertThat(all.cardinality()).isEqualTo(m.triangleCount());
    return byCube.size();
  }

  private static String cube(int depth, long key) {
    return depth + " " + key;
  }

  private static int depth(String cube) {
    return Integer.parseInt(cube.substring(0, cube.indexOf(' ')));
  }

  private static void leaves(Node n, TreeMap<String, TreeSet<Integer>> into, int most) {
    if (!n.isLeaf()) {
      assertThat(n.hasPieces()).isTrue();
      for (Node c : n.children()) {
        leaves(c, into, most);
      }
      return;
    }
    TreeSet<Integer> ids = new TreeSet<>();
    int count = 0;
    for (int[] part : n.leaf.ids()) {
      for (int id : part) {
        ids.add(id);
        count++;
      }
    }
    assertThat(ids).hasSize(count);
    assertThat(count).isLessThan(most);
    assertThat(into.put(cube(n.depth, n.key), ids)).isNull();
  }
}

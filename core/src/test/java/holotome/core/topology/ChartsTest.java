package holotome.core.topology;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.task.Work;
import java.util.BitSet;
import java.util.HashSet;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;

class ChartsTest {
  /** A grid of n x n squares, its texture cut into k x k charts set apart by a gap. */
  private static Mesh grid(int n, int k, double gap) {
    float[] xyz = new float[3 * (n + 1) * (n + 1)];
    for (int v = 0; v < (n + 1) * (n + 1); v++) {
      xyz[3 * v] = v % (n + 1);
      xyz[3 * v + 1] = v / (n + 1);
    }
    int side = n / k + 1;
    float[] uv = new float[2 * k * k * side * side];
    for (int c = 0; c < k * k; c++) {
      for (int i = 0; i < side * side; i++) {
        int at = 2 * (c * side * side + i);
        double size = (1.0 / k - gap) / (side - 1);
        uv[at] = (float) ((double) (c % k) / k + i % side * size);
        uv[at + 1] = (float) ((double) (c / k) / k + i / side * size);
      }
    }
    int[] tri = new int[6 * n * n];
    int[] corners = new int[6 * n * n];
    for (int q = 0; q < n * n; q++) {
      int x = q % n;
      int y = q / n;
      int c = y / (n / k) * k + x / (n / k);
      int[][] square = {{0, 0}, {1, 0}, {1, 1}, {0, 0}, {1, 1}, {0, 1}};
      for (int i = 0; i < 6; i++) {
        int px = x + square[i][0];
        int py = y + square[i][1];
        tri[6 * q + i] = py * (n + 1) + px;
        int ux = px - c % k * (n / k);
        int uy = py - c / k * (n / k);
        corners[6 * q + i] = c * side * side + uy * side + ux;
      }
    }
    return new Mesh(xyz, tri).withUv(new Uv(uv, corners));
  }

  @Test
  void chartsAreWhatHangsTogetherInTheTexture() {
    Mesh m = grid(12, 3, 0.02);
    Charts c = Charts.of(m, Work.unwatched());
    assertThat(c.count()).isEqualTo(9);
    Set<String> pairs = new HashSet<>();
    for (int t = 0; t < m.triangleCount(); t++) {
      int q = t / 2;
      pairs.add(c.ofTriangle()[t] + " " + q / 12 / 4 + " " + q % 12 / 4);
    }
    assertThat(pairs).hasSize(9);
    assertThat(c.area(new BitSet())).isCloseTo(9 * Math.pow(1 / 3.0 - 0.02, 2), within(1e-6));
  }

  /** Each chart of 4 x 4 squares has 16 rim edges; their length is its perimeter by formula. */
  @Test
  void outlinesAreTheRimsOfTheCharts() {
    double[] o = Charts.of(grid(12, 3, 0.02), Work.unwatched()).outlines(Work.unwatched()).ends();
    assertThat(o).hasSize(6 * 9 * 16);
    double length = 0;
    for (int i = 0; i < o.length; i += 6) {
      length += Math.hypot(o[i + 3] - o[i], o[i + 4] - o[i + 1]);
      assertThat(o[i + 2]).isZero();
    }
    assertThat(length).isCloseTo(9 * 4 * (1 / 3.0 - 0.02), within(1e-5));
  }

  @Test
  void trianglesKeepTheirNumbersAndPlaces() {
    Mesh m = grid(6, 1, 0);
    Charts c = Charts.of(m, Work.unwatched());
    assertThat(c.count()).isEqualTo(1);
    Random r = new Random(3);
    for (int i = 0; i < 50; i++) {
      int corner = r.nextInt(3 * m.triangleCount());
      int v = m.triangles()[corner];
      int f = c.flat().triangles()[corner];
      assertThat(c.flat().xyz()[3 * f]).isCloseTo(m.xyz()[3 * v] / 6, within(1e-6f));
      assertThat(c.flat().xyz()[3 * f + 1]).isCloseTo(m.xyz()[3 * v + 1] / 6, within(1e-6f));
    }
  }

  @Test
  void meshWithoutTextureCoordinatesIsRefused() {
    Mesh bare = new Mesh(new float[9], new int[] {0, 1, 2});
    assertThatThrownBy(() -> Charts.of(bare, Work.unwatched()))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("texture");
  }
}

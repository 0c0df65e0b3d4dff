package holotome.core.reduce;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.Shapes;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;

class SurfaceFitTest {
  private static float[] fitted(Mesh full, Mesh light) {
    // Each vertex of the full mesh belongs to the nearest light one.
    int[] root = new int[full.vertexCount()];
    for (int v = 0; v < root.length; v++) {
      double least = Double.POSITIVE_INFINITY;
      for (int u = 0; u < light.vertexCount(); u++) {
        double d = 0;
        for (int k = 0; k < 3; k++) {
          double e = full.xyz()[3 * v + k] - light.xyz()[3 * u + k];
          d += e * e;
        }
        if (d < least) {
          least = d;
          root[v] = u;
        }
      }
    }
    float[] xyz = light.xyz().clone();
    SurfaceFit.fit(
        full, root, xyz, light.triangles(), new boolean[xyz.length / 3], Work.unwatched());
    return xyz;
  }

  /**
   * Triangles with their corners on a ball sink under it; fitted they lie half over and half under:
   * by the formula for what is quadratic over a triangle, its mean is taken away.
   */
  @Test
  void aBallInscribedComesOut() {
    Mesh full = Shapes.sphere(1, 5);
    Mesh light = Shapes.sphere(1, 2);
    Mesh out = light.withPositions(fitted(full, light));
    double before = SurfaceDistance.of(light, full, 20_000, Work.unwatched()).rms();
    double after = SurfaceDistance.of(out, full, 20_000, Work.unwatched()).rms();
    assertThat(after).isLessThan(0.5 * before);
    double mean = 0;
    for (int v = 0; v < out.vertexCount(); v++) {
      mean +=
          Math.sqrt(
                  Math.pow(out.xyz()[3 * v], 2)
                      + Math.pow(out.xyz()[3 * v + 1], 2)
                      + Math.pow(out.xyz()[3 * v + 2], 2))
              / out.vertexCount();
    }
    assertThat(mean).isBetween(1.003, 1.03);
  }

  @Test
  void openEdgesStayAndAFlatSheetIsLeftFlat() {
    Mesh full = Shapes.sheet(10, 40);
    Mesh light = Shapes.sheet(10, 8);
    Random r = new Random(2);
    float[] p = light.xyz().clone();
    float[] before = p.clone();
    for (int v = 0; v < light.vertexCount(); v++) {
      boolean isInside =
          p[3 * v] > 0.1 && p[3 * v] < 9.9 && p[3 * v + 1] > 0.1 && p[3 * v + 1] < 9.9;
      p[3 * v + 2] += isInside ? (float) (0.05 * r.nextGaussian()) : 0;
    }
    float[] out = fitted(full, light.withPositions(p));
    double worst = 0;
    double was = 0;
    for (int v = 0; v < light.vertexCount(); v++) {
      worst = Math.max(worst, Math.abs(out[3 * v + 2]));
      was = Math.max(was, Math.abs(p[3 * v + 2]));
      if (before[3 * v] < 0.1 || before[3 * v + 1] < 0.1) {
        assertThat(out[3 * v]).isEqualTo(before[3 * v]);
        assertThat(out[3 * v + 1]).isEqualTo(before[3 * v + 1]);
      }
    }
    assertThat(worst).isLessThan(0.2 * was);
  }

  @Test
  void whatHasNoPointsOrNoAreaStaysWhereItIs() {
    Mesh full = Shapes.sphere(1, 3);
    Mesh light = new Mesh(new float[] {0, 0, 0, 1, 0, 0, 2, 0, 0}, new int[] {0, 1, 2});
    int[] root = new int[full.vertexCount()];
    Arrays.fill(root, -1);
    float[] xyz = light.xyz().clone();
    SurfaceFit.fit(
        full, root, xyz, light.triangles(), new boolean[xyz.length / 3], Work.unwatched());
    assertThat(xyz).isEqualTo(light.xyz());
    Arrays.fill(root, 1);
    SurfaceFit.fit(
        full, root, xyz, light.triangles(), new boolean[xyz.length / 3], Work.unwatched());
    assertThat(xyz).isEqualTo(light.xyz());
  }

  @Test
  void oneThreadAndManyGiveTheSame() {
    Mesh full = Shapes.sphere(1, 5);
    Mesh light = Shapes.sphere(1, 3);
    float[] many = fitted(full, light);
    Parallel.limitThreads(1);
    try {
      assertThat(fitted(full, light)).isEqualTo(many);
    } finally {
      Parallel.limitThreads(64);
    }
  }
}

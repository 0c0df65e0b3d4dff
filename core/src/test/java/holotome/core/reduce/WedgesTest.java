package holotome.core.reduce;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Material;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Seams, borders and sharp edges that decimation keeps. */
class WedgesTest {
  /** A torus around the z axis with the two angles as texture coordinates, cut along both. */
  private static Mesh wrapped(int around, int across) {
    Mesh m = Shapes.torus(2, 0.8, around, across);
    int corners = m.triangles().length;
    float[] coords = new float[2 * corners];
    int[] index = new int[corners];
    for (int t = 0; t < corners; t += 3) {
      double[] middle = new double[3];
      for (int k = 0; k < 9; k++) {
        middle[k % 3] += m.xyz()[3 * m.triangles()[t + k / 3] + k % 3] / 3.0;
      }
      double[] c = angles(middle);
      for (int k = 0; k < 3; k++) {
        double[] a = angles(Vec.at(m.xyz(), m.triangles()[t + k]));
        index[t + k] = t + k;
        for (int i = 0; i < 2; i++) {
          // The side of the cut that the triangle lies on.
          coords[2 * (t + k) + i] = (float) (a[i] + Math.rint(c[i] - a[i]));
        }
      }
    }
    return m.withUv(new Uv(coords, index));
  }

  private static double[] angles(double[] p) {
    double u = Math.atan2(p[1], p[0]) / (2 * Math.PI);
    double v = Math.atan2(p[2], Math.hypot(p[0], p[1]) - 2) / (2 * Math.PI);
    return new double[] {u < -1e-9 ? u + 1 : u, v < -1e-9 ? v + 1 : v};
  }

  private static Mesh run(Mesh m, int target, double sharp) {
    Wedges wedges = Wedges.of(m, true, true, sharp, Work.unwatched());
    Mesh out = Decimation.run(m, target, null, wedges, Work.unwatched());
    Naive.assertSound(out);
    return out;
  }

  @ParameterizedTest
  @CsvSource({"120, 60, 3000", "120, 60, 700", "500, 250, 40000", "500, 250, 4000"})
  void textureCoordinatesStayWhereTheyWereOnBothSidesOfSeams(int around, int across, int target) {
    Mesh m = wrapped(around, across);
    Mesh light = run(m, target, -1);
    assertThat(light.triangleCount()).isBetween((int) (0.98 * target), target);
    assertThat(Naive.closedAndOriented(light)).isTrue();
    Uv uv = light.uv();
    double worst = 0;
    double area = 0;
    for (int t = 0; t < light.triangleCount(); t++) {
      double[][] c = new double[3][];
      for (int k = 0; k < 3; k++) {
        int i = 2 * uv.corners()[3 * t + k];
        c[k] = new double[] {uv.coords()[i], uv.coords()[i + 1]};
        double[] a = angles(Vec.at(light.xyz(), light.triangles()[3 * t + k]));
        for (int j = 0; j < 2; j++) {
          double off = Math.abs(c[k][j] - a[j]);
          worst = Math.max(worst, Math.min(off, Math.abs(1 - off)));
        }
      }
      double two =
          (c[1][0] - c[0][0]) * (c[2][1] - c[0][1]) - (c[1][1] - c[0][1]) * (c[2][0] - c[0][0]);
      area += Math.abs(two) / 2;
    }
    // Nothing lies across a cut: all triangles together fill the picture once.
    assertThat(area).isCloseTo(1, within(0.02));
    assertThat(worst).isLessThan(2.0 / Math.sqrt(target));
  }

  @Test
  void coordinatesThatAreEqualByValueAreNoSeam() {
    Mesh m = wrapped(60, 30);
    Wedges w = Wedges.of(m, true, true, -1, Work.unwatched());
    // A cut around and one across: 60 + 30 vertices with a wedge on each side, four at the
    // crossing.
    assertThat(w.vertex()).hasSize(m.vertexCount() + 60 + 30 + 1);
    int lines = 0;
    for (byte b : w.lines()) {
      lines += Integer.bitCount(b);
    }
    assertThat(lines).isEqualTo(2 * (60 + 30));
    assertThat(Wedges.of(Shapes.sphere(1, 2), true, true, -1, Work.unwatched()))
        .isSameAs(Wedges.NONE);
  }

  @Test
  void bordersOfMaterialsStayStraight() {
    Mesh sheet = Shapes.sheet(10, 200);
    short[] of = new short[sheet.triangleCount()];
    for (int t = 0; t < of.length; t++) {
      double x = 0;
      for (int k = 0; k < 3; k++) {
        x += sheet.xyz()[3 * sheet.triangles()[3 * t + k]] / 3;
      }
      of[t] = (short) (x < 5 ? 0 : 1);
    }
    Material plain = new Material("a", 0xff808080, null);
    Mesh m = sheet.withMaterials(of, List.of(plain, new Material("b", 0xff402020, null)));
    Mesh light = run(m, 600, -1);
    assertThat(light.triangleCount()).isLessThanOrEqualTo(600);
    double left = 0;
    for (int t = 0; t < light.triangleCount(); t++) {
      left += light.material()[t] == 0 ? Vec.length(Measures.cross(light, t)) / 2 : 0;
    }
    assertThat(left).isCloseTo(50, within(0.01));
  }

  /** A tent that is nearly flat: the ridge stays a line of old points, in full length. */
  @Test
  void sharpEdgesStayLines() {
    Mesh sheet = Shapes.sheet(10, 60);
    float[] p = sheet.xyz().clone();
    for (int v = 0; v < sheet.vertexCount(); v++) {
      p[3 * v + 2] = (5 - Math.abs(p[3 * v] - 5)) * 0.2f;
    }
    Mesh light = run(sheet.withPositions(p), 60, Math.cos(Math.toRadians(15)));
    double ridge = 0;
    for (int h = 0; h < light.triangles().length; h++) {
      float[] x = light.xyz();
      int a = 3 * light.triangles()[h];
      int b = 3 * light.triangles()[h % 3 == 2 ? h - 2 : h + 1];
      if (Math.abs(x[a] - 5) < 1e-3 && Math.abs(x[b] - 5) < 1e-3) {
        ridge += Math.abs(x[b + 1] - x[a + 1]) / 2;
      }
    }
    assertThat(ridge).isCloseTo(10, within(1e-4));
  }

  @Test
  void oneThreadAndManyGiveTheSame() {
    Mesh m = Shapes.laden(wrapped(300, 150));
    Mesh many = run(m, 20_000, 0.9);
    Parallel.limitThreads(1);
    try {
      assertThat(run(m, 20_000, 0.9).sameAs(many)).isTrue();
    } finally {
      Parallel.limitThreads(64);
    }
  }

  @Test
  void theStepKeepsTextureIfAskedTo() {
    Workpiece in = Workpiece.of(wrapped(60, 30), Frame.PLAIN);
    Mesh kept =
        new Decimate(
                900, null, null, Role.CAST, Decimate.Texture.KEEP, null, Decimate.Crossings.AVOID)
            .apply(in, Run.unwatched())
            .work()
            .cast();
    assertThat(kept.uv()).isNotNull();
    Mesh gone = new Decimate(900, null, null, Role.CAST).apply(in, Run.unwatched()).work().cast();
    assertThat(gone.uv()).isNull();
  }
}

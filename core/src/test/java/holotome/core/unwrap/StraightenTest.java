package holotome.core.unwrap;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.FlatCheck;
import holotome.core.Shapes;
import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attribute.Domain;
import holotome.core.attribute.Attribute.Kind;
import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Workpiece;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Charts;
import holotome.core.unwrap.StraightenCharts.How;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Charts made straight: outlines, rectangles, rows. */
class StraightenTest {

  private static Outcome made(Mesh m, How how) {
    return new StraightenCharts(how, null)
        .apply(Workpiece.of(m, Frame.PLAIN).withCast(m), Run.unwatched());
  }

  private static Mesh after(Mesh m, How how) {
    return made(m, how).work().cast();
  }

  private static double at(Mesh m, int vertex, int axis) {
    for (int c = 0; c < m.triangles().length; c++) {
      if (m.triangles()[c] == vertex) {
        return m.uv().coords()[2 * m.uv().corners()[c] + axis];
      }
    }
    throw new IllegalArgumentException();
  }

  /** A plate of squares bent in its plane: from one angle to another, its texture the same. */
  private static Mesh bent(double inner, double outer, double from, double to, int n, int rows) {
    float[] xyz = new float[3 * (n + 1) * (rows + 1)];
    float[] uv = new float[2 * (n + 1) * (rows + 1)];
    int[] tri = new int[6 * n * rows];
    int[] face = new int[2 * n * rows];
    int count = 0;
    for (int j = 0; j <= rows; j++) {
      double r = outer - (outer - inner) * j / rows;
      for (int i = 0; i <= n; i++) {
        int v = j * (n + 1) + i;
        double a = from + (to - from) * i / n;
        xyz[3 * v] = (float) (r * Math.cos(a));
        xyz[3 * v + 1] = (float) (r * Math.sin(a));
        uv[2 * v] = (float) (0.5 + 0.1 * xyz[3 * v]);
        uv[2 * v + 1] = (float) (0.5 + 0.1 * xyz[3 * v + 1]);
        if (i < n && j < rows) {
          int w = v + n + 1;
          int[] two = {v, v + 1, w + 1, v, w + 1, w};
          System.arraycopy(two, 0, tri, 3 * count, 6);
          face[count] = count / 2;
          face[count + 1] = count / 2;
          count += 2;
        }
      }
    }
    Attribute faces = Attribute.of(Attribute.FACE, Kind.LABEL, Domain.TRIANGLE, face, null);
    return new Mesh(xyz, tri).withUv(new Uv(uv, tri.clone())).with(faces);
  }

  private static Mesh withoutFaces(Mesh m) {
    return m.with(m.attributes().without(Attribute.FACE), m.materials());
  }

  /**
   * Closed form: a bent plate lies straight, each row as high as it is, each column as wide as its
   * edges in the mean; with the faces it was modelled with, and with those that are found.
   */
  @Test
  void rowsOfFacesBecomeRows() {
    int n = 24;
    int rows = 4;
    Mesh plate = bent(4, 5, 0.3, 1.9, n, rows);
    double middle = 2 * 4.5 * Math.sin(1.6 / n / 2);
    for (Mesh m : new Mesh[] {plate, withoutFaces(plate)}) {
      Mesh out = after(m, How.ROWS);
      double scale = 0.1;
      for (int j = 0; j <= rows; j++) {
        for (int i = 0; i <= n; i++) {
          int v = j * (n + 1) + i;
          // A quarter turn is nearest: it lay with its middle to the left and up.
          double along = Math.hypot(at(out, v, 0) - at(out, 0, 0), at(out, v, 1) - at(out, 0, 1));
          double wanted = scale * Math.hypot(i * middle, j * 0.25);
          assertThat(along).isCloseTo(wanted, within(2e-3));
        }
        int first = j * (n + 1);
        double du = Math.abs(at(out, first + n, 0) - at(out, first, 0));
        double dv = Math.abs(at(out, first + n, 1) - at(out, first, 1));
        assertThat(Math.min(du, dv)).isCloseTo(0, within(1e-6));
      }
    }
  }

  /** Closed form: a rectangle as wide as the two arcs in the mean, and as high as the ends. */
  @Test
  void aBentPlateBecomesARectangle() {
    // Upside up, so that its corners lie towards the corners.
    Mesh out = after(bent(4, 5, 1.2, 1.9, 24, 4), How.RECTANGLE);
    double[] b = {9, 9, -9, -9};
    for (int v = 0; v < out.vertexCount(); v++) {
      for (int k = 0; k < 2; k++) {
        b[k] = Math.min(b[k], at(out, v, k));
        b[2 + k] = Math.max(b[2 + k], at(out, v, k));
      }
    }
    double arcs = 24 * 2 * 4.5 * Math.sin(0.7 / 48);
    assertThat((b[2] - b[0]) / (b[3] - b[1])).isCloseTo(arcs, within(0.01));
    for (int i = 0; i <= 24; i++) {
      assertThat(at(out, i, 1)).isCloseTo(at(out, 0, 1), within(1e-6));
      assertThat(at(out, 4 * 25 + i, 1)).isCloseTo(at(out, 4 * 25, 1), within(1e-6));
    }
    FlatCheck.owners(out, 1024);
  }

  /** A sheet that lies turned a little, its outline torn: straight, level and upright again. */
  @Test
  void outlinesBecomeStraight() {
    Mesh sheet = Shapes.sheet(4, 20);
    float[] uv = new float[2 * sheet.vertexCount()];
    Random random = new Random(3);
    double c = Math.cos(0.12);
    double s = Math.sin(0.12);
    for (int v = 0; v < sheet.vertexCount(); v++) {
      double x = sheet.xyz()[3 * v] + 0.03 * random.nextGaussian();
      double y = sheet.xyz()[3 * v + 1] + 0.03 * random.nextGaussian();
      uv[2 * v] = (float) (0.5 + 0.1 * (c * x - s * y));
      uv[2 * v + 1] = (float) (0.5 + 0.1 * (s * x + c * y));
    }
    Mesh out = after(sheet.withUv(new Uv(uv, sheet.triangles().clone())), How.OUTLINE);
    for (int axis = 0; axis < 2; axis++) {
      for (double side : new double[] {0, 4}) {
        double line = Double.NaN;
        for (int v = 0; v < sheet.vertexCount(); v++) {
          if (sheet.xyz()[3 * v + axis] == side) {
            line = Double.isNaN(line) ? at(out, v, axis) : line;
            assertThat(at(out, v, axis)).isCloseTo(line, within(1e-6));
          }
        }
        assertThat(line).isBetween(0.0, 1.0);
      }
    }
    assertThat(Stretch.of(out).mean()).isLessThan(1.002);
  }

  /** Whatever it is: what was upright is, what lay apart from itself does, on any threads. */
  @ParameterizedTest
  @EnumSource(How.class)
  void anythingStaysUpright(How how) {
    Mesh tube = Shapes.tube(1, 3, 48, 12);
    Mesh[] all = {Shapes.sphere(1, 4), Shapes.torus(2, 0.7, 60, 30), Shapes.gridCube(6), tube};
    int straightened = 0;
    for (Mesh m : all) {
      Workpiece w = Workpiece.of(m, Frame.PLAIN).withCast(m);
      Mesh before = new MakeCharts(1024, 4, 1.05, 0, 180).apply(w, Run.unwatched()).work().cast();
      Mesh out;
      try {
        out = after(before, how);
      } catch (Failure none) {
        assertThat(none.kind()).isEqualTo(Failure.Kind.CANNOT);
        continue;
      }
      straightened++;
      assertThat(Charts.of(out, Work.unwatched()).count())
          .isEqualTo(Charts.of(before, Work.unwatched()).count());
      Parallel.limitThreads(1);
      Mesh again = after(before, how);
      Parallel.limitThreads(Runtime.getRuntime().availableProcessors());
      assertThat(again.sameAs(out)).isTrue();
      Mesh packed =
          new PackCharts(1024, 4, true)
              .apply(Workpiece.of(m, Frame.PLAIN).withCast(out), Run.unwatched())
              .work()
              .cast();
      FlatCheck.owners(packed, 2048);
    }
    assertThat(straightened).isPositive();
  }

  /** Triangles of a ball lie in no rows: that is said, and nothing changes. */
  @Test
  void whatHasNoRowsIsSaid() {
    Mesh ball = Shapes.sphere(1, 3);
    Workpiece w = Workpiece.of(ball, Frame.PLAIN).withCast(ball);
    Mesh m = new MakeCharts(512, 4, 1.05, 0, 180).apply(w, Run.unwatched()).work().cast();
    int[] face = new int[m.triangleCount()];
    for (int t = 0; t < face.length; t++) {
      face[t] = t;
    }
    Mesh single = m.with(Attribute.of(Attribute.FACE, Kind.LABEL, Domain.TRIANGLE, face, null));
    assertThatThrownBy(() -> made(single, How.ROWS))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("has rows of four-sided");
    assertThatThrownBy(() -> made(ball, How.OUTLINE)).isInstanceOf(Failure.class);
  }

  /** Of two charts the one that has the form changes, the other stays to the last bit. */
  @Test
  void whatHasNotTheFormStays() {
    Mesh plate = bent(4, 5, 0.3, 1.9, 12, 3);
    Mesh ball = Shapes.moved(Shapes.sheet(1, 1), 0, 0, 3);
    int n = plate.triangleCount();
    Mesh both = Shapes.together(plate, ball);
    float[] uv = new float[2 * both.vertexCount()];
    for (int v = 0; v < both.vertexCount(); v++) {
      uv[2 * v] = 0.5f + 0.1f * both.xyz()[3 * v];
      uv[2 * v + 1] = 0.5f + 0.1f * both.xyz()[3 * v + 1];
    }
    int[] face = new int[both.triangleCount()];
    for (int t = 0; t < face.length; t++) {
      face[t] = t < n ? t / 2 : t;
    }
    Mesh m =
        both.withUv(new Uv(uv, both.triangles().clone()))
            .with(Attribute.of(Attribute.FACE, Kind.LABEL, Domain.TRIANGLE, face, null));
    Outcome out = made(m, How.ROWS);
    assertThat(String.join("; ", out.notes())).contains("one chart was left as it is");
    Mesh after = out.work().cast();
    for (int v = plate.vertexCount(); v < both.vertexCount(); v++) {
      assertThat(at(after, v, 0)).isEqualTo(uv[2 * v]);
      assertThat(at(after, v, 1)).isEqualTo(uv[2 * v + 1]);
    }
  }
}

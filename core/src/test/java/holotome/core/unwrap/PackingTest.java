package holotome.core.unwrap;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Charts of every outline, held apart pixel by pixel. */
class PackingTest {
  @AfterEach
  void allThreads() {
    Parallel.limitThreads(Integer.MAX_VALUE);
  }

  /** A band between two outlines around the middle; the inner one may be a point. */
  private static double[][] band(double[] outer, double[] inner, Random random) {
    int n = outer.length;
    double turn = random.nextDouble() * 7;
    double[] uv = new double[4 * n];
    for (int i = 0; i < n; i++) {
      double a = 2 * Math.PI * i / n + turn;
      uv[4 * i] = outer[i] * Math.cos(a);
      uv[4 * i + 1] = outer[i] * Math.sin(a);
      uv[4 * i + 2] = inner[i] * Math.cos(a);
      uv[4 * i + 3] = inner[i] * Math.sin(a);
    }
    double[] corners = new double[6 * n];
    for (int i = 0; i < n; i++) {
      int j = (i + 1) % n;
      double[] two = {2 * i, 2 * j, 2 * j + 1, 2 * i, 2 * j + 1, 2 * i + 1};
      System.arraycopy(two, 0, corners, 6 * i, 6);
    }
    return new double[][] {uv, corners};
  }

  private static Charts.Chart chart(double[][] made, int firstTriangle) {
    int[] corners = new int[made[1].length];
    for (int i = 0; i < corners.length; i++) {
      corners[i] = (int) made[1][i];
    }
    int[] triangles = new int[corners.length / 3];
    for (int i = 0; i < triangles.length; i++) {
      triangles[i] = firstTriangle + i;
    }
    return new Charts.Chart(triangles, corners, made[0]);
  }

  private static Charts charts(List<double[][]> made) {
    List<Charts.Chart> list = new ArrayList<>();
    int t = 0;
    for (double[][] m : made) {
      list.add(chart(m, t));
      t += m[1].length / 3;
    }
    int[] of = new int[t];
    for (int c = 0; c < list.size(); c++) {
      for (int k : list.get(c).triangles()) {
        of[k] = c;
      }
    }
    return new Charts(of, list);
  }

  /** Stars, rings and slivers of many sizes. */
  private static Charts odd(int count, long seed) {
    Random random = new Random(seed);
    List<double[][]> made = new ArrayList<>();
    for (int c = 0; c < count; c++) {
      int n = 3 + random.nextInt(20);
      double size = Math.exp(1.2 * random.nextGaussian());
      boolean isRing = random.nextInt(4) == 0;
      double[] outer = new double[n];
      double[] inner = new double[n];
      for (int i = 0; i < n; i++) {
        outer[i] = size * (0.4 + random.nextDouble());
        inner[i] = isRing ? 0.75 * outer[i] : 0.02 * size;
      }
      made.add(band(outer, inner, random));
    }
    return charts(made);
  }

  /** The chart that each pixel is touched by, by points set densely over the triangles. */
  private static int[] owners(Charts charts, Packing p, int size) {
    int[] owner = new int[size * size];
    for (int t = 0; t < charts.ofTriangle().length; t++) {
      double[] q = new double[6];
      for (int k = 0; k < 6; k++) {
        q[k] = size * (double) p.uv().coords()[2 * p.uv().corners()[3 * t + k / 2] + k % 2];
      }
      double long1 = Math.hypot(q[2] - q[0], q[3] - q[1]);
      double long2 = Math.hypot(q[4] - q[0], q[5] - q[1]);
      int n = (int) (3 * Math.max(long1, long2)) + 2;
      for (int i = 0; i <= n; i++) {
        for (int j = 0; i + j <= n; j++) {
          double a = (double) i / n;
          double b = (double) j / n;
          double px = q[0] + a * (q[2] - q[0]) + b * (q[4] - q[0]);
          double py = q[1] + a * (q[3] - q[1]) + b * (q[5] - q[1]);
          // On the border between two pixels the roundings of floats decide.
          if (Math.abs(px - Math.rint(px)) < 2e-3 || Math.abs(py - Math.rint(py)) < 2e-3) {
            continue;
          }
          int x = (int) px;
          int y = (int) py;
          int c = charts.ofTriangle()[t] + 1;
          if (owner[y * size + x] != 0 && owner[y * size + x] != c) {
            throw new AssertionError(
                "charts " + owner[y * size + x] + " and " + c + " at " + x + " " + y);
          }
          owner[y * size + x] = c;
        }
      }
    }
    return owner;
  }

  @ParameterizedTest
  @CsvSource({"256,1,12", "512,4,40", "700,3,150", "1024,8,25", "1024,2,300"})
  void chartsKeepApartByTheGutterAndKeepTheirShape(int size, int gutter, int count) {
    Charts charts = odd(count, 31L * size + count);
    Packing p = Packing.pack(charts, size, gutter, Work.unwatched());
    int[] owner = owners(charts, p, size);
    for (int y = 0; y < size; y++) {
      for (int x = 0; x < size; x++) {
        int o = owner[y * size + x];
        if (o == 0) {
          continue;
        }
        if (Math.min(x, y) < gutter || Math.max(x, y) >= size - gutter) {
          throw new AssertionError("chart " + o + " in the gutter at " + x + " " + y);
        }
        for (int v = Math.max(0, y - gutter); v <= y; v++) {
          for (int u = Math.max(0, x - gutter); u <= Math.min(size - 1, x + gutter); u++) {
            int other = owner[v * size + u];
            if (other != 0 && other != o) {
              throw new AssertionError("charts " + o + " and " + other + " at " + x + " " + y);
            }
          }
        }
      }
    }
    // Turned, never mirrored, all at one scale.
    double scale = 0;
    int vertex = 0;
    for (Charts.Chart c : charts.list()) {
      for (int i = 0; i < c.corners().length; i += 3) {
        double was = twice(c.uv(), c.corners(), i, 0);
        double is = twice(doubles(p.uv().coords()), c.corners(), i, vertex);
        scale = scale == 0 ? is / was : scale;
        assertThat(is).isPositive();
        assertThat(is).isCloseTo(was * scale, within(1e-3 * was * scale + 1e-7));
      }
      vertex += c.uv().length / 2;
    }
    double filled = 0;
    for (int o : owner) {
      filled += o != 0 ? 1 : 0;
    }
    assertThat(p.fill()).isLessThanOrEqualTo(filled / owner.length);
    assertThat(p.fill()).isGreaterThan(0.2);
  }

  private static double[] doubles(float[] a) {
    double[] out = new double[a.length];
    for (int i = 0; i < a.length; i++) {
      out[i] = a[i];
    }
    return out;
  }

  private static double twice(double[] p, int[] corners, int i, int base) {
    int a = 2 * (base + corners[i]);
    int b = 2 * (base + corners[i + 1]);
    int c = 2 * (base + corners[i + 2]);
    return (p[b] - p[a]) * (p[c + 1] - p[a + 1]) - (p[c] - p[a]) * (p[b + 1] - p[a + 1]);
  }

  private static double[][] square(double side, double hole) {
    double r = side / Math.sqrt(2);
    double h = hole / Math.sqrt(2);
    return band(new double[] {r, r, r, r}, new double[] {h, h, h, h}, new Random(4));
  }

  /** A frame and a plate that fits into it: together they need no more room than the frame. */
  @Test
  void holesAreFilled() {
    Charts two = charts(List.of(square(10, 9), square(8.4, 0.001)));
    Packing p = Packing.pack(two, 1024, 4, Work.unwatched());
    assertThat(p.fill()).isGreaterThan(0.82);
  }

  /** A band ten thousand times as long as wide: at a scale by its area it would be far too long. */
  @Test
  void aChartLongOutOfAllProportionIsMadeToFit() {
    double[] uv = {0, 0, 1e4, 0, 1e4, 1, 0, 1};
    Charts one = charts(List.<double[][]>of(new double[][] {uv, {0, 1, 2, 0, 2, 3}}));
    Packing p = Packing.pack(one, 1024, 2, Work.unwatched());
    float[] c = p.uv().coords();
    double length = 1024 * Math.hypot((double) c[2] - c[0], (double) c[3] - c[1]);
    assertThat(length).isBetween(900.0, 1024 * Math.sqrt(2));
  }

  /** Equal squares: closed form of the best there is, less a pixel and the gutter each. */
  @Test
  void squaresLieInRows() {
    List<double[][]> made = new ArrayList<>();
    for (int i = 0; i < 100; i++) {
      made.add(square(1, 1e-4));
    }
    Packing p = Packing.pack(charts(made), 2048, 2, Work.unwatched());
    double best = Math.pow(10 * (2048.0 - 11 * 2) / 10 / 2048, 2);
    assertThat(p.fill()).isBetween(0.93 * best, best);
  }

  @Test
  void theSameOnOneThreadAndMany() {
    Charts charts = odd(60, 5);
    Packing many = Packing.pack(charts, 512, 2, Work.unwatched());
    Parallel.limitThreads(1);
    Packing one = Packing.pack(charts, 512, 2, Work.unwatched());
    assertThat(one.uv().coords()).containsExactly(many.uv().coords());
    assertThat(one.uv().corners()).containsExactly(many.uv().corners());
  }

  @Test
  void whatDoesNotFitIsRefused() {
    Charts charts = odd(400, 6);
    assertThatThrownBy(() -> Packing.pack(charts, 64, 8, Work.unwatched()))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("larger picture");
    Charts flat = charts(List.<double[][]>of(new double[][] {new double[6], {0, 1, 2}}));
    assertThatThrownBy(() -> Packing.pack(flat, 64, 2, Work.unwatched()))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("no area");
    Work cancelled = Work.unwatched();
    cancelled.cancel();
    assertThatThrownBy(() -> Packing.pack(odd(60, 5), 512, 2, cancelled))
        .isInstanceOf(Failure.class);
  }
}

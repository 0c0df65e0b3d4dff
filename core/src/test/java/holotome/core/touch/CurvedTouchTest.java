package holotome.core.touch;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.image.Image;
import holotome.core.map.Directions;
import holotome.core.map.MapKind;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Maps;
import holotome.core.task.Work;
import holotome.core.touch.Touch.How;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Touches around a post of radius 1, whose relief is known by formula. */
class CurvedTouchTest {
  private static final int SIZE = 1024;
  private static final int ROUND = 96;
  private static final double HIGH = 3;
  private static final double SHARE = 0.95;

  private static Mesh post;
  private static Maps maps;
  private static TouchGround ground;

  @BeforeAll
  static void make() {
    post = mesh();
    Image missed = Image.blank(SIZE, SIZE, 1, Image.Sample.BYTE, Image.Space.LINEAR);
    Maps bare = new Maps(SIZE, Map.of(), Map.of(), missed, 1, 0, List.of());
    ground = TouchGround.of(post, bare, Work.unwatched());
    Image n = Image.blank(SIZE, SIZE, 3, Image.Sample.SHORT, Image.Space.LINEAR);
    Image normals =
        n.filled(
            (x, y, out) -> {
              double[] d = normal(turn(x), height(y), turn(x));
              Directions.store(d[0], d[1], d[2], out);
              for (int k = 0; k < 3; k++) {
                out[k] *= 65535;
              }
            },
            Work.unwatched());
    maps = bare.with(MapKind.OBJECT_NORMAL, normals);
  }

  private static double turn(double x) {
    return ((x + 0.5) / SIZE - 0.02) / SHARE * 2 * Math.PI;
  }

  private static double height(double y) {
    return (1 - (y + 0.5) / SIZE - 0.02) / SHARE * HIGH;
  }

  /** The post's normal at an angle, leaning as the relief does at an angle and a height. */
  private static double[] normal(double at, double height, double relief) {
    double side = 0.3 * Math.sin(7 * relief);
    double up = 0.25 * Math.cos(6 * height);
    double[] out = {Math.cos(at) - side * Math.sin(at), Math.sin(at) + side * Math.cos(at), up};
    double l = Math.sqrt(out[0] * out[0] + out[1] * out[1] + out[2] * out[2]);
    return new double[] {out[0] / l, out[1] / l, out[2] / l};
  }

  private static Mesh mesh() {
    float[] xyz = new float[3 * 2 * ROUND];
    float[] uv = new float[2 * 2 * (ROUND + 1)];
    for (int i = 0; i <= ROUND; i++) {
      double a = 2 * Math.PI * i / ROUND;
      for (int k = 0; k < 2; k++) {
        if (i < ROUND) {
          xyz[3 * (2 * i + k)] = (float) Math.cos(a);
          xyz[3 * (2 * i + k) + 1] = (float) Math.sin(a);
          xyz[3 * (2 * i + k) + 2] = (float) (k * HIGH);
        }
        uv[2 * (2 * i + k)] = (float) (0.02 + SHARE * i / ROUND);
        uv[2 * (2 * i + k) + 1] = (float) (0.02 + SHARE * k);
      }
    }
    int[] tri = new int[6 * ROUND];
    int[] corners = new int[6 * ROUND];
    int at = 0;
    for (int i = 0; i < ROUND; i++) {
      for (int c : new int[] {2 * i, 2 * i + 2, 2 * i + 3, 2 * i, 2 * i + 3, 2 * i + 1}) {
        corners[at] = c;
        tri[at++] = c % (2 * ROUND);
      }
    }
    return new Mesh(xyz, tri).withUv(new Uv(uv, corners));
  }

  private static double[] place(double angle, double height) {
    return new double[] {Math.cos(angle), Math.sin(angle), height};
  }

  @Test
  void reliefTurnsWithTheFormWhereverItIsCopiedTo() {
    // A stroke a third of the way around, far from its source and over the seam of the chart.
    double[] line = new double[3 * 12];
    for (int i = 0; i < 12; i++) {
      System.arraycopy(place(-0.7 + 2.0 * i / 11, 1.4), 0, line, 3 * i, 3);
    }
    Touch copy = new Touch(How.COPY, line, false, 0.25, 0, 100, place(1.8, 1.6), null, 0, null);
    Maps out = Touching.apply(ground, maps, maps, copy, Work.unwatched());
    Image made = out.pictures().get(MapKind.OBJECT_NORMAL);
    double most = 0;
    double sum = 0;
    int n = 0;
    for (int y = 0; y < SIZE; y++) {
      for (int x = 0; x < SIZE; x++) {
        double angle = turn(x);
        double h = height(y);
        double near = angle > Math.PI ? angle - 2 * Math.PI : angle;
        boolean isIn = angle >= 0 && angle < 2 * Math.PI && near > -0.65 && near < 1.25;
        if (!isIn || Math.abs(h - 1.4) > 0.22) {
          continue;
        }
        double[] truth = normal(angle, h + 0.2, near + 2.5);
        double cos = 0;
        double l = 0;
        for (int k = 0; k < 3; k++) {
          double v = 2 * made.value(x, y, k) - 1;
          cos += v * truth[k];
          l += v * v;
        }
        double off = Math.toDegrees(Math.acos(Math.min(1, cos / Math.sqrt(l))));
        most = Math.max(most, off);
        sum += off;
        n++;
      }
    }
    assertThat(n).isGreaterThan(10_000);
    assertThat(sum / n).isLessThan(1);
    assertThat(most).isLessThan(4);
  }
}

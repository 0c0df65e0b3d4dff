package holotome.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import holotome.core.bake.BakeMaps;
import holotome.core.datum.KnownLength;
import holotome.core.datum.Scale;
import holotome.core.frame.Frame;
import holotome.core.image.Image;
import holotome.core.map.MapKind;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.swatch.LaySwatch;
import holotome.core.swatch.SettleSwatch;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A Swatch of the setts, held against the base and the paving that they were made up from. */
class SettsTest {
  private static final double WIDE = 1.8;
  private static final double MIDDLE = 1.45;
  private static final int PIXELS = 512;

  private static Workpiece settled;

  private static Workpiece run(Workpiece in, Step... steps) {
    Workpiece w = in;
    for (Step s : steps) {
      w = s.apply(w, Run.unwatched()).work();
    }
    return w;
  }

  /** Sized by the rule, laid and settled. */
  @BeforeAll
  static void settle() {
    double[][] ends = Setts.RULE;
    KnownLength rule =
        new KnownLength(
            new double[] {Setts.SCALE * ends[0][0], Setts.SCALE * ends[0][1], 0},
            new double[] {Setts.SCALE * ends[1][0], Setts.SCALE * ends[1][1], 0},
            Length.parse("1 m"));
    double z = Setts.base(MIDDLE, MIDDLE);
    settled =
        run(
            Workpiece.of(Setts.scan(600_000), Frame.PLAIN),
            new Scale(List.of(rule)),
            new LaySwatch(
                new double[] {MIDDLE, MIDDLE, z},
                new Length(WIDE),
                new Length(WIDE),
                0,
                new double[] {0, 0, 1}),
            new SettleSwatch(new Length(0.4), new Length(0.001), null));
  }

  /** What the paving lies over its base in the mean: the base of a surface is its middle. */
  private static double mean() {
    double sum = 0;
    for (int i = 0; i < 40_000; i++) {
      sum += Setts.detail(3.0 * (i % 200) / 200, 3.0 * (i / 200) / 200);
    }
    return sum / 40_000;
  }

  @Test
  void theBaseIsThatOfTheGround() {
    Mesh m = settled.cast();
    double sum = 0;
    for (int v = 0; v < m.vertexCount(); v++) {
      sum += off(m, v);
    }
    double common = sum / m.vertexCount();
    // Deep joints count less than the stones between them.
    assertThat(common).isCloseTo(mean(), within(0.002));
    double most = 0;
    for (int v = 0; v < m.vertexCount(); v++) {
      most = Math.max(most, Math.abs(off(m, v) - common));
    }
    assertThat(most).isLessThan(0.002);
  }

  /** Whether there is nothing else within a cell of the scan: its triangles lead up to a blade. */
  private static boolean isPavingAround(double x, double y) {
    boolean is = Setts.isPaving(x, y);
    for (int k = 0; k < 8; k++) {
      double a = Math.PI / 4 * k;
      is &= Setts.isPaving(x + 0.008 * Math.cos(a), y + 0.008 * Math.sin(a));
    }
    return is;
  }

  /** How far a vertex lies over the true base, in metres. */
  private static double off(Mesh m, int v) {
    double x = m.xyz()[3 * v] / Setts.SCALE;
    double y = m.xyz()[3 * v + 1] / Setts.SCALE;
    return m.xyz()[3 * v + 2] / Setts.SCALE - Setts.base(x, y);
  }

  @Test
  void theHeightMapIsThePaving() {
    Workpiece baked =
        run(settled, new BakeMaps(List.of(MapKind.COLOUR, MapKind.HEIGHT), PIXELS, 4, 0));
    assertThat(baked.maps().covered()).isEqualTo(PIXELS * PIXELS);
    assertThat(baked.maps().missedShare()).isLessThan(1e-3);
    Image height = baked.maps().pictures().get(MapKind.HEIGHT);
    double[] off = new double[PIXELS * PIXELS];
    int n = 0;
    double sum = 0;
    for (int i = 0; i < PIXELS * PIXELS; i++) {
      double x = MIDDLE + WIDE * ((i % PIXELS + 0.5) / PIXELS - 0.5);
      double y = MIDDLE - WIDE * ((i / PIXELS + 0.5) / PIXELS - 0.5);
      if (isPavingAround(x, y)) {
        double is = height.stored(i % PIXELS, i / PIXELS, 0) / Setts.SCALE;
        off[n] = is - Setts.detail(x, y);
        sum += off[n++];
      }
    }
    double square = 0;
    for (int i = 0; i < n; i++) {
      square += Math.pow(off[i] - sum / n, 2);
    }
    assertThat(n).isGreaterThan(PIXELS * PIXELS * 9 / 10);
    // The paving itself has a root mean square of some three millimetres.
    assertThat(Math.sqrt(square / n)).isLessThan(0.001);
  }

  @Test
  void writtenWithTheTruthBesideIt(@TempDir Path dir) throws Exception {
    Path file = dir.resolve("setts.ply");
    DemoFiles.write("setts", file, 20_000, Work.unwatched());
    JsonNode truth = new ObjectMapper().readTree(DemoFiles.truthBeside(file).toFile());
    assertThat(truth.at("/rule/metres").asDouble()).isCloseTo(1, within(1e-9));
    assertThat(truth.at("/scale").asDouble()).isEqualTo(Setts.SCALE);
  }
}

package holotome.core.swatch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Shapes;
import holotome.core.bake.BakeMaps;
import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.image.Image;
import holotome.core.map.MapKind;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import java.util.List;
import java.util.Random;
import java.util.function.DoubleBinaryOperator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A Swatch laid and settled, against surfaces by formula. */
class SwatchTest {
  /** Ground 4 m square about the origin, its height by a formula, turned and moved as a whole. */
  private static Workpiece ground(DoubleBinaryOperator height, double[] rotation) {
    Mesh sheet = Shapes.sheet(4, 400);
    float[] xyz = sheet.xyz().clone();
    for (int i = 0; i < xyz.length; i += 3) {
      double x = xyz[i] - 2;
      double y = xyz[i + 1] - 2;
      double[] p = {x, y, height.applyAsDouble(x, y)};
      double[] q = Similarity.rotating(rotation).apply(p);
      for (int k = 0; k < 3; k++) {
        xyz[i + k] = (float) q[k];
      }
    }
    return Workpiece.of(sheet.withPositions(xyz), Frame.PLAIN.withTrueSize());
  }

  private static final double[] UPRIGHT = {1, 0, 0, 0, 1, 0, 0, 0, 1};

  private static LaySwatch lay(double w, double h, double turn, double[] normal) {
    return new LaySwatch(new double[3], new Length(w), new Length(h), turn, normal);
  }

  private static SettleSwatch settle(double reach, double tolerance) {
    return new SettleSwatch(new Length(reach), new Length(tolerance), null);
  }

  private static double[] place(Mesh m, int v) {
    return Vec.at(m.xyz(), v);
  }

  /** On a plane it lies in it, whichever way that leans, at its true size and turned as asked. */
  @ParameterizedTest
  @ValueSource(doubles = {0, 20, 65, 90, 140})
  void itLiesInThePlaneOfWhatIsBelow(double lean) {
    double a = Math.toRadians(lean);
    double[] turned = {1, 0, 0, 0, Math.cos(a), -Math.sin(a), 0, Math.sin(a), Math.cos(a)};
    Workpiece w = ground((x, y) -> 0, turned);
    Outcome out = lay(1.8, 1, 30, null).apply(w, Run.unwatched());
    Mesh m = out.work().cast();
    double[] n = {0, -Math.sin(a), Math.cos(a)};
    for (int v = 0; v < 4; v++) {
      assertThat(Vec.dot(place(m, v), n)).isCloseTo(0, within(1e-6));
    }
    double[] across = Vec.sub(place(m, 1), place(m, 0));
    double[] up = Vec.sub(place(m, 2), place(m, 0));
    assertThat(Vec.length(across)).isCloseTo(1.8, within(1e-6));
    assertThat(Vec.length(up)).isCloseTo(1, within(1e-6));
    assertThat(Vec.dot(across, up)).isCloseTo(0, within(1e-6));
    assertThat(Vec.dot(Vec.unit(Vec.cross(across, up)), n)).isCloseTo(1, within(1e-6));
    // X lies in the plane.
    assertThat(across[0] / 1.8).isCloseTo(Math.cos(Math.toRadians(30)), within(1e-6));
    double[] middle = Vec.mul(Vec.add(place(m, 0), place(m, 3)), 0.5);
    assertThat(Vec.length(middle)).isCloseTo(0, within(1e-6));
    assertThat(String.join("; ", out.notes())).contains("1,800 mm by 1,000 mm").contains("100.0 %");
    assertThat(m.uv().coords()).containsExactly(0, 0, 1, 0, 0, 1, 1, 1);
  }

  /** A slope is found through waves, and a thing that stands on it does not tilt it. */
  @Test
  void debrisDoesNotTiltIt() {
    Workpiece w =
        ground(
            (x, y) ->
                0.2 * x
                    + 0.01 * Math.sin(20 * x) * Math.cos(17 * y)
                    + (Math.hypot(x - 0.6, y) < 0.15 ? 0.4 : 0),
            UPRIGHT);
    Mesh m = lay(2, 2, 0, null).apply(w, Run.unwatched()).work().cast();
    double[] n =
        Vec.unit(Vec.cross(Vec.sub(place(m, 1), place(m, 0)), Vec.sub(place(m, 2), place(m, 0))));
    double[] truth = Vec.unit(new double[] {-0.2, 0, 1});
    assertThat(Math.toDegrees(Math.acos(Vec.dot(n, truth)))).isLessThan(0.3);
  }

  /** Asked for a direction it faces that, over the ground in the mean. */
  @Test
  void itFacesTheDirectionAskedFor() {
    Workpiece w = ground((x, y) -> 0.3 * x + 0.5, UPRIGHT);
    LaySwatch asked =
        new LaySwatch(
            new double[] {0, 0, 0.5}, new Length(1), new Length(1), 0, new double[] {0, 0, 2});
    Mesh m = asked.apply(w, Run.unwatched()).work().cast();
    for (int v = 0; v < 4; v++) {
      assertThat(place(m, v)[2]).isCloseTo(0.5, within(2e-3));
    }
  }

  private static double off(Mesh m, DoubleBinaryOperator truth) {
    double most = 0;
    for (int v = 0; v < m.vertexCount(); v++) {
      double[] p = place(m, v);
      most = Math.max(most, Math.abs(p[2] - truth.applyAsDouble(p[0], p[1])));
    }
    return most;
  }

  /** A plane comes back exactly, in one cell; of short waves nothing is left in it. */
  @Test
  void aPlaneIsOneCellAndShortWavesStay() {
    DoubleBinaryOperator plane = (x, y) -> 0.1 * x - 0.05 * y + 0.3;
    double[] up = {0, 0, 1};
    Workpiece flat = ground(plane, UPRIGHT);
    Workpiece laid = lay(2, 1, 0, up).apply(flat, Run.unwatched()).work();
    Mesh m = settle(0.3, 0.001).apply(laid, Run.unwatched()).work().cast();
    assertThat(m.triangleCount()).isEqualTo(2);
    assertThat(off(m, plane)).isLessThan(1e-5);
    Workpiece rough =
        ground((x, y) -> plane.applyAsDouble(x, y) + 0.02 * Math.sin(70 * x), UPRIGHT);
    Workpiece over = lay(2, 1, 0, up).apply(rough, Run.unwatched()).work();
    Outcome out = settle(0.4, 0.002).apply(over, Run.unwatched());
    assertThat(off(out.work().cast(), plane)).isLessThan(1e-3);
    String left = out.notes().get(1).replaceAll("from | of detail.*| mm", "");
    String[] range = left.split(" to ");
    assertThat(Double.parseDouble(range[0])).isCloseTo(-20, within(1.5));
    assertThat(Double.parseDouble(range[1])).isCloseTo(20, within(1.5));
  }

  /** Closed form: of a wave as long as the reach half is left, of one three times as long most. */
  @Test
  void longWavesAreTakenByTheBase() {
    double[] up = {0, 0, 1};
    for (double ratio : new double[] {0.4, 1, 3}) {
      double wave = 0.9;
      DoubleBinaryOperator truth = (x, y) -> 0.02 * Math.cos(2 * Math.PI * x / wave);
      Workpiece laid = lay(1.8, 1.8, 0, up).apply(ground(truth, UPRIGHT), Run.unwatched()).work();
      Mesh m = settle(wave / ratio, 0.0005).apply(laid, Run.unwatched()).work().cast();
      double most = 0;
      for (int v = 0; v < m.vertexCount(); v++) {
        most = Math.max(most, place(m, v)[2]);
      }
      double share = Math.pow(0.5, 1 / (ratio * ratio));
      assertThat(most / 0.02).as("at %f", ratio).isCloseTo(share, within(0.07));
    }
  }

  /** Blades, holes and a rim: the base is that of the ground between them. */
  @Test
  void bladesAndHolesDoNotMoveIt() {
    DoubleBinaryOperator truth = (x, y) -> 0.05 * x + 0.04 * x * x - 0.03 * y * y;
    Random random = new Random(7);
    double[][] blades = new double[150][2];
    for (double[] b : blades) {
      b[0] = 4 * random.nextDouble() - 2;
      b[1] = 4 * random.nextDouble() - 2;
    }
    Workpiece w =
        ground(
            (x, y) -> {
              double z = truth.applyAsDouble(x, y);
              for (double[] b : blades) {
                if (Math.hypot(x - b[0], y - b[1]) < 0.025) {
                  return z + 0.12;
                }
              }
              return z;
            },
            UPRIGHT);
    // A hole, and the Scan ends within the reach of the Swatch.
    Mesh scan = w.scan();
    java.util.BitSet keep = new java.util.BitSet();
    for (int t = 0; t < scan.triangleCount(); t++) {
      double[] p = place(scan, scan.triangles()[3 * t]);
      keep.set(t, Math.hypot(p[0] + 0.5, p[1] - 0.2) > 0.12 && p[0] < 1.02);
    }
    Workpiece torn = w.withScan(holotome.core.mesh.Submesh.of(scan, keep, Work.unwatched()));
    double[] up = {0, 0, 1};
    Workpiece laid = lay(2, 2, 0, up).apply(torn, Run.unwatched()).work();
    Outcome out = settle(0.35, 0.001).apply(laid, Run.unwatched());
    assertThat(off(out.work().cast(), truth)).isLessThan(2e-3);
    assertThat(String.join("; ", out.notes())).contains("there is no Scan");
    // The cells keep to the tolerance: no fewer would.
    assertThat(out.work().cast().triangleCount()).isBetween(2 * 8 * 8, 2 * 40 * 40);
  }

  /** The rest is in the height map, over a chart that fills the square. */
  @Test
  void whatIsLeftIsBaked() {
    DoubleBinaryOperator detail = (x, y) -> 0.01 * Math.sin(60 * x) * Math.sin(60 * y);
    DoubleBinaryOperator base = (x, y) -> 0.05 * x * x;
    Workpiece w = ground((x, y) -> base.applyAsDouble(x, y) + detail.applyAsDouble(x, y), UPRIGHT);
    double[] up = {0, 0, 1};
    Workpiece settled =
        settle(0.4, 0.0005)
            .apply(lay(1, 1, 0, up).apply(w, Run.unwatched()).work(), Run.unwatched())
            .work();
    Workpiece baked =
        new BakeMaps(List.of(MapKind.HEIGHT), 256, 4, 0).apply(settled, Run.unwatched()).work();
    assertThat(baked.maps().covered()).isEqualTo(256 * 256);
    Image height = baked.maps().pictures().get(MapKind.HEIGHT);
    double sum = 0;
    for (int i = 0; i < 256 * 256; i++) {
      double x = (i % 256 + 0.5) / 256 - 0.5;
      double y = 0.5 - (i / 256 + 0.5) / 256;
      double d = height.stored(i % 256, i / 256, 0) - detail.applyAsDouble(x, y);
      sum += d * d;
    }
    // The Scan's own cells are a centimetre wide: a chord of the wave is off by as much.
    assertThat(Math.sqrt(sum / (256 * 256))).isLessThan(1e-3);
  }

  @Test
  void theSameOnOneThreadAndMany() {
    Workpiece w = ground((x, y) -> 0.1 * Math.sin(3 * x) * y + 0.01 * Math.sin(50 * x), UPRIGHT);
    Workpiece laid = lay(2, 1, 15, null).apply(w, Run.unwatched()).work();
    Mesh many = settle(0.3, 0.001).apply(laid, Run.unwatched()).work().cast();
    int threads = Parallel.threads();
    Parallel.limitThreads(1);
    Mesh one = settle(0.3, 0.001).apply(laid, Run.unwatched()).work().cast();
    Parallel.limitThreads(threads);
    assertThat(one.xyz()).isEqualTo(many.xyz());
    assertThat(one.triangles()).isEqualTo(many.triangles());
  }

  @Test
  void whatCannotBeIsSaid() {
    Workpiece w = ground((x, y) -> 0, UPRIGHT);
    assertThatThrownBy(() -> lay(0, 1, 0, null)).isInstanceOf(Failure.class);
    LaySwatch far =
        new LaySwatch(
            new double[] {90, 0, 0}, new Length(1), new Length(1), 0, new double[] {0, 0, 1});
    assertThatThrownBy(() -> far.apply(w, Run.unwatched()))
        .hasMessageContaining("no Scan under the Swatch");
    assertThatThrownBy(() -> settle(0.3, 0.001).apply(w, Run.unwatched()))
        .hasMessageContaining("swatch.lay");
    assertThatThrownBy(() -> settle(0, 0.001)).isInstanceOf(Failure.class);
  }
}

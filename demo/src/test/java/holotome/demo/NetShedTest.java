package holotome.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.bake.BakeMaps;
import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.map.MapKind;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Work;
import holotome.core.unwrap.GiveSpace;
import holotome.core.unwrap.LayOver;
import holotome.core.unwrap.MakeCharts;
import holotome.core.unwrap.PackCharts;
import holotome.core.unwrap.SparseHidden;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The net shed: its truth, and the whole way to a texture for the sides that no camera saw. */
class NetShedTest {
  private static final double[] BACK = {4, 5, 1};
  private static final double[] RIGHT = {8, 2.5, 1};
  private static final double[] FRONT = {4, 0, 1};
  private static final double[] LEFT = {0, 2.5, 1};

  @Test
  void someFortyTrianglesOfTrueSizeFacingOut() {
    Mesh m = NetShed.modelled();
    assertThat(m.triangleCount()).isEqualTo(42).isEqualTo(NetShed.sides().length);
    double front = 0;
    double gable = 0;
    for (int t = 0; t < 42; t++) {
      double[] c = Measures.cross(m, t);
      NetShed.Side s = NetShed.sides()[t];
      front += s == NetShed.Side.FRONT ? -c[1] / 2 : 0;
      gable += s == NetShed.Side.RIGHT ? c[0] / 2 : 0;
      assertThat(s != NetShed.Side.ROOF || c[2] > 0).isTrue();
    }
    assertThat(front).isCloseTo(8 * 3, within(1e-4));
    assertThat(gable).isCloseTo(5 * 3 + 5 * 1.6 / 2, within(1e-4));
  }

  @Test
  void theScanIsFineWhereItWasSeenAndTheSameEachTime() {
    Mesh scan = NetShed.scan(60_000);
    assertThat(scan.triangleCount()).isBetween(54_000, 68_000);
    assertThat(scan.sameAs(NetShed.scan(60_000))).isTrue();
    int large = 0;
    for (int t = 0; t < scan.triangleCount(); t++) {
      large += Vec.length(Measures.cross(scan, t)) > 1 ? 1 : 0;
    }
    assertThat(large).isEqualTo(2 + 4);
  }

  @Test
  void writtenWithTheModelAndTheTruthBesideIt(@TempDir Path dir) throws Exception {
    Path file = dir.resolve("shed.ply");
    DemoFiles.write("net-shed", file, 20_000, Work.unwatched());
    assertThat(DemoFiles.castBeside(file)).exists();
    assertThat(Files.readString(DemoFiles.truthBeside(file))).contains("asSeenOn");
  }

  private static Workpiece run(Workpiece in, Step... steps) {
    Workpiece w = in;
    for (Step s : steps) {
      w = s.apply(w, Run.unwatched()).work();
    }
    return w;
  }

  private static double off(Workpiece w, NetShed.Side side) {
    return NetShedTruth.off(w.cast(), w.maps().pictures().get(MapKind.COLOUR), side);
  }

  /**
   * Against the truth: laid over the sides opposite, what no camera saw shows the boards that it
   * has; as it is it shows grey. The roof's underside gives up its space.
   */
  @Test
  void whatWasNotSeenTakesTheTextureOfWhatWas() {
    Mesh model = NetShed.modelled();
    Workpiece in = Workpiece.of(NetShed.scan(400_000), Frame.PLAIN).withCast(model);
    MakeCharts cut = new MakeCharts(1024, 4, 1.01, 0, 30);
    PackCharts pack = new PackCharts(1024, 4, true);
    BakeMaps bake = new BakeMaps(List.of(MapKind.COLOUR), 1024, 4, 8);
    Workpiece plain = run(in, cut, bake);
    Workpiece laid =
        run(
            in,
            new SparseHidden(SparseHidden.What.HIDDEN, SparseHidden.From.SIDES, 0.2),
            cut,
            new LayOver(BACK, FRONT, LayOver.Fit.WITHIN, LayOver.Mirror.BETTER),
            new LayOver(RIGHT, LEFT, LayOver.Fit.WITHIN, LayOver.Mirror.BETTER),
            new GiveSpace(2, FRONT, null),
            pack,
            bake);
    for (NetShed.Side s : new NetShed.Side[] {NetShed.Side.BACK, NetShed.Side.RIGHT}) {
      assertThat(off(plain, s)).isGreaterThan(30);
      assertThat(off(laid, s)).isLessThan(12);
    }
    assertThat(off(laid, NetShed.Side.FRONT)).isLessThan(12);
  }
}

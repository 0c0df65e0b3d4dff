package holotome.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.frame.Frame;
import holotome.core.log.Entry;
import holotome.core.log.LogFile;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.select.BrushStroke;
import holotome.core.select.Facing;
import holotome.core.select.Fence;
import holotome.core.select.Heights;
import holotome.core.select.IslandSizes;
import holotome.core.select.Likeness;
import holotome.core.select.Linked;
import holotome.core.select.Pick;
import holotome.core.select.Region;
import holotome.core.select.Rule;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Islands;
import holotome.core.trim.CutFence;
import holotome.core.trim.CutGround;
import holotome.core.trim.CutSelection;
import holotome.core.trim.PlaneCut;
import holotome.core.unit.Length;
import java.util.BitSet;
import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** The same Log on a second, finer scan of the same place. */
class RescanTest {
  private static Mesh first;
  private static Mesh second;

  @BeforeAll
  static void scanTwice() {
    first = BollardScan.of(80_000).make(Work.unwatched()).mesh();
    second = BollardScan.of(220_000).make(Work.unwatched()).mesh();
  }

  private static double[] at(double x, double y, double z) {
    return BollardScan.CAPTURE.apply(x, y, z);
  }

  /** Seen from far above along the bollard's axis: true x and y, in metres. */
  private static double[] fromAbove() {
    var back = BollardScan.CAPTURE.inverse();
    double[] o = back.apply(0, 0, 0);
    double[] view = new double[16];
    for (int c = 0; c < 3; c++) {
      double[] e = new double[3];
      e[c] = 1;
      double[] p = back.apply(e);
      for (int r = 0; r < 3; r++) {
        view[4 * r + c] = p[r] - o[r];
      }
    }
    for (int r = 0; r < 3; r++) {
      view[4 * r + 3] = o[r];
    }
    view[15] = 1;
    return view;
  }

  private static List<Rule> rules() {
    double[] up = BollardScan.CAPTURE.direction(new double[] {0, 0, 1});
    double foot = at(0, 0, 0.1)[0] * up[0] + at(0, 0, 0.1)[1] * up[1] + at(0, 0, 0.1)[2] * up[2];
    return List.of(
        new Heights(new Length(foot), null, up),
        new Fence(fromAbove(), new double[] {-0.3, -0.3, 0.3, -0.3, 0.3, 0.3, -0.3, 0.3}),
        new Fence(fromAbove(), new double[] {-0.8, 0.6, 0.1, 0.8, 0.7, 0.5}, 0.07),
        new Region(at(0, 0, 0.4), new double[] {1500, 1400, 900}, new double[] {4, 8, 30}),
        new Facing(up, 25),
        Likeness.of(Likeness.colourOf(first, 0), 20),
        new BrushStroke(at(0.6, 0.5, 0), new Length(800)));
  }

  @Test
  void rulesMeanTheSamePlaceOnAnotherScanOfIt() {
    for (Rule rule : rules()) {
      double a = area(first, rule);
      double b = area(second, rule);
      // Single triangles face more ways the smaller they are beside the noise.
      double tolerance = rule instanceof Facing ? 0.12 : 0.06;
      assertThat(a).as("%s", rule).isPositive();
      assertThat(b).as("%s", rule).isCloseTo(a, within(tolerance * a));
    }
  }

  private static double area(Mesh m, Rule rule) {
    BitSet s = rule.select(m, Frame.PLAIN, Work.unwatched());
    return Measures.area(m, s);
  }

  @Test
  void islandsByPointAndBySizeAreFoundAgain() {
    for (Mesh m : new Mesh[] {first, second}) {
      BitSet main = new Linked(at(0, 0, 0.64), 180).select(m, Frame.PLAIN, Work.unwatched());
      assertThat(main.cardinality()).isEqualTo(Islands.of(m).sizes()[0]);
      // Shards are a few centimetres across, the bar half a metre.
      BitSet small =
          new IslandSizes(null, null, null, new Length(0.2 * 3137.4), null)
              .select(m, Frame.PLAIN, Work.unwatched());
      assertThat(small.cardinality()).isPositive();
      assertThat(main.intersects(small)).isFalse();
    }
  }

  /** The whole of trimming as a Log written on the first scan, replayed on the second. */
  @Test
  void aTrimmingLogFitsBoth() {
    List<Pick> far =
        List.of(
            Pick.of(Pick.Join.REPLACE, new Facing(new double[] {0, 0, 1}, 180)),
            Pick.of(
                Pick.Join.TAKE,
                new Fence(fromAbove(), new double[] {-0.5, -0.5, 0.5, -0.5, 0.5, 0.5, -0.5, 0.5})));
    LogFile log =
        LogFile.parse(
            new LogFile(
                    List.of(
                        new Entry(CutSelection.of(far, CutSelection.Then.REMOVE), true),
                        new Entry(
                            new CutFence(
                                new Fence(
                                    fromAbove(),
                                    new double[] {-0.4, -0.4, 0.4, -0.4, 0.4, 0.4, -0.4, 0.4}),
                                CutFence.Keep.INSIDE),
                            true),
                        new Entry(
                            new CutGround(null, CutGround.Along.SEAM, PlaneCut.Close.OPEN, 1),
                            true)),
                    null)
                .text(),
            "log");
    double[] areas = new double[2];
    int i = 0;
    for (Mesh m : new Mesh[] {first, second}) {
      Workpiece w = Workpiece.of(m, Frame.PLAIN);
      for (Entry e : log.entries()) {
        Outcome o = e.step().apply(w, Run.unwatched());
        assertThat(o.notes().toString()).doesNotContain("this mesh only");
        w = o.work();
      }
      areas[i++] = Measures.area(w.scan());
    }
    assertThat(areas[1]).isCloseTo(areas[0], within(0.01 * areas[0]));
  }

  @Test
  void aStoredSelectionSaysThatItFitsItsOwnMeshOnly() {
    BitSet some = new BitSet();
    some.set(0, 1000);
    CutSelection step =
        CutSelection.of(
            List.of(Pick.of(Pick.Join.ADD, some, first.triangleCount())), CutSelection.Then.REMOVE);
    Outcome o = step.apply(Workpiece.of(first, Frame.PLAIN), Run.unwatched());
    assertThat(o.notes().getLast()).contains("fits this mesh only");
    assertThatThrownBy(() -> step.apply(Workpiece.of(second, Frame.PLAIN), Run.unwatched()))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("select by a fence");
  }
}

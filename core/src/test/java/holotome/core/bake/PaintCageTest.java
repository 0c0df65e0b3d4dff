package holotome.core.bake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.image.Image;
import holotome.core.map.MapKind;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Maps;
import holotome.core.part.Workpiece;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.util.List;
import org.junit.jupiter.api.Test;

/** A flat Cast under a Scan with a block on it that is higher than the cage goes by itself. */
class PaintCageTest {
  private static final int CELLS = 40;

  /** How high the block is; the cage goes no farther than a twentieth of the diagonal. */
  private static final double HIGH = 0.4;

  /** A square of 2 by 2 about the origin, with its texture. */
  private static Mesh square(boolean isScan) {
    int n = CELLS + 1;
    float[] xyz = new float[3 * n * n];
    float[] uv = new float[2 * n * n];
    for (int j = 0; j < n; j++) {
      for (int i = 0; i < n; i++) {
        int v = j * n + i;
        double x = 2.0 * i / CELLS - 1;
        double y = 2.0 * j / CELLS - 1;
        xyz[3 * v] = (float) x;
        xyz[3 * v + 1] = (float) y;
        xyz[3 * v + 2] = isScan && isBlock(x, y) ? (float) HIGH : 0;
        uv[2 * v] = (float) i / CELLS;
        uv[2 * v + 1] = (float) j / CELLS;
      }
    }
    int[] tri = new int[6 * CELLS * CELLS];
    int at = 0;
    for (int j = 0; j < CELLS; j++) {
      for (int i = 0; i < CELLS; i++) {
        int a = j * n + i;
        for (int v : new int[] {a, a + 1, a + n + 1, a, a + n + 1, a + n}) {
          tri[at++] = v;
        }
      }
    }
    Mesh m = new Mesh(xyz, tri);
    return isScan ? m : m.withUv(new Uv(uv, tri));
  }

  private static boolean isBlock(double x, double y) {
    return Math.abs(x) < 0.35 && Math.abs(y) < 0.35;
  }

  private static Workpiece work(Frame frame) {
    return Workpiece.of(square(true), frame).withCast(square(false));
  }

  private static Maps baked(Workpiece w) {
    return new BakeMaps(List.of(MapKind.HEIGHT), 64, 1, 0).apply(w, Run.unwatched()).work().maps();
  }

  private static double middle(Maps maps) {
    Image heights = maps.pictures().get(MapKind.HEIGHT);
    return heights.stored(32, 32, 0);
  }

  private static CageEdit over(double times) {
    return new CageEdit(new double[] {-0.1, 0, 0, 0.1, 0, 0}, 1.2, times);
  }

  @Test
  void whatLiesBeyondTheCageIsMetOnceThatIsPaintedWider() {
    Workpiece w = work(Frame.PLAIN);
    assertThat(middle(baked(w))).isLessThan(0.9 * HIGH);
    Outcome painted = new PaintCage(List.of(over(8))).apply(w, Run.unwatched());
    assertThat(painted.amount()).isEqualTo(1);
    Maps maps = baked(painted.work());
    assertThat(middle(maps)).isCloseTo(HIGH, within(1e-4));
    assertThat(maps.missedCount()).isLessThan(baked(w).missedCount());
  }

  @Test
  void wideAndNarrowAgainIsAsItWas() {
    Workpiece w = work(Frame.PLAIN);
    Mesh plain = CageShell.of(w.cast(), w.scan(), Work.unwatched());
    Workpiece both = new PaintCage(List.of(over(4), over(0.25))).apply(w, Run.unwatched()).work();
    Mesh again = CageShell.of(both.cast(), both.scan(), Work.unwatched());
    for (int i = 0; i < plain.xyz().length; i++) {
      assertThat(again.xyz()[i]).isCloseTo(plain.xyz()[i], within(1e-5f));
    }
    Mesh wide =
        CageShell.of(
            new PaintCage(List.of(over(4))).apply(w, Run.unwatched()).work().cast(),
            w.scan(),
            Work.unwatched());
    int middle = CELLS / 2 * (CELLS + 1) + CELLS / 2;
    // Where the stroke went, all of it; beyond its radius nothing.
    assertThat(wide.xyz()[3 * middle + 2])
        .isCloseTo(4 * plain.xyz()[3 * middle + 2], within(1e-4f));
    assertThat(wide.xyz()[2]).isEqualTo(plain.xyz()[2]);
  }

  @Test
  void placesAreTheFilesAndMapsStay() {
    Workpiece w = work(Frame.PLAIN);
    Workpiece mapped = w.withMaps(baked(w));
    Workpiece after = new PaintCage(List.of(over(2))).apply(mapped, Run.unwatched()).work();
    assertThat(after.maps()).isSameAs(mapped.maps());
    Similarity placing =
        Similarity.scaling(10).then(Similarity.translation(new double[] {3, 4, 5}));
    Workpiece placed = work(Frame.PLAIN.placed(placing));
    Mesh cast = new PaintCage(List.of(over(2))).apply(placed, Run.unwatched()).work().cast();
    assertThat(PaintCage.of(cast)).containsExactly(PaintCage.of(after.cast()));
  }

  @Test
  void whatCannotBePaintedIsSaid() {
    Workpiece w = work(Frame.PLAIN);
    CageEdit far = new CageEdit(new double[] {50, 0, 0}, 1, 2);
    assertThatThrownBy(() -> new PaintCage(List.of(far)).apply(w, Run.unwatched()))
        .isInstanceOf(Failure.class);
    assertThat(new PaintCage(List.of(far, over(2))).apply(w, Run.unwatched()).notes())
        .anyMatch(n -> n.contains("Edit 1 was left out"));
    assertThatThrownBy(() -> new CageEdit(new double[2], 1, 2)).isInstanceOf(Failure.class);
    assertThatThrownBy(() -> new PaintCage(List.of())).isInstanceOf(Failure.class);
    Workpiece bare = Workpiece.of(square(true), Frame.PLAIN);
    assertThatThrownBy(() -> new PaintCage(List.of(over(2))).apply(bare, Run.unwatched()))
        .isInstanceOf(Failure.class);
  }
}

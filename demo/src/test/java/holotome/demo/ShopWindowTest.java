package holotome.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.frame.Frame;
import holotome.core.mend.PatchRegion;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.select.Pick;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import java.util.BitSet;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The glass of the shop window, made anew, against the truth it was made up from. */
class ShopWindowTest {
  private static BitSet glass(Mesh m) {
    BitSet out = new BitSet();
    for (int t = 0; t < m.triangleCount(); t++) {
      for (int k = 0; k < 3; k++) {
        int v = m.triangles()[3 * t + k];
        if (ShopWindow.pane(m.xyz()[3 * v], m.xyz()[3 * v + 2]) > 0) {
          out.set(t);
        }
      }
    }
    return out;
  }

  /** Selected too narrowly, some of the boiling stays around the patch: that is said. */
  @Test
  void aRimWithinTheNoiseIsTold() {
    Mesh scan = ShopWindow.scan(60_000);
    BitSet some = new BitSet();
    for (int t = 0; t < scan.triangleCount(); t++) {
      int v = 3 * scan.triangles()[3 * t];
      double x = scan.xyz()[v];
      double z = scan.xyz()[v + 2];
      some.set(t, x > 0.43 && x < 1.2 && z > 0.73 && z < 1.97);
    }
    Outcome out =
        new PatchRegion(
                List.of(Pick.of(Pick.Join.REPLACE, some, scan.triangleCount())),
                PatchRegion.Shape.PLANE,
                false)
            .apply(Workpiece.of(scan, Frame.PLAIN), Run.unwatched());
    assertThat(out.notes().getLast()).contains("The rim is up to", "select a little more");
  }

  @ParameterizedTest
  @ValueSource(booleans = {true, false})
  void thePanesLieWithinAMillimetreOfTheTruth(boolean common) {
    Mesh scan = ShopWindow.scan(60_000);
    BitSet glass = glass(scan);
    Pick pick = Pick.of(Pick.Join.REPLACE, glass, scan.triangleCount());
    Outcome out =
        new PatchRegion(List.of(pick), PatchRegion.Shape.PLANE, common)
            .apply(Workpiece.of(scan, Frame.PLAIN), Run.unwatched());
    assertThat(out.amount()).isEqualTo(2);
    Mesh now = out.work().scan();
    int inner = 0;
    for (int v = 0; v < now.vertexCount(); v++) {
      double x = now.xyz()[3 * v];
      double z = now.xyz()[3 * v + 2];
      if (ShopWindow.pane(x, z) > 0) {
        inner++;
        assertThat((double) now.xyz()[3 * v + 1]).isCloseTo(ShopWindow.PANE_DEPTH, within(0.001));
        // Glass is dark and blue, the putty around it green.
        int c = now.colours()[v];
        assertThat(c & 255).isGreaterThan(c >> 16 & 255);
      }
    }
    assertThat(inner).isGreaterThan(2000);
    // No gap: the only border is the front's own.
    assertThat(border(now)).isEqualTo(border(scan));
  }

  private static int border(Mesh m) {
    java.util.Map<Long, Integer> edges = new java.util.HashMap<>();
    int[] t = m.triangles();
    for (int h = 0; h < t.length; h++) {
      int a = t[h];
      int b = t[h % 3 == 2 ? h - 2 : h + 1];
      edges.merge((long) Math.min(a, b) << 32 | Math.max(a, b), 1, Integer::sum);
    }
    return (int) edges.values().stream().filter(n -> n == 1).count();
  }

  @Test
  void sameCountSameBytes() {
    assertThat(ShopWindow.scan(20_000).sameAs(ShopWindow.scan(20_000))).isTrue();
    Mesh m = ShopWindow.scan(20_000);
    assertThat(m.triangleCount()).isBetween(19_500, 21_000);
    double proud = 0;
    int n = 0;
    for (int v = 0; v < m.vertexCount(); v++) {
      if (ShopWindow.pane(m.xyz()[3 * v], m.xyz()[3 * v + 2]) > 0) {
        proud += ShopWindow.PANE_DEPTH - m.xyz()[3 * v + 1];
        n++;
      }
    }
    assertThat(proud / n).isBetween(0.004, 0.025);
  }
}

package holotome.core.reduce;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.select.Heights;
import holotome.core.select.Pick;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.Nearness;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What is selected is decimated less, more, or not at all. */
class EmphasisTest {
  private static final List<Pick> UPPER =
      List.of(Pick.of(Pick.Join.REPLACE, new Heights(new Length(0), null, new double[] {0, 0, 1})));

  private static Decimate step(
      Integer triangles,
      Length tolerance,
      Decimate.Selected selected,
      double times,
      List<Pick> of) {
    return new Decimate(
        triangles,
        null,
        tolerance,
        Role.CAST,
        Decimate.Texture.COLOURS,
        null,
        Decimate.Crossings.AVOID,
        selected,
        times,
        of,
        Decimate.Symmetric.NO);
  }

  private static Mesh light(
      Workpiece in, Integer triangles, Length tolerance, Decimate.Selected selected, double times) {
    Decimate d = step(triangles, tolerance, selected, times, UPPER);
    Mesh m = d.apply(in, Run.unwatched()).work().cast();
    Naive.assertSound(m);
    assertThat(Naive.closedAndOriented(m)).isTrue();
    return m;
  }

  private static double upper(Mesh m) {
    int n = 0;
    for (int t = 0; t < m.triangleCount(); t++) {
      double z = 0;
      for (int k = 0; k < 3; k++) {
        z += m.xyz()[3 * m.triangles()[3 * t + k] + 2];
      }
      n += z > 0 ? 1 : 0;
    }
    return n;
  }

  private static Workpiece ball() {
    return Workpiece.of(Shapes.sphere(1, 6), Frame.PLAIN);
  }

  /** The halves of a ball are alike: how many triangles each has is as its density. */
  @ParameterizedTest
  @ValueSource(doubles = {2, 4, 8})
  void soManyTimesAsDense(double times) {
    Mesh fine = light(ball(), 4000, null, Decimate.Selected.FINER, times);
    assertThat((double) fine.triangleCount()).isCloseTo(4000, within(40.0));
    double ratio = upper(fine) / (fine.triangleCount() - upper(fine));
    assertThat(ratio).isBetween(0.7 * times, 1.4 * times);
    Mesh coarse = light(ball(), 4000, null, Decimate.Selected.COARSER, times);
    double other = (coarse.triangleCount() - upper(coarse)) / upper(coarse);
    assertThat(other).isBetween(0.7 * times, 1.4 * times);
  }

  private static Set<String> upperTriangles(Mesh m) {
    Set<String> out = new HashSet<>();
    for (int t = 0; t < m.triangleCount(); t++) {
      StringBuilder s = new StringBuilder();
      boolean up = true;
      for (int k = 0; k < 3; k++) {
        int v = 3 * m.triangles()[3 * t + k];
        up &= m.xyz()[v + 2] >= 0;
        s.append(m.xyz()[v]).append(' ').append(m.xyz()[v + 1]).append(' ').append(m.xyz()[v + 2]);
        s.append(' ');
      }
      if (up) {
        out.add(s.toString());
      }
    }
    return out;
  }

  @Test
  void whatIsKeptStaysToTheLastBit() {
    Workpiece in = Workpiece.of(Shapes.sphere(1, 4), Frame.PLAIN);
    Mesh m = light(in, 2_900, null, Decimate.Selected.KEPT, 4);
    // Corners may begin elsewhere: whole triangles are found by their three places in turn.
    assertThat(upper(m)).isGreaterThan(0.98 * upper(in.scan()));
    Set<String> now = new HashSet<>();
    for (String s : upperTriangles(m)) {
      String[] n = s.split(" ");
      for (int k = 0; k < 9; k += 3) {
        StringBuilder turned = new StringBuilder();
        for (int i = 0; i < 9; i++) {
          turned.append(n[(i + k) % 9]).append(' ');
        }
        now.add(turned.toString());
      }
    }
    assertThat(now).containsAll(upperTriangles(in.scan()));
    assertThat(m.triangleCount()).isLessThan(3_200);
  }

  @Test
  void aToleranceHoldsWhateverCountsForMore() {
    Workpiece in = Workpiece.of(Shapes.sphere(1, 5), Frame.PLAIN);
    Mesh fine = light(in, null, new Length(0.006), Decimate.Selected.FINER, 8);
    assertThat(upper(fine)).isGreaterThan(1.5 * (fine.triangleCount() - upper(fine)));
    boolean[] far =
        Nearness.notShown(
            in.scan(), fine, Bvh.of(fine, Work.unwatched()), 0.0061, Work.unwatched());
    for (boolean f : far) {
      assertThat(f).isFalse();
    }
  }

  @Test
  void withoutASelectionThereIsNothingToTellApart() {
    assertThatThrownBy(() -> step(100, null, Decimate.Selected.FINER, 4, List.of()))
        .isInstanceOf(Failure.class);
    List<Pick> nothing =
        List.of(
            Pick.of(Pick.Join.REPLACE, new Heights(new Length(9), null, new double[] {0, 0, 1})));
    Decimate d = step(100, null, Decimate.Selected.KEPT, 4, nothing);
    assertThatThrownBy(() -> d.apply(ball(), Run.unwatched()))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("selected");
  }
}

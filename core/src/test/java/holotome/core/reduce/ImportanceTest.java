package holotome.core.reduce;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Importance;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.select.Heights;
import holotome.core.select.Pick;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.unit.Length;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What matters more gets more triangles, and still matters on the light mesh. */
class ImportanceTest {
  private static final List<Pick> UPPER =
      List.of(Pick.of(Pick.Join.REPLACE, new Heights(new Length(0), null, new double[] {0, 0, 1})));

  private static Workpiece ball(double times) {
    Workpiece in = Workpiece.of(Shapes.sphere(1, 6), Frame.PLAIN);
    return new GiveImportance(times, UPPER).apply(in, Run.unwatched()).work();
  }

  private static Mesh light(Workpiece in, int triangles) {
    return new Decimate(triangles, null, null, Role.CAST).apply(in, Run.unwatched()).work().cast();
  }

  private static int upper(Mesh m) {
    int n = 0;
    for (int t = 0; t < m.triangleCount(); t++) {
      n += middle(m, t) > 0 ? 1 : 0;
    }
    return n;
  }

  private static double middle(Mesh m, int t) {
    double z = 0;
    for (int k = 0; k < 3; k++) {
      z += m.xyz()[3 * m.triangles()[3 * t + k] + 2];
    }
    return z / 3;
  }

  /** The halves of a ball are alike: how many triangles each has is as its density. */
  @ParameterizedTest
  @ValueSource(doubles = {0.25, 1, 4})
  void soManyTimesTheTriangles(double times) {
    Mesh m = light(ball(times), 4000);
    Naive.assertSound(m);
    assertThat((double) m.triangleCount()).isCloseTo(4000, within(40.0));
    double ratio = (double) upper(m) / (m.triangleCount() - upper(m));
    assertThat(ratio).isBetween(0.7 * times, 1.4 * times);
  }

  /** By area, on the light mesh: triangles across the border belong to either side. */
  @Test
  void theLightMeshKnowsIt() {
    Mesh m = light(ball(4), 3000);
    float[] of = Importance.of(m);
    double right = 0;
    double all = 0;
    for (int t = 0; t < m.triangleCount(); t++) {
      double area = Vec.length(Measures.cross(m, t));
      assertThat(of[t]).isIn(1f, 4f);
      right += of[t] == (middle(m, t) > 0 ? 4 : 1) ? area : 0;
      all += area;
    }
    assertThat(right / all).isGreaterThan(0.95);
  }

  @Test
  void levelsGoByItToo() {
    Workpiece in = ball(4);
    Mesh level =
        new MakeLevels(5.0, null, null, 1, Decimate.Texture.KEEP)
            .apply(in, Run.unwatched())
            .work()
            .get(MakeLevels.level(1));
    assertThat((double) upper(level) / (level.triangleCount() - upper(level))).isBetween(2.8, 5.6);
  }

  @Test
  void onceForAllAgainThereIsNone() {
    Workpiece back = new GiveImportance(1, null).apply(ball(4), Run.unwatched()).work();
    assertThat(Importance.of(back.scan())).isNull();
    assertThat(light(back, 500).sameAs(light(Workpiece.of(Shapes.sphere(1, 6), Frame.PLAIN), 500)))
        .isTrue();
  }

  @Test
  void withoutAnythingSelectedItIsRefused() {
    assertThatThrownBy(() -> new GiveImportance(2, List.of())).isInstanceOf(Failure.class);
    List<Pick> none =
        List.of(
            Pick.of(Pick.Join.REPLACE, new Heights(new Length(9), null, new double[] {0, 0, 1})));
    Workpiece in = ball(2);
    assertThatThrownBy(() -> new GiveImportance(2, none).apply(in, Run.unwatched()))
        .isInstanceOf(Failure.class);
  }
}

package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.mesh.Mesh;
import holotome.core.step.Step;
import holotome.core.task.Work;
import holotome.core.topology.Charts;
import holotome.core.unwrap.KeepCharts;
import holotome.core.unwrap.ProjectCharts;
import holotome.core.unwrap.StraightenCharts;
import java.util.Arrays;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/** Charts projected as seen, made straight and kept, by pointer and keys. */
class ProjectWindowTest extends WindowCase {

  private Mesh cast() {
    return d.on(() -> d.desk().session().current().cast());
  }

  private Step last() {
    return d.on(() -> d.desk().session().history().lines().getLast().entry().step());
  }

  private void undo() {
    d.keys(KeyCode.CONTROL, KeyCode.Z);
    d.settle();
  }

  @Test
  void asSeenStraightAndKept() throws Exception {
    crateAsCast(KeyCode.DIGIT8);
    assertThat(d.text("project-where")).contains("all charts");
    apply();
    assertThat(Charts.of(cast(), Work.unwatched()).count()).isEqualTo(6);
    Mesh box = cast();
    d.click("unwrap-project-as-seen");
    d.settle();
    apply();
    ProjectCharts seen = (ProjectCharts) last();
    double[] forward = d.on(() -> d.desk().view().camera().forward());
    for (int k = 0; k < 3; k++) {
      assertThat(seen.axis()[k]).isCloseTo(-forward[k], within(1e-3));
    }
    assertThat(seen.how()).isEqualTo(ProjectCharts.How.FLAT);
    undo();
    d.keys(KeyCode.DIGIT9);
    d.settle();
    apply();
    assertThat(last()).isInstanceOf(StraightenCharts.class);
    undo();
    assertThat(Arrays.equals(cast().uv().coords(), box.uv().coords())).isTrue();
    d.keys(KeyCode.DIGIT0);
    d.settle();
    apply();
    assertThat(last()).isEqualTo(new KeepCharts(KeepCharts.How.SECOND));
  }
}

package holotome.app.window;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.app.model.Finding;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.model.Trials;
import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.task.Failure;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.mockito.Mockito;

/** What is said where the scan has not been measured. */
class FindingsTest {
  private final Session session = Mockito.mock(Session.class);
  private final Findings findings = new Findings(session, null, type -> {});

  private List<Finding> of(Stage stage) {
    Mesh mesh = new Mesh(new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0}, new int[] {0, 1, 2});
    Mockito.when(session.trials()).thenReturn(Mockito.mock(Trials.class));
    Mockito.when(session.current()).thenReturn(Workpiece.of(mesh, Frame.PLAIN));
    return findings.of(stage);
  }

  @Test
  void whileItIsMeasuredNothingCanBeDoneAboutIt() {
    Finding only = of(Stage.TRIM).getFirst();
    assertThat(only.title()).contains("Measuring");
    assertThat(only.actionName()).isNull();
  }

  @ParameterizedTest
  @EnumSource(
      value = Stage.class,
      names = {"TRIM", "MEND"})
  void whereItCouldNotBeMeasuredItSaysWhyAndTriesAgain(Stage stage) {
    Mockito.when(session.unmeasured())
        .thenReturn(
            new Failure(
                Failure.Kind.MEMORY, "Measuring needs about 2.8 GB of memory, 1.1 GB are free"));
    List<Finding> all = of(stage);
    assertThat(all).hasSize(1);
    assertThat(all.getFirst().text()).contains("needs about 2.8 GB", "no findings");
    all.getFirst().action().run();
    Mockito.verify(session).measureAgain();
  }
}

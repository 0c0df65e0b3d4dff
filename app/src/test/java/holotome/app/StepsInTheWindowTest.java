package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.app.model.Home;
import holotome.app.model.Jobs;
import holotome.app.model.Session;
import holotome.app.tool.Tool;
import holotome.app.tool.Tools;
import holotome.core.log.Catalogue;
import holotome.core.log.StepPages;
import holotome.core.step.StepKind;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A step that is in the Catalogue is in the window and in the documentation as well. */
class StepsInTheWindowTest {
  /** Units are declared where a scan is opened; a Cast from a file is one more way to have one. */
  private static final Set<String> ELSEWHERE =
      Set.of(
          "datum.unit",
          "intake.cast",
          "proxy.planes",
          "proxy.block",
          "proxy.edit",
          "proxy.settle",
          "swatch.lay",
          "swatch.settle",
          "swatch.tile");

  @TempDir private Path dir;

  @Test
  void everyStepHasAToolWordsAndAPlaceInTheDocs() throws Exception {
    Driver.startToolkit();
    Tools tools = new Tools(new Session(new Jobs(f -> {}), new Home(dir)));
    Path root = Path.of("").toAbsolutePath();
    root = root.endsWith("app") ? root.getParent() : root;
    String docs = Files.readString(root.resolve("docs").resolve("STEPS.md"));
    List<String> missing = new ArrayList<>();
    for (StepKind k : Catalogue.all()) {
      Tool t = tools.making(k.type());
      if (t == null) {
        missing.add(k.id() + " has no tool");
      } else {
        boolean inItsStage =
            t.stage().title().equalsIgnoreCase(k.stage()) || ELSEWHERE.contains(k.id());
        if (!inItsStage || t.title().isBlank() || t.hint().isBlank()) {
          missing.add(k.id() + " has a tool without words or in another stage");
        }
      }
      if (k.help().isBlank() || k.fields().stream().anyMatch(f -> f.help().isBlank())) {
        missing.add(k.id() + " has no help");
      }
      if (!docs.contains("`" + k.id() + "`")) {
        missing.add(k.id() + " is not in docs/STEPS.md: run scripts/steps");
      }
      for (StepKind.Field f : k.fields()) {
        if (!docs.contains("`" + f.name() + "`")) {
          missing.add(k.id() + "'s " + f.name() + " is not in docs/STEPS.md: run scripts/steps");
        }
      }
    }
    assertThat(missing).isEmpty();
    // Generated, and as generated: scripts/steps brings both in line.
    assertThat(docs).isEqualTo(StepPages.page());
    assertThat(Files.readString(root.resolve("README.md"))).contains(StepPages.table());
  }
}

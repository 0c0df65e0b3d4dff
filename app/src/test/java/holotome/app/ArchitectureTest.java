package holotome.app;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.Architectures.layeredArchitecture;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import org.junit.jupiter.api.Test;

/** The window's layers: the window over its panes over the tools over the model. */
class ArchitectureTest {
  private static final JavaClasses APP =
      new ClassFileImporter()
          .withImportOption(new ImportOption.DoNotIncludeTests())
          .importPackages("holotome.app");

  @Test
  void arrowsPointDownwards() {
    layeredArchitecture()
        .consideringOnlyDependenciesInLayers()
        .layer("application")
        .definedBy("holotome.app")
        .layer("window")
        .definedBy("..app.window..")
        .layer("pane")
        .definedBy("..app.pane..")
        .layer("tool")
        .definedBy("..app.tool..")
        .layer("model")
        .definedBy("..app.model..")
        .whereLayer("application")
        .mayNotBeAccessedByAnyLayer()
        .whereLayer("window")
        .mayOnlyBeAccessedByLayers("application")
        .whereLayer("pane")
        .mayOnlyBeAccessedByLayers("window")
        .whereLayer("tool")
        .mayOnlyBeAccessedByLayers("pane", "window")
        .whereLayer("model")
        .mayOnlyBeAccessedByLayers("tool", "pane", "window", "application")
        .check(APP);
  }

  @Test
  void theModelDrawsNothing() {
    noClasses()
        .that()
        .resideInAPackage("..app.model..")
        .should()
        .dependOnClassesThat()
        .resideInAnyPackage("javafx.scene..", "javafx.stage..")
        .check(APP);
  }
}

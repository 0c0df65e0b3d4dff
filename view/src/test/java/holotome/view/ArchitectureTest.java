package holotome.view;

import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.lang.syntax.ArchRuleDefinition;
import org.junit.jupiter.api.Test;

/** The parts of the view: levels of detail, raster, scene, shading and picking know no circle. */
class ArchitectureTest {
  private static final JavaClasses VIEW =
      new ClassFileImporter()
          .withImportOption(new ImportOption.DoNotIncludeTests())
          .importPackages("holotome.view");

  @Test
  void packagesAreFreeOfCycles() {
    slices().matching("holotome.view.(*)..").should().beFreeOfCycles().check(VIEW);
  }

  @Test
  void noToolkitInTheView() {
    ArchRuleDefinition.noClasses()
        .should()
        .dependOnClassesThat()
        .resideInAnyPackage("javafx..", "javax.swing..", "java.awt.event..")
        .check(VIEW);
  }
}

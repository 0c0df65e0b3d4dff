package holotome.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.Architectures.layeredArchitecture;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import holotome.core.step.Step;
import org.junit.jupiter.api.Test;

/** The layers of the core: arrows only downwards, stages do not know each other. */
class ArchitectureTest {
  private static final JavaClasses CORE =
      new ClassFileImporter()
          .withImportOption(new ImportOption.DoNotIncludeTests())
          .importPackages("holotome.core");
  private static final String[] STAGES = {
    "..core.intake..", "..core.trim..", "..core.mend..", "..core.datum..",
    "..core.reduce..", "..core.unwrap..", "..core.bake..", "..core.ship.."
  };

  @Test
  void arrowsPointDownwards() {
    layeredArchitecture()
        .consideringOnlyDependenciesInLayers()
        .layer("task")
        .definedBy("..core.task..")
        .layer("mesh")
        .definedBy("..core.mesh..")
        .layer("spatial")
        .definedBy("..core.spatial..", "..core.solve..")
        .layer("io")
        .definedBy("..core.io..")
        .layer("step")
        .definedBy("..core.step..")
        .layer("select")
        .definedBy("..core.select..")
        .layer("section")
        .definedBy("..core.section..", "..core.measure..")
        .layer("stages")
        .definedBy(STAGES)
        .layer("log")
        .definedBy("..core.log..")
        .whereLayer("log")
        .mayNotBeAccessedByAnyLayer()
        .whereLayer("stages")
        .mayOnlyBeAccessedByLayers("log")
        .whereLayer("select")
        .mayOnlyBeAccessedByLayers("stages", "log")
        .whereLayer("section")
        .mayOnlyBeAccessedByLayers("stages", "log")
        .whereLayer("step")
        .mayOnlyBeAccessedByLayers("select", "section", "stages", "log")
        .whereLayer("io")
        .mayOnlyBeAccessedByLayers("section", "stages", "log")
        .whereLayer("spatial")
        .mayOnlyBeAccessedByLayers("select", "section", "stages")
        .whereLayer("mesh")
        .mayOnlyBeAccessedByLayers("spatial", "io", "step", "select", "section", "stages", "log")
        .check(CORE);
  }

  @Test
  void stagesDoNotImportEachOther() {
    slices()
        .matching("holotome.core.(intake|trim|mend|datum|reduce|unwrap|bake|ship)..")
        .should()
        .notDependOnEachOther()
        .check(CORE);
  }

  @Test
  void noToolkitInTheCore() {
    noClasses()
        .should()
        .dependOnClassesThat()
        .resideInAnyPackage("javafx..", "javax.swing..", "java.awt.event..")
        .check(CORE);
  }

  @Test
  void stepsAreDescribedRecords() {
    classes()
        .that()
        .implement(Step.class)
        .should()
        .beRecords()
        .andShould()
        .beAnnotatedWith("holotome.core.step.Describes")
        .check(CORE);
  }
}

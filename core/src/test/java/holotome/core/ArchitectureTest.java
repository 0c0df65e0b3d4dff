package holotome.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.Architectures.layeredArchitecture;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.library.Architectures;
import holotome.core.step.Step;
import java.util.Arrays;
import org.junit.jupiter.api.Test;

/** The layers of the core: arrows only downwards, stages do not know each other. */
class ArchitectureTest {
  private static final JavaClasses CORE =
      new ClassFileImporter()
          .withImportOption(new ImportOption.DoNotIncludeTests())
          .importPackages("holotome.core");

  /** From the bottom up; packages on one line may know each other only as far as cycles allow. */
  private static final String[][] LAYERS = {
    {"words"},
    {"task"},
    {"memory"},
    {"array", "geometry", "unit"},
    {"image", "solve"},
    {"attribute"},
    {"mesh"},
    {"frame", "topology", "cut"},
    {"triangulation", "tangent"},
    {"spatial", "polygon"},
    {"contour", "quad"},
    {"io"},
    {"map"},
    {"part"},
    {"step"},
    {"touch"},
    {"select"},
    {"section", "measure"},
    {"intake", "trim", "mend", "datum", "reduce", "proxy", "swatch", "unwrap", "bake", "ship"},
    {"log"}
  };

  @Test
  void arrowsPointDownwards() {
    Architectures.LayeredArchitecture layers =
        layeredArchitecture().consideringOnlyDependenciesInLayers();
    for (String[] layer : LAYERS) {
      layers = layers.layer(layer[0]).definedBy(packages(layer));
    }
    for (int i = 0; i < LAYERS.length; i++) {
      String[] above =
          Arrays.stream(LAYERS, i + 1, LAYERS.length).map(l -> l[0]).toArray(String[]::new);
      var rule = layers.whereLayer(LAYERS[i][0]);
      layers =
          above.length == 0
              ? rule.mayNotBeAccessedByAnyLayer()
              : rule.mayOnlyBeAccessedByLayers(above);
    }
    layers.check(CORE);
  }

  private static String[] packages(String[] names) {
    return Arrays.stream(names).map(n -> "holotome.core." + n + "..").toArray(String[]::new);
  }

  @Test
  void everyPackageHasItsLayer() {
    classes()
        .should()
        .resideInAnyPackage(
            Arrays.stream(LAYERS).flatMap(l -> Arrays.stream(packages(l))).toArray(String[]::new))
        .check(CORE);
  }

  @Test
  void packagesAreFreeOfCycles() {
    slices().matching("holotome.core.(*)..").should().beFreeOfCycles().check(CORE);
  }

  @Test
  void stagesDoNotImportEachOther() {
    slices()
        .matching("holotome.core.(intake|trim|mend|datum|reduce|proxy|swatch|unwrap|bake|ship)..")
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

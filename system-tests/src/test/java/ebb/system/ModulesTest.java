package ebb.system;

import static com.tngtech.archunit.library.Architectures.layeredArchitecture;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption.DoNotIncludeTests;
import org.testng.annotations.Test;

public class ModulesTest {
  private static final JavaClasses ALL =
      new ClassFileImporter()
          .withImportOption(new DoNotIncludeTests())
          .importPackages(
              "ebb.api",
              "ebb.core",
              "ebb.connectors",
              "ebb.store",
              "ebb.service",
              "ebb.cli",
              "ebb.standins",
              "ebb.demo");

  @Test
  public void modulesDependOnlyInTheDirectionThatIsDrawn() {
    layeredArchitecture()
        .consideringOnlyDependenciesInAnyPackage("ebb..")
        .layer("api")
        .definedBy("ebb.api..")
        .layer("core")
        .definedBy("ebb.core..")
        .layer("connectors")
        .definedBy("ebb.connectors..")
        .layer("store")
        .definedBy("ebb.store..")
        .layer("service")
        .definedBy("ebb.service..")
        .layer("cli")
        .definedBy("ebb.cli..")
        .layer("standins")
        .definedBy("ebb.standins..")
        .layer("demo")
        .definedBy("ebb.demo..")
        .whereLayer("service")
        .mayNotBeAccessedByAnyLayer()
        .whereLayer("store")
        .mayOnlyBeAccessedByLayers("service")
        .whereLayer("connectors")
        .mayOnlyBeAccessedByLayers("service")
        .whereLayer("core")
        .mayOnlyBeAccessedByLayers("connectors", "store", "service")
        .whereLayer("api")
        .mayOnlyBeAccessedByLayers("service", "cli")
        .whereLayer("cli")
        .mayOnlyBeAccessedByLayers("demo")
        .whereLayer("standins")
        .mayOnlyBeAccessedByLayers("demo")
        .check(ALL);
  }

  @Test
  public void noTwoFeaturesOfTheServiceImportEachOther() {
    slices().matching("ebb.service.(*)..").should().beFreeOfCycles().check(ALL);
  }

  @Test
  public void noTwoFeaturesOfTheStoreImportEachOther() {
    slices().matching("ebb.store.(*)..").should().beFreeOfCycles().check(ALL);
  }

  @Test
  public void noTwoConnectorsImportEachOther() {
    slices().matching("ebb.connectors.(*)..").should().beFreeOfCycles().check(ALL);
  }
}

package ebb.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption.DoNotIncludeTests;
import java.time.Instant;
import java.time.LocalDate;
import org.testng.annotations.Test;

public class ArchitectureTest {
  private static final JavaClasses CORE =
      new ClassFileImporter().withImportOption(new DoNotIncludeTests()).importPackages("ebb.core");

  @Test
  public void noTwoPackagesImportEachOther() {
    slices().matching("ebb.core.(*)..").should().beFreeOfCycles().check(CORE);
  }

  @Test
  public void coreKnowsNoTechnologyOfTheRim() {
    noClasses()
        .should()
        .dependOnClassesThat()
        .resideInAnyPackage(
            "org.springframework..",
            "jakarta..",
            "org.hibernate..",
            "java.sql..",
            "java.net.http..",
            "com.unboundid..",
            "org.apache..",
            "tools.jackson..",
            "com.fasterxml..")
        .check(CORE);
  }

  @Test
  public void timeIsPassedIn() {
    noClasses()
        .should()
        .callMethod(Instant.class, "now")
        .orShould()
        .callMethod(LocalDate.class, "now")
        .check(CORE);
  }
}

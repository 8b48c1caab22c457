package jamjar.e2e;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.Architectures.layeredArchitecture;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import org.junit.jupiter.api.Test;

class ArchitectureTest {
  private final JavaClasses classes =
      new ClassFileImporter()
          .withImportOption(new ImportOption.DoNotIncludeTests())
          .importPackages("jamjar");

  @Test
  void the_arrows_between_the_modules_are_kept() {
    layeredArchitecture()
        .consideringOnlyDependenciesInAnyPackage("jamjar..")
        .layer("core")
        .definedBy("jamjar.core..")
        .layer("collect")
        .definedBy("jamjar.collect..")
        .layer("store")
        .definedBy("jamjar.store..")
        .layer("server")
        .definedBy("jamjar.server..")
        .layer("stand-ins")
        .definedBy("jamjar.standins..")
        .optionalLayer("bench")
        .definedBy("jamjar.bench..")
        .whereLayer("core")
        .mayNotAccessAnyLayer()
        .whereLayer("collect")
        .mayOnlyAccessLayers("core")
        .whereLayer("store")
        .mayOnlyAccessLayers("core")
        .whereLayer("server")
        .mayOnlyAccessLayers("collect", "store", "core")
        .whereLayer("stand-ins")
        .mayOnlyAccessLayers("collect", "store", "core")
        .check(classes);
  }

  @Test
  void the_core_is_plain_java_without_io_or_a_clock_of_its_own() {
    noClasses()
        .that()
        .resideInAPackage("jamjar.core..")
        .should()
        .dependOnClassesThat()
        .resideInAnyPackage(
            "org.springframework..", "java.sql..", "java.net..", "java.io..", "java.nio.file..")
        .check(classes);
    noClasses()
        .that()
        .resideInAPackage("jamjar.core..")
        .should()
        .callMethod(System.class, "currentTimeMillis")
        .orShould()
        .callMethod(java.time.Instant.class, "now")
        .check(classes);
  }
}

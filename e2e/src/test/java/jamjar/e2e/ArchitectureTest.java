package jamjar.e2e;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.Architectures.layeredArchitecture;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.util.List;
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
  void no_package_depends_on_itself_by_way_of_others() {
    for (String module : List.of("core", "collect", "store", "server", "standins", "bench")) {
      slices()
          .matching("jamjar." + module + ".(*)..")
          .should()
          .beFreeOfCycles()
          .allowEmptyShould(true)
          .check(classes);
    }
  }

  /** From the top down; each may use those below it. */
  private static final List<List<String>> FLOORS =
      List.of(
          List.of(
              "beans",
              "compare",
              "endpoints",
              "estate",
              "facts",
              "forecast",
              "gaps",
              "health",
              "heap",
              "keeping",
              "moved",
              "pools",
              "sealing",
              "series",
              "setup",
              "sessions",
              "statements",
              "telling",
              "threads",
              "together",
              "work"),
          List.of("preflight"),
          List.of("watch"),
          List.of("limits", "points"),
          List.of("normals", "alerts"),
          List.of("heads", "readings", "credentials"),
          List.of("instances", "groups", "arrangements", "jvms", "signon"),
          List.of("accounts", "markers", "recipes", "watching"),
          List.of("changes"),
          List.of("files", "live", "problems", "security", "settings", "numbers", "web"));

  @Test
  void the_servers_packages_lie_in_floors_and_arrows_go_down() {
    for (int floor = 1; floor < FLOORS.size(); floor++) {
      String[] above =
          FLOORS.subList(0, floor).stream()
              .flatMap(List::stream)
              .map(name -> "jamjar.server." + name + "..")
              .toArray(String[]::new);
      String[] here =
          FLOORS.get(floor).stream()
              .map(name -> "jamjar.server." + name + "..")
              .toArray(String[]::new);
      noClasses()
          .that()
          .resideInAnyPackage(here)
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage(above)
          .check(classes);
    }
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

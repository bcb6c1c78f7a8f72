package org.orderlyferry.matrix;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.Architectures.layeredArchitecture;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** Holds the arrows between the modules, and between the systems' packages. */
class ArchitectureTest {

    private static final JavaClasses ALL = new ClassFileImporter()
            .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
            .importPackages("org.orderlyferry");

    @Test
    void nothingPointsUpward() {
        layeredArchitecture()
                .consideringOnlyDependenciesInLayers()
                .layer("databases")
                .definedBy("org.orderlyferry.databases..")
                .layer("cli")
                .definedBy("org.orderlyferry.cli..")
                .layer("examples")
                .definedBy("org.orderlyferry.examples..")
                .whereLayer("databases")
                .mayNotAccessAnyLayer()
                .whereLayer("cli")
                .mayOnlyAccessLayers("databases")
                .whereLayer("examples")
                .mayNotBeAccessedByAnyLayer()
                .check(ALL);
    }

    @Test
    void aSystemKnowsNoOtherSystemAndNotHowItIsUsed() {
        List<String> systems = List.of("h2", "sqlite", "postgresql", "mariadb");
        for (String system : systems) {
            String[] others = Stream.concat(
                            systems.stream().filter(s -> !s.equals(system)), Stream.of("place", "loading", "naming"))
                    .map(s -> "org.orderlyferry.databases." + s + "..")
                    .toArray(String[]::new);
            noClasses()
                    .that()
                    .resideInAPackage("org.orderlyferry.databases." + system + "..")
                    .should()
                    .dependOnClassesThat()
                    .resideInAnyPackage(others)
                    .check(ALL);
        }
        noClasses()
                .that()
                .resideInAPackage("org.orderlyferry.databases")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("org.orderlyferry.databases.place..", "org.orderlyferry.databases.loading..")
                .check(ALL);
    }

    @Test
    void namesSayWhatAThingIs() {
        classes().should().haveNameNotMatching(".*(Utils?|Manager|Helper|Impl)").check(ALL);
    }
}

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
                .layer("documents")
                .definedBy("org.orderlyferry.documents..")
                .layer("cluster")
                .definedBy("org.orderlyferry.cluster..")
                .layer("cli")
                .definedBy("org.orderlyferry.cli..")
                .layer("examples")
                .definedBy("org.orderlyferry.examples..")
                .whereLayer("databases")
                .mayNotAccessAnyLayer()
                .whereLayer("documents")
                .mayNotAccessAnyLayer()
                .whereLayer("cluster")
                .mayNotAccessAnyLayer()
                .whereLayer("cli")
                .mayOnlyAccessLayers("databases")
                .whereLayer("examples")
                .mayNotBeAccessedByAnyLayer()
                .check(ALL);
    }

    @Test
    void aSystemKnowsNoOtherSystemAndNotHowItIsUsed() {
        List<String> systems = List.of("h2", "sqlite", "postgresql", "mariadb", "sqlserver", "oracle");
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
    }

    @Test
    void nothingInTheDatabasesPointsUpward() {
        JavaClasses databases = new ClassFileImporter()
                .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
                .importPackages("org.orderlyferry.databases");
        layeredArchitecture()
                .consideringOnlyDependenciesInLayers()
                .layer("sql")
                .definedBy("org.orderlyferry.databases.sql")
                .layer("dialect")
                .definedBy("org.orderlyferry.databases.dialect")
                .layer("lane")
                .definedBy("org.orderlyferry.databases.lane")
                .layer("naming")
                .definedBy("org.orderlyferry.databases.naming")
                .layer("systems")
                .definedBy(
                        "org.orderlyferry.databases.h2",
                        "org.orderlyferry.databases.sqlite",
                        "org.orderlyferry.databases.postgresql",
                        "org.orderlyferry.databases.mariadb",
                        "org.orderlyferry.databases.sqlserver",
                        "org.orderlyferry.databases.oracle")
                // a dialect that isn't registered, but made where a database is opened
                .layer("driver")
                .definedBy("org.orderlyferry.databases.driver")
                .layer("check")
                .definedBy("org.orderlyferry.databases.check")
                .layer("loading")
                .definedBy("org.orderlyferry.databases.loading")
                .layer("dump")
                .definedBy("org.orderlyferry.databases.dump")
                .layer("script")
                .definedBy("org.orderlyferry.databases.script")
                .layer("place")
                .definedBy("org.orderlyferry.databases.place")
                .whereLayer("sql")
                .mayNotAccessAnyLayer()
                .whereLayer("dialect")
                .mayOnlyAccessLayers("sql")
                .whereLayer("lane")
                .mayOnlyAccessLayers("dialect")
                .whereLayer("naming")
                .mayOnlyAccessLayers("dialect")
                .whereLayer("systems")
                .mayOnlyAccessLayers("sql", "dialect", "lane")
                .whereLayer("driver")
                .mayOnlyAccessLayers("sql", "dialect", "lane")
                .whereLayer("loading")
                .mayOnlyAccessLayers("dialect", "naming", "check")
                .whereLayer("check")
                .mayOnlyAccessLayers("sql")
                .whereLayer("dump")
                .mayNotAccessAnyLayer()
                .whereLayer("script")
                .mayOnlyAccessLayers("sql", "dialect", "naming", "dump")
                .whereLayer("place")
                .mayOnlyAccessLayers("sql", "dialect", "lane", "naming", "driver", "loading")
                .ensureAllClassesAreContainedInArchitecture()
                .check(databases);
    }

    @Test
    void namesSayWhatAThingIs() {
        classes().should().haveNameNotMatching(".*(Utils?|Manager|Helper|Impl)").check(ALL);
    }
}

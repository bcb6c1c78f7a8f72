package org.orderlyferry.examples;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.library.Architectures.layeredArchitecture;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
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
    void aSystemKnowsNoOtherSystem() {
        slices().matching("org.orderlyferry.databases.(*)..")
                .should()
                .notDependOnEachOther()
                .ignoreDependency(
                        com.tngtech.archunit.base.DescribedPredicate.alwaysTrue(),
                        com.tngtech.archunit.core.domain.JavaClass.Predicates.resideInAPackage("..databases.sql.."))
                .check(ALL);
    }

    @Test
    void namesSayWhatAThingIs() {
        classes().should().haveNameNotMatching(".*(Utils?|Manager|Helper|Impl)").check(ALL);
    }
}

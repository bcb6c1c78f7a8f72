package org.orderlyferry;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.Architectures.layeredArchitecture;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import org.junit.jupiter.api.Test;

/** Holds the arrows between core's packages: a record meets them from the bottom up, and nothing points upward. */
class ArchitectureTest {

    private static final JavaClasses CORE = new ClassFileImporter()
            .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
            .importPackages("org.orderlyferry");

    @Test
    void nothingPointsUpward() {
        layeredArchitecture()
                .consideringOnlyDependenciesInLayers()
                .layer("model")
                .definedBy("org.orderlyferry.model..")
                .layer("problem")
                .definedBy("org.orderlyferry.problem..")
                .layer("text")
                .definedBy("org.orderlyferry.record.text")
                .layer("record")
                .definedBy("org.orderlyferry.record")
                .layer("fit")
                .definedBy("org.orderlyferry.record.fit")
                .layer("apart")
                .definedBy("org.orderlyferry.record.apart")
                .layer("io")
                .definedBy("org.orderlyferry.io")
                .layer("tally")
                .definedBy("org.orderlyferry.tally..")
                .layer("format")
                .definedBy("org.orderlyferry.format..")
                .layer("place")
                .definedBy("org.orderlyferry.place..")
                .layer("csvw")
                .definedBy("org.orderlyferry.csvw..")
                .layer("profile")
                .definedBy("org.orderlyferry.profile..")
                .layer("file")
                .definedBy("org.orderlyferry.file..")
                .layer("reshape")
                .definedBy("org.orderlyferry.reshape..")
                .layer("view")
                .definedBy("org.orderlyferry.view..")
                .layer("exportset")
                .definedBy("org.orderlyferry.exportset..")
                .layer("progress")
                .definedBy("org.orderlyferry.progress..")
                .layer("work")
                .definedBy("org.orderlyferry.work..")
                .layer("ledger")
                .definedBy("org.orderlyferry.ledger..")
                .layer("crossing")
                .definedBy("org.orderlyferry.crossing..")
                .layer("reconcile")
                .definedBy("org.orderlyferry.reconcile..")
                .layer("integrity")
                .definedBy("org.orderlyferry.integrity..")
                .layer("report")
                .definedBy("org.orderlyferry.report..")
                .whereLayer("model")
                .mayNotAccessAnyLayer()
                .whereLayer("problem")
                .mayNotAccessAnyLayer()
                .whereLayer("text")
                .mayOnlyAccessLayers("model", "problem")
                .whereLayer("record")
                .mayOnlyAccessLayers("model", "problem", "text")
                .whereLayer("fit")
                .mayOnlyAccessLayers("model", "problem", "text", "record")
                .whereLayer("apart")
                .mayNotAccessAnyLayer()
                .whereLayer("io")
                .mayOnlyAccessLayers("problem", "text")
                .whereLayer("tally")
                .mayOnlyAccessLayers("model", "text", "record")
                .whereLayer("format")
                .mayOnlyAccessLayers("model", "problem", "text", "record", "fit", "apart", "io", "progress")
                .whereLayer("place")
                .mayOnlyAccessLayers("model", "problem", "text", "record", "fit", "io", "tally", "format")
                .whereLayer("csvw")
                .mayOnlyAccessLayers("model", "problem", "io", "format")
                .whereLayer("profile")
                .mayOnlyAccessLayers("model", "problem", "text", "record", "fit", "format")
                .whereLayer("file")
                .mayOnlyAccessLayers(
                        "model",
                        "problem",
                        "text",
                        "record",
                        "fit",
                        "io",
                        "format",
                        "csvw",
                        "place",
                        "profile",
                        "progress")
                .whereLayer("reshape")
                .mayOnlyAccessLayers("model", "problem", "text", "record", "fit", "tally", "place")
                .whereLayer("view")
                .mayOnlyAccessLayers("model", "problem", "record", "place", "progress")
                .whereLayer("exportset")
                .mayOnlyAccessLayers(
                        "model", "problem", "text", "record", "fit", "io", "tally", "format", "csvw", "place")
                .whereLayer("progress")
                .mayOnlyAccessLayers("model", "problem")
                .whereLayer("work")
                .mayOnlyAccessLayers(
                        "model",
                        "problem",
                        "text",
                        "record",
                        "fit",
                        "io",
                        "tally",
                        "format",
                        "csvw",
                        "place",
                        "exportset",
                        "progress")
                .whereLayer("integrity")
                .mayOnlyAccessLayers("model", "problem", "record", "io", "tally", "place", "progress", "work")
                .whereLayer("reconcile")
                .mayOnlyAccessLayers(
                        "model", "problem", "text", "record", "io", "tally", "format", "place", "progress", "work")
                .whereLayer("report")
                .mayOnlyAccessLayers(
                        "model",
                        "problem",
                        "record",
                        "io",
                        "tally",
                        "place",
                        "exportset",
                        "progress",
                        "work",
                        "reconcile")
                .whereLayer("ledger")
                .mayOnlyAccessLayers("model", "problem", "io")
                .whereLayer("crossing")
                .mayOnlyAccessLayers(
                        "model",
                        "problem",
                        "record",
                        "io",
                        "tally",
                        "format",
                        "place",
                        "exportset",
                        "reshape",
                        "view",
                        "progress",
                        "work",
                        "integrity",
                        "ledger",
                        "reconcile",
                        "report")
                .ensureAllClassesAreContainedInArchitecture()
                .check(CORE);
    }

    @Test
    void packagesHaveNoCircles() {
        slices().matching("org.orderlyferry.(**)").should().beFreeOfCycles().check(CORE);
    }

    @Test
    void coreKnowsNoDriverAndNoConsole() {
        noClasses()
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("java.sql..", "javax.sql..", "picocli..", "ch.qos.logback..")
                .orShould()
                .accessField(System.class, "out")
                .orShould()
                .accessField(System.class, "err")
                .check(CORE);
    }

    @Test
    void namesSayWhatAThingIs() {
        classes().should().haveNameNotMatching(".*(Utils?|Manager|Helper|Impl)").check(CORE);
    }
}

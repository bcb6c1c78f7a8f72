package org.orderlyferry.examples;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.cli.Ferry;

/** The demo, as it is called. */
class DemoTest {

    @TempDir
    private Path folder;

    @Test
    void theDemoGoesAllTheWay() {
        Path place = folder.resolve("demo");
        Ferry demo = Ferry.run("demo", "--folder", place, "--specimens", 100, "--readings", 10);
        assertThat(demo.code()).as(demo.err()).isZero();
        assertThat(demo.out())
                .contains(
                        "$ ferry look",
                        "$ ferry export",
                        "$ ferry load",
                        "$ ferry reconcile",
                        "13 of 13 tables equal.");
        assertThat(Ferry.run("demo", "--folder", place))
                .isEqualTo(new Ferry(
                        2, "", "ferry: " + place + " is there already; remove it, or give another with --folder\n"));
    }

    @Test
    void itsHelpHasAnExample() {
        assertThat(Ferry.run("demo", "--help").out()).contains("Usage: ferry demo", "Example: ferry demo");
    }

    @Test
    void aStoreIsStartedFilledAndProved() {
        Ferry demo = Ferry.run(
                "demo", "--store", "--folder", folder.resolve("of-store"), "--specimens", 60, "--readings", 10);
        assertThat(demo.code()).as(demo.err()).isZero();
        assertThat(demo.out()).contains("$ ferry load", "store://127.0.0.1:", "13 of 13 tables equal");
    }
}

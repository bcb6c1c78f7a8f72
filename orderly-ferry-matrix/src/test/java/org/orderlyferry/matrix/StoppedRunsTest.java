package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.cli.Ferry;
import org.orderlyferry.cli.Terminal;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.testkit.servers.TestSystem;

/** A run that somebody stops goes on later with the slices that aren't in, as one does that was killed. */
class StoppedRunsTest extends CrossingCase {

    private static Path slow(String name, String url) throws Exception {
        return draft(
                name,
                old,
                url,
                "slice-rows: 1000000",
                "slice-rows: 500",
                "rows-per-second: 0",
                "rows-per-second: 4000");
    }

    /** Stops a run when some slices of a step are done, and others aren't. */
    private static void stopped(Path file, String step) throws Exception {
        StopSignal stop = new StopSignal();
        CompletableFuture<Ferry> run =
                CompletableFuture.supplyAsync(() -> Ferry.run(Terminal.NONE, stop, "run", file.toString()));
        while (slicesOf(step, file) < 3) {
            assertThat(run.isDone()).as("it ended before it could be stopped").isFalse();
            Thread.sleep(2);
        }
        stop.stop();
        Ferry ferry = run.get(30, TimeUnit.SECONDS);
        assertThat(ferry.code()).as(ferry.out() + ferry.err()).isEqualTo(3);
        assertThat(ferry.err()).contains("ferry: stopped. What is done stays: ferry run ");
    }

    /** How many slices of a step a run's log tells of. */
    private static long slicesOf(String step, Path file) throws Exception {
        Path runs = file.resolveSibling("runs");
        if (!Files.exists(runs)) {
            return 0;
        }
        List<Path> logs;
        try (Stream<Path> all = Files.list(runs)) {
            logs = all.map(r -> r.resolve("log.txt")).filter(Files::exists).toList();
        }
        return logs.isEmpty()
                ? 0
                : Files.readAllLines(logs.get(0)).stream()
                        .dropWhile(l -> !l.endsWith(step + " begins"))
                        .filter(l -> l.contains("Z slice "))
                        .count();
    }

    @Test
    void inTheExport() throws Exception {
        String url = TestSystem.H2.fresh(folder);
        Path file = slow("stopped-export", url);
        edit(file, "source-moment: \\w+", "source-moment: still");
        stopped(file, "export");
        assertThat(must(0, "run", file).out()).contains("slices already in").contains("proved");
        must(0, "reconcile", old, url);
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void inTheLoad(String system) throws Exception {
        // undoing is of the target alone, and the kills try it on all
        for (String then : system.equals("H2") ? List.of("run", "undo") : List.of("run")) {
            String url = TestSystem.of(system).fresh(folder);
            Path file = slow("stopped-load-" + system + then, url);
            stopped(file, "load");
            Ferry again = must(0, then, file);
            if (then.equals("undo")) {
                assertThat(tables(url)).isEmpty();
                continue;
            }
            assertThat(again.out()).contains("goes on").contains("proved");
            if (!system.equals("SQLite")) {
                assertThat(again.out()).contains("slices already in");
            }
            must(0, "reconcile", old, url);
            assertThat(must(0, "look", url).out()).doesNotContain("unfinished load", "orderly_ferry_");
        }
    }
}

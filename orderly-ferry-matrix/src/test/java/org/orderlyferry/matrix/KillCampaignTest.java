package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.cli.Ferry;
import org.orderlyferry.cli.FerryProcess;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.testkit.herbarium.Herbarium;
import org.orderlyferry.testkit.servers.TestSystem;

/**
 * Real processes that are killed outright, at any moment of their work. A build doesn't do it, since it takes
 * its time: {@code -Dferry.kills=50} kills fifty of each kind, and {@code -Dferry.seed=S} at other moments.
 */
class KillCampaignTest {

    private static final int KILLS = Integer.getInteger("ferry.kills", 0);

    @TempDir
    private static Path folder;

    private static Path small;
    private static Path large;

    @BeforeAll
    static void makeTwoSets() throws Exception {
        assumeTrue(KILLS > 0, "asked for by -Dferry.kills");
        small = set("small", 1_000);
        large = set("large", 60_000);
    }

    private static Path set(String name, long readings) throws Exception {
        Path old = folder.resolve(name + ".mv.db");
        new Herbarium().specimens(300).readings(readings).commonDates(true).create(old);
        Path set = folder.resolve(name);
        assertThat(Ferry.run("export", old, set).code()).isZero();
        return set;
    }

    private static Process start(Object... arguments) throws IOException {
        return FerryProcess.start("256m", ProcessBuilder.Redirect.DISCARD, arguments);
    }

    /** How long a whole run takes, in milliseconds. */
    private static long whole(Object... arguments) throws Exception {
        long begun = System.nanoTime();
        Process process = start(arguments);
        assertThat(process.waitFor(5, TimeUnit.MINUTES)).isTrue();
        assertThat(process.exitValue()).isZero();
        return TimeUnit.NANOSECONDS.toMillis(System.nanoTime() - begun);
    }

    /** Kills a run at a moment of its time; whether it was still running. */
    private static boolean killed(long after, Object... arguments) throws Exception {
        Process process = start(arguments);
        boolean ended = process.waitFor(after, TimeUnit.MILLISECONDS);
        process.destroyForcibly();
        assertThat(process.waitFor(1, TimeUnit.MINUTES)).isTrue();
        return !ended;
    }

    private static Map<String, Long> counts(String place) {
        Map<String, Long> counts = new TreeMap<>();
        try (Place open = Places.open(place)) {
            for (TableName table : open.tables()) {
                counts.put(table.name(), open.count(table));
            }
        }
        return counts;
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void aKilledLoadIsOldOrNewOrToldAsUnfinishedAndTheNextOnePutsItRight(String system) throws Exception {
        Random random = new Random(Long.getLong("ferry.seed", 417L));
        String url = TestSystem.of(system).fresh(folder);
        String[] loadLarge = {"load", large.toString(), url, "--onto", "replace", "--lanes", "2"};
        assertThat(Ferry.run("load", small, url).code()).isZero();
        long time = whole((Object[]) loadLarge);
        Map<String, Long> expected = counts(large.toString());
        for (int i = 0; i < KILLS; i++) {
            assertThat(Ferry.run("load", small, url, "--onto", "replace").code())
                    .isZero();
            long moment = (long) (time * (0.3 + 0.7 * random.nextDouble()));
            killed(moment, (Object[]) loadLarge);
            String when = system + " killed after " + moment + " of " + time + " ms";
            Ferry look = Ferry.run("look", url);
            assertThat(look.code()).as(when + look.err()).isZero();
            if (!look.out().contains("unfinished load")) {
                assertThat(counts(url)).as(when).isIn(counts(small.toString()), expected);
            }
            Ferry again = Ferry.run((Object[]) loadLarge);
            assertThat(again.code()).as(when + again.err()).isZero();
            assertThat(counts(url)).as(when).isEqualTo(expected);
            assertThat(Ferry.run("look", url).out()).as(when).doesNotContain("unfinished load", "orderly_ferry_");
            if (i == KILLS - 1) {
                assertThat(Ferry.run("reconcile", large, url).code()).as(when).isZero();
            }
        }
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void aKilledExportIsNoSetAndTheNextOneClearsItAway(String system) throws Exception {
        Random random = new Random(Long.getLong("ferry.seed", 417L));
        String url = TestSystem.of(system).fresh(folder);
        assertThat(Ferry.run("load", large, url).code()).isZero();
        Path set = folder.resolve("of-" + system);
        Object[] export = {"export", url, set, "--overwrite", "--lanes", "2"};
        long time = whole(export);
        Map<String, Long> expected = counts(set.toString());
        for (int i = 0; i < KILLS; i++) {
            long moment = (long) (time * (0.3 + 0.7 * random.nextDouble()));
            killed(moment, export);
            String when = system + " killed after " + moment + " of " + time + " ms";
            if (Files.exists(set)) {
                assertThat(counts(set.toString())).as(when).isEqualTo(expected);
            }
            assertThat(Ferry.run(export).code()).as(when).isZero();
            assertThat(counts(set.toString())).as(when).isEqualTo(expected);
            try (var left = Files.list(folder)) {
                assertThat(left.filter(p -> p.getFileName().toString().startsWith(".of-" + system)))
                        .as(when)
                        .isEmpty();
            }
        }
    }
}

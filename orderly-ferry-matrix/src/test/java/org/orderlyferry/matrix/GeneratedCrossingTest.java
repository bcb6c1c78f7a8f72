package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.cli.Ferry;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.testkit.generated.GeneratedRows;
import org.orderlyferry.testkit.generated.GeneratedTables;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;

/** Crossings of tables that nobody thought of: what is drafted is checked, run, caught up and undone as it stands. */
class GeneratedCrossingTest {

    /** Without a number, each system is a source and a target once; with one, all pairs are crossed. */
    private static final int SEEDS = Integer.getInteger("ferry.definitions", 0);

    @TempDir
    private Path folder;

    static Stream<Arguments> pairsAndSeeds() {
        List<String> systems = TestSystem.names().toList();
        long seed = Long.getLong("ferry.seed", 9) * 1_000;
        if (SEEDS == 0) {
            return IntStream.range(0, systems.size())
                    .mapToObj(i -> Arguments.of(systems.get(i), systems.get((i + 1) % systems.size()), seed + i));
        }
        return systems.stream().flatMap(from -> systems.stream()
                .flatMap(to -> IntStream.range(0, SEEDS).mapToObj(n -> Arguments.of(from, to, seed + n))));
    }

    private static void must(Object... arguments) {
        Ferry done = Ferry.run(arguments);
        assertThat(done.code())
                .as(List.of(arguments) + "\n" + done.out() + done.err())
                .isZero();
    }

    @ParameterizedTest(name = "{0} to {1}, {2}")
    @MethodSource("pairsAndSeeds")
    void aCrossingAsItWasDraftedComesToItsEndAndIsUndone(String from, String to, long seed) throws Exception {
        String source = TestSystem.of(from).fresh(folder);
        String target = TestSystem.of(to).fresh(folder);
        List<TableDefinition> tables = new GeneratedTables(seed).some(6);
        try (TargetPlace place = Places.openTarget(source)) {
            Load.from(new GeneratedRows(seed).fill(tables, 30)).into(place);
        }
        Path crossing = folder.resolve("crossing.yaml");
        must("draft", source, target, "--file", crossing);
        String drafted = Files.readString(crossing);
        // a second look finds nothing new
        must("draft", source, target, "--file", crossing);
        assertThat(Files.readString(crossing)).isEqualTo(drafted);
        must("check", crossing, "--values");
        must("run", crossing);
        try (Place place = Places.open(target)) {
            assertThat(place.tables()).hasSameSizeAs(tables);
        }
        Ferry caughtUp = Ferry.run("run", crossing, "--catch-up");
        if (caughtUp.code() != 0) {
            // a key that the target couldn't make was left behind by name
            assertThat(caughtUp.err()).contains("has no primary key, by which records could be merged");
        }
        must("undo", crossing, "--accept-changes");
        if (!TestSystem.of(to).isServer()) {
            return;
        }
        try (Place place = Places.open(target)) {
            assertThat(place.tables()).isEmpty();
        }
    }

    /** Facts often have no key: such a table can be shown to be as it was, and no more. */
    @ParameterizedTest
    @MethodSource("systems")
    void tablesWithoutAKeyAreCaughtUpAsLongAsTheyStayAsTheyWere(String system) throws Exception {
        String source = TestSystem.of(system).fresh(folder);
        String target = TestSystem.of(system).fresh(folder);
        Databases.run(
                source,
                "CREATE TABLE leaf (n INTEGER, note VARCHAR(20))",
                "INSERT INTO leaf VALUES (1, 'moss'), (1, 'moss'), (2, NULL)");
        Path crossing = folder.resolve("crossing.yaml");
        must("draft", source, target, "--file", crossing);
        must("run", crossing);
        Ferry nothing = Ferry.run("run", crossing, "--catch-up");
        assertThat(nothing.code()).as(nothing.err()).isZero();
        assertThat(nothing.out()).contains("no table, 0 rows in the set").contains("equal");

        Databases.run(source, "INSERT INTO leaf VALUES (3, 'fern')");
        Ferry refused = Ferry.run("run", crossing, "--catch-up");
        assertThat(refused.code()).isEqualTo(2);
        assertThat(refused.err())
                .contains("have no primary key, and have changed")
                .containsIgnoringCase("leaf");
        assertThat(Databases.rows(target, "SELECT COUNT(*) FROM leaf")).containsExactly("3");
    }

    static Stream<String> systems() {
        return TestSystem.names();
    }
}

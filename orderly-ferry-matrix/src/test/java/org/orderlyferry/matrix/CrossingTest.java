package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.cli.Ferry;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.testkit.herbarium.Herbarium;
import org.orderlyferry.testkit.servers.TestSystem;

/** Whole crossings of the herbarium by the command line: drafted, checked, run, killed, gone on with, undone. */
class CrossingTest extends CrossingCase {
    /** How many kills of each kind; {@code -Dferry.kills=13} makes the campaign of two hundred. */
    private static final int KILLS = Integer.getInteger("ferry.kills", 1);

    /** Tables are replaced, and kept by the target. */
    private static final String KEPT = "kept";

    static Stream<Arguments> systemsAndModes() {
        return TestSystem.names().flatMap(system -> Stream.of("refuse", "append", "replace", "merge")
                .map(m -> Arguments.of(system, m)));
    }

    /** In the campaign all of them; otherwise each system in two modes, and each mode in two systems. */
    static Stream<Arguments> systemsAndModesToKill() {
        List<Arguments> all = systemsAndModes().toList();
        Stream<Arguments> some = IntStream.range(0, all.size())
                .filter(i -> KILLS > 1 || (i / 4 + i) % 2 == 0)
                .mapToObj(all::get);
        return KILLS > 1 && TestSystem.names().anyMatch("PostgreSQL"::equals)
                ? Stream.concat(some, Stream.of(Arguments.of("PostgreSQL", KEPT)))
                : some;
    }

    /** A target as it is before a crossing of a mode. */
    private static String before(String system, String mode) throws Exception {
        String url = TestSystem.of(system).fresh(folder);
        switch (mode) {
            case "replace", KEPT -> must(0, "load", small, url);
            case "append" -> must(0, "run", part(system, url, "chamber_reading", "id <= 1500"));
            case "merge" -> must(0, "run", part(system, url, "taxon", "id <= 100"));
            default -> {
                // empty
            }
        }
        return url;
    }

    /** A crossing of some records of one table. */
    private static Path part(String system, String url, String table, String where) throws Exception {
        Path file =
                Files.createDirectories(folder.resolve("part" + url.hashCode())).resolve("crossing.yaml");
        must(0, "draft", old, url, table, "--file", file);
        edit(file, "where: \"\"", "where: \"" + where + "\"");
        return file;
    }

    private static Path crossing(String system, String mode, String url, String name) throws Exception {
        if (mode.equals(KEPT)) {
            Path file = crossing(system, "replace", url, name);
            edit(file, "keep-replaced: false", "keep-replaced: true");
            return file;
        }
        if (!mode.equals("append")) {
            return draft(name, old, url, "onto: refuse", "onto: " + mode, "slice-rows: 1000000", "slice-rows: 500");
        }
        Path file = Files.createDirectories(folder.resolve(name)).resolve("crossing.yaml");
        must(0, "draft", old, url, "chamber_reading", "--file", file);
        edit(file, "onto: refuse", "onto: append", "slice-rows: 1000000", "slice-rows: 500");
        edit(file, "where: \"\"", "where: \"id > 1500\"");
        return file;
    }

    @ParameterizedTest
    @MethodSource("systemsAndModes")
    void aCrossingComesToItsEndAndIsUndone(String system, String mode) throws Exception {
        String url = before(system, mode);
        Path kept = folder.resolve("kept-" + system + mode);
        boolean any = !tables(url.toString()).isEmpty();
        if (any) {
            must(0, "export", url, kept);
        }
        Path file = crossing(system, mode, url, "whole-" + system + mode);

        assertThat(must(0, "check", file).out()).contains("It can begin");
        Ferry run = must(0, "run", file);
        assertThat(run.out()).contains("proved");
        must(
                0,
                mode.equals("append")
                        ? new Object[] {"reconcile", old, url, "chamber_reading"}
                        : new Object[] {"reconcile", old, url});

        must(0, "undo", file);
        if (any) {
            must(0, "reconcile", kept, url);
        } else {
            assertThat(tables(url)).isEmpty();
        }
        assertThat(Ferry.run("undo", file).err()).contains("was undone already");
    }

    @ParameterizedTest
    @MethodSource("systemsAndModesToKill")
    void aRunThatIsKilledGoesOnAndIsUndone(String system, String mode) throws Exception {
        Random random = new Random(Long.getLong("ferry.seed", 417L) + (system + mode).hashCode());
        for (int i = 0; i < KILLS; i++) {
            String name = "killed-" + system + mode + i;
            String url = before(system, mode);
            Path file = crossing(system, mode, url, name);
            int at = 1 + random.nextInt(mode.equals("append") ? 40 : 120);
            int code = halted(file, at);
            String when = system + ", " + mode + ", killed at " + at;
            assertThat(code)
                    .as(when + Files.readString(folder.resolve("halted.log")))
                    .isIn(HaltedRun.KILLED, 0);
            if (code == HaltedRun.KILLED && i % 3 == 2) {
                must(0, "undo", file);
                must(0, "run", file);
            } else if (code == HaltedRun.KILLED) {
                Ferry again = must(0, "run", file);
                assertThat(again.out()).as(when).contains("goes on").contains("proved");
            }
            must(
                    0,
                    mode.equals("append")
                            ? new Object[] {"reconcile", old, url, "chamber_reading"}
                            : new Object[] {"reconcile", old, url});
            String looked = must(0, "look", url).out();
            assertThat(looked).as(when).doesNotContain("unfinished load");
            assertThat(looked.split("orderly_ferry_", -1)).as(when).hasSize(mode.equals(KEPT) ? 2 : 1);
        }
    }

    @Test
    void fromAnyPrefixOfItsLedgerARunEndsInTheSameState() throws Exception {
        for (String mode : List.of("refuse", "append", "replace", "merge", KEPT)) {
            if (mode.equals(KEPT) && TestSystem.names().noneMatch("PostgreSQL"::equals)) {
                continue;
            }
            String system = mode.equals(KEPT) ? "PostgreSQL" : "H2";
            String url = before(system, mode);
            Path file = crossing(system, mode, url, "prefix-" + mode);
            must(0, "run", file);
            Path ledger;
            try (Stream<Path> runs = Files.walk(file.resolveSibling("runs"))) {
                ledger =
                        runs.filter(p -> p.endsWith("ledger.jsonl")).findFirst().orElseThrow();
            }
            List<String> whole = Files.readAllLines(ledger);
            for (int lines = 1; lines < whole.size(); lines++) {
                // as a process leaves it that was killed in the middle of its next line
                Files.writeString(
                        ledger,
                        String.join("\n", whole.subList(0, lines)) + "\n"
                                + whole.get(lines).substring(0, whole.get(lines).length() / 2));
                Ferry again = must(0, "run", file);
                assertThat(again.out())
                        .as(mode + " " + lines)
                        .contains("goes on")
                        .contains("proved");
                must(
                        0,
                        mode.equals("append")
                                ? new Object[] {"reconcile", old, url, "chamber_reading"}
                                : new Object[] {"reconcile", old, url});
            }
        }
    }

    @Test
    void statementsAreRunOnceAndUndone() throws Exception {
        String url = TestSystem.MARIADB.fresh(folder);
        Path file = draft(
                "statements",
                old,
                url,
                "before: \\[\\]",
                "before: [{ run: \"CREATE TABLE noted (n INT)\", undo: DROP TABLE noted }]",
                "after: \\[\\]",
                "after: [{ run: INSERT INTO noted VALUES (1) }, { run: INSERT INTO nowhere VALUES (1) }]");
        assertThat(must(0, "check", file).out())
                .contains("CREATE TABLE noted (n INT); undone by DROP TABLE noted")
                .contains("INSERT INTO noted VALUES (1); not undone");
        assertThat(must(3, "run", file).err()).contains("nowhere");
        Ferry again = must(2, "run", file);
        assertThat(again.err())
                .contains("statement 2 after the load failed when it was run")
                .contains("INSERT INTO nowhere");
        Ferry told = must(0, "run", file, "--statement", "done");
        assertThat(told.out()).contains("after   statement 1").contains("proved");
        try (Place target = Places.open(url)) {
            assertThat(target.count(TableName.of("noted"))).isEqualTo(1);
        }
        must(0, "undo", file);
        assertThat(tables(url)).isEmpty();
    }

    @Test
    void tablesOfOneNameInSeveralSchemasAndNamesWithPointsAreToldApart() throws Exception {
        String source = TestSystem.POSTGRESQL.fresh(folder);
        String url = TestSystem.POSTGRESQL.fresh(folder);
        try (var connection = java.sql.DriverManager.getConnection(source);
                var statement = connection.createStatement()) {
            statement.execute("CREATE SCHEMA \"lab.one\"; CREATE SCHEMA lab2");
            statement.execute("CREATE TABLE \"lab.one\".\"a.b\" (\"x.y\" INT PRIMARY KEY, \"*\" TEXT, \"a\\b\" INT)");
            statement.execute("INSERT INTO \"lab.one\".\"a.b\" SELECT i, 'v' || i, i FROM generate_series(1, 50) i");
            statement.execute("CREATE TABLE lab2.t (k UUID PRIMARY KEY, v JSONB)");
            statement.execute("INSERT INTO lab2.t SELECT gen_random_uuid(), '{}' FROM generate_series(1, 30)");
            statement.execute("CREATE TABLE t (id INT PRIMARY KEY, ref UUID REFERENCES lab2.t)");
            statement.execute("INSERT INTO t SELECT i, NULL FROM generate_series(1, 20) i");
        }
        Path file = draft(
                "schemas",
                source,
                url,
                "make-missing: false",
                "make-missing: true",
                "follow-deletes: false",
                "follow-deletes: true",
                "\"\\*\": +\\{ to: \"\\*\"",
                "\"*\": { to: \"star.\"",
                "source-moment: one",
                "source-moment: still");
        must(0, "run", file);
        try (Place target = Places.open(url)) {
            assertThat(target.tables())
                    .containsExactly(TableName.of("t"), new TableName("lab.one", "a.b"), new TableName("lab2", "t"));
            assertThat(target.define(new TableName("lab.one", "a.b")).columnNames())
                    .containsExactly("x.y", "star.", "a\\b");
        }
        try (var connection = java.sql.DriverManager.getConnection(source);
                var statement = connection.createStatement()) {
            statement.execute("DELETE FROM lab2.t WHERE k = (SELECT MIN(k::text)::uuid FROM lab2.t)");
            statement.execute("UPDATE \"lab.one\".\"a.b\" SET \"*\" = 'new' WHERE \"x.y\" = 3");
        }
        assertThat(must(0, "run", file, "--catch-up").out())
                .containsPattern("\"lab.one\".\"a.b\" +0 +1 +49 +0")
                .doesNotContain("not looked for")
                .containsPattern("lab2.t +0 +0 +29 +1")
                .contains("proved");
        Path one = Files.createDirectories(folder.resolve("one-of-them")).resolve("crossing.yaml");
        String other = TestSystem.H2.fresh(folder);
        must(0, "draft", source, other, "t", "--file", one);
        assertThat(Files.readString(one)).doesNotContain("  lab2.t:");
        Files.delete(one);
        must(0, "draft", source, other, "t", "lab2.t", "--file", one);
        edit(one, "(?s)  lab2\\.t:.*?\\n\\n", "\n", "make-missing: false", "make-missing: true");
        must(0, "run", one);
        assertThat(tables(other)).containsExactly("t");
        must(0, "undo", file);
        assertThat(tables(url)).isEmpty();
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#serverNames")
    void aDatabaseThatIsNotThereIsMadeWhereThatIsToldAndNotBefore(String system) throws Exception {
        Path source = folder.resolve("small-" + system + ".mv.db");
        new Herbarium().specimens(20).readings(10).commonDates(true).create(source);
        String url = TestSystem.of(system).fresh(folder).replaceFirst("/ferry_[0-9_]+", "$0_new");
        Path file = Files.createDirectories(folder.resolve("new-" + system)).resolve("crossing.yaml");
        assertThat(must(3, "draft", source, url, "--file", file).err())
                .contains("no such database", "the option make-missing makes it");
        assertThat(file).doesNotExist();
        must(0, "draft", source, url, "--file", file, "--make-missing");
        assertThat(Files.readString(file)).contains("make-missing: true");
        assertThat(must(0, "draft", source, url, "--file", file).out()).contains("Nothing was changed.");
        assertThat(must(0, "check", file).out()).contains("It can begin");
        assertThat(must(3, "look", url).err()).as("nobody has left it there").contains("no such database");
        must(0, "run", file);
        assertThat(tables(url)).contains("specimen");
        edit(file, "make-missing: true", "make-missing: false");
        assertThat(must(2, "draft", source, url, "--file", file, "--make-missing")
                        .err())
                .contains("says make-missing: false");
        must(0, "undo", file);
        assertThat(tables(url)).isEmpty();
    }

    @Test
    void someRecordsMayBeRejectedAndNoMore() throws Exception {
        Path csv = folder.resolve("gathered.csv");
        Files.writeString(csv, "id,day\n1,2026-01-01\n2,soon\n3,2026-02-01\n4,later\n");
        String url = TestSystem.POSTGRESQL.fresh(folder);
        Path file = draft("rejected", csv, url, "type: CHARACTER VARYING\\(\\d+\\)", "type: DATE");
        assertThat(must(3, "run", file).err()).contains("line 3").contains("'soon' isn't a DATE");
        must(0, "undo", file);
        edit(file, "rejects-allowed: 0", "rejects-allowed: 1");
        assertThat(must(2, "run", file).err()).contains("2 records of the source can't be taken");
        edit(file, "rejects-allowed: 1", "rejects-allowed: 2");
        assertThat(must(0, "run", file).out())
                .contains("2 rows in the set, 2 rejected")
                .contains("proved");
        try (Stream<Path> kept = Files.walk(file.resolveSibling("runs"))) {
            Path last = kept.filter(p -> p.endsWith("rejects.csv"))
                    .max(Path::compareTo)
                    .orElseThrow();
            assertThat(Files.readString(last)).contains(",day,soon,").contains(",day,later,");
        }
    }
}

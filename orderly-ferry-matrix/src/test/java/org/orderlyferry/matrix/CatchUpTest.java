package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.atomic.AtomicLong;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.cli.Ferry;
import org.orderlyferry.crossing.CatchUp;
import org.orderlyferry.crossing.Crossing;
import org.orderlyferry.crossing.RunListener;
import org.orderlyferry.ledger.LedgerLine.Step;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.testkit.servers.TestSystem;

/** Catch-ups by the command line: what has changed is moved and no more, also by one that was killed. */
class CatchUpTest extends CrossingCase {
    /** A source that an application goes on changing. */
    private static void change(String source, int from) throws Exception {
        try (var connection = java.sql.DriverManager.getConnection(source);
                var statement = connection.createStatement()) {
            statement.executeUpdate("UPDATE \"chamber_reading\" SET \"humidity\" = 12.5 WHERE \"id\" BETWEEN " + from
                    + " AND " + (from + 20));
            statement.executeUpdate(
                    "DELETE FROM \"chamber_reading\" WHERE \"id\" BETWEEN " + (from + 30) + " AND " + (from + 34));
            statement.executeUpdate(
                    "INSERT INTO \"chamber_reading\" (\"id\", \"chamber\", \"taken\", \"temperature\", \"alarm\")"
                            + " SELECT \"id\" + 100000, \"chamber\", \"taken\", \"temperature\", \"alarm\""
                            + " FROM \"chamber_reading\" WHERE \"id\" BETWEEN " + (from + 40) + " AND " + (from + 49));
            statement.executeUpdate("UPDATE \"taxon\" SET \"author\" = 'Quill " + from + "' WHERE \"id\" < 5");
        }
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void aCatchUpMovesWhatHasChangedAndNoMore(String system) throws Exception {
        // sources that can be cut and such as can't, by turns
        String source =
                TestSystem.of(system.equals("PostgreSQL") ? "H2" : "PostgreSQL").fresh(folder);
        must(0, "load", old, source);
        String url = TestSystem.of(system).fresh(folder);
        Path file =
                Files.createDirectories(folder.resolve("catch-up-" + system)).resolve("crossing.yaml");
        must(0, "draft", source, url, "--file", file);
        edit(
                file,
                "follow-deletes: false",
                "follow-deletes: true",
                "slice-rows: 1000000",
                "slice-rows: 700",
                "source-moment: one",
                "source-moment: still");
        assertThat(Ferry.run("run", file, "--catch-up").err()).contains("run the crossing first");
        must(0, "run", file);

        change(source, 100);
        Ferry caught = must(0, "run", file, "--catch-up");
        assertThat(caught.out())
                .containsPattern("chamber_reading +10 +21 +3,974 +5")
                .containsPattern("taxon +0 +4 +296 +0")
                .contains("5 rows taken out of the target");
        must(0, "reconcile", source, url);
        Ferry nothing = must(0, "run", file, "--catch-up");
        assertThat(nothing.out()).containsPattern("taxon +0 +0 +300 +0").contains("proved");

        must(0, "undo", file);
        assertThat(tables(url)).isEmpty();
        assertThat(Ferry.run("run", file, "--catch-up").err()).contains("was undone");
        must(0, "run", file);
    }

    /** The application at the source is spared whatever its records are read for. */
    @Test
    void aPaceHoldsForRecordsThatAreOnlyCompared() throws Exception {
        Path file = Files.createDirectories(folder.resolve("paced")).resolve("crossing.yaml");
        must(0, "draft", old, TestSystem.SQLITE.fresh(folder), "chamber_reading", "--file", file);
        must(0, "run", file);
        edit(file, "rows-per-second: 0", "rows-per-second: 2500");
        long began = System.nanoTime();
        assertThat(must(0, "run", file, "--catch-up").out()).containsPattern("chamber_reading +0 +0 +4,000 +0");
        assertThat(Duration.ofNanos(System.nanoTime() - began)).isGreaterThan(Duration.ofMillis(1_500));
    }

    @Test
    void aColumnThatGrowsTellsWhatHasChanged() throws Exception {
        String source = TestSystem.POSTGRESQL.fresh(folder);
        must(0, "load", old, source);
        String url = TestSystem.MARIADB.fresh(folder);
        Path file = Files.createDirectories(folder.resolve("growing-column")).resolve("crossing.yaml");
        must(0, "draft", source, url, "chamber_reading", "--file", file);
        must(0, "run", file);
        // named afterwards: then the sets tell how far it had come, also when nothing has changed yet
        edit(file, "grows-by: \"\"", "grows-by: id");
        assertThat(must(0, "run", file, "--catch-up").out()).contains("export  1 table, 1 row in the set");
        try (var connection = java.sql.DriverManager.getConnection(source);
                var statement = connection.createStatement()) {
            statement.executeUpdate(
                    "INSERT INTO \"chamber_reading\" (\"id\", \"chamber\", \"taken\", \"temperature\", \"alarm\")"
                            + " SELECT \"id\" + 100000, \"chamber\", \"taken\", \"temperature\", \"alarm\""
                            + " FROM \"chamber_reading\" WHERE \"id\" < 8");
        }
        Ferry caught = must(0, "run", file, "--catch-up");
        // the last one that was seen comes once more
        assertThat(caught.out()).contains("export  1 table, 8 rows in the set");
        must(0, "reconcile", source, url, "chamber_reading");
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void aColumnThatGrowsSaysNothingOfRecordsWithoutAValueOrThatAreGone(String system) throws Exception {
        String source = TestSystem.of(system).fresh(folder);
        String url = TestSystem.SQLITE.fresh(folder);
        run(
                source,
                "create table bed (id int primary key, soil varchar(9), grown timestamp null)",
                "insert into bed values (1, 'a', '2031-01-01 00:00:00'), (2, 'b', '2031-01-02 00:00:00'), (3, 'c', null)");
        Path file = Files.createDirectories(folder.resolve("growing-" + system)).resolve("crossing.yaml");
        must(0, "draft", source, url, "--file", file);
        String name = system.equals("H2") ? "GROWN" : "grown";
        edit(file, "grows-by: \"\"", "grows-by: " + name);
        must(0, "run", file);
        run(
                source,
                "delete from bed where id = 1",
                "update bed set soil = 'new' where id = 3",
                "insert into bed values (4, 'd', null), (5, 'e', '2031-01-03 00:00:00')");
        assertThat(must(0, "run", file, "--catch-up").out()).containsPattern("(?i)bed +2 +1 +– +not looked for");
        edit(file, "follow-deletes: false", "follow-deletes: true");
        assertThat(must(0, "run", file, "--catch-up").out())
                .containsPattern("(?i)bed +0 +0 +– +1\\b")
                .contains("1 row taken out of the target");
        must(0, "reconcile", source, url);

        edit(file, "grows-by: " + name, "grows-by: " + (system.equals("H2") ? "SOIL" : "soil"));
        assertThat(must(2, "check", file).err()).contains("only whole and decimal numbers, dates and timestamps");
    }

    /** One server of PostgreSQL's tells another by digests of its own. */
    static Stream<Arguments> targetsAndSources() {
        return Stream.concat(
                TestSystem.names().map(to -> Arguments.of(to, to.equals("MariaDB") ? "PostgreSQL" : "MariaDB")),
                Stream.of(Arguments.of("PostgreSQL", "PostgreSQL")));
    }

    @ParameterizedTest
    @MethodSource("targetsAndSources")
    void whatOthersHaveDoneSinceACatchUpOfAMovingSourceIsSeen(String system, String from) throws Exception {
        String source = TestSystem.of(from).fresh(folder);
        String url = TestSystem.of(system).fresh(folder);
        run(
                source,
                "create table bed (id int primary key, soil varchar(9), sun decimal(5, 2))",
                "create table note (said varchar(20))",
                "insert into bed values (1, 'a', 1.50), (2, 'b', null), (3, 'c', 0.25), (4, 'd', 2)",
                "insert into note values ('loam'), ('sand')");
        for (String follow : List.of("true", "false")) {
            Path file = Files.createDirectories(folder.resolve("moving-" + system + from + follow))
                    .resolve("crossing.yaml");
            must(0, "draft", source, url, "--file", file);
            edit(file, "follow-deletes: false", "follow-deletes: " + follow, "proof: digests", "proof: counts");
            must(0, "run", file);
            run(
                    source,
                    "delete from bed where id = 1",
                    "update bed set sun = 7 where id = 2",
                    "insert into bed values (9, 'new', 1)");
            must(0, "run", file, "--catch-up");
            must(0, "run", file, "--catch-up");

            String bed = system.equals("H2") || system.equals("PostgreSQL") ? "\"bed\"" : "bed";
            String soil = system.equals("H2") ? "\"soil\"" : "soil";
            String id = system.equals("H2") ? "\"id\"" : "id";
            run(url, "update " + bed + " set " + soil + " = 'theirs' where " + id + " = 3");
            assertThat(must(2, "undo", file).err())
                    .contains("somebody has changed the target since the run: table bed has "
                            + (follow.equals("true") ? 4 : 5) + " records now, with other values than after the run");
            run(url, "update " + bed + " set " + soil + " = 'c' where " + id + " = 3");
            must(0, "undo", file);
            assertThat(tables(url)).isEmpty();
            run(source, "insert into bed values (1, 'a', 1.50)", "delete from bed where id = 9");
        }
    }

    @Test
    void whereAColumnToldWhatHasChangedNobodyKnowsTheRest() throws Exception {
        String source = TestSystem.H2.fresh(folder);
        String url = TestSystem.SQLITE.fresh(folder);
        run(source, "create table bed (id int primary key, soil varchar(9))", "insert into bed values (1, 'a')");
        Path file = Files.createDirectories(folder.resolve("unknown")).resolve("crossing.yaml");
        must(0, "draft", source, url, "--file", file);
        edit(file, "grows-by: \"\"", "grows-by: ID");
        must(0, "run", file);
        run(source, "insert into bed values (2, 'b'), (3, 'c')");
        must(0, "run", file, "--catch-up");
        assertThat(must(2, "undo", file).err())
                .containsPattern(
                        "the catch-up of .* doesn't say what it left of BED, as where a column told what had changed")
                .contains("only if told");
        must(0, "undo", file, "--accept-changes");
        assertThat(tables(url)).isEmpty();
    }

    @Test
    void whatACatchUpHasReadThatWasGivenUpIsReadAgain() throws Exception {
        String source = TestSystem.H2.fresh(folder);
        String url = TestSystem.SQLITE.fresh(folder);
        run(source, "create table bed (id int primary key, soil varchar(9))", "insert into bed values (1, 'a')");
        Path file = Files.createDirectories(folder.resolve("given-up")).resolve("crossing.yaml");
        must(0, "draft", source, url, "--file", file);
        edit(file, "grows-by: \"\"", "grows-by: ID");
        must(0, "run", file);
        run(source, "insert into bed values (2, 'b'), (3, 'c')");
        run(url, "alter table \"BED\" rename to away");
        assertThat(must(2, "run", file, "--catch-up").err()).contains("has no table BED");
        run(url, "alter table away rename to \"BED\"");
        run(url, "alter table \"BED\" rename column \"SOIL\" to earth");
        // it fails when its set is there and nothing is loaded yet
        assertThat(must(2, "run", file, "--catch-up").err()).contains("has no column SOIL");
        run(url, "alter table \"BED\" rename column earth to \"SOIL\"");
        // as if it had been killed before it began to load
        Path ledger = lastRun(file).resolve("ledger.jsonl");
        List<String> lines = Files.readAllLines(ledger);
        assertThat(lines.get(2)).contains("\"export\"", "\"done\"");
        Files.write(ledger, lines.subList(0, 3));
        edit(file, "follow-deletes: false", "follow-deletes: true");
        must(0, "run", file, "--catch-up");
        must(0, "reconcile", source, url);
    }

    /** Its ranges at the source are of texts, where 100 comes before 77. */
    @Test
    void aKeyThatWasTextIsComparedByTheValuesThatItHasBecome() throws Exception {
        String source = TestSystem.POSTGRESQL.fresh(folder);
        String url = TestSystem.SQLITE.fresh(folder);
        run(
                source,
                "create table pot (id varchar(12) primary key, soil varchar(9))",
                "insert into pot select g::text, 's' || g from generate_series(1, 3000) g",
                "analyze pot");
        Path file = Files.createDirectories(folder.resolve("text-key")).resolve("crossing.yaml");
        must(0, "draft", source, url, "--file", file);
        edit(
                file,
                "type: CHARACTER VARYING\\(12\\)",
                "type: INTEGER",
                "follow-deletes: false",
                "follow-deletes: true",
                "slice-rows: 1000000",
                "slice-rows: 500",
                "source-moment: one",
                "source-moment: still",
                "proof: digests",
                "proof: rows",
                "after: \\[\\]",
                "after: [{ run: \"UPDATE pot SET soil = 'x' WHERE id IN (9, 100, 1000) OR id = 2999\" }]");
        assertThat(must(1, "run", file).out()).contains("pot").contains("4 different");
        assertThat(must(0, "look", lastRun(file).resolve("differences"), "pot").out())
                .contains("pot  8 rows");

        run(source, "delete from pot where id = '77'", "update pot set soil = 'y' where id in ('120', '121')");
        assertThat(must(0, "run", file, "--catch-up").out())
                .containsPattern("pot +0 +6 +2,993 +1\\b")
                .contains("1 row taken out of the target")
                .contains("proved");
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void whatIsGoneMakesRoomForItsUniqueValuesAndTakesNothingWithIt(String system) throws Exception {
        String source = TestSystem.H2.fresh(folder);
        String url = TestSystem.of(system).fresh(folder);
        run(
                source,
                "create table \"tag\" (\"id\" int primary key, \"code\" varchar(9) unique)",
                "create table \"bed\" (\"id\" int primary key, \"code\" varchar(9) unique)",
                "create table \"leaf\" (\"id\" int primary key, \"bed\" int references \"bed\" (\"id\") on delete cascade)",
                "create table \"cell\" (\"id\" int primary key, \"leaf\" int references \"leaf\" (\"id\") on delete cascade)",
                "insert into \"tag\" values (1, 'x1'), (2, 'x2')",
                "insert into \"bed\" values (1, 'y1'), (2, 'y2')",
                "insert into \"leaf\" values (1, 1), (2, 2)",
                "insert into \"cell\" values (1, 1), (2, 2)");
        Path file = Files.createDirectories(folder.resolve("room-" + system)).resolve("crossing.yaml");
        must(0, "draft", source, url, "--file", file);
        edit(file, "follow-deletes: false", "follow-deletes: true", "source-moment: one", "source-moment: still");
        must(0, "run", file);

        run(
                source,
                "delete from \"tag\" where \"id\" = 1",
                "insert into \"tag\" values (7, 'x1')",
                "update \"leaf\" set \"bed\" = 2 where \"id\" = 1",
                "delete from \"bed\" where \"id\" = 1");
        assertThat(must(0, "run", file, "--catch-up").out())
                .contains("2 rows taken out of the target")
                .contains("proved");
        must(0, "reconcile", source, url);
    }

    /** Of thousands of tables mostly few have changed. */
    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void tablesInWhichNothingHasChangedAreNotLoadedOnceMore(String system) throws Exception {
        String source = TestSystem.H2.fresh(folder);
        String url = TestSystem.of(system).fresh(folder);
        run(
                source,
                "create table \"still\" (\"id\" int primary key)",
                "create table \"drawn\" (\"id\" int generated by default as identity primary key)",
                "create table \"bed\nor pot\" (\"id\" int primary key, \"word\" varchar(9))",
                "create table \"leaf\" (\"id\" int primary key, \"bed\" int references \"bed\nor pot\" on delete cascade)",
                "insert into \"still\" values (1)",
                "insert into \"drawn\" values (1)",
                "insert into \"bed\nor pot\" values (1, 'a'), (2, 'b'), (3, 'c')",
                "insert into \"leaf\" values (1, 1), (2, 3)");
        Path file = Files.createDirectories(folder.resolve("few-" + system)).resolve("crossing.yaml");
        must(0, "draft", source, url, "--file", file);
        edit(file, "follow-deletes: false", "follow-deletes: true");
        assertThat(must(0, "run", file).out()).contains("4 tables, 7 rows in the target");
        run(source, "alter table \"drawn\" alter column \"id\" restart with 40");
        must(0, "run", file, "--catch-up");
        assertThat(must(0, "run", file, "--catch-up").out())
                .contains("4 tables, 0 rows in the set", "nothing to load: no table has changed", "proved");

        run(
                source,
                "delete from \"bed\nor pot\" where \"id\" = 2",
                "update \"bed\nor pot\" set \"word\" = 'z' where \"id\" = 1",
                "alter table \"drawn\" alter column \"id\" restart with 70");
        assertThat(must(0, "run", file, "--catch-up").out())
                .contains("2 tables, 1 row in the target", "1 row taken out of the target", "proved");
        must(0, "reconcile", source, url);
        try (Place target = Places.open(url)) {
            assertThat(target.define(TableName.of("drawn"))
                            .columns()
                            .get(0)
                            .identity()
                            .orElseThrow()
                            .next())
                    .isEqualTo(70);
        }
        assertThat(must(0, "undo", file).out()).contains("as it was before the run");
    }

    @Test
    void whoWaitsHearsOfRecordsThatNeedNotMove() throws Exception {
        String source = TestSystem.POSTGRESQL.fresh(folder);
        must(0, "load", old, source);
        String url = TestSystem.MARIADB.fresh(folder);
        Path file = Files.createDirectories(folder.resolve("looked-at")).resolve("crossing.yaml");
        must(0, "draft", source, url, "chamber_reading", "--file", file);
        edit(file, "slice-rows: 1000000", "slice-rows: 300");
        must(0, "run", file);
        change(source, 500);
        AtomicLong looked = new AtomicLong();
        AtomicLong moved = new AtomicLong();
        CatchUp.of(Crossing.read(file))
                .listener(new RunListener() {
                    private Step step = Step.RUN;

                    @Override
                    public void begins(Step now) {
                        step = now;
                    }

                    @Override
                    public void looked(TableName table, long rows) {
                        looked.addAndGet(rows);
                    }

                    @Override
                    public void moved(TableName table, long rows, long bytes) {
                        moved.addAndGet(step == Step.EXPORT ? rows : 0);
                    }
                })
                .run();
        assertThat(looked).hasValue(3_974);
        assertThat(moved).hasValue(31);
    }

    @Test
    void aCatchUpThatHasChangedNothingYetIsNotInTheWayOfUndo() throws Exception {
        Path csv = folder.resolve("walks.csv");
        Files.writeString(csv, "id,gone\n1,2031-01-01\n2,2031-01-02\n");
        String url = TestSystem.SQLITE.fresh(folder);
        Path file = draft("not-in-the-way", csv, url, "source-moment: one", "source-moment: still");
        must(0, "run", file);
        Files.writeString(csv, "id,gone\n1,2031-01-01\n2,20");
        assertThat(must(3, "run", file, "--catch-up").err()).contains("line 3").contains("'20' isn't a DATE");
        must(0, "undo", file);
        assertThat(tables(url)).isEmpty();
    }

    @Test
    void aCatchUpThatIsKilledGoesOn() throws Exception {
        for (int at : new int[] {2, 9, 14, 25, 33}) {
            // two of PostgreSQL's servers compare their own digests
            boolean digests = at % 8 == 1;
            String source = (digests ? TestSystem.POSTGRESQL : TestSystem.H2).fresh(folder);
            must(0, "load", old, source);
            String url = (digests ? TestSystem.POSTGRESQL : TestSystem.MARIADB).fresh(folder);
            Path file = Files.createDirectories(folder.resolve("killed-catch-up" + at))
                    .resolve("crossing.yaml");
            must(0, "draft", source, url, "chamber_reading", "taxon", "--file", file);
            edit(file, "follow-deletes: false", "follow-deletes: true", "source-moment: one", "source-moment: still");
            must(0, "run", file);
            change(source, 200);
            int code = halted(file, at, "catch-up");
            assertThat(code)
                    .as(at + Files.readString(folder.resolve("halted.log")))
                    .isIn(HaltedRun.KILLED, 0);
            if (code == HaltedRun.KILLED) {
                assertThat(must(2, "run", file).err()).contains("isn't finished; let it go on first");
                assertThat(must(2, "run", file, "--from-the-start").err()).contains("can't be thrown away alone");
                assertThat(must(0, "run", file, "--catch-up").out())
                        .contains("goes on", "5 rows taken out of the target");
            }
            must(0, "reconcile", source, url, "chamber_reading", "taxon");
        }
    }
}

package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.atomic.AtomicLong;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.crossing.Crossing;
import org.orderlyferry.crossing.RunListener;
import org.orderlyferry.ledger.LedgerLine;
import org.orderlyferry.model.TableName;
import org.orderlyferry.testkit.servers.TestSystem;

/** Crossings in which some tables say otherwise than all, and tables that had records of their own before. */
class OwnChoicesTest extends CrossingCase {

    /** A target that has some records of four tables. */
    private static String before(String system, String name) throws Exception {
        String url = TestSystem.of(system).fresh(folder);
        Path file = crossing("part-" + name, old, url, "collector", "chamber_reading", "taxon", "calibration");
        table(file, "chamber_reading", "where: \"\"", "where: \"id <= 1500\"");
        table(file, "collector", "where: \"\"", "where: \"id <= 10\"");
        table(file, "taxon", "where: \"\"", "where: \"id <= 100\"");
        must(0, "run", file);
        return url;
    }

    private static Path crossing(String name, Object from, String to, Object... tables) throws Exception {
        Path file = Files.createDirectories(folder.resolve(name)).resolve("crossing.yaml");
        must(
                0,
                Stream.concat(Stream.concat(Stream.of("draft", from, to), Stream.of(tables)), Stream.of("--file", file))
                        .toArray());
        return file;
    }

    /** Changes what is said of one table. */
    private static void table(Path file, String table, String was, String becomes) throws Exception {
        edit(file, "(?s)(\n  " + table + ":.*?)" + was, "$1" + becomes);
    }

    /** Replaces all but for three. */
    private static Path mixed(String name, String url) throws Exception {
        Path file = draft(name, old, url, "onto: refuse", "onto: replace", "slice-rows: 1000000", "slice-rows: 500");
        table(file, "chamber_reading", "where: \"\"", "onto: append\n    where: \"id > 1500\"");
        table(file, "collector", "where: \"\"", "onto: merge\n    where: \"id > 5\"");
        table(file, "loan", "where: \"\"", "onto: refuse\n    where: \"\"");
        table(file, "specimen", "where: \"\"", "proof: rows\n    where: \"\"");
        table(file, "taxon", "where: \"\"", "proof: counts\n    where: \"\"");
        return file;
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void tablesMaySayOtherwiseThanTheCrossing(String system) throws Exception {
        String url = before(system, "mixed-" + system);
        Path kept = folder.resolve("kept-" + system);
        must(0, "export", url, kept);
        Path file = mixed("mixed-" + system, url);
        assertThat(must(0, "check", file).out())
                .contains("has 1,500 rows, added to")
                .contains("has 10 rows, merged into")
                .contains("has 100 rows, replaced")
                .contains("It can begin");

        assertThat(must(0, "run", file).out())
                .contains("some merged once more by counts of 1, digests of 10, rows of 1: equal")
                .contains("proved");
        must(0, "reconcile", old, url);
        assertThat(must(0, "report", file, "--format", "markdown").out())
                .contains(
                        "2 by their numbers or by merging once more, 10 by digests of every value, 1 record by record")
                .containsPattern("collector [^\n]*\\| 30 \\| 0 \\| 10 \\| 40 [^\n]* equal ");

        must(0, "undo", file);
        must(0, "reconcile", kept, url);
        edit(file, "onto: append", "onto: refuse");
        assertThat(must(1, "check", file).out()).contains("the target has chamber_reading already");
        assertThat(must(2, "run", file).err()).contains("these tables already: chamber_reading;");
        must(0, "reconcile", kept, url);
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void aRunOfSuchThatIsKilledGoesOn(String system) throws Exception {
        Random random = new Random(Long.getLong("ferry.seed", 811L) + system.hashCode());
        for (int i = 0; i < 2; i++) {
            String name = "halted-" + i + system;
            String url = before(system, name);
            Path file = mixed(name, url);
            int at = 10 + random.nextInt(80);
            String when = system + ", killed at " + at;
            int code = halted(file, at);
            assertThat(code).as(when).isIn(HaltedRun.KILLED, 0);
            if (i == 1) {
                must(0, "undo", file);
            }
            if (i == 1 || code == HaltedRun.KILLED) {
                assertThat(must(0, "run", file).out()).as(when).contains("proved");
            }
            must(0, "reconcile", old, url);
            assertThat(must(0, "look", url).out()).as(when).doesNotContain("unfinished load", "orderly_ferry_");
        }
    }

    @Test
    void aCatchUpTakesNothingOutOfTheTargetThatWasNeverTheSources() throws Exception {
        String source = TestSystem.H2.fresh(folder);
        String url = TestSystem.POSTGRESQL.fresh(folder);
        run(source, "create table bed (id int primary key, soil varchar(9))");
        run(source, "create table seed (id int primary key, name varchar(9))");
        run(source, "create table note (text varchar(9))");
        run(source, "create table frame (id int primary key, name varchar(9))");
        for (String table : new String[] {"BED", "SEED", "FRAME"}) {
            run(source, "insert into " + table + " values (1, 'a'), (2, 'b'), (3, 'c')");
            run(
                    url,
                    "create table \"" + table + "\" (\"ID\" int primary key, \""
                            + (table.equals("BED") ? "SOIL" : "NAME") + "\" varchar(9))");
        }
        run(source, "insert into note values ('x'), ('y')");
        run(url, "create table \"NOTE\" (\"TEXT\" varchar(9))");
        run(url, "insert into \"BED\" values (100, 'own')");
        run(url, "insert into \"SEED\" values (1, 'old'), (200, 'own')");
        run(url, "insert into \"NOTE\" values ('own')");
        Path file = crossing("own-records", source, url);
        edit(
                file,
                "onto: refuse",
                "onto: append",
                "source-moment: one",
                "source-moment: still",
                "follow-deletes: false",
                "follow-deletes: true");
        table(file, "SEED", "where: \"\"", "onto: merge\n    where: \"\"");
        assertThat(must(0, "run", file).out()).contains("proved");

        run(source, "delete from BED where id = 2");
        run(source, "delete from SEED where id = 3");
        run(source, "update SEED set name = 'new' where id = 2");
        // what a later run would do counts for nothing
        edit(file, "onto: append", "onto: replace");
        // this one was there, and had no records: all that is in it is the source's
        run(source, "delete from FRAME where id = 1");
        assertThat(must(0, "run", file, "--catch-up").out())
                .containsPattern("(?i)bed +0 +0 +2 +2 \\(kept\\)")
                .containsPattern("(?i)seed +0 +1 +1 +2 \\(kept\\)")
                .containsPattern("(?i)frame +0 +0 +2 +1\\b")
                .contains("1 row taken out of the target")
                .contains("proved");
        assertThat(count(url, "\"BED\"")).isEqualTo(4);
        assertThat(count(url, "\"SEED\"")).isEqualTo(4);
        assertThat(count(url, "\"FRAME\"")).isEqualTo(2);

        run(url, "update \"BED\" set \"SOIL\" = 'z' where \"ID\" = 3");
        assertThat(must(2, "undo", file).err()).contains("somebody has changed the target");
        run(url, "update \"BED\" set \"SOIL\" = 'c' where \"ID\" = 3");
        must(0, "undo", file);
        assertThat(count(url, "\"BED\"")).isEqualTo(1);
        assertThat(count(url, "\"SEED\"")).isEqualTo(2);
        assertThat(count(url, "\"NOTE\"")).isEqualTo(1);
        assertThat(count(url, "\"FRAME\"")).isZero();
    }

    /** The proof of tables with records of their own looks for each of the source's by its key. */
    @Test
    void howFarSuchAProofIsIsTold() throws Exception {
        String source = TestSystem.SQLITE.fresh(folder);
        String url = TestSystem.SQLITE.fresh(folder);
        run(source, "create table bed (id integer primary key, soil text)");
        run(url, "create table bed (id integer primary key, soil text)");
        for (int id = 1; id <= 40; id++) {
            run(source, "insert into bed values (" + id + ", 'loam')");
        }
        run(url, "insert into bed values (100, 'own')");
        Path file = crossing("progress", source, url);
        edit(file, "onto: refuse", "onto: append", "source-moment: one", "source-moment: still");
        assertThat(must(0, "run", file).out()).contains("proved");
        run(source, "update bed set soil = 'peat' where id > 30");
        List<String> told = new ArrayList<>();
        AtomicLong looked = new AtomicLong();
        Crossing.read(file).catchUp(new RunListener() {
            @Override
            public void begins(LedgerLine.Step step) {
                looked.set(0);
                told.clear();
                told.add(step.name());
            }

            @Override
            public void tableStarted(TableName table, long rows) {
                told.add("begins " + table + " of " + rows);
            }

            @Override
            public void looked(TableName table, long rows) {
                looked.addAndGet(rows);
            }

            @Override
            public void tableFinished(TableName table, long rows) {
                told.add("ends " + table);
            }
        });
        assertThat(told).startsWith("PROOF").containsSubsequence("begins bed of 40", "ends bed");
        assertThat(looked).hasValue(40);
    }

    @Test
    void aTableMayHaveRejectsOfItsOwn() throws Exception {
        Path set = Files.createDirectories(folder.resolve("gathered"));
        Files.writeString(set.resolve("find.csv"), "id,day\n1,2026-01-01\n2,soon\n3,later\n");
        Files.writeString(set.resolve("walk.csv"), "id,day\n1,2026-01-01\n2,once\n");
        String url = TestSystem.SQLITE.fresh(folder);
        Path file = crossing("own-rejects", set, url);
        table(file, "find", "type: CHARACTER VARYING\\(\\d+\\)", "type: DATE");
        table(file, "walk", "type: CHARACTER VARYING\\(\\d+\\)", "type: DATE");
        table(file, "find", "where: \"\"", "rejects-allowed: 2\n    where: \"\"");
        assertThat(must(2, "run", file).err())
                .contains("1 record of the source can't be taken, and the crossing allows 0");
        edit(file, "rejects-allowed: 2", "rejects-allowed: 1", "(?m)^rejects-allowed: 0", "rejects-allowed: 1");
        assertThat(must(2, "run", file).err())
                .contains("2 records of table find can't be taken, and the crossing allows 1 of it");
        edit(file, "(?m)^    rejects-allowed: 1", "    rejects-allowed: 2");
        assertThat(must(0, "run", file).out()).contains("3 rejected");
    }

    /** Keys that both sides order alike, and such as only hashes can part. */
    @ParameterizedTest
    @CsvSource({"INT, 7", "VARCHAR(9), g"})
    void aCatchUpRejectsWhatARunRejectsAndTakesNoOldStateOfItAway(String type, String key) throws Exception {
        String source = TestSystem.H2.fresh(folder);
        String url = TestSystem.MARIADB.fresh(folder);
        String[] keys = type.equals("INT") ? new String[] {"1", "2", "3", "7"} : new String[] {"a", "b", "c", "g"};
        run(source, "create table find (id " + type + " primary key, gathered varchar(20), n varchar(9))");
        String[] days = {"2026-01-01", "soon", "2026-01-03", "2026-02-02"};
        for (int i = 0; i < keys.length; i++) {
            run(source, "insert into find values ('" + keys[i] + "', '" + days[i] + "', 'n')");
        }
        Path file = crossing("rejects-of-catch-up-" + key, source, url);
        edit(
                file,
                "rejects-allowed: 0",
                "rejects-allowed: 1",
                "follow-deletes: false",
                "follow-deletes: true",
                "source-moment: one",
                "source-moment: still");
        table(file, "FIND", "GATHERED:([^\n]* )type: CHARACTER VARYING\\(\\d+\\)", "GATHERED:$2type: DATE");
        assertThat(must(0, "run", file).out()).contains("1 rejected");

        run(source, "delete from find where id = '" + keys[2] + "'");
        run(source, "update find set gathered = 'gone bad' where id = '" + key + "'");
        run(source, "update find set n = 'new' where id = '" + keys[0] + "'");
        assertThat(must(2, "run", file, "--catch-up").err())
                .contains("2 records of the source can't be taken, and the crossing allows 1");
        edit(file, "rejects-allowed: 1", "rejects-allowed: 2");
        assertThat(must(0, "run", file, "--catch-up").out())
                .contains("2 rejected")
                .contains("1 row taken out of the target")
                .containsPattern("FIND +0 +1 +0 +1\\b");
        assertThat(count(url, "`FIND`")).isEqualTo(2);
    }

    private static long count(String url, String table) throws Exception {
        try (var connection = java.sql.DriverManager.getConnection(url);
                var statement = connection.createStatement();
                var rows = statement.executeQuery("select count(*) from " + table)) {
            rows.next();
            return rows.getLong(1);
        }
    }
}

package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assumptions.assumeThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.cli.Ferry;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;

/** Crossings whose target keeps what they replace: undone in a moment, and as surely as from a backup. */
class KeptReplacedTest extends CrossingCase {

    private static int number;

    private String target;
    private Path before;
    private Path file;

    /** A target that has a smaller herbarium, without one table and with one that nobody else has. */
    @BeforeEach
    void make() throws Exception {
        assumeThat(TestSystem.names()).contains("PostgreSQL");
        target = TestSystem.POSTGRESQL.fresh(folder);
        must(0, "load", small, target);
        run(
                target,
                "DROP TABLE \"label_draft\"",
                "CREATE TABLE mine (id integer PRIMARY KEY, taxon integer REFERENCES \"taxon\" (\"id\"))");
        before = folder.resolve("before-" + ++number);
        must(0, "export", target, before);
        file = draft(
                "kept-" + number,
                old,
                target,
                "(?m)^onto: \\w+",
                "onto: replace",
                "keep-replaced: false",
                "keep-replaced: true",
                "follow-deletes: false",
                "follow-deletes: true");
    }

    private void mustBeAsBefore() throws Exception {
        must(0, "reconcile", before, target, "--structure", "--depth", "rows");
        assertThat(schemas()).isEmpty();
    }

    private void mustHaveAll() {
        assertThat(must(1, "reconcile", old, target).out()).contains("13 of 14 tables equal", "missing in source");
    }

    private List<String> schemas() throws Exception {
        return Databases.rows(target, "select nspname from pg_namespace where nspname like 'orderly%' order by 1");
    }

    @Test
    void aRunIsUndoneAndDoneAgainAndGivenUp() throws Exception {
        assertThat(must(0, "check", file).out()).contains("Kept in the target, beside what replaces it: 12 tables");
        assertThat(must(0, "run", file).out())
                .contains("12 tables, 687 rows")
                .contains("stay in the target, beside")
                .contains("proved");
        assertThat(lastRun(file).resolve("backup")).doesNotExist();
        assertThat(schemas()).hasSize(1);
        // others see nothing of it
        mustHaveAll();
        assertThat(must(0, "look", target).out())
                .contains("kept tables orderly_ferry_kept_")
                .contains("14 tables");
        assertThat(must(0, "undo", file).out())
                .contains("Removed (1)", "label_draft", "As before (12)")
                .contains("what it had replaced is back in its place, with all its records");
        mustBeAsBefore();
        assertThat(must(2, "undo", file).err()).contains("was undone already");
        // a rehearsal more, and one more: only the last can be undone, so only its tables are kept
        must(0, "run", file);
        Path first = lastRun(file);
        must(0, "run", file);
        assertThat(schemas())
                .containsExactly("orderly_ferry_kept_"
                        + lastRun(file).getFileName().toString().replaceAll("\\D", ""));
        assertThat(Files.readString(first.resolve("ledger.jsonl"))).contains("given-up");
        assertThat(must(0, "report", file).out()).doesNotContain("orderly_ferry");
        must(0, "undo", file, "--give-up");
        assertThat(schemas()).isEmpty();
        assertThat(must(2, "undo", file).err()).contains("was given up");
        mustHaveAll();
    }

    @Test
    void whatWasCaughtUpGoesWithIt() throws Exception {
        must(0, "run", file);
        String changed = TestSystem.H2.fresh(folder);
        must(0, "load", old, changed);
        run(
                changed,
                "UPDATE \"taxon\" SET \"author\" = 'Quill' WHERE \"id\" < 5",
                "DELETE FROM \"chamber_reading\" WHERE \"id\" < 8");
        edit(file, "(?m)^from: .*", "from: \"" + changed + "\"");
        assertThat(must(0, "run", file, "--catch-up").out()).containsPattern("chamber_reading +0 +0 +3,993 +7");
        must(0, "undo", file);
        mustBeAsBefore();
    }

    /** That somebody has worked in the tables since is found out by the server's own numbers, and by reading where these say so. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "UPDATE \"taxon\" SET \"author\" = 'me' WHERE \"id\" = 3",
                "DELETE FROM \"label_draft\" WHERE ctid IN (SELECT ctid FROM \"label_draft\" LIMIT 1)",
                "INSERT INTO \"calibration\" SELECT * FROM \"calibration\" WHERE false; DELETE FROM \"calibration\""
            })
    void whatOthersDidSinceIsThrownAwayOnlyIfTold(String sql) throws Exception {
        must(0, "run", file);
        run(target, "UPDATE \"locality\" SET \"id\" = \"id\"");
        run(target, sql);
        List<String> kept = schemas();
        Ferry refused = must(2, "undo", file);
        assertThat(refused.err())
                .contains("somebody has changed the target since the run: table")
                .doesNotContain("locality")
                .contains("nothing was changed");
        assertThat(schemas()).isEqualTo(kept);
        must(0, "undo", file, "--accept-changes");
        mustBeAsBefore();
    }

    /** Cut short between the moment in which it is done and the line that says so, it is found to be done. */
    @Test
    void whatIsDoneIsNotDoneAgain() throws Exception {
        must(0, "run", file);
        Path ledger = lastRun(file).resolve("ledger.jsonl");
        List<String> whole = Files.readAllLines(ledger);
        int load = 0;
        while (!(whole.get(load).contains("\"load\"") && whole.get(load).contains("\"done\""))) {
            load++;
        }
        List<String> kept = schemas();
        Files.write(ledger, whole.subList(0, load));
        assertThat(must(0, "run", file).out()).contains("found to be in the target already");
        assertThat(schemas()).isEqualTo(kept);
        must(0, "undo", file);
        List<String> undone = Files.readAllLines(ledger);
        assertThat(undone.get(undone.size() - 1)).contains("\"undo\"").contains("\"done\"");
        Files.write(ledger, undone.subList(0, undone.size() - 1));
        assertThat(must(0, "undo", file).out()).contains("As before (12)");
        mustBeAsBefore();
    }

    @ParameterizedTest
    @ValueSource(ints = {14, 40})
    void killedItGoesOnAndIsUndone(int at) throws Exception {
        int code = halted(file, at);
        assertThat(code).as(Files.readString(folder.resolve("halted.log"))).isIn(HaltedRun.KILLED, 0);
        if (at % 20 == 0) {
            must(0, "undo", file);
            mustBeAsBefore();
            return;
        }
        assertThat(must(0, "run", file).out()).contains("proved");
        mustHaveAll();
        must(0, "undo", file);
        mustBeAsBefore();
    }

    @Test
    void whatIsGoneIsSaidToBe() throws Exception {
        must(0, "run", file);
        run(target, "DROP SCHEMA \"" + schemas().get(0) + "\" CASCADE");
        assertThat(must(2, "undo", file).err())
                .contains("what the run of")
                .contains("isn't kept in")
                .contains("Nothing was changed");
        mustHaveAll();
    }

    @Test
    void whatCannotBeKeptIsToldBeforehand() throws Exception {
        run(
                target,
                "ALTER TABLE \"locality\" ADD CONSTRAINT odd FOREIGN KEY (\"id\") REFERENCES \"locality\" (\"id\") NOT VALID");
        assertThat(must(1, "check", file).out())
                .contains("keep-replaced: true, and the reference locality.odd says more");
        assertThat(must(2, "run", file).err())
                .contains("locality.odd says more")
                .contains("with false, they are exported");
        String lite = TestSystem.SQLITE.fresh(folder);
        must(0, "load", small, lite);
        edit(file, "(?m)^to: .*", "to: \"" + lite + "\"");
        assertThat(must(1, "check", file).out()).contains("keeps no tables that are replaced");
        assertThat(must(2, "run", file).err()).contains("keeps no tables that are replaced");
        must(0, "reconcile", small, lite);
        edit(file, "onto: replace", "onto: append");
        assertThat(must(2, "check", file).err())
                .contains("line")
                .contains("keep-replaced is for crossings that make and replace");
        edit(file, "onto: append", "onto: replace", "backup: true", "backup: false");
        assertThat(must(2, "check", file).err()).contains("keep-replaced keeps a way back");
    }
}

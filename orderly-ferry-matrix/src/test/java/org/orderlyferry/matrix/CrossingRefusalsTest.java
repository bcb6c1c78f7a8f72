package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.cli.Ferry;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.testkit.herbarium.Herbarium;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;

/** What a crossing refuses, and what it says then. */
class CrossingRefusalsTest extends CrossingCase {
    @Test
    void aLedgerThatSomebodyHasChangedIsRefused() throws Exception {
        String url = TestSystem.H2.fresh(folder);
        Path file = draft("changed", old, url);
        must(0, "run", file);
        Path ledger;
        try (Stream<Path> runs = Files.walk(file.resolveSibling("runs"))) {
            ledger = runs.filter(p -> p.endsWith("ledger.jsonl")).findFirst().orElseThrow();
        }
        String text = Files.readString(ledger);
        List<String> lines = new ArrayList<>(text.lines().toList());
        lines.remove(2);
        Files.writeString(ledger, String.join("\n", lines) + "\n");
        assertThat(must(3, "run", file).err()).contains("line 3").contains("was changed after it was written");
        Files.writeString(ledger, text.replace("\"equal\":\"true\"", "\"equal\":\"false\""));
        assertThat(must(3, "undo", file).err()).contains("was changed after it was written");
    }

    /** What can't be replaced may be added to all the same, and comes back record by record. */
    @ParameterizedTest
    @ValueSource(strings = {"append", "merge"})
    void whatNoTableCanTakeThePlaceOfIsAddedToAndComesBack(String onto) throws Exception {
        String source = TestSystem.H2.fresh(folder);
        String url = TestSystem.POSTGRESQL.fresh(folder);
        run(
                source,
                "create table \"m\" (\"id\" int, \"grown\" date, \"v\" varchar(9), primary key (\"id\", \"grown\"))",
                "insert into \"m\" values (2, date '2031-03-03', 'new'), (3, date '2031-03-04', 'new')",
                onto.equals("merge") ? "insert into \"m\" values (1, date '2031-02-02', 'changed')" : "select 1");
        run(
                url,
                "create table m (id int, grown date, v varchar(9), primary key (id, grown)) partition by range (grown)",
                "create table m_1 partition of m for values from ('2031-01-01') to ('2032-01-01')",
                "insert into m values (1, '2031-02-02', 'old'), (7, '2031-02-07', 'kept')");
        Path file = draft("partitioned-" + onto, source, url, "onto: refuse", "onto: " + onto);
        assertThat(Files.readString(file)).contains("# - table m can't be replaced: it is partitioned");
        assertThat(must(0, "check", file).out()).doesNotContain("couldn't be undone");
        must(0, "run", file);
        must(0, "undo", file);
        assertThat(Databases.rows(url, "select * from m order by id"))
                .containsExactly("1 2031-02-02 old", "7 2031-02-07 kept");
        assertThat(lastRun(file)).isDirectoryNotContaining("glob:**back{,-gone}");

        run(url, "alter table m drop constraint m_pkey");
        if (onto.equals("append")) {
            assertThat(must(0, "check", file).out())
                    .contains("the run couldn't be undone: table m can't be replaced: it is partitioned");
        }
    }

    @Test
    void aCrossingThatIsEditedBetweenKillAndGoingOnIsRefused() throws Exception {
        String url = TestSystem.H2.fresh(folder);
        Path file = draft("edited", old, url);
        assertThat(halted(file, 30)).isEqualTo(HaltedRun.KILLED);
        edit(file, "\\{ to: author, ", "{ to: described_by, ");
        assertThat(must(2, "run", file).err()).contains("tables.taxon.columns").contains("was edited since");
        assertThat(must(1, "check", file).out()).contains("the crossing says otherwise since");
        Ferry anew = must(0, "run", file, "--from-the-start");
        assertThat(anew.out()).contains("A run begins");
        try (Place target = Places.open(url)) {
            assertThat(target.define(TableName.of("taxon")).columnNames()).contains("described_by");
        }
    }

    @Test
    void whatSomebodyElseHasChangedIsNotThrownAwayUnlessTold() throws Exception {
        String url = TestSystem.H2.fresh(folder);
        Path file = draft("others", old, url);
        must(0, "run", file);
        try (var connection = java.sql.DriverManager.getConnection(url);
                var statement = connection.createStatement()) {
            statement.executeUpdate("DELETE FROM \"loan_item\"");
        }
        Ferry undo = must(2, "undo", file);
        assertThat(undo.err()).contains("table loan_item has 0 records now");
        assertThat(tables(url)).hasSize(13);
        must(0, "undo", file, "--accept-changes");
        assertThat(tables(url)).isEmpty();
    }

    @Test
    void aRunThatIsRefusedChangesNothingAndUndoGoesToTheOneBefore() throws Exception {
        String url = TestSystem.H2.fresh(folder);
        Path file = draft("twice", old, url);
        must(0, "run", file);
        assertThat(must(2, "run", file).err())
                .contains("has these tables already")
                .contains("Nothing was changed");
        assertThat(must(1, "check", file).out()).contains("It can't begin");
        must(0, "undo", file);
        assertThat(tables(url)).isEmpty();
        must(0, "run", file);
    }

    @Test
    void aDraftOntoAnEditedFileKeepsTheEditsAndTellsWhatIsNew() throws Exception {
        Path source = folder.resolve("growing.mv.db");
        new Herbarium().specimens(10).readings(10).create(source);
        String url = TestSystem.SQLITE.fresh(folder);
        Path file = draft("growing", source, url, "proof: digests", "proof: counts    # as agreed with the curator");
        try (var connection = java.sql.DriverManager.getConnection(
                        "jdbc:h2:" + source.toString().replace(".mv.db", ""), "sa", "");
                var statement = connection.createStatement()) {
            statement.execute("ALTER TABLE \"taxon\" ADD COLUMN \"rank: #1\" VARCHAR(10)");
            statement.execute("CREATE TABLE \"new: {one}\" (\"a\" INT PRIMARY KEY)");
        }
        assertThat(must(2, "run", file).err()).contains("has a column rank: #1, of which the crossing says nothing");
        Ferry again = must(0, "draft", source, url, "--file", file);
        assertThat(again.out()).contains("new column rank: #1").contains("table new: {one} is new");
        assertThat(Files.readString(file)).contains("as agreed with the curator");
        assertThat(must(0, "draft", source, url, "--file", file).out()).contains("Nothing was changed");
        must(0, "run", file);
        must(0, "reconcile", source, url);
    }

    @Test
    void whatIsWrongInAFileIsToldWithItsPlace() throws Exception {
        Path file = draft("wrong", old, TestSystem.H2.fresh(folder));
        String good = Files.readString(file);
        String[][] wrong = {
            {"lanes:", "lane:", "there is no key lane here; was lanes meant?"},
            {"onto: refuse", "onto: replce", "was replace meant?"},
            {"slice-rows: 1000000", "slice-rows: many", "is a whole number from 1 on, not many"},
            {"type: DATE", "type: DAET", "line "},
            {"crossing: 1", "crossing: 2", "of the form 2"},
            {"tables:", "tables: &a", "anchors, aliases and tags"},
            {"proof: digests", "proof: digests\nproof: counts", "isn't YAML"},
            {"before: \\[\\]", "before: [{run: x, do: y}]", "there is no key do here"},
        };
        for (String[] one : wrong) {
            Files.writeString(file, good.replaceFirst(one[0], one[1]));
            assertThat(must(2, "run", file).err())
                    .contains(one[2])
                    .contains("column ")
                    .contains("line ");
        }
    }
}

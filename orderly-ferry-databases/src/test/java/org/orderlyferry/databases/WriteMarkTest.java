package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assumptions.assumeThat;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.Statement;
import java.util.OptionalLong;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;

/** Whether a table was written since a mark: what says that it wasn't must never be wrong. */
class WriteMarkTest {

    private static final TableName SHEET = TableName.of("sheet");
    private static final long ROWS = 1_000;

    @TempDir
    private Path folder;

    private String url;

    @BeforeEach
    void make() throws Exception {
        assumeThat(TestSystem.names()).contains("PostgreSQL");
        url = TestSystem.POSTGRESQL.fresh(folder);
        Databases.run(
                url,
                "create type state as enum ('kept', 'lent')",
                "create table sheet (id integer primary key, note text, state state default 'kept')",
                "insert into sheet select n, 'note ' || n from generate_series(1, " + ROWS + ") n",
                "create table twin as select * from sheet",
                "update twin set note = 'another'");
    }

    private String mark() {
        try (Place open = Places.open(url)) {
            return open.mark(SHEET, false).orElseThrow();
        }
    }

    private OptionalLong unwritten(String mark) {
        try (Place open = Places.open(url)) {
            return open.unwritten(SHEET, mark);
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "select 1",
                "create table other (id integer)",
                "update twin set note = 'third'",
                "vacuum freeze sheet",
                "vacuum full sheet",
                "analyze sheet",
                "reindex table sheet",
                "create index by_note on sheet (note)"
            })
    void whatLeavesRecordsAsTheyAreIsNoChange(String sql) throws Exception {
        String mark = mark();
        Databases.run(url, sql);
        assertThat(unwritten(mark)).hasValue(ROWS);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "update sheet set note = note where id = 77",
                "insert into sheet values (0, 'new')",
                "with gone as (delete from sheet where id = 5 returning *) insert into sheet select -id, note from gone",
                "alter table sheet add column size integer default 3",
                "alter table sheet drop column note",
                "alter table sheet rename column note to remark",
                "alter table sheet alter column note type varchar(90)",
                "alter type state rename value 'kept' to 'held'",
                "alter table sheet rename to old; alter table twin rename to sheet",
                "create table part () inherits (sheet)",
                "alter table sheet enable row level security"
            })
    void changesAreSeen(String sql) throws Exception {
        String mark = mark();
        for (String one : sql.split(";")) {
            Databases.run(url, one);
        }
        assertThat(unwritten(mark)).isEmpty();
    }

    /** Who asks knows how many there were. */
    @Test
    void recordsThatAreGoneAreFewer() throws Exception {
        String mark = mark();
        Databases.run(url, "delete from sheet where id <= 10");
        assertThat(unwritten(mark)).hasValue(ROWS - 10);
    }

    /** What was under way is later than the mark, whenever it began. */
    @Test
    void whatWasUnderWayIsLater() throws Exception {
        try (Connection other = Databases.connect(url);
                Statement statement = other.createStatement()) {
            other.setAutoCommit(false);
            statement.execute("update sheet set note = 'late' where id = 3");
            String mark = mark();
            Databases.run(url, "create table meanwhile (id integer)");
            other.commit();
            assertThat(unwritten(mark)).isEmpty();
        }
    }

    /** Another server, another history, another table, a number that nobody knows any more or not yet. */
    @Test
    void aMarkOfSomethingElseSaysNothing() {
        String mark = mark();
        String[] parts = mark.split("/");
        for (int i = 0; i < parts.length - 1; i++) {
            String[] other = parts.clone();
            other[i] = "1" + other[i];
            assertThat(unwritten(String.join("/", other))).isEmpty();
        }
        String which = mark.substring(0, mark.lastIndexOf('/') + 1);
        assertThat(unwritten(which + (Long.parseLong(parts[4]) + (1L << 32)))).isEmpty();
        assertThat(unwritten(which + "999999999999999999")).isEmpty();
        for (String odd : new String[] {"", "x", "1/2/3/4/5; drop table sheet", which, mark + " or true"}) {
            assertThat(unwritten(odd)).as(odd).isEmpty();
        }
        assertThat(unwritten(mark)).hasValue(ROWS);
    }

    @Test
    void aViewOrATableOfPartsIsNotMarked() throws Exception {
        Databases.run(
                url,
                "create table parted (id integer) partition by range (id)",
                "create table p1 partition of parted for values from (0) to (9)");
        try (Place open = Places.open(url)) {
            assertThat(open.mark(TableName.of("parted"), false)).isEmpty();
        }
    }
}

package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.Servers;
import org.orderlyferry.work.Load;

/** PostgreSQL takes records in two forms; which one a record goes in makes no difference but in time. */
class CopyFormsTest {

    private static final String COLUMNS =
            "(id integer primary key, amount numeric, day date, moment timestamp, seen timestamptz, note text, scan bytea)";

    @TempDir
    Path folder;

    private static String usual(String ids) {
        return "select i, i / 7.0, date '2031-04-09' + i, timestamp '2031-04-09 07:30:00.25' + i * interval '1 s',"
                + " timestamptz '2031-04-09 07:30:00+02' - i * interval '1 d', 'moss ' || i || E' \\\\ \\t\\n', "
                + "decode(lpad(to_hex(i), 8, '0'), 'hex') from generate_series(" + ids + ") i";
    }

    /** Where all of it has gone, which is the same there. */
    private static String moved(String from) throws Exception {
        String to = Servers.newPostgres();
        try (Place a = Places.open(from);
                TargetPlace b = Places.openTarget(to)) {
            Load.from(a).into(b);
        }
        try (Place a = Places.open(from);
                Place b = Places.open(to)) {
            assertThat(Reconcile.between(a, b).compare().isEqual()).isTrue();
        }
        return to;
    }

    @Test
    void oddRecordsAmongUsualOnesComeThrough() throws Exception {
        String from = Servers.newPostgres();
        Databases.run(
                from,
                "create table bed " + COLUMNS,
                "insert into bed " + usual("1, 5000"),
                // more digits than the binary form has
                "insert into bed values (5001, ('1' || repeat('23', 20000) || '.5')::numeric, null, null, null, '', '')",
                "insert into bed values (5002, 1, '0044-03-15 BC', '0001-01-01 BC', '12031-12-31 23:59:59.999999Z', null, null)",
                "insert into bed " + usual("5003, 9000"));
        assertThat(Databases.rows(moved(from), "select count(*) from bed")).isEqualTo(List.of("9000"));
    }

    /** Cells of more than the piece that a record may be held in, and an odd one behind them in the same record. */
    @Test
    void hugeRecordsComeThroughWithWhatIsOddInThem() throws Exception {
        String from = Servers.newPostgres();
        Databases.run(
                from,
                "create table sheet (id integer primary key, story text, scan bytea, about jsonb, day date)",
                "insert into sheet select i, repeat('moss, \"fern\" and é' || chr(10) || chr(9), 150000),"
                        + " decode(repeat('00ff5c0a', 600000), 'hex'),"
                        + " jsonb_build_object('t', repeat('fern', 400000)), date '2031-04-09' from generate_series(1, 3) i",
                "insert into sheet select i, repeat('moss', 500000), null, null, '0044-03-15 BC' from generate_series(4, 5) i",
                "insert into sheet values (6, 'small', '\\x00', '[]', null)");
        String to = moved(from);
        assertThat(Databases.rows(
                        to, "select sum(length(story)), sum(length(scan)), sum(length(about ->> 't')) from sheet"))
                .isEqualTo(Databases.rows(
                        from, "select sum(length(story)), sum(length(scan)), sum(length(about ->> 't')) from sheet"));
    }

    /** The encoding is one that only the server knows, so that it finds the record in the middle of the COPY. */
    @ParameterizedTest
    @ValueSource(strings = {"2031-04-09", "-0044-03-15"})
    void aRecordThatIsRefusedIsToldByItsLineInBothForms(String day) throws Exception {
        String server = Servers.newPostgres();
        String name = "chinese_" + server.replaceAll(".*/|\\?.*", "") + day.length();
        Databases.run(
                server,
                "create database " + name + " encoding 'EUC_TW' template template0 lc_collate 'C' lc_ctype 'C'");
        String to = server.replaceFirst("/[^/?]*\\?", "/" + name + "?");
        Databases.run(to, "create table plant (id integer, day date, name text)");
        StringBuilder text = new StringBuilder("id,day,name\n");
        for (int i = 2; i < 900; i++) {
            text.append(i).append(',').append(i == 300 ? day : "2031-04-10").append(i == 700 ? ",🌿\n" : ",fern\n");
        }
        Path file = Files.writeString(folder.resolve("plant.csv"), text);
        try (Place a = Places.open(file.toString());
                TargetPlace b = Places.openTarget(to)) {
            assertThatThrownBy(() -> Load.from(a).mode(LoadMode.APPEND).into(b))
                    .isInstanceOf(PlaceException.class)
                    .hasMessageContaining("plant.csv, line 700, table plant")
                    .hasMessageContaining("refuses the record")
                    .hasMessageContaining("EUC_TW");
        }
        assertThat(Databases.rows(to, "select count(*) from plant")).isEqualTo(List.of("0"));
    }

    /** What a type's own words mean is the server's to say; a table with such a column goes as text. */
    @Test
    void typesOfTheServersOwnGoAsText() throws Exception {
        String from = Servers.newPostgres();
        Databases.run(
                from,
                "create type soil as enum ('peat', 'it''s sand')",
                "create domain height as integer check (value > 0)",
                "create table bed (id integer primary key, of soil, tall height, span interval, tags text[], note xml)",
                "insert into bed values (1, 'it''s sand', 7, '1 day 02:00:00', array['a', null, '\"'], '<a>b</a>')",
                "create table pot (id integer primary key, of soil, code char(5), label varchar(9))",
                "insert into pot values (1, 'peat', 'ab', 'c  '), (2, null, null, '')");
        String to = moved(from);
        assertThat(Databases.rows(to, "select of, code, label || '|' from pot order by id"))
                .isEqualTo(Databases.rows(from, "select of, code, label || '|' from pot order by id"));
    }
}

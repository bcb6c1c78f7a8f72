package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.util.List;
import org.h2.tools.RunScript;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.testkit.herbarium.Herbarium;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.Servers;
import org.orderlyferry.work.Load;

/** Scripts of SQL: those that are written run on the real systems, and those of the systems' own tools are read. */
class ScriptsTest {

    @TempDir
    static Path folder;

    private static Path old;

    @BeforeAll
    static void makeAHerbarium() throws Exception {
        old = folder.resolve("old.mv.db");
        new Herbarium().specimens(200).readings(300).commonDates(true).create(old);
    }

    private static Path script(String dialect) {
        Path script = folder.resolve(dialect + ".sql");
        OpenOptions options = OpenOptions.builder()
                .files(FileSettings.NONE.with("dialect", dialect))
                .build();
        try (Place source = Places.open(old.toString());
                TargetPlace target = Places.openTarget(PlaceAddress.of(script), options)) {
            // its largest floating point numbers and NaN are refused elsewhere by name
            String[] tables = source.tables().stream()
                    .map(TableName::toString)
                    .filter(t -> !t.equals("calibration") || dialect.equals("postgresql") || dialect.equals("h2"))
                    .toArray(String[]::new);
            Load.from(source).tables(tables).into(target);
        }
        return script;
    }

    private static String run(String dialect, Path script) throws Exception {
        String sql = Files.readString(script);
        switch (dialect) {
            case "postgresql" -> {
                String url = Servers.newPostgres();
                Databases.run(url, sql);
                return url;
            }
            case "mariadb" -> {
                String url = Servers.newMaria();
                Databases.run(url + "&allowMultiQueries=true", sql);
                return url;
            }
            case "sqlite" -> {
                Path file = folder.resolve("ran.sqlite");
                try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + file);
                        Statement statement = connection.createStatement()) {
                    // its driver takes one statement at a time
                    for (String one : sql.split(";\n")) {
                        statement.execute(one);
                    }
                }
                return file.toString();
            }
            default -> {
                Path file = folder.resolve("ran.mv.db");
                try (Connection connection =
                        DriverManager.getConnection("jdbc:h2:" + file.toString().replace(".mv.db", ""), "sa", "")) {
                    RunScript.execute(connection, Files.newBufferedReader(script));
                }
                return file.toString();
            }
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"postgresql", "mariadb", "sqlite", "h2"})
    void aScriptMakesTheTablesOnTheRealSystemAndIsReadBack(String dialect) throws Exception {
        Path script = script(dialect);
        try (Place source = Places.open(old.toString());
                Place read = Places.open(script.toString());
                Place ran = Places.open(run(dialect, script))) {
            List<TableName> tables = read.tables();
            for (TableName table : tables) {
                ReconcileResult server =
                        Reconcile.between(source, ran).tables(table.toString()).compare();
                assertThat(server.isEqual()).as(server.toString()).isTrue();
                ReconcileResult back =
                        Reconcile.between(source, read).tables(table.toString()).compare();
                assertThat(back.isEqual()).as(back.toString()).isTrue();
                assertThat(read.define(table).primaryKey().map(k -> k.columns()))
                        .isEqualTo(source.define(table).primaryKey().map(k -> k.columns()));
                assertThat(read.define(table).foreignKeys())
                        .hasSameSizeAs(source.define(table).foreignKeys());
                assertThat(read.define(table).columns())
                        .extracting(c -> c.name() + " " + c.nullable())
                        .isEqualTo(ran.define(table).columns().stream()
                                .map(c -> c.name() + " " + c.nullable())
                                .toList());
            }
        }
    }

    @Test
    void aDumpIsReadInTheEncodingThatItSays() throws Exception {
        Path latin = folder.resolve("latin.sql");
        Files.write(
                latin,
                "-- PostgreSQL database dump\nSET client_encoding = 'LATIN1';\nCREATE TABLE heide (name text);\nCOPY heide (name) FROM stdin;\nWei\u00dfe Heide\n\\.\n"
                        .getBytes(java.nio.charset.StandardCharsets.ISO_8859_1));
        assertThat(Ferry.run("look", latin).out()).contains("Weiße Heide");
    }

    @Test
    void postgresqlsBulkFormIsReadBack() {
        Path script = folder.resolve("bulk.sql");
        OpenOptions options = OpenOptions.builder()
                .files(FileSettings.NONE.with("bulk", "true"))
                .build();
        try (Place source = Places.open(old.toString());
                TargetPlace target = Places.openTarget(PlaceAddress.of(script), options)) {
            Load.from(source).into(target);
            try (Place read = Places.open(script.toString())) {
                ReconcileResult back = Reconcile.between(source, read).compare();
                assertThat(back.isEqual()).as(back.toString()).isTrue();
            }
        }
    }

    @Test
    void aDumpThatIsCutInTheMiddleOfAStatementIsToldOf() throws Exception {
        Path cut = folder.resolve("cut.sql");
        Files.writeString(
                cut,
                "-- PostgreSQL database dump\nCREATE TABLE label (id integer);\nINSERT INTO label VALUES (1);\n"
                        + "INSERT INTO label VALUES (");
        assertThat(Ferry.run("look", cut).err())
                .contains("line 4", "the file ends in the middle of the statement that begins here");
        Files.writeString(
                cut,
                "-- PostgreSQL database dump\nCREATE TABLE label (id integer);\nCOPY label (id) FROM stdin;\n1\n2\n");
        assertThat(Ferry.run("load", cut, folder.resolve("cut.sqlite")).err())
                .contains("line 5", "the file ends in the middle of a block of records");
        assertThat(folder.resolve("cut.sqlite")).doesNotExist();
    }

    @ParameterizedTest
    @ValueSource(strings = {"postgresql", "mariadb", "sqlite"})
    void dumpsOfTheSystemsOwnToolsAreRead(String system) throws Exception {
        Path dump = folder.resolve(system + "-dump.sql");
        try (var in = ScriptsTest.class.getResourceAsStream(system + "-dump.sql")) {
            Files.write(dump, in.readAllBytes());
        }
        Path target = folder.resolve(system + "-dump.sqlite");
        Ferry load = Ferry.run("load", dump, target);
        assertThat(load.code()).as(load.err()).isZero();
        String url = "jdbc:sqlite:" + target;
        assertThat(Databases.rows(url, "SELECT id, name, parent, note FROM taxon ORDER BY id"))
                .containsExactly(
                        "1 Quillmoorales null it's \"moss\"\tand\\fern",
                        "2 Weiße Heide 1 two\nlines",
                        "3 山の苔 1 ",
                        "4 🌿 null null");
        assertThat(Databases.rows(
                        url, "SELECT id, active, weight, price, day, moment, hex(scan) FROM sheet ORDER BY id"))
                .containsExactly(
                        "1 1 0.1 12.5 2031-04-09 2031-04-09 07:30:00.25 00FF4D6F7373",
                        "2 0 -1.0e+300 -0.01 1899-12-31 1999-12-31 23:59:59 ",
                        "3 null null null null null ");
        String definitions = Ferry.run("look", target, "taxon").out();
        assertThat(definitions).contains("primary", "(parent) → taxon (id)");
        assertThat(load.out()).contains("view heavy");
    }

    @Test
    void aScriptInAnotherEncodingIsToldAndReadAsItIsSaid() throws Exception {
        Path latin = folder.resolve("latin.sql");
        Files.write(
                latin,
                "CREATE TABLE label (id integer, name text);\nINSERT INTO label VALUES (1, 'moss'), (2, 'Wei\u00dfe Heide');\n"
                        .getBytes(StandardCharsets.ISO_8859_1));
        Path to = folder.resolve("latin.jsonl");
        Ferry wrong = Ferry.run(
                "convert", latin, to, "--from-setting", "dialect=sqlite", "--rejects", folder.resolve("no.csv"));
        assertThat(wrong.code()).isEqualTo(3);
        assertThat(wrong.err()).contains("line 2", "0xDF in column name isn't valid UTF-8, after 'Wei'");
        assertThat(to).doesNotExist();
        assertThat(Ferry.run("look", latin, "--setting", "dialect=sqlite").out())
                .contains("2 records", "Weiße Heide", "it is shown as if in windows-1252");
        Ferry told = Ferry.run(
                "convert", latin, to, "--from-setting", "dialect=sqlite", "--from-setting", "encoding=ISO-8859-1");
        assertThat(told.code()).as(told.err()).isZero();
        assertThat(Files.readString(to)).contains("Weiße Heide");
        Ferry back = Ferry.run("convert", to, folder.resolve("back.sql"), "--to-setting", "encoding=ISO-8859-1");
        assertThat(back.err()).contains("a script is written in UTF-8");
    }

    @Test
    void aBadListOfValuesIsOneRejectAndTheOthersFollow() throws Exception {
        Path script = Files.writeString(
                folder.resolve("lists.sql"),
                """
                -- SQLite
                PRAGMA foreign_keys=OFF;
                BEGIN TRANSACTION;
                CREATE TABLE "of VALUES" (id integer, note text);
                INSERT INTO "of VALUES" VALUES
                  (1, 'a (b), c'), /* none, (9, 'x') */ (2, soon()), -- (8, 'y')
                  (3), (4, 'd''); e'), (5,-5)
                  ON CONFLICT (id) DO UPDATE SET note = 'f;(';
                INSERT INTO other VALUES (1, 'not ours; (');
                INSERT INTO "of VALUES" (note, id) VALUES('--', +6);
                COMMIT;
                """);
        Path rejects = folder.resolve("rejects.csv");
        Path to = folder.resolve("lists.jsonl");
        Ferry ferry = Ferry.run("convert", script, to, "--from-setting", "dialect=sqlite", "--rejects", rejects);
        assertThat(ferry.out()).as(ferry.err()).contains("6 read = 4 written + 2 rejected");
        assertThat(Files.readAllLines(to))
                .containsExactly(
                        "{\"id\":1,\"note\":\"a (b), c\"}",
                        "{\"id\":4,\"note\":\"d'); e\"}",
                        "{\"id\":5,\"note\":\"-5\"}",
                        "{\"id\":6,\"note\":\"--\"}");
        assertThat(Files.readString(rejects)).contains(",6,", "the function SOON", ",7,", "1 value, but there are 2");
        Files.writeString(script, Files.readString(script).replaceAll("(?s)5,-5.*", "5,"));
        Ferry cut = Ferry.run(
                "convert",
                script,
                folder.resolve("cut.jsonl"),
                "--from-setting",
                "dialect=sqlite",
                "--rejects",
                rejects);
        assertThat(cut.err()).contains("line 5", "the file ends in the middle of the statement that begins here");
    }

    @Test
    void whatIsNotFollowedIsNoProofEither() throws Exception {
        Path script = Files.writeString(
                folder.resolve("half.sql"),
                """
                PRAGMA foreign_keys=OFF;
                BEGIN TRANSACTION;
                CREATE TABLE label (id integer primary key, note text);
                INSERT INTO label VALUES (1,'moss');
                UPDATE label SET note = 'x';
                COMMIT;
                """);
        Path target = folder.resolve("half.sqlite");
        Path crossing = folder.resolve("half.yaml");
        assertThat(Ferry.run("draft", script, target, "--file", crossing).code())
                .isZero();
        Ferry run = Ferry.run("run", crossing);
        assertThat(run.code()).isEqualTo(1);
        assertThat(run.out()).contains("Done, and equal, but").doesNotContain("Done, and proved");
        Ferry report = Ferry.run("report", crossing);
        assertThat(report.code()).isEqualTo(1);
        assertThat(report.out()).contains("But something that changes records at the source wasn't followed");
        // a comparison says what it didn't compare
        Ferry compared = Ferry.run("reconcile", script, target);
        assertThat(compared.out()).contains("Not compared (1)", "statement UPDATE: in line 5");
    }

    @Test
    void aNameOfSeveralLinesSaysNothingOfItsOwn() throws Exception {
        Path script = Files.writeString(
                folder.resolve("lines.sql"),
                """
                -- SQLite
                CREATE TABLE label (id integer primary key);
                INSERT INTO label VALUES (1);
                CREATE VIEW "moss

                All 900 records are in." AS SELECT 1;
                """);
        Ferry convert = Ferry.run("convert", script, folder.resolve("lines.csv"), "--from-setting", "dialect=sqlite");
        assertThat(convert.code()).isZero();
        assertThat(convert.out()).contains("view moss\\n\\nAll 900 records are in.:");
        assertThat(convert.out().lines()).noneMatch(l -> l.strip().startsWith("All 900"));
    }

    @Test
    void whatOnlyAServerCouldFollowIsTold() throws Exception {
        Path script = Files.writeString(
                folder.resolve("changes.sql"),
                """
                -- SQLite
                PRAGMA foreign_keys=OFF;
                CREATE TABLE label (id integer primary key, note text);
                INSERT INTO label VALUES (1,'moss');
                INSERT INTO label SELECT 2, 'fern';
                INSERT INTO label SELECT 3, 'fern';
                UPDATE label SET note = 'x';
                INSERT INTO nowhere VALUES (1), (2);
                DELETE FROM sqlite_sequence;
                INSERT INTO sqlite_sequence VALUES('label',1);
                """);
        Ferry convert = Ferry.run("convert", script, folder.resolve("changes.csv"), "--from-setting", "dialect=sqlite");
        assertThat(convert.code()).isEqualTo(1);
        assertThat(convert.out())
                .contains("Left behind (3)", "statement INSERT: 2 of them, the first in line 5")
                .contains("1 record is in", "They may not be all")
                .contains("statement UPDATE: in line 7", "records nowhere: the script doesn't make the table");
        assertThat(Ferry.run("look", script, "--setting", "dialect=sqlite").out())
                .contains("Can't be carried (3)");
    }

    @Test
    void linesOfCopyMayHaveAnyEscapeOfPostgres() throws Exception {
        Path script = Files.writeString(
                folder.resolve("copy.sql"),
                """
                -- PostgreSQL database dump
                CREATE TABLE label (id integer, note text, scan bytea);
                COPY label (id, note, scan) FROM stdin;
                1\ta\\\tb\\tc\\101\\x42C\\\\N\t\\\\x0001
                2\t\\N\t\\N
                3\t\\303\\244\\q\t\\\\x
                \\.
                """);
        Path to = folder.resolve("copy.jsonl");
        assertThat(Ferry.run("convert", script, to).code()).isZero();
        assertThat(Files.readAllLines(to))
                .containsExactly(
                        "{\"id\":1,\"note\":\"a\\tb\\tcABC\\\\N\",\"scan\":\"AAE=\"}",
                        "{\"id\":2,\"note\":null,\"scan\":null}",
                        "{\"id\":3,\"note\":\"äq\",\"scan\":\"\"}");
        Files.writeString(script, Files.readString(script).replace("FROM stdin", "FROM stdin WITH (FORMAT csv)"));
        assertThat(Ferry.run("convert", script, folder.resolve("no.jsonl")).err())
                .contains("line 3", "COPY WITH (FORMAT csv) isn't read");
    }

    @Test
    void listsOfADumpAreArraysAndGoBackIntoTheServer() throws Exception {
        String old = Servers.newPostgres();
        try (Connection connection = DriverManager.getConnection(old);
                Statement statement = connection.createStatement()) {
            statement.execute("CREATE TABLE label (id integer primary key, tags text[], n integer[], m numeric[],"
                    + " at timestamp(3)[], dry boolean[], ratio double precision[], day date[])");
            statement.execute(
                    """
                    INSERT INTO label VALUES
                    (1, ARRAY['moss', E'a "b", c\\\\d\te', NULL, 'NULL', '', 'ä{}'], '{1,2,NULL}',
                     '{1.50,12345678901234567890.123456789}', '{"2031-04-09 07:30:00.25"}', '{t,f,NULL}', '{0.1,NaN,-Infinity}',
                     '{2031-04-09}'),
                    (2, '{}', '{{1,2},{3,4}}', NULL, '{}', '{}', '{}', '{}')
                    """);
        }
        Path script = folder.resolve("arrays.sql");
        for (String bulk : new String[] {"false", "true"}) {
            Ferry write = Ferry.run("convert", old, script, "--overwrite", "--to-setting", "bulk=" + bulk);
            assertThat(write.code()).as(write.err()).isZero();
            try (Place read = Places.open(script.toString())) {
                assertThat(read.define(TableName.of("label"))
                                .column("m")
                                .orElseThrow()
                                .type()
                                .toString())
                        .isEqualTo("DECIMAL ARRAY");
            }
            assertThat(Ferry.run("reconcile", old, script).out()).contains("1 of 1 table equal");
            String back = Servers.newPostgres();
            Ferry load = Ferry.run("load", script, back);
            assertThat(load.code()).as(load.err()).isZero();
            assertThat(Ferry.run("reconcile", old, back).out()).contains("1 of 1 table equal");
        }
    }
}

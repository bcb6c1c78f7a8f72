package org.orderlyferry.databases.driver;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** What is read by a driver alone: all types of DuckDB; nothing is made by reading, and a missing driver is asked for. */
class DriverSourcesTest {

    @TempDir
    private static Path folder;

    @BeforeAll
    static void keepTheLogAway() {
        System.setProperty(
                "derby.stream.error.file", folder.resolve("derby.log").toString());
    }

    @Test
    void aDatabaseOfAnotherMakeIsReadWithAllItsTypes() throws Exception {
        Path file = folder.resolve("field.duckdb");
        Databases.run(
                "jdbc:duckdb:" + file,
                "CREATE TABLE bed (id INTEGER PRIMARY KEY, name VARCHAR NOT NULL DEFAULT 'moss')",
                "CREATE TABLE every (id BIGINT PRIMARY KEY, b BOOLEAN, t TINYINT, ub UBIGINT, h HUGEINT, d DECIMAL(18,4),"
                        + " f FLOAT, g DOUBLE, v VARCHAR, x BLOB, day DATE, hour TIME, moment TIMESTAMP, instant TIMESTAMPTZ,"
                        + " nano TIMESTAMP_NS, u UUID, l INTEGER[], s STRUCT(a INTEGER, b VARCHAR), iv INTERVAL,"
                        + " bed INTEGER REFERENCES bed (id))",
                "CREATE VIEW names AS SELECT name FROM bed",
                "INSERT INTO bed VALUES (1, 'fern')",
                "INSERT INTO every VALUES (1, true, -128, 18446744073709551615, 170141183460469231731687303715884105727,"
                        + " 12345678901234.5678, 0.1, 0.1, 'ü', '\\xAA\\x00'::BLOB, '0001-01-01', '23:59:59.123456',"
                        + " '2031-03-30 02:30:00.123456', '2031-04-09 07:30:00+02', '2031-04-09 07:30:00.123456789',"
                        + " '114955a1-d1b8-2695-4d43-4bff10aabbcc', [1, 2], {'a': 1, 'b': 'x'}, INTERVAL 3 DAY, 1)");
        Path set = folder.resolve("field");
        try (Place source = Places.open("jdbc:duckdb:" + file)) {
            assertThat(source.system()).startsWith("DuckDB");
            Export.from(source).to(set);
            assertThat(source.leftBehind()).extracting(l -> l.kind()).contains("view", "type", "definition");
            assertThat(source.define(TableName.of("every")).foreignKeys()).hasSize(1);
        }
        Path target = folder.resolve("field.sqlite");
        try (Place kept = Places.open(set);
                TargetPlace to = Places.openTarget(target)) {
            Load.from(kept).into(to);
        }
        try (Place source = Places.open("jdbc:duckdb:" + file);
                Place to = Places.open(target)) {
            DriverDialectTest.assertEqual(source, to);
        }
        String lines = Files.readString(set.resolve("data/every.csv"));
        assertThat(lines)
                .contains("18446744073709551615", "170141183460469231731687303715884105727", "12345678901234.5678")
                .contains("2031-03-30T02:30:00.123456", "2031-04-09T05:30:00Z");
    }

    /** What its driver can't give, tells otherwise than others, or doesn't tell at all. */
    @Test
    void whatADriverCannotGiveIsRejectedOrTold() throws Exception {
        Path file = folder.resolve("odd.duckdb");
        Databases.run(
                "jdbc:duckdb:" + file,
                "CREATE TABLE odd (id INTEGER PRIMARY KEY, \"sel ect\" INTEGER NOT NULL, hour TIME, bits BIT, code VARCHAR UNIQUE,"
                        + " deep INTEGER, CHECK (deep > 0))",
                "CREATE INDEX by_hour ON odd (hour)",
                "INSERT INTO odd VALUES (1, 1, '07:30:00', '010101', 'a', 2), (2, 2, '24:00:00', '1', 'b', 3)");
        List<String> heard = new ArrayList<>();
        String target = folder.resolve("odd.sqlite").toString();
        try (Place source = Places.open("jdbc:duckdb:" + file);
                TargetPlace to = Places.openTarget(target)) {
            TransferResult result = Load.from(source)
                    .rejects(why -> heard.add(why.getMessage()))
                    .into(to);
            assertThat(result.rows()).isEqualTo(1);
            assertThat(result.leftBehind())
                    .extracting(LeftBehind::toString)
                    .contains("index odd.by_hour: SQLite has no such index: (columns that its driver doesn't tell)");
            TableDefinition odd = source.define(TableName.of("odd"));
            assertThat(odd.uniqueKeys()).extracting(Key::columns).containsExactly(List.of("code"));
            assertThat(odd.checks()).extracting(CheckConstraint::expression).containsExactly("((deep > 0))");
        }
        assertThat(heard)
                .singleElement()
                .asString()
                .contains("record 2 (id = 2), column hour", "can't be read: its driver fails");
        assertThat(Databases.rows("jdbc:sqlite:" + target, "SELECT \"bits\", \"hour\" FROM odd"))
                .containsExactly("010101 07:30:00");
        try (Place source = Places.open(target);
                TargetPlace to = Places.openTarget("jdbc:duckdb:" + file)) {
            assertThatThrownBy(() -> Load.from(source).mode(LoadMode.REPLACE).into(to))
                    .isInstanceOf(UsageException.class)
                    .hasMessageContaining("nothing can be loaded");
        }
    }

    @Test
    void aQueryIsReadByItsDriver() throws Exception {
        String url = "jdbc:hsqldb:mem:queried";
        Databases.run(
                url,
                "CREATE TABLE \"bed\" (\"id\" INTEGER PRIMARY KEY, \"name\" VARCHAR(20))",
                "INSERT INTO \"bed\" VALUES (1, 'moss'), (2, 'fern')");
        Path set = folder.resolve("query");
        try (Place source = Places.open(url)) {
            Export.from(source)
                    .query("names", "SELECT \"name\", \"id\" * 2 AS twice FROM \"bed\" ORDER BY 1")
                    .to(set);
            assertThatThrownBy(() -> Export.from(source)
                            .query("gone", "DELETE FROM \"bed\"")
                            .to(folder.resolve("gone")))
                    .isInstanceOf(UsageException.class);
        }
        assertThat(Files.readString(set.resolve("data/names.csv"))).contains("fern,4");
    }

    /** What isn't carried of definitions is said, or that the system doesn't tell. */
    @Test
    void whatDriversDoNotTellIsAskedOfTheSystemsViews() throws Exception {
        String url = "jdbc:hsqldb:mem:views";
        Databases.run(
                url,
                "CREATE DOMAIN depth AS INTEGER CHECK (VALUE > 0)",
                "CREATE DOMAIN free AS INTEGER",
                "CREATE TABLE soil (code VARCHAR(8) PRIMARY KEY, label VARCHAR(40) COLLATE SQL_TEXT_UCC,"
                        + " deep depth, wide free)",
                "CREATE VIEW wet AS SELECT * FROM soil",
                "CREATE TABLE bed (id BIGINT GENERATED BY DEFAULT AS IDENTITY (START WITH 7, INCREMENT BY 3) PRIMARY KEY,"
                        + " soil VARCHAR(8))",
                "COMMENT ON TABLE bed IS 'beds; of the garden'",
                "INSERT INTO bed (soil) VALUES ('peat'), ('loam')",
                "CREATE TABLE past (id INTEGER PRIMARY KEY, since TIMESTAMP GENERATED ALWAYS AS ROW START,"
                        + " until TIMESTAMP GENERATED ALWAYS AS ROW END, PERIOD FOR SYSTEM_TIME (since, until))"
                        + " WITH SYSTEM VERSIONING");
        try (Place place = Places.open(url)) {
            TableDefinition bed = place.define(new TableName("", "BED"));
            assertThat(bed.comment()).isEqualTo("beds; of the garden");
            assertThat(bed.column("ID").orElseThrow().identity()).contains(new Identity(false, 1, 3, 13));
            assertThat(place.leftBehind())
                    .extracting(l -> l.kind() + " " + l.name())
                    .containsExactlyInAnyOrder(
                            "view WET",
                            "domain SOIL.DEEP",
                            "collation SOIL.LABEL",
                            "history PAST",
                            "definition HSQL Database Engine");
        }
    }

    @Test
    void aTableOfXmlIsReadFromASystemThatHandsOutNone() throws Exception {
        String url = "jdbc:derby:" + folder.resolve("xml");
        Databases.run(
                url + ";create=true",
                "CREATE TABLE label (id INT PRIMARY KEY, said XML)",
                "INSERT INTO label VALUES (1, XMLPARSE(DOCUMENT '<a b=\"ä\">x&amp;y</a>' PRESERVE WHITESPACE)), (2, NULL)");
        try (Place place = Places.open(url)) {
            assertThat(place.leftBehind().toString())
                    .contains("nothing of checks, domains' rules, columns' collations");
            Export.from(place).to(folder.resolve("xml-set"));
        }
        assertThat(Files.readAllLines(folder.resolve("xml-set/data/LABEL.csv")))
                .contains("1,\"<a b=\"\"ä\"\">x&amp;y</a>\"", "2,");
    }

    @Test
    void readingMakesNothing() {
        Path file = folder.resolve("none");
        assertThatThrownBy(() -> Places.open("jdbc:derby:" + file + ";upgrade=true"))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("only read");
        for (String url : List.of(
                "jdbc:derby:" + file,
                "jdbc:derby:" + file + ";create=true",
                "jdbc:hsqldb:file:" + file,
                "jdbc:duckdb:" + file)) {
            assertThatThrownBy(() -> Places.open(url))
                    .isInstanceOf(PlaceException.class)
                    .hasMessageContaining("can't be opened");
        }
        assertThat(file).doesNotExist();
        assertThat(folder.resolve("none.script")).doesNotExist();
    }

    @Test
    void aDriverThatIsMissingIsAskedForByItsFolder() {
        assertThatThrownBy(() -> Places.open("jdbc:quillmoor://museum/old?password=secret"))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("there is no driver for jdbc:quillmoor:")
                .hasMessageContaining(DriverFolder.path().toString())
                .hasMessageNotContaining("secret");
    }
}

package org.orderlyferry.databases.driver;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;

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

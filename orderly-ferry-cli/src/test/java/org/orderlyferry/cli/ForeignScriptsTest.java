package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;

/** Scripts as others write them: each statement is understood, or told with its line. */
@Tag("everywhere")
class ForeignScriptsTest {

    @TempDir
    Path folder;

    private Place script(String dialect, String text) throws Exception {
        Path file = Files.writeString(folder.resolve("garden.sql"), text);
        Files.setLastModifiedTime(file, java.nio.file.attribute.FileTime.fromMillis(++made * 1_000L));
        return Places.open(
                PlaceAddress.of(file.toString()),
                OpenOptions.builder()
                        .files(OpenOptions.DEFAULT.files().with("dialect", dialect))
                        .build());
    }

    private static int made;

    private static List<String> rows(Place place, String table) {
        List<String> rows = new java.util.ArrayList<>();
        RecordBatch batch = new RecordBatch();
        try (RecordReader reader = place.read(Slice.whole(place.define(TableName.of(table))))) {
            while (reader.read(batch)) {
                for (int row = 0; row < batch.rows(); row++) {
                    StringBuilder text = new StringBuilder();
                    for (int column = 0; column < batch.columns(); column++) {
                        text.append(column == 0 ? "" : " ").append(batch.text(row, column));
                    }
                    rows.add(text.toString());
                }
            }
        }
        return rows;
    }

    @ParameterizedTest
    @CsvSource({
        "postgresql, key text|index integer|spatial text|period integer|fulltext text",
        "postgresql, exclude boolean|key integer",
        "sqlite, key TEXT|index_no INTEGER|spatial TEXT|period TEXT|exclude TEXT",
        "h2, fulltext VARCHAR(9)|spatial INTEGER|exclude INTEGER|period VARCHAR(9)",
        "mariadb, `key` varchar(9)|`index` int|`check` int|`spatial` text|`unique` int",
    })
    void columnsOfAnyNameAreColumns(String dialect, String columns) throws Exception {
        List<String> all = List.of(columns.split("\\|"));
        try (Place place = script(dialect, "CREATE TABLE bed (" + String.join(", ", all) + ", last integer);")) {
            TableName name = place.tables().get(0);
            assertThat(place.define(name).columns())
                    .extracting(ColumnDefinition::name)
                    .hasSize(all.size() + 1);
        }
    }

    @Test
    void rulesAreStillRules() throws Exception {
        try (Place place = script(
                "mariadb",
                "CREATE TABLE bed (id int, code varchar(9), PRIMARY KEY (id), UNIQUE KEY u (code), KEY k (code(3)),"
                        + " CONSTRAINT c CHECK (id > 0), CHECK (id < 9), FULLTEXT KEY f (code), KEY e ((lower(code))));")) {
            var bed = place.define(TableName.of("bed"));
            assertThat(bed.columns()).hasSize(2);
            assertThat(bed.primaryKey()).isPresent();
            assertThat(bed.uniqueKeys()).hasSize(1);
            assertThat(bed.checks()).hasSize(2);
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "COPY bed FROM '/tmp/bed.csv';",
                "\\i other.sql",
                "CREATE TABLE other AS SELECT 1 AS n;",
                "SELECT n INTO other FROM bed;",
                "WITH x AS (SELECT 1) INSERT INTO bed SELECT * FROM x;",
                "DO $$ BEGIN DELETE FROM bed; END $$;",
                "DROP TABLE bed;",
                "ALTER TABLE bed DROP COLUMN n;",
                "ALTER TABLE bed RENAME TO flowerbed;",
                "ALTER TABLE bed RENAME COLUMN n TO m;",
                "ALTER TABLE bed ALTER COLUMN n TYPE text USING n || '!';",
                "CREATE TABLE other PARTITION OF bed FOR VALUES IN (1);",
                "CREATE TABLE other (LIKE bed);",
                "CREATE TABLE other (m integer) INHERITS (bed);",
                "INSERT INTO bed VALUES (1) ON CONFLICT DO NOTHING;",
                "INSERT INTO bed SELECT 1;",
                "UPDATE bed SET n = 2;",
                "EXECUTE statement;",
                "IMPORT FOREIGN SCHEMA x FROM SERVER y INTO z;",
                "GRANT SELECT ON bed TO guest;",
            })
    void eachStatementIsUnderstoodOrToldWithItsLine(String statement) throws Exception {
        try (Place place = script(
                "postgresql",
                "CREATE TABLE bed (n integer);\nCREATE TABLE plant (n integer);\n\n" + statement + "\n")) {
            assertThat(place.leftBehind())
                    .extracting(LeftBehind::toString)
                    .as(statement)
                    .anyMatch(t -> t.contains("line 4"));
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "SET client_encoding = 'UTF8';",
                "SELECT pg_catalog.set_config('search_path', '', false);",
                "SELECT pg_catalog.setval('bed_n_seq', 3, true);",
                "ALTER TABLE bed OWNER TO postgres;",
                "ALTER TABLE ONLY bed ADD CONSTRAINT p PRIMARY KEY (n);",
                "ALTER TABLE bed ALTER COLUMN n SET NOT NULL;",
                "ALTER TABLE bed ADD COLUMN m integer;",
                "ALTER SEQUENCE s OWNED BY bed.n;",
                "BEGIN;\nINSERT INTO bed VALUES (1);\nCOMMIT;",
                "\\restrict abc",
                "COMMENT ON TABLE bed IS 'x';",
            })
    void whatIsHarmlessIsntTold(String statement) throws Exception {
        try (Place place = script("postgresql", "CREATE TABLE bed (n integer);\n" + statement + "\n")) {
            assertThat(place.leftBehind()).as(statement).isEmpty();
        }
    }

    @Test
    void whatIsRolledBackNeverCameToBe() throws Exception {
        String text =
                """
                CREATE TABLE bed (n integer);
                CREATE TABLE plant (n integer);
                INSERT INTO bed VALUES (1);
                BEGIN;
                INSERT INTO bed VALUES (2);
                INSERT INTO plant VALUES (20);
                CREATE TABLE gone (n integer);
                ROLLBACK;
                BEGIN;
                INSERT INTO bed VALUES (3);
                SAVEPOINT s;
                INSERT INTO bed VALUES (4);
                ROLLBACK TO SAVEPOINT s;
                INSERT INTO bed VALUES (5);
                COMMIT;
                INSERT INTO bed VALUES (6), (7);
                DROP TABLE plant;
                CREATE TABLE plant (m integer);
                COPY plant FROM STDIN;
                30
                \\.
                INSERT INTO bed VALUES (8);
                """;
        try (Place place = script("postgresql", text)) {
            assertThat(place.tables()).extracting(TableName::name).containsExactly("bed", "plant");
            assertThat(rows(place, "bed")).containsExactly("1", "3", "5", "6", "7", "8");
            assertThat(rows(place, "plant")).containsExactly("30");
            assertThat(place.leftBehind())
                    .extracting(LeftBehind::toString)
                    .anyMatch(t -> t.contains("ROLLBACK") && t.contains("line 8"));
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "REPLACE INTO bed VALUES (1);",
                "INSERT IGNORE INTO bed VALUES (1);",
                "INSERT INTO bed VALUES (1) ON DUPLICATE KEY UPDATE n = 2;",
            })
    void whatAServerWouldReplaceIsToldAndTheKeyKeepsItOut(String statement) throws Exception {
        String text = "CREATE TABLE bed (n int PRIMARY KEY);\nINSERT INTO bed VALUES (1);\n" + statement + "\n";
        try (Place place = script("mariadb", text)) {
            assertThat(rows(place, "bed")).containsExactly("1", "1");
            assertThat(place.leftBehind())
                    .extracting(LeftBehind::toString)
                    .singleElement()
                    .asString()
                    .contains("line 3", "comes twice");
        }
        Ferry load = Ferry.run(
                "load", folder.resolve("garden.sql"), "--setting", "dialect=mariadb", folder.resolve("garden.sqlite"));
        assertThat(load.code()).isEqualTo(3);
        assertThat(load.err()).contains("bed");
    }

    /** With one pass a table, this took a quarter of an hour. */
    @Test
    void aScriptOfManyTablesIsReadOnce() throws Exception {
        StringBuilder text = new StringBuilder();
        for (int table = 0; table < 300; table++) {
            text.append("CREATE TABLE bed_").append(table).append(" (n integer, t text);\n");
        }
        for (int round = 0; round < 3; round++) {
            for (int table = 0; table < 300; table++) {
                for (int row = 0; row < 40; row++) {
                    text.append("INSERT INTO bed_")
                            .append(table)
                            .append(" VALUES (")
                            .append(round * 40 + row)
                            .append(", 'a label; with -- marks and ''quotes'' in bed ")
                            .append(table)
                            .append("');\n");
                }
            }
        }
        Path file = Files.writeString(folder.resolve("many.sql"), text);
        Ferry convert = Ferry.run("convert", file, folder.resolve("set"), "--from-setting", "dialect=sqlite");
        assertThat(convert.code()).as(convert.err()).isZero();
        assertThat(convert.out()).contains("All 36,000 records are in");
        try (Place set = Places.open(folder.resolve("set").toString())) {
            assertThat(rows(set, "bed_299")).hasSize(120);
        }
    }

    /** SQLite takes an action for INSERT, and does nothing of it; words that mean nothing are named. */
    @Test
    void actionsOfReferences() throws Exception {
        String tables =
                "CREATE TABLE bed (id INTEGER PRIMARY KEY); CREATE TABLE label (bed INTEGER REFERENCES bed %s);";
        try (Place place = script("sqlite", String.format(tables, "ON INSERT CASCADE ON DELETE SET NULL"))) {
            ForeignKey key = place.define(TableName.of("label")).foreignKeys().get(0);
            assertThat(key.onDelete()).isEqualTo(ReferentialAction.SET_NULL);
            assertThat(key.onUpdate()).isEqualTo(ReferentialAction.NO_ACTION);
        }
        assertThatThrownBy(() -> script("sqlite", String.format(tables, "ON DELETE WITHER")))
                .hasMessageContaining("WITHER is no referential action");
    }
}

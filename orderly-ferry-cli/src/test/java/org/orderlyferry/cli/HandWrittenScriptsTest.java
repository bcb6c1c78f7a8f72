package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Base64;
import java.util.HexFormat;
import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.testkit.doubles.Contents;

/** Scripts as people write them: in old words and short ones, and with much that is left to the server. */
class HandWrittenScriptsTest {

    @TempDir
    Path folder;

    private Place script(String dialect, String text) throws Exception {
        return GardenScript.open(folder, dialect, text);
    }

    private static TableDefinition bed(Place place) {
        return place.define(TableName.of("bed"));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "h2 | INT, INT2, INT8, BIT | INTEGER, SMALLINT, BIGINT, BOOLEAN",
                "h2 | VARCHAR(9), VARCHAR2(9), CHAR(3), CHAR | CHARACTER VARYING(9), CHARACTER VARYING(9), CHARACTER(3), CHARACTER(1)",
                "h2 | TEXT, CLOB, BYTEA, BLOB | CHARACTER LARGE OBJECT, CHARACTER LARGE OBJECT, BINARY VARYING, BINARY LARGE OBJECT",
                "h2 | DATETIME, TIMESTAMP, TIMESTAMP WITH TIME ZONE, TIME | TIMESTAMP(6), TIMESTAMP(6), TIMESTAMP(6) WITH TIME ZONE, TIME(0)",
                "h2 | TIMESTAMP(3) WITHOUT TIME ZONE, FLOAT(10), FLOAT, DOUBLE | TIMESTAMP(3), REAL, DOUBLE PRECISION, DOUBLE PRECISION",
                "postgresql | int, serial8, float(10), float | INTEGER, BIGINT, REAL, DOUBLE PRECISION",
                "postgresql | bpchar(3), nchar(3), char varying ( 9 ), varchar | CHARACTER(3), CHARACTER(3), CHARACTER VARYING(9), CHARACTER VARYING",
                "postgresql | timestamp, timestamptz(3), time, bool | TIMESTAMP(6), TIMESTAMP(3) WITH TIME ZONE, TIME(6), BOOLEAN",
                "postgresql | int[], text[][], varchar(9)[3], int array | INTEGER ARRAY, CHARACTER LARGE OBJECT ARRAY, CHARACTER VARYING(9) ARRAY, INTEGER ARRAY",
                "mariadb | int1, int3, int8, integer unsigned | SMALLINT, INTEGER, BIGINT, BIGINT",
                "mariadb | numeric, real, fixed, double precision | DECIMAL(10,0), DOUBLE PRECISION, DECIMAL(10,0), DOUBLE PRECISION",
                "mariadb | nchar(3), national varchar(9), varchar(9) BINARY, clob | CHARACTER(3), CHARACTER VARYING(9), CHARACTER VARYING(9), CHARACTER LARGE OBJECT",
            })
    void aTypeIsKnownByAllOfItsNames(String dialect, String written, String types) throws Exception {
        List<String> all = List.of(written.strip().split(", "));
        String columns = all.stream().map(t -> "c" + all.indexOf(t) + " " + t).collect(Collectors.joining(", "));
        try (Place place = script(dialect, "CREATE TABLE bed (" + columns + ");")) {
            assertThat(place.define(place.tables().get(0)).columns())
                    .extracting(c -> c.type().toString())
                    .containsExactly(types.strip().split(", "));
            assertThat(place.leftBehind()).isEmpty();
        }
    }

    @Test
    void aTypeThatNobodyKnowsIsTold() throws Exception {
        try (Place place = script("postgresql", "CREATE TABLE bed (id int, soil loam(3));")) {
            assertThat(place.leftBehind().toString())
                    .contains("the type loam(3)")
                    .contains("in line 1");
        }
    }

    @Test
    void anEnumerationKeepsItsValues() throws Exception {
        try (Place place = script("mariadb", "CREATE TABLE bed (soil enum('wet','it''s \\'dry\\'') NOT NULL);")) {
            assertThat(bed(place).columns().get(0).enumeration().orElseThrow().values())
                    .containsExactly("wet", "it's 'dry'");
        }
    }

    @Test
    void keysAndIndexesInOldWordsAreNoColumns() throws Exception {
        String sql =
                "CREATE TABLE bed (a int, b varchar(90), c text, PRIMARY KEY USING BTREE (a), FOREIGN KEY own (b) REFERENCES"
                        + " loam (b), UNIQUE `one` (`b`),"
                        + " UNIQUE two (b(10)), KEY USING HASH (b), KEY three USING BTREE (b, a), FULLTEXT KEY four (c));";
        try (Place place = script("mariadb", sql)) {
            TableDefinition bed = bed(place);
            assertThat(bed.columnNames()).containsExactly("a", "b", "c");
            assertThat(bed.primaryKey().orElseThrow().columns()).containsExactly("a");
            assertThat(bed.foreignKeys())
                    .extracting(k -> k.columns().toString())
                    .containsExactly("[b]");
            assertThat(bed.uniqueKeys()).extracting(k -> k.name() + k.columns()).containsExactly("one[b]");
            assertThat(bed.indexes())
                    .extracting(IndexDefinition::name, IndexDefinition::unique, i -> i.columns()
                            .toString())
                    .containsExactly(
                            tuple("two", true, "[b]"), tuple("", false, "[b]"), tuple("three", false, "[b, a]"));
            assertThat(place.leftBehind().toString())
                    .contains("fulltext rule bed")
                    .contains("FULLTEXT KEY four (c)");
        }
    }

    @Test
    void aPrimaryKeysNameIsNoColumn() throws Exception {
        try (Place place =
                script("mariadb", "CREATE TABLE bed (a int unsigned auto_increment, PRIMARY KEY `A` (`a`));")) {
            assertThat(bed(place).primaryKey().orElseThrow().columns()).containsExactly("a");
        }
    }

    @Test
    void aCounterHasNoOtherDefault() throws Exception {
        try (Place place = script("sqlite", "CREATE TABLE bed (a INTEGER NOT NULL DEFAULT '0' PRIMARY KEY);")) {
            assertThat(bed(place).columns().get(0).identity()).isPresent();
            assertThat(bed(place).columns().get(0).defaultValue()).isEmpty();
        }
    }

    @Test
    void anIndexMayHaveNoName() throws Exception {
        String sql =
                "CREATE TABLE bed (id int, note text);\nCREATE INDEX ON bed (id);\nCREATE INDEX ON bed USING btree (note);";
        try (Place place = script("postgresql", sql)) {
            assertThat(bed(place).indexes()).extracting(IndexDefinition::shown).containsExactly("id", "note");
        }
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "mariadb | id int AUTO_INCREMENT PRIMARY KEY | NULL",
                "sqlite | id INTEGER PRIMARY KEY | NULL",
                "sqlite | id INTEGER PRIMARY KEY AUTOINCREMENT | NULL",
                "postgresql | id serial PRIMARY KEY | DEFAULT",
                "h2 | id INT GENERATED BY DEFAULT AS IDENTITY PRIMARY KEY | DEFAULT",
            })
    void whatIsLeftToTheCounterIsCounted(String dialect, String id, String left) throws Exception {
        String sql = "CREATE TABLE bed (" + id.strip() + ", note varchar(9));\n"
                + "INSERT INTO bed (note) VALUES ('moss'), ('fern');\n"
                + "INSERT INTO bed VALUES (40, 'heath');\n"
                + "INSERT INTO bed VALUES (" + left.strip() + ", 'reed');\n"
                + "INSERT INTO bed (note) VALUES ('rush');\n";
        try (Place place = script(dialect, sql)) {
            TableDefinition bed = place.define(place.tables().get(0));
            assertThat(Contents.of(place.read(Slice.whole(bed))))
                    .containsExactly(
                            List.of("1", "moss"),
                            List.of("2", "fern"),
                            List.of("40", "heath"),
                            List.of("41", "reed"),
                            List.of("42", "rush"));
        }
    }

    @Test
    void theWordDefaultIsTheColumnsDefault() throws Exception {
        String sql = "CREATE TABLE bed (id int, note varchar(9) DEFAULT 'moss', wet boolean DEFAULT 't');\n"
                + "INSERT INTO bed VALUES (1, DEFAULT, DEFAULT), (2, NULL, NULL);";
        try (Place place = script("postgresql", sql)) {
            List<List<String>> rows = Contents.of(place.read(Slice.whole(bed(place))));
            assertThat(rows.get(0)).containsExactly("1", "moss", "true");
            assertThat(rows.get(1)).containsExactly("2", null, null);
        }
    }

    @Test
    void whatOnlyAServerWorksOutIsToldOrRefused() throws Exception {
        String sql = "CREATE TABLE bed (id int, made timestamp DEFAULT now(), seal bytea DEFAULT '\\x6d6f7373');\n"
                + "INSERT INTO bed (id) VALUES (1);\nINSERT INTO bed (id) VALUES (2);\n"
                + "INSERT INTO bed VALUES (3, DEFAULT, NULL);\n";
        try (Place place = script("postgresql", sql)) {
            assertThat(place.leftBehind().toString())
                    .contains("INSERT INTO bed without made")
                    .contains("in line 2")
                    .contains("CURRENT_TIMESTAMP");
            List<List<String>> rows = new ArrayList<>();
            assertThatThrownBy(() -> Contents.drain(place.read(Slice.whole(bed(place))), rows))
                    .isInstanceOf(BadValueException.class)
                    .hasMessageContaining("line 4")
                    .hasMessageContaining("column made")
                    .hasMessageContaining("only a server works out");
        }
        try (Place place = script("postgresql", sql.replaceFirst("INSERT INTO bed VALUES.*", ""))) {
            assertThat(Contents.of(place.read(Slice.whole(bed(place)))))
                    .containsExactly(Arrays.asList("1", null, "bW9zcw=="), Arrays.asList("2", null, "bW9zcw=="));
        }
    }

    @ParameterizedTest
    @CsvSource(
            quoteCharacter = '`',
            value = {"TRUE,true", "'t',true", "'yes',true", "false,false", "'off',false", "'0',false"})
    void aTruthByAnyNameIsADefault(String sql, String value) throws Exception {
        try (Place place = script("postgresql", "CREATE TABLE bed (wet bool DEFAULT " + sql + ");")) {
            assertThat(bed(place).columns().get(0).defaultValue()).contains(new ColumnDefault.Literal(value));
        }
    }

    /** Some systems make no difference between letters, others turn them to one case where a name has no quotes. */
    @ParameterizedTest
    @CsvSource({
        "mariadb, Bed, Id",
        "sqlite, Bed, Id",
        "sqlserver, Bed, Id",
        "postgresql, bed, id",
        "h2, BED, ID",
        "oracle, BED, ID"
    })
    void aNameInOtherLettersMeansTheSame(String dialect, String table, String column) throws Exception {
        try (Place place = script(
                dialect,
                """
                CREATE TABLE Bed (Id INTEGER, Name VARCHAR(20), PRIMARY KEY (ID));
                CREATE TABLE PLANT (Id INTEGER NOT NULL, BED INTEGER, FOREIGN KEY (bed) REFERENCES bed (iD));
                CREATE INDEX Named ON BED (NAME);
                INSERT INTO bed (NAME, iD) VALUES ('moss', 1);
                INSERT INTO BED VALUES (2, 'fern');
                INSERT INTO plant VALUES (7, 1);
                """)) {
            TableDefinition bed = place.define(TableName.of(table));
            assertThat(bed.primaryKey().orElseThrow().columns()).containsExactly(column);
            assertThat(bed.columns().get(0).nullable()).isFalse();
            assertThat(bed.indexes().get(0).columns())
                    .containsExactly(bed.columnNames().get(1));
            assertThat(Contents.of(place.read(Slice.whole(bed))))
                    .extracting(Object::toString)
                    .containsExactly("[1, moss]", "[2, fern]");
            TableDefinition plant = place.tables().stream()
                    .filter(n -> n.name().equalsIgnoreCase("plant"))
                    .map(place::define)
                    .findFirst()
                    .orElseThrow();
            assertThat(plant.foreignKeys().get(0).columns())
                    .containsExactly(plant.columnNames().get(1));
            assertThat(plant.foreignKeys().get(0).target().name()).isEqualTo(table);
            assertThat(plant.foreignKeys().get(0).targetColumns()).containsExactly(column);
            assertThat(place.count(plant.name())).isEqualTo(1);
            assertThat(place.leftBehind()).isEmpty();
        }
    }

    @Test
    void anEnumerationIsFoundByItsNameInAnyLetters() throws Exception {
        try (Place place = script(
                "postgresql",
                """
                CREATE TYPE Growth AS ENUM ('moss', 'fern');
                CREATE TYPE "Tone" AS ENUM ('dark');
                CREATE TABLE bed (a GROWTH, b "Tone", c public.growth);
                """)) {
            assertThat(bed(place).columns()).allMatch(c -> c.enumeration().isPresent());
        }
    }

    @ParameterizedTest
    @CsvSource(
            quoteCharacter = '~',
            value = {
                "postgresql, ~decode('00ff5C', 'hex')~, 00ff5c",
                "postgresql, ~decode('AP9c', 'base64')~, 00ff5c",
                "postgresql, ~'\\x00ff5c'~, 00ff5c",
                // its older form, and that of its older servers' dumps
                "postgresql, ~'a\\000\\377\\\\'~, 6100ff5c",
                "postgresql, ~E'a\\\\000'~, 6100",
                "mariadb, UNHEX('00ff5C'), 00ff5c",
                "mariadb, FROM_BASE64('AP9c'), 00ff5c",
                // what begins so elsewhere is what it says
                "mariadb, ~'\\\\x41'~, 5c783431",
                "sqlite, ~'\\x41'~, 5c783431",
                "oracle, HEXTORAW('00ff5C'), 00ff5c"
            })
    void bytesAreReadFromWhatEachSystemHasForThem(String dialect, String written, String bytes) throws Exception {
        String type = dialect.equals("postgresql") ? "bytea" : dialect.equals("oracle") ? "RAW(9)" : "blob";
        try (Place place =
                script(dialect, "CREATE TABLE bed (scan " + type + ");\nINSERT INTO bed VALUES (" + written + ");")) {
            assertThat(Contents.of(
                            place.read(Slice.whole(place.define(place.tables().get(0))))))
                    .containsExactly(List.of(
                            Base64.getEncoder().encodeToString(HexFormat.of().parseHex(bytes))));
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "decode('0g', 'hex')",
                "decode('00', 'escape')",
                "decode('00')",
                "'a\\9'",
                "'\\x0'",
                "'\\'",
                "'\\400'"
            })
    void whatIsNoBytesIsRefused(String written) throws Exception {
        try (Place place =
                script("postgresql", "CREATE TABLE bed (scan bytea);\nINSERT INTO bed VALUES (" + written + ");")) {
            assertThatThrownBy(() -> Contents.of(place.read(Slice.whole(bed(place)))))
                    .hasMessageContaining("line 2");
        }
    }

    /** A person who looks at all tables sees that one isn't empty, but can't be read. */
    @Test
    void anOverviewTellsOfRecordsThatCantBeTaken() throws Exception {
        StringBuilder sql = new StringBuilder();
        for (int i = 10; i < 50; i++) {
            sql.append("CREATE TABLE bed").append(i).append(" (id int);\n");
        }
        Path file = Files.writeString(
                folder.resolve("garden.sql"),
                sql
                        + "INSERT INTO bed11 VALUES (1), (soil(2)), (3);\nINSERT INTO bed12 VALUES (soil(4)), (soil(5));\n");
        Ferry look = Ferry.run("look", file, "--setting", "dialect=h2");
        assertThat(look.code()).isZero();
        assertThat(look.out())
                .containsPattern("BED11 +2 ")
                .contains("a record can't be taken as it is")
                .containsPattern("BED12 +0 ")
                .contains("2 records can't be taken as they are, the first: ")
                .contains("line 42")
                .contains("SOIL")
                .contains("38 tables are empty");
        Ferry json = Ferry.run("look", file, "--setting", "dialect=h2", "--json");
        assertThat(json.out()).contains("\"broken\" : 2");
    }

    /** A statement's head may be long, and is read without a stack that grows by it. */
    @ParameterizedTest
    @CsvSource({"postgresql, ~", "h2, ~", "sqlite, ~", "sqlserver, ]", "mariadb, `"})
    void aNameOfAnyLengthIsRead(String dialect, String end) throws Exception {
        String quote = end.equals("~") ? "\"" : end;
        String open = quote.equals("]") ? "[" : quote;
        String name = ("moss " + quote + quote).repeat(6_000);
        try (Place place = script(
                dialect,
                "CREATE TABLE " + open + name + quote + " (id int);\nINSERT INTO " + open + name + quote
                        + " VALUES (1);\n")) {
            TableName table = place.tables().get(0);
            assertThat(table.name()).isEqualTo(name.replace(quote + quote, quote));
            assertThat(place.count(table)).isEqualTo(1);
        }
    }
}

package org.orderlyferry.columnar;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.orderlyferry.columnar.OneFile.rows;
import static org.orderlyferry.columnar.OneFile.types;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.apache.parquet.conf.PlainParquetConfiguration;
import org.apache.parquet.example.data.Group;
import org.apache.parquet.example.data.simple.SimpleGroup;
import org.apache.parquet.hadoop.ParquetWriter;
import org.apache.parquet.hadoop.example.ExampleParquetWriter;
import org.apache.parquet.io.LocalOutputFile;
import org.apache.parquet.schema.MessageType;
import org.apache.parquet.schema.MessageTypeParser;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.testkit.doubles.Contents;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.work.Load;

/** Parquet files that a database of another make reads and writes. */
class ParquetTest {

    private static Connection duck;

    @TempDir
    private Path folder;

    @BeforeAll
    static void open() throws Exception {
        duck = DriverManager.getConnection("jdbc:duckdb:");
        run("SET TimeZone = 'UTC'");
    }

    @AfterAll
    static void close() throws Exception {
        duck.close();
    }

    private static void run(String sql) throws Exception {
        try (Statement statement = duck.createStatement()) {
            statement.execute(sql);
        }
    }

    private static List<List<String>> asked(String sql) throws Exception {
        List<List<String>> rows = new ArrayList<>();
        try (Statement statement = duck.createStatement();
                ResultSet result = statement.executeQuery(sql)) {
            while (result.next()) {
                List<String> row = new ArrayList<>();
                for (int i = 1; i <= result.getMetaData().getColumnCount(); i++) {
                    row.add(result.getString(i));
                }
                rows.add(row);
            }
        }
        return rows;
    }

    private Path written(ListedPlace truth, String codec) {
        Path file = folder.resolve("label-" + codec + ".parquet");
        OpenOptions options = OpenOptions.builder()
                .files(FileSettings.NONE.with("pages", codec))
                .build();
        try (TargetPlace target = Places.openTarget(PlaceAddress.of(file.toString()), options)) {
            Load.from(truth).into(target);
        }
        return file;
    }

    private static final TableDefinition EVERY = TableDefinition.named("label")
            .column("small", LogicalType.of(TypeName.SMALLINT))
            .column("whole", LogicalType.INTEGER)
            .column("big", LogicalType.BIGINT)
            .column("exact", LogicalType.decimal(38, 10))
            .column("free", LogicalType.of(TypeName.DECIMAL))
            .column("real", LogicalType.of(TypeName.REAL))
            .column("double", LogicalType.DOUBLE)
            .column("truth", LogicalType.BOOLEAN)
            .column("name", LogicalType.varchar(20))
            .column("day", LogicalType.DATE)
            .column("hour", LogicalType.of(TypeName.TIME, 6))
            .column("moment", LogicalType.of(TypeName.TIMESTAMP, 6))
            .column("fine", LogicalType.of(TypeName.TIMESTAMP, 9))
            .column("zoned", LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, 3))
            .column("bytes", LogicalType.BLOB)
            .column("id", LogicalType.UUID)
            .column("json", LogicalType.JSON)
            .build();

    private static final List<List<String>> VALUES = List.of(
            Arrays.asList(
                    "-32768",
                    "-2147483648",
                    "-9223372036854775808",
                    "-9999999999999999999999999999.9999999999",
                    "123456789012345678901234567890123456789012.5",
                    "-0.1",
                    "-1.7976931348623157E308",
                    "true",
                    "moss 🌿",
                    "0001-01-01",
                    "23:59:59.999999",
                    "0001-01-01T00:00:00",
                    "1677-09-22T00:00:00.000000001",
                    "2031-04-09T01:02:03.456Z",
                    "AAEC/w==",
                    "00112233-4455-6677-8899-aabbccddeeff",
                    "{\"a\":[1,null]}"),
            Arrays.asList(
                    "32767",
                    "2147483647",
                    "9223372036854775807",
                    "0.0000000001",
                    "0",
                    "INF",
                    "NaN",
                    "false",
                    "",
                    "9999-12-31",
                    "00:00:00",
                    "9999-12-31T23:59:59.999999",
                    "2262-04-11T23:47:16.854775807",
                    "0001-01-01T00:00:00Z",
                    "",
                    "ffffffff-ffff-ffff-ffff-ffffffffffff",
                    "null"),
            new ArrayList<>(java.util.Collections.nCopies(17, null)));

    @ParameterizedTest
    @ValueSource(strings = {"zstd", "gzip", "snappy", "none"})
    void everyTypeComesBackAndIsReadByAnother(String codec) throws Exception {
        ListedPlace truth = new ListedPlace().with(EVERY, VALUES);
        Path file = written(truth, codec);
        Files.deleteIfExists(folder.resolve(file.getFileName() + "-metadata.json"));
        assertThat(types(file))
                .isEqualTo(EVERY.columns().stream().map(c -> c.type()).toList());
        assertThat(rows(file)).isEqualTo(VALUES);
        List<List<String>> seen =
                asked("SELECT small, whole, big, exact, free, truth, name, day, hour, moment, id, json,"
                        + " octet_length(bytes), epoch_ms(zoned) FROM read_parquet('" + file + "')");
        assertThat(seen.get(0))
                .containsExactly(
                        "-32768",
                        "-2147483648",
                        "-9223372036854775808",
                        "-9999999999999999999999999999.9999999999",
                        "123456789012345678901234567890123456789012.5",
                        "true",
                        "moss 🌿",
                        "0001-01-01",
                        "23:59:59.999999",
                        "0001-01-01 00:00:00.0",
                        "00112233-4455-6677-8899-aabbccddeeff",
                        "{\"a\":[1,null]}",
                        "4",
                        "1933462923456");
        assertThat(seen.get(2)).containsOnlyNulls();
    }

    @Test
    void whatAnotherWritesIsReadNestedValuesIncluded() throws Exception {
        Path file = folder.resolve("beds.parquet");
        run("COPY (SELECT 1::UTINYINT AS ut, 4294967295::UINTEGER AS ui, 18446744073709551615::UBIGINT AS ub,"
                + " 12.34::DECIMAL(4,2) AS d4, 12345678.9::DECIMAL(18,1) AS d18, DATE '2031-04-09' AS day,"
                + " TIMESTAMP_MS '2031-04-09 01:02:03.5' AS ms, TIMESTAMP_NS '2031-04-09 01:02:03.123456789' AS ns,"
                + " TIMESTAMPTZ '2031-04-09 01:02:03+02' AS tz, TIME '07:30' AS hour, 'moss'::VARCHAR AS name,"
                + " '\\xAA\\x00'::BLOB AS bytes, [1, NULL, 3] AS list, {'hall': 'A', 'shelf': NULL} AS place,"
                + " MAP {'x': 1, 'y': 2} AS marks, MAP {1: ['a', 'b']} AS numbers, [] ::INTEGER[] AS none,"
                + " 'fern'::ENUM('fern', 'moss') AS kind, uuid '00112233-4455-6677-8899-aabbccddeeff' AS id"
                + " UNION ALL SELECT " + "NULL, ".repeat(18) + "NULL) TO '" + file + "' (FORMAT PARQUET)");
        assertThat(rows(file).get(0))
                .containsExactly(
                        "1",
                        "4294967295",
                        "18446744073709551615",
                        "12.34",
                        "12345678.9",
                        "2031-04-09",
                        "2031-04-09T01:02:03.5",
                        "2031-04-09T01:02:03.123456789",
                        "2031-04-08T23:02:03Z",
                        "07:30:00",
                        "moss",
                        "qgA=",
                        "[1,null,3]",
                        "{\"hall\":\"A\"}",
                        "{\"x\":1,\"y\":2}",
                        "[{\"key\":1,\"value\":[\"a\",\"b\"]}]",
                        "[]",
                        "fern",
                        "00112233-4455-6677-8899-aabbccddeeff");
        assertThat(rows(file).get(1)).containsOnlyNulls();
        assertThat(types(file).subList(0, 5))
                .containsExactly(
                        LogicalType.of(TypeName.SMALLINT),
                        LogicalType.BIGINT,
                        LogicalType.decimal(20, 0),
                        LogicalType.decimal(4, 2),
                        LogicalType.decimal(18, 1));
    }

    /** A repeated field outside of a list is a list that is always there (LogicalTypes.md, Backward-compatibility rules). */
    @Test
    void aRepeatedFieldThatHasNotComeIsAnEmptyList() throws Exception {
        MessageType schema = MessageTypeParser.parseMessageType("message label { repeated int32 marks;"
                + " required group bed { required int32 no; repeated int32 shelves; optional int32 row; } }");
        Path file = folder.resolve("old.parquet");
        try (ParquetWriter<Group> writer = ExampleParquetWriter.builder(new LocalOutputFile(file))
                .withType(schema)
                .withConf(new PlainParquetConfiguration())
                .build()) {
            SimpleGroup none = new SimpleGroup(schema);
            none.addGroup("bed").append("no", 7);
            writer.write(none);
            SimpleGroup some = new SimpleGroup(schema);
            some.append("marks", 1).append("marks", 2);
            some.addGroup("bed").append("no", 8).append("shelves", 3).append("row", 4);
            writer.write(some);
        }
        assertThat(rows(file))
                .containsExactly(
                        List.of("[]", "{\"no\":7,\"shelves\":[]}"),
                        List.of("[1,2]", "{\"no\":8,\"shelves\":[3],\"row\":4}"));
    }

    @Test
    void groupsOfRowsAreReadApart() throws Exception {
        Path file = folder.resolve("many.parquet");
        run("COPY (SELECT i, 'moss ' || i AS name FROM range(100000) t(i)) TO '" + file
                + "' (FORMAT PARQUET, ROW_GROUP_SIZE 10000)");
        try (Place place = Places.open(file)) {
            TableDefinition table = place.define(place.tables().get(0));
            List<Slice> slices = place.cut(table, 100_000, new Cut(20_000, Map.of()));
            assertThat(slices).hasSizeGreaterThan(3);
            List<List<String>> rows = new ArrayList<>();
            for (Slice slice : slices) {
                try (RecordReader reader = place.read(slice)) {
                    Contents.drain(reader, rows);
                }
            }
            assertThat(rows).hasSize(100_000);
            assertThat(rows.get(99_999)).containsExactly("99999", "moss 99999");
        }
    }

    @Test
    void valuesThatNoFieldHoldsAreRefusedWithTheirColumn() {
        for (String[] bad : new String[][] {
            {"TIMESTAMP(9)", "1600-01-01T00:00:00", "1677"}, {"TIMESTAMP(9)", "2300-01-01T00:00:00", "2262"}
        }) {
            TableDefinition table = TableDefinition.named("label")
                    .column("moment", LogicalType.parse(bad[0]))
                    .build();
            ListedPlace place = new ListedPlace().with(table, List.of(List.of(bad[1])));
            assertThatThrownBy(() -> written(place, "none"))
                    .isInstanceOf(FerryException.class)
                    .hasMessageContaining("moment")
                    .hasMessageContaining(bad[2]);
            assertThat(folder.resolve("label-none.parquet")).doesNotExist();
        }
    }

    @Test
    void filesOfOtherKindsAndUnknownPagesAreRefused() throws Exception {
        Path file = Files.writeString(folder.resolve("no.parquet"), "PAR1 and nothing more PAR1");
        assertThatThrownBy(() -> rows(file)).isInstanceOf(FerryException.class).hasMessageContaining("no.parquet");
        Path lz4 = folder.resolve("lz4.parquet");
        run("COPY (SELECT 1 AS i) TO '" + lz4 + "' (FORMAT PARQUET, COMPRESSION LZ4)");
        assertThat(rows(lz4)).containsExactly(List.of("1"));
        Path brotli = folder.resolve("brotli.parquet");
        run("COPY (SELECT 1 AS i) TO '" + brotli + "' (FORMAT PARQUET, COMPRESSION BROTLI)");
        assertThatThrownBy(() -> rows(brotli)).hasMessageContaining("zstd, gzip, snappy");
        assertThatThrownBy(() -> written(new ListedPlace().with(EVERY, VALUES), "lzma"))
                .isInstanceOf(UsageException.class);
    }
}

package org.orderlyferry.columnar;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.orderlyferry.columnar.OneFile.rows;
import static org.orderlyferry.columnar.OneFile.types;

import java.io.File;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import org.apache.avro.Schema;
import org.apache.avro.file.CodecFactory;
import org.apache.avro.file.DataFileReader;
import org.apache.avro.file.DataFileWriter;
import org.apache.avro.generic.GenericData;
import org.apache.avro.generic.GenericDatumReader;
import org.apache.avro.generic.GenericDatumWriter;
import org.apache.avro.generic.GenericRecord;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
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
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.testkit.doubles.Contents;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** Avro files, beside those that the library itself writes. */
class AvroTest {

    @TempDir
    private Path folder;

    private TransferResult written(ListedPlace truth, Path file, String codec) {
        OpenOptions options = OpenOptions.builder()
                .files(FileSettings.NONE.with("blocks", codec))
                .build();
        try (TargetPlace target = Places.openTarget(PlaceAddress.of(file.toString()), options)) {
            return Load.from(truth).into(target);
        }
    }

    private static final TableDefinition EVERY = TableDefinition.named("the label")
            .column("small", LogicalType.of(TypeName.SMALLINT))
            .column("a b", LogicalType.BIGINT)
            .column("a.b", LogicalType.decimal(60, 10))
            .column("free", LogicalType.of(TypeName.DECIMAL))
            .column("real", LogicalType.of(TypeName.REAL))
            .column("double", LogicalType.DOUBLE)
            .column("truth", LogicalType.BOOLEAN)
            .column("ñame", LogicalType.varchar(20))
            .column("day", LogicalType.DATE)
            .column("hour", LogicalType.of(TypeName.TIME, 6))
            .column("fine hour", LogicalType.of(TypeName.TIME, 9))
            .column("moment", LogicalType.of(TypeName.TIMESTAMP, 6))
            .column("fine", LogicalType.of(TypeName.TIMESTAMP, 9))
            .column("zoned", LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, 3))
            .column("bytes", LogicalType.BLOB)
            .column("id", LogicalType.UUID)
            .column("json", LogicalType.JSON)
            .build();

    private static final List<List<String>> VALUES = List.of(
            List.of(
                    "-32768",
                    "-9223372036854775808",
                    "-99999999999999999999999999999999999999999999999999.9999999999",
                    "123456789012345678901234567890123456789012.5",
                    "-0.1",
                    "NaN",
                    "true",
                    "moss 🌿",
                    "0001-01-01",
                    "23:59:59.999999",
                    "23:59:59.999999999",
                    "0001-01-01T00:00:00",
                    "2262-04-11T23:47:16.854775807",
                    "2031-04-09T01:02:03.456Z",
                    "AAEC/w==",
                    "00112233-4455-6677-8899-aabbccddeeff",
                    "{\"a\":[1,null]}"),
            new ArrayList<>(Collections.nCopies(17, null)));

    @ParameterizedTest
    @ValueSource(strings = {"zstandard", "deflate", "snappy", "none"})
    void everyTypeComesBackAndItsNamesToo(String codec) throws Exception {
        Path file = folder.resolve("label.avro");
        TransferResult result = written(new ListedPlace().with(EVERY, VALUES), file, codec);
        assertThat(result.findings())
                .extracting(Finding::toString)
                .anyMatch(f -> f.contains("a.b") && f.contains("a_b_2"));
        Files.deleteIfExists(folder.resolve("label.avro-metadata.json"));
        assertThat(types(file))
                .isEqualTo(EVERY.columns().stream().map(ColumnDefinition::type).toList());
        assertThat(rows(file)).isEqualTo(VALUES);
        try (DataFileReader<GenericRecord> reader = new DataFileReader<>(file.toFile(), new GenericDatumReader<>())) {
            GenericRecord first = reader.next();
            assertThat(first.get("a_b")).isEqualTo(Long.MIN_VALUE);
            assertThat(first.get("_ame")).hasToString("moss 🌿");
            assertThat(reader.next().get("a_b")).isNull();
            assertThat(reader.hasNext()).isFalse();
        }
    }

    private static final String NESTED = "{\"type\":\"record\",\"name\":\"bed\",\"fields\":["
            + "{\"name\":\"ms\",\"type\":{\"type\":\"long\",\"logicalType\":\"timestamp-millis\"}},"
            + "{\"name\":\"price\",\"type\":[\"null\",{\"type\":\"fixed\",\"name\":\"p\",\"size\":4,"
            + "\"logicalType\":\"decimal\",\"precision\":8,\"scale\":2}]},"
            + "{\"name\":\"kind\",\"type\":{\"type\":\"enum\",\"name\":\"k\",\"symbols\":[\"MOSS\",\"FERN\"]}},"
            + "{\"name\":\"either\",\"type\":[\"null\",\"string\",\"long\"]},"
            + "{\"name\":\"list\",\"type\":{\"type\":\"array\",\"items\":[\"null\",\"int\"]}},"
            + "{\"name\":\"marks\",\"type\":{\"type\":\"map\",\"values\":\"double\"}},"
            + "{\"name\":\"place\",\"type\":[\"null\",{\"type\":\"record\",\"name\":\"place\",\"fields\":["
            + "{\"name\":\"hall\",\"type\":\"string\"},{\"name\":\"raw\",\"type\":\"bytes\"}]}]}]}";

    private Path nested(int count) throws Exception {
        Schema schema = new Schema.Parser().parse(NESTED);
        Path file = folder.resolve("beds.avro");
        File target = file.toFile();
        try (DataFileWriter<GenericData.Record> writer = new DataFileWriter<>(new GenericDatumWriter<>(schema))) {
            writer.setCodec(CodecFactory.deflateCodec(5)).setSyncInterval(2_000);
            writer.create(schema, target);
            for (int i = 0; i < count; i++) {
                GenericData.Record bed = new GenericData.Record(schema);
                bed.put("ms", 1_000L * i + 5);
                bed.put(
                        "price",
                        new GenericData.Fixed(
                                schema.getField("price").schema().getTypes().get(1),
                                ByteBuffer.allocate(4).putInt(-i).array()));
                bed.put(
                        "kind",
                        new GenericData.EnumSymbol(schema.getField("kind").schema(), i % 2 == 0 ? "MOSS" : "FERN"));
                bed.put("either", i % 3 == 0 ? null : i % 3 == 1 ? "text" : (Object) 7L);
                bed.put("list", Arrays.asList(1, null, i));
                bed.put("marks", Map.of("x", 1.5));
                GenericData.Record place = new GenericData.Record(
                        schema.getField("place").schema().getTypes().get(1));
                place.put("hall", "Hall " + i);
                place.put("raw", ByteBuffer.wrap(new byte[] {1, 2}));
                bed.put("place", i == 0 ? null : place);
                writer.append(bed);
            }
        }
        return file;
    }

    @Test
    void whatIsNestedOrOneOfSeveralIsJson() throws Exception {
        Path file = nested(3);
        assertThat(types(file))
                .containsExactly(
                        LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, 3),
                        LogicalType.decimal(8, 2),
                        LogicalType.of(TypeName.CLOB),
                        LogicalType.JSON,
                        LogicalType.JSON,
                        LogicalType.JSON,
                        LogicalType.JSON);
        assertThat(rows(file))
                .containsExactly(
                        Arrays.asList(
                                "1970-01-01T00:00:00.005Z", "0.00", "MOSS", null, "[1,null,0]", "{\"x\":1.5}", null),
                        List.of(
                                "1970-01-01T00:00:01.005Z",
                                "-0.01",
                                "FERN",
                                "\"text\"",
                                "[1,null,1]",
                                "{\"x\":1.5}",
                                "{\"hall\":\"Hall 1\",\"raw\":\"AQI=\"}"),
                        List.of(
                                "1970-01-01T00:00:02.005Z",
                                "-0.02",
                                "MOSS",
                                "7",
                                "[1,null,2]",
                                "{\"x\":1.5}",
                                "{\"hall\":\"Hall 2\",\"raw\":\"AQI=\"}"));
    }

    @Test
    void blocksAreReadApart() throws Exception {
        Path file = nested(5_000);
        List<List<String>> all = rows(file);
        try (Place place = Places.open(file)) {
            TableDefinition table = place.define(place.tables().get(0));
            List<Slice> slices = place.cut(table, 5_000, new Cut(1_000, Map.of()));
            assertThat(slices).hasSizeGreaterThan(3);
            List<List<String>> rows = new ArrayList<>();
            for (Slice slice : slices) {
                try (RecordReader reader = place.read(slice)) {
                    Contents.drain(reader, rows);
                }
            }
            assertThat(rows).isEqualTo(all);
        }
    }

    @Test
    void whatIsNoFileOfRecordsIsRefused() throws Exception {
        Path file = folder.resolve("no.avro");
        Files.write(file, new byte[] {'O', 'b', 'j', 1, 2, 3});
        assertThatThrownBy(() -> rows(file)).isInstanceOf(FerryException.class).hasMessageContaining("no.avro");
        Schema schema = Schema.create(Schema.Type.LONG);
        try (DataFileWriter<Long> writer = new DataFileWriter<>(new GenericDatumWriter<>(schema))) {
            writer.create(schema, file.toFile());
            writer.append(5L);
        }
        assertThatThrownBy(() -> rows(file)).hasMessageContaining("no records");
    }
}

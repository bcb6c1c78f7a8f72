package org.orderlyferry.documents.bson;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.bson.BsonBinaryWriter;
import org.bson.BsonDocument;
import org.bson.BsonReader;
import org.bson.BsonSerializationException;
import org.bson.BsonType;
import org.bson.RawBsonDocument;
import org.bson.codecs.BsonDocumentCodec;
import org.bson.codecs.EncoderContext;
import org.bson.io.BasicOutputBuffer;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.record.text.InvalidValueException;

/** Documents' fields in their bytes, also in such as somebody has tampered with. */
class RawFieldsTest {

    private static final String ALL = "{_id: 1, d: 0.5, s: 'Größe', o: {a: {b: 'x'}}, l: [1, 'y'],"
            + " b: {$binary: {base64: 'AAH/', subType: '00'}}, u: {$undefined: true},"
            + " i: {$oid: '65a1b2c3d4e5f60718293a4b'}, t: true, m: {$date: 5}, n: null,"
            + " r: {$regularExpression: {pattern: '^a', options: 'i'}}, c: {$code: 'f()'},"
            + " w: {$code: 'f(x)', $scope: {x: 1}}, y: {$symbol: 'z'}, ts: {$timestamp: {t: 1, i: 2}},"
            + " big: {$numberLong: '-7'}, e: {$numberDecimal: '1.50'}, k: {$minKey: 1}, x: {$maxKey: 1}}";

    private static byte[] bytes(String json) {
        BasicOutputBuffer buffer = new BasicOutputBuffer();
        new BsonDocumentCodec()
                .encode(
                        new BsonBinaryWriter(buffer),
                        BsonDocument.parse(json),
                        EncoderContext.builder().build());
        return buffer.toByteArray();
    }

    @Test
    void itGivesTheNamesAndTypesThatTheDriverGives() throws Exception {
        RawFields fields = new RawFields(new RawBsonDocument(bytes(ALL)));
        BsonDocument document = BsonDocument.parse(ALL);
        List<String> names = new ArrayList<>();
        while (fields.next()) {
            names.add(fields.name());
            assertThat(fields.isNamed(fields.name().getBytes(StandardCharsets.UTF_8)))
                    .isTrue();
            assertThat(fields.isNamed("other".getBytes(StandardCharsets.UTF_8))).isFalse();
            assertThat(fields.type()).isEqualTo(document.get(fields.name()).getBsonType());
            StringBuilder json = new StringBuilder();
            JsonOfBson.write(fields.reader(), json);
            assertThat(BsonOfJson.value(json.toString())).isEqualTo(document.get(fields.name()));
            if (fields.type() == BsonType.DOCUMENT) {
                assertThat(fields.inside().next()).isTrue();
            }
        }
        assertThat(names).containsExactlyElementsOf(document.keySet());
    }

    @Test
    void cellsOfBytesAreThoseOfAReader() throws Exception {
        RawFields fields = new RawFields(new RawBsonDocument(bytes(ALL)));
        CellBytes cell = new CellBytes();
        while (fields.next()) {
            for (LogicalType type : List.of(
                    LogicalType.INTEGER,
                    LogicalType.BIGINT,
                    LogicalType.DOUBLE,
                    LogicalType.varchar(3),
                    LogicalType.varchar(9),
                    LogicalType.BLOB,
                    LogicalType.BOOLEAN,
                    LogicalType.JSON,
                    Held.MOMENT.type(),
                    Held.DECIMAL.type())) {
                ColumnCells cells = new ColumnCells(ColumnDefinition.of("c", type), "");
                String quick;
                String thorough;
                try {
                    cells.read(fields, cell);
                    quick = cell.end < 0
                            ? "null"
                            : new String(cell.bytes, cell.start, cell.end - cell.start, StandardCharsets.ISO_8859_1);
                } catch (InvalidValueException e) {
                    quick = e.getMessage();
                }
                try {
                    byte[] value = cells.read(fields.reader());
                    thorough = value == null ? "null" : new String(value, StandardCharsets.ISO_8859_1);
                } catch (InvalidValueException e) {
                    thorough = e.getMessage();
                }
                assertThat(quick).as(fields.name() + " " + type).isEqualTo(thorough);
            }
        }
    }

    @Property(tries = 3000)
    void bytesThatWereTamperedWithAreReadOrRefused(
            @ForAll Random random, @ForAll @IntRange(min = 1, max = 4) int times) {
        byte[] bytes = bytes(ALL);
        for (int i = 0; i < times; i++) {
            bytes[random.nextInt(bytes.length)] = (byte) (random.nextBoolean() ? random.nextInt(256) : 0x7f);
        }
        if (random.nextInt(4) == 0) {
            bytes = Arrays.copyOf(bytes, Math.max(5, random.nextInt(bytes.length)));
        }
        try {
            walk(new RawFields(new RawBsonDocument(bytes)));
        } catch (BsonSerializationException e) {
            // refused
        }
    }

    /** What is written straight from the bytes is what a reader makes of them, and what that refuses is refused. */
    @Property(tries = 3000)
    void jsonOfBytesThatWereTamperedWithIsThatOfAReader(
            @ForAll Random random, @ForAll @IntRange(min = 1, max = 3) int times) {
        byte[] bytes = bytes(ALL);
        for (int i = 0; i < times; i++) {
            bytes[random.nextInt(bytes.length)] = (byte) random.nextInt(random.nextBoolean() ? 256 : 20);
        }
        String quick;
        try {
            CellBytes to = new CellBytes();
            new RawJson().write(new RawBsonDocument(bytes), to);
            quick = new String(to.bytes, to.start, to.end - to.start, StandardCharsets.UTF_8);
        } catch (InvalidValueException e) {
            quick = "refused";
        }
        String thorough;
        try {
            StringBuilder json = new StringBuilder();
            BsonReader reader = new StrictReader(bytes);
            reader.readBsonType();
            JsonOfBson.write(reader, json);
            thorough = json.toString();
        } catch (InvalidValueException e) {
            thorough = "refused";
        }
        assertThat(quick).isEqualTo(thorough);
    }

    private static void walk(RawFields fields) {
        int steps = 0;
        CellBytes cell = new CellBytes();
        while (fields.next()) {
            assertThat(++steps).isLessThan(1000);
            for (LogicalType type :
                    List.of(LogicalType.varchar(5), LogicalType.JSON, LogicalType.BIGINT, LogicalType.BLOB)) {
                try {
                    new ColumnCells(ColumnDefinition.of("c", type), "").read(fields, cell);
                } catch (InvalidValueException e) {
                    // refused
                }
            }
            if (fields.type() == BsonType.DOCUMENT) {
                walk(fields.inside());
            }
        }
    }

    /** Whose length is 2 GB, less than nothing, or less than what it has to have. */
    @ParameterizedTest
    @CsvSource({"00, 2147483647", "00, -5", "00, 1000", "00, 4", "02, 2147483647", "02, 0", "02, 3", "02, 8"})
    void bytesInsideAFieldWithALengthThatIsWrongAreRefused(String subtype, int length) {
        byte[] bytes = bytes("{o: {b: {$binary: {base64: 'AAH/', subType: '" + subtype + "'}}}}");
        int at = new String(bytes, StandardCharsets.ISO_8859_1).indexOf("b\0") + 2;
        ByteBuffer numbers = ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN);
        numbers.putInt(at, length);
        if (subtype.equals("02")) {
            // the second length agrees with the first
            numbers.putInt(at + 5, length - 4);
        }
        RawFields fields = new RawFields(new RawBsonDocument(bytes));
        assertThat(fields.next()).isTrue();
        ColumnCells cells = new ColumnCells(ColumnDefinition.of("o", LogicalType.JSON), "");
        assertThatThrownBy(() -> cells.read(fields, new CellBytes())).isInstanceOf(InvalidValueException.class);
    }

    @Test
    void aTextThatIsNotUtf8IsRefused() {
        byte[] bytes = bytes("{s: 'Grosse'}");
        bytes[12] = (byte) 0xff;
        RawFields fields = new RawFields(new RawBsonDocument(bytes));
        assertThat(fields.next()).isTrue();
        ColumnCells cells = new ColumnCells(ColumnDefinition.of("s", LogicalType.varchar(20)), "");
        assertThatThrownBy(() -> cells.read(fields, new CellBytes()))
                .isInstanceOf(InvalidValueException.class)
                .hasMessageContaining("UTF-8");
        BsonReader reader = fields.reader();
        assertThatThrownBy(reader::readString)
                .isInstanceOf(BsonSerializationException.class)
                .hasMessageContaining("UTF-8");
    }
}

package org.orderlyferry.documents.bson;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.domains.Domain;
import org.bson.BsonDecimal128;
import org.bson.BsonDocument;
import org.bson.BsonInt32;
import org.bson.BsonSerializationException;
import org.bson.BsonType;
import org.bson.BsonValue;
import org.bson.RawBsonDocument;
import org.bson.codecs.BsonDocumentCodec;
import org.bson.types.Decimal128;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.text.InvalidValueException;

/** What goes from bytes to bytes is what goes by way of values. */
class RawValuesTest {

    private static final BsonDocumentCodec CODEC = new BsonDocumentCodec();

    private static String raw(BsonValue value) {
        RawFields fields = new RawFields(new RawBsonDocument(new BsonDocument("v", value), CODEC));
        assertThat(fields.next()).isTrue();
        CellBytes to = new CellBytes();
        try {
            new RawJson().write(fields, to);
            return new String(to.bytes, to.start, to.end - to.start, StandardCharsets.UTF_8);
        } catch (InvalidValueException e) {
            return "refused: " + e.getMessage();
        }
    }

    private static String read(BsonValue value) {
        RawFields fields = new RawFields(new RawBsonDocument(new BsonDocument("v", value), CODEC));
        assertThat(fields.next()).isTrue();
        StringBuilder json = new StringBuilder();
        try {
            JsonOfBson.write(fields.reader(), json);
            return json.toString();
        } catch (InvalidValueException e) {
            return "refused: " + e.getMessage();
        }
    }

    /** A value of JSON, by bytes. */
    private static BsonValue written(String json) throws InvalidValueException {
        return written(LogicalType.JSON, json);
    }

    private static BsonValue written(LogicalType type, String text) throws InvalidValueException {
        RecordBatch batch = batch(text);
        RawValues out = new RawValues();
        int start = out.begin();
        int name = out.name(new byte[] {'v'});
        out.type(name, out.add(new ColumnCells(ColumnDefinition.of("v", type), ""), batch, 0, 0));
        out.end(start);
        RawBsonDocument document = new RawBsonDocument(out.copy());
        assertThat(new RawFields(document).next()).isTrue();
        return document.decode(CODEC).get("v");
    }

    private static RecordBatch batch(String text) {
        RecordBatch batch = new RecordBatch();
        batch.start(1, "sheet", "test", true);
        batch.add(text.getBytes(StandardCharsets.UTF_8));
        batch.endRow(1);
        return batch;
    }

    @Property(tries = 500)
    @Domain(BsonValues.class)
    void jsonIsThatOfAReader(@ForAll BsonValue value) {
        assertThat(raw(value)).isEqualTo(read(value));
    }

    @Property(tries = 500)
    @Domain(BsonValues.class)
    void jsonBecomesTheValuesAgain(@ForAll BsonValue value) throws Exception {
        String json = read(value);
        if (!json.startsWith("refused")) {
            assertThat(written(json)).isEqualTo(BsonOfJson.value(json)).isEqualTo(value);
        }
    }

    @Provide
    Arbitrary<Decimal128> decimals() {
        return Combinators.combine(
                        Arbitraries.bigIntegers()
                                .between(
                                        new java.math.BigInteger("-9999999999999999999999999999999999"),
                                        new java.math.BigInteger("9999999999999999999999999999999999")),
                        Arbitraries.integers().between(0, 33),
                        Arbitraries.integers().between(-40, 20))
                .as((digits, fewer, exponent) -> new Decimal128(
                        new java.math.BigDecimal(digits.divide(java.math.BigInteger.TEN.pow(fewer)), -exponent)));
    }

    @Property
    void exactNumbersAreThoseOfTheDriver(@ForAll("decimals") Decimal128 number) throws Exception {
        BsonDecimal128 value = new BsonDecimal128(number);
        assertThat(raw(value)).isEqualTo(read(value));
        RawFields fields = new RawFields(new RawBsonDocument(new BsonDocument("v", value), CODEC));
        assertThat(fields.next()).isTrue();
        CellBytes cell = new CellBytes();
        new ColumnCells(ColumnDefinition.of("v", LogicalType.of(TypeName.DECIMAL)), "").read(fields, cell);
        String text = new String(cell.bytes, cell.start, cell.end - cell.start, StandardCharsets.US_ASCII);
        assertThat(text).isEqualTo(JsonOfBson.plain(number));
        assertThat(written(LogicalType.of(TypeName.DECIMAL), text))
                .isEqualTo(new BsonDecimal128(new Decimal128(new java.math.BigDecimal(text))));
    }

    @Property
    void momentsAreThoseOfTheDriver(@ForAll long any) throws Exception {
        for (long millis : List.of(any, any >> 16, any >> 17, any >> 30)) {
            String text = JsonOfBson.momentText(millis);
            LogicalType type = Held.MOMENT.type();
            assertThat(written(type, text).asDateTime().getValue()).isEqualTo(millis);
            GrowingBytes bytes = new GrowingBytes();
            bytes.moment(millis);
            assertThat(new String(bytes.copy(), StandardCharsets.US_ASCII) + "Z")
                    .isEqualTo(text);
        }
    }

    /** Written by way of a value, and in bytes, or refused by both. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "-0",
                "-0.0",
                "1e5",
                "1E+5",
                "0.1000",
                "1e999",
                "123456789012345678901234567890123456789",
                "2147483648",
                "-9223372036854775808",
                "9223372036854775808",
                "\"\\ud83d\\ude00 \\u00e9\"",
                "\"\\ud800\"",
                "{\"\\udc00\":1}",
                "{\"a\\u0000b\":1}",
                "{\"a\":1,\"a\":2}",
                "{\"b\":{\"$date\":\"2031-04-09T11:30:00.125Z\"}}",
                "{\"$date\":\"2031-02-30T11:30:00Z\"}",
                "{\"$date\":\"2031-04-09T11:30:00.1234Z\"}",
                "{\"$date\":\"2031-04-09T11:30:00.120Z\"}",
                "{\"$date\":\"2031-04-09T11:30Z\"}",
                "{\"$date\":\"12031-04-09T11:30:00Z\"}",
                "{\"$numberDecimal\":\"-0\"}",
                "{\"$numberDecimal\":\"-0.00\"}",
                "{\"$numberDecimal\":\"007.50\"}",
                "{\"$numberDecimal\":\"1.5E+3\"}",
                "{\"$numberDecimal\":\"\"}",
                "{\"$numberDecimal\":\".\"}",
                "{\"$numberDecimal\":\"é\"}",
                "{\"$oid\":\"65a1\",\"b\":[{}]}",
                "{\"a\":1,\"$oid\":\"65a1b2c3d4e5f60718293a4b\"}",
                "{\"$or\":{\"$oid\":\"65a1b2c3d4e5f60718293a4b\"}}",
                "[[],{},[null,true,false,\"\"]]",
                "{\"\":{\"\":\"\"}}",
                "",
                " ",
                "1 2",
                "nul",
                "{\"a\"",
                "\uFEFF{}",
                "\u00001"
            })
    void itIsWhatTheValuesAre(String json) {
        String byValues;
        try {
            byValues = BsonOfJson.value(json).toString();
        } catch (InvalidValueException e) {
            byValues = "refused";
        }
        String byBytes;
        try {
            byBytes = written(json).toString();
        } catch (InvalidValueException e) {
            byBytes = "refused";
        }
        assertThat(byBytes).isEqualTo(byValues);
    }

    @Test
    void halfOfASurrogatePairIsRefused() {
        assertThatThrownBy(() -> BsonOfJson.value("[\"\\ud800\"]"))
                .isInstanceOf(InvalidValueException.class)
                .hasMessageContaining("surrogate");
    }

    @Test
    void whatIsNestedTooDeepIsRefused() {
        BsonDocument deep = new BsonDocument("x", new BsonInt32(1));
        for (int i = 0; i < JsonOfBson.DEEPEST + 2; i++) {
            deep = new BsonDocument("d", deep);
        }
        assertThat(raw(deep)).startsWith("refused").isEqualTo(read(deep));
        assertThat(raw(deep.getDocument("d").getDocument("d").getDocument("d")))
                .isEqualTo(read(deep.getDocument("d").getDocument("d").getDocument("d")))
                .startsWith("{");
    }

    @ParameterizedTest
    @CsvSource({"INTEGER, -5, INT32", "BIGINT, 12345678901, INT64", "DOUBLE, INF, DOUBLE", "BOOLEAN, true, BOOLEAN"})
    void aColumnsValueIsOfItsType(TypeName type, String text, BsonType expected) throws Exception {
        LogicalType logical = LogicalType.of(type);
        ColumnCells cells = new ColumnCells(ColumnDefinition.of("v", logical), "");
        assertThat(written(logical, text)).isEqualTo(cells.written(text));
        assertThat(written(logical, text).getBsonType()).isEqualTo(expected);
    }

    /** A sign instead of what stands there would be another name. */
    @Test
    void aNameThatIsNotUtf8IsRefused() {
        byte[] bytes = "\f\0\0\0\020v\0\5\0\0\0\0".getBytes(StandardCharsets.ISO_8859_1);
        bytes[5] = (byte) 0xff;
        RawFields fields = new RawFields(new RawBsonDocument(bytes));
        assertThat(fields.next()).isTrue();
        assertThatThrownBy(fields::name)
                .isInstanceOf(BsonSerializationException.class)
                .hasMessageContaining("UTF-8");
        StrictReader reader = new StrictReader(bytes);
        reader.readStartDocument();
        assertThatThrownBy(() -> {
                    reader.readBsonType();
                    reader.readName();
                })
                .isInstanceOf(BsonSerializationException.class)
                .hasMessageContaining("UTF-8");
        assertThatThrownBy(() -> new RawJson().write(new RawBsonDocument(bytes), new CellBytes()))
                .isInstanceOf(InvalidValueException.class)
                .hasMessageContaining("UTF-8");
    }
}

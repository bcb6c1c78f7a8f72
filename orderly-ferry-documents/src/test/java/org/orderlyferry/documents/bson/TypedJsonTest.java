package org.orderlyferry.documents.bson;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import java.math.BigDecimal;
import java.util.LinkedHashMap;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.bson.BsonArray;
import org.bson.BsonBinary;
import org.bson.BsonBoolean;
import org.bson.BsonDateTime;
import org.bson.BsonDbPointer;
import org.bson.BsonDecimal128;
import org.bson.BsonDocument;
import org.bson.BsonDocumentReader;
import org.bson.BsonDouble;
import org.bson.BsonInt32;
import org.bson.BsonInt64;
import org.bson.BsonJavaScript;
import org.bson.BsonJavaScriptWithScope;
import org.bson.BsonMaxKey;
import org.bson.BsonMinKey;
import org.bson.BsonNull;
import org.bson.BsonObjectId;
import org.bson.BsonReader;
import org.bson.BsonRegularExpression;
import org.bson.BsonString;
import org.bson.BsonSymbol;
import org.bson.BsonTimestamp;
import org.bson.BsonUndefined;
import org.bson.BsonValue;
import org.bson.types.Decimal128;
import org.bson.types.ObjectId;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.record.text.InvalidValueException;

/** Values of documents as JSON that keeps their types, and back. */
class TypedJsonTest {

    private static String json(BsonValue value) throws InvalidValueException {
        BsonReader reader = new BsonDocumentReader(new BsonDocument("v", value));
        reader.readStartDocument();
        reader.readBsonType();
        reader.readName();
        StringBuilder json = new StringBuilder();
        JsonOfBson.write(reader, json);
        return json.toString();
    }

    @Provide
    Arbitrary<BsonValue> values() {
        return values(3);
    }

    private static Arbitrary<BsonValue> values(int depth) {
        Arbitrary<BsonValue> leaf = Arbitraries.oneOf(
                Arbitraries.integers().map(BsonInt32::new),
                Arbitraries.longs().map(BsonInt64::new),
                Arbitraries.longs().between(-5, 5).map(BsonInt64::new),
                Arbitraries.doubles().map(BsonDouble::new),
                Arbitraries.of(0.0, -0.0, 5.0, 1e300, Double.NaN, Double.NEGATIVE_INFINITY, Double.MIN_VALUE)
                        .map(BsonDouble::new),
                Arbitraries.of(
                                "0",
                                "-0",
                                "1.50",
                                "12345678901234567890",
                                "1E+400",
                                "-1E-6000",
                                "NaN",
                                "-Infinity",
                                "9.999999999999999999999999999999999E+6144",
                                "5",
                                "0.1")
                        .map(t -> new BsonDecimal128(Decimal128.parse(t))),
                Arbitraries.strings()
                        .ofMaxLength(8)
                        .filter(TypedJsonTest::isWhole)
                        .map(BsonString::new),
                Arbitraries.of(true, false).map(BsonBoolean::valueOf),
                Arbitraries.longs().map(BsonDateTime::new),
                Arbitraries.longs()
                        .between(-99_999_999_999_999L, 999_999_999_999_999L)
                        .map(BsonDateTime::new),
                Arbitraries.bytes().array(byte[].class).ofMaxSize(20).map(BsonBinary::new),
                Combinators.combine(
                                Arbitraries.bytes(),
                                Arbitraries.bytes().array(byte[].class).ofSize(16))
                        .as(BsonBinary::new),
                Arbitraries.of(
                        BsonNull.VALUE,
                        new BsonUndefined(),
                        new BsonMinKey(),
                        new BsonMaxKey(),
                        new BsonObjectId(new ObjectId("65a1b2c3d4e5f60718293a4b")),
                        new BsonRegularExpression("^a/\"b", "im"),
                        new BsonTimestamp(-1, 7),
                        new BsonJavaScript("f(\"x\")"),
                        new BsonJavaScriptWithScope("f(x)", new BsonDocument("x", new BsonInt64(1))),
                        new BsonSymbol("s"),
                        new BsonDbPointer("old.sheet", new ObjectId("65a1b2c3d4e5f60718293a4b"))));
        if (depth == 0) {
            return leaf;
        }
        Arbitrary<String> name = Arbitraries.oneOf(
                Arbitraries.of("a", "b", "_id", "", "a.b", "$or", "$x", "größe", "with \"quotes\""),
                Arbitraries.strings().alpha().ofMaxLength(5));
        return Arbitraries.oneOf(
                leaf,
                values(depth - 1).list().ofMaxSize(4).map(BsonArray::new),
                Arbitraries.maps(name, values(depth - 1)).ofMaxSize(4).map(m -> {
                    BsonDocument document = new BsonDocument();
                    new LinkedHashMap<>(m).forEach(document::append);
                    return document;
                }));
    }

    private static boolean isWhole(String text) {
        return text.chars().noneMatch(c -> Character.isSurrogate((char) c));
    }

    @Property(tries = 800)
    void aValueComesBackAsTheVerySame(@ForAll("values") BsonValue value) throws Exception {
        String json = json(value);
        assertThat(BsonOfJson.value(json)).isEqualTo(value);
        try (JsonParser parser = new JsonFactory().createParser(json)) {
            while (parser.nextToken() != null) {
                parser.getText();
            }
        }
        assertThat(json(BsonOfJson.value(json))).isEqualTo(json);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            value = {
                "5|5",
                "5.0|5.0",
                "-0|-0.0",
                "1.10|1.1",
                "3000000000|3000000000",
                "12345678901234567890|12345678901234567890",
                "0.1000000000000000000000001|0.1000000000000000000000001",
                "1e5|100000.0",
                "{\"a\": [1, {\"b\": null}]}|{\"a\":[1,{\"b\":null}]}",
                "\"\\u00e9\\n\"|\"é\\n\""
            })
    void plainJsonStaysPlain(String given, String written) throws Exception {
        assertThat(json(BsonOfJson.value(given))).isEqualTo(written);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            value = {
                "{\"$numberLong\":\"5\"}|INT64",
                "{\"$numberDouble\":\"NaN\"}|DOUBLE",
                "{\"$numberDecimal\":\"1.50\"}|DECIMAL128",
                "{\"$date\":\"2031-04-09T11:30:00.125Z\"}|DATE_TIME",
                "{\"$date\":\"2031-04-09T11:30:00+02:00\"}|DATE_TIME",
                "{\"$date\":{\"$numberLong\":\"-1\"}}|DATE_TIME",
                "{\"$binary\":\"AAH/\",\"$type\":\"00\"}|BINARY",
                "{\"$oid\":\"65a1b2c3d4e5f60718293a4b\"}|OBJECT_ID",
                // what only looks like one
                "{\"$oid\":\"65a1\"}|DOCUMENT",
                "{\"$date\":\"tomorrow\"}|DOCUMENT",
                "{\"$numberLong\":5}|DOCUMENT",
                "{\"$date\":\"2031-04-09T11:30:00.1234567Z\"}|DOCUMENT",
                "{\"$timestamp\":{\"t\":-1,\"i\":0}}|DOCUMENT",
                "{\"$regularExpression\":{\"pattern\":\"a\"}}|DOCUMENT",
                "{\"$numberLong\":\"5\",\"b\":1}|DOCUMENT",
                "{\"$binary\":{\"base64\":\"AAH/\",\"subType\":\"00\",\"x\":1}}|DOCUMENT",
                "{\"$where\":\"sleep(9)\"}|DOCUMENT"
            })
    void wrappersAreWhatTheyStandFor(String json, String type) throws Exception {
        assertThat(BsonOfJson.value(json).getBsonType()).hasToString(type);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                " ",
                "{",
                "[1,]",
                "{\"a\":1,\"a\":2}",
                "1 2",
                "{a:1}",
                "'x'",
                "NaN",
                "{\"a\\u0000b\":1}",
                "1e9999999",
                "1234567890123456789012345678901234567890"
            })
    void whatNoDocumentHoldsIsRefused(String json) {
        assertThatThrownBy(() -> BsonOfJson.value(json)).isInstanceOf(InvalidValueException.class);
    }

    @Test
    void anObjectThatWouldBeTakenForAnotherValueIsRefused() {
        BsonDocument like = new BsonDocument("$numberLong", new BsonString("5"));
        assertThatThrownBy(() -> json(like))
                .isInstanceOf(InvalidValueException.class)
                .hasMessageContaining("another type");
        assertThatThrownBy(() -> json(new BsonArray(List.of(like)))).isInstanceOf(InvalidValueException.class);
    }

    @Test
    void nestingHasAnEnd() {
        BsonValue deep = BsonNull.VALUE;
        for (int i = 0; i < 600; i++) {
            deep = new BsonArray(List.of(deep));
        }
        BsonValue deepest = deep;
        assertThatThrownBy(() -> json(deepest))
                .isInstanceOf(InvalidValueException.class)
                .hasMessageContaining("nested");
        assertThatThrownBy(() -> BsonOfJson.value("[".repeat(600) + "]".repeat(600)))
                .isInstanceOf(InvalidValueException.class);
    }

    @Test
    void exactNumbersAreWrittenOut() throws Exception {
        assertThat(JsonOfBson.plain(new Decimal128(new BigDecimal("1.5E+3")))).isEqualTo("1500");
        assertThat(JsonOfBson.plain(Decimal128.NEGATIVE_ZERO)).isEqualTo("0");
        assertThatThrownBy(() -> JsonOfBson.plain(Decimal128.NaN)).isInstanceOf(InvalidValueException.class);
    }
}

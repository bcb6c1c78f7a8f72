package org.orderlyferry.documents.bson;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import java.math.BigDecimal;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.domains.Domain;
import org.bson.BsonArray;
import org.bson.BsonDocument;
import org.bson.BsonDocumentReader;
import org.bson.BsonNull;
import org.bson.BsonReader;
import org.bson.BsonString;
import org.bson.BsonValue;
import org.bson.types.Decimal128;
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

    @Property(tries = 800)
    @Domain(BsonValues.class)
    void aValueComesBackAsTheVerySame(@ForAll BsonValue value) throws Exception {
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

package org.orderlyferry.documents.bson;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.core.StreamReadConstraints;
import com.fasterxml.jackson.core.StreamReadFeature;
import java.io.IOException;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.Optional;
import org.bson.BsonArray;
import org.bson.BsonBoolean;
import org.bson.BsonDecimal128;
import org.bson.BsonDocument;
import org.bson.BsonDouble;
import org.bson.BsonInt32;
import org.bson.BsonInt64;
import org.bson.BsonNull;
import org.bson.BsonNumber;
import org.bson.BsonString;
import org.bson.BsonValue;
import org.bson.types.Decimal128;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.JavaValues;
import org.orderlyferry.record.text.Utf8;

/**
 * Reads JSON as the values that documents hold, each number as the narrowest that has all its digits. An object that is one of the
 * typed wrappers of MongoDB Extended JSON (v2) is what it stands for; one that only looks like it stays an object.
 */
public final class BsonOfJson {

    private static final JsonFactory FACTORY = JsonFactory.builder()
            .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
            .streamReadConstraints(StreamReadConstraints.builder()
                    .maxStringLength(Integer.MAX_VALUE)
                    .maxNestingDepth(JsonOfBson.DEEPEST)
                    .maxNumberLength(10_000)
                    .build())
            .build();

    /** Characters of a whole number that a long holds for certain. */
    private static final int SHORT = 18;

    /** JSON can escape one, and no encoding of Unicode has it. */
    static final String HALF = "holds half of a surrogate pair, which no encoding of Unicode has";

    private BsonOfJson() {}

    /**
     * Reads a value.
     *
     * @throws InvalidValueException if it isn't JSON, or holds what a document can't
     */
    public static BsonValue value(String json) throws InvalidValueException {
        try (JsonParser parser = FACTORY.createParser(json)) {
            if (parser.nextToken() == null) {
                throw new InvalidValueException("isn't JSON: it is empty");
            }
            BsonValue value = value(parser);
            if (parser.nextToken() != null) {
                throw new InvalidValueException("isn't JSON: something stands behind it");
            }
            return value;
        } catch (IOException e) {
            throw isNone(e);
        }
    }

    /** Reads bytes of UTF-8. */
    static JsonParser parser(byte[] json, int start, int end) throws IOException {
        return FACTORY.createParser(json, start, end - start);
    }

    static InvalidValueException isNone(IOException e) {
        return new InvalidValueException("isn't JSON: "
                + String.valueOf(e.getMessage()).lines().findFirst().orElse(""));
    }

    /** The value that a parser stands at. */
    static BsonValue value(JsonParser parser) throws IOException, InvalidValueException {
        return switch (parser.currentToken()) {
            case START_OBJECT -> {
                BsonDocument document = new BsonDocument();
                parser.nextToken();
                rest(parser, document);
                yield TypedWrapper.unwrapped(document);
            }
            case START_ARRAY -> {
                BsonArray array = new BsonArray();
                while (parser.nextToken() != JsonToken.END_ARRAY) {
                    array.add(value(parser));
                }
                yield array;
            }
            case VALUE_STRING -> new BsonString(whole(parser.getText()));
            case VALUE_TRUE -> BsonBoolean.TRUE;
            case VALUE_FALSE -> BsonBoolean.FALSE;
            case VALUE_NULL -> BsonNull.VALUE;
            default -> numberOf(parser.getText());
        };
    }

    /** Reads an object's fields, from the one on that a parser stands at. */
    static void rest(JsonParser parser, BsonDocument document) throws IOException, InvalidValueException {
        while (parser.currentToken() != JsonToken.END_OBJECT) {
            String name = name(parser);
            parser.nextToken();
            document.append(name, value(parser));
            parser.nextToken();
        }
    }

    /** The name of the field that a parser stands at. */
    static String name(JsonParser parser) throws IOException, InvalidValueException {
        String name = parser.currentName();
        if (name.indexOf('\0') >= 0) {
            throw new InvalidValueException("holds a name with the character U+0000, which no document can");
        }
        return whole(name);
    }

    /** A text that is one. */
    static String whole(String text) throws InvalidValueException {
        if (Utf8.bytes(text) == null) {
            throw new InvalidValueException(HALF);
        }
        return text;
    }

    /** The number that a text stands for. */
    static BsonNumber numberOf(String text) throws InvalidValueException {
        return read(text).orElseThrow(() -> new InvalidValueException("holds a number that no document can: " + text));
    }

    /** An exact number that a text would be read as; empty for another kind of number. */
    static Optional<Decimal128> number(String text) {
        return read(text).filter(BsonNumber::isDecimal128).map(n -> n.asDecimal128()
                .getValue());
    }

    /** Whether a number has all the digits that are written, and no others. */
    private static boolean isJust(double number, String text, BigDecimal exact) {
        String shortest = JavaValues.text(number);
        return shortest.equals(text) || new BigDecimal(shortest).compareTo(exact) == 0;
    }

    /** A number, as a whole one where it is written as one; empty where it has too many digits. */
    private static Optional<BsonNumber> read(String text) {
        boolean whole = text.indexOf('.') < 0 && text.indexOf('e') < 0 && text.indexOf('E') < 0;
        if (whole && text.length() <= SHORT && !text.equals("-0")) {
            long number = Long.parseLong(text);
            return Optional.of(number == (int) number ? new BsonInt32((int) number) : new BsonInt64(number));
        }
        BigDecimal exact = new BigDecimal(text);
        if (whole && !text.equals("-0")) {
            BigInteger number = exact.toBigInteger();
            if (number.bitLength() < Integer.SIZE) {
                return Optional.of(new BsonInt32(number.intValue()));
            }
            if (number.bitLength() < Long.SIZE) {
                return Optional.of(new BsonInt64(number.longValue()));
            }
        } else {
            double number = Double.parseDouble(text);
            if (Double.isFinite(number) && isJust(number, text, exact)) {
                return Optional.of(new BsonDouble(number));
            }
        }
        try {
            return Optional.of(new BsonDecimal128(new Decimal128(exact)));
        } catch (NumberFormatException e) {
            return Optional.empty();
        }
    }
}

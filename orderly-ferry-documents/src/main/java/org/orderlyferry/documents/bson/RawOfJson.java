package org.orderlyferry.documents.bson;

import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.bson.BsonBinaryWriter;
import org.bson.BsonDocument;
import org.bson.BsonString;
import org.bson.BsonType;
import org.bson.BsonValue;
import org.bson.codecs.BsonDocumentCodec;
import org.bson.codecs.EncoderContext;
import org.bson.io.BasicOutputBuffer;
import org.bson.types.ObjectId;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.JavaValues;
import org.orderlyferry.record.text.Utf8;
import org.orderlyferry.record.text.ValueText;

/**
 * Writes JSON as the values that {@link BsonOfJson} makes of it, out of bytes into the bytes of a document (BSON 1.1): nothing is made for
 * each value. Typed wrappers that are rare go by way of values. Not safe for use by several threads.
 */
final class RawOfJson {

    private static final BsonDocumentCodec CODEC = new BsonDocumentCodec();
    private static final EncoderContext ENCODING = EncoderContext.builder().build();

    /** Digits of a whole number that a long holds for certain. */
    private static final int MOST_DIGITS = 18;

    private static final int LONGEST_DATE = "2031-04-09T07:30:00.125Z".length();

    /** Before a document's only value, of a field without a name: its length, the value's type, and the end of the name. */
    private static final int BEFORE = 6;

    private static final ValueText MOMENTS = ValueText.of(Held.MOMENT.type());

    private final GrowingBytes out;

    /**
     * One that writes.
     *
     * @param out to where
     */
    RawOfJson(GrowingBytes out) {
        this.out = out;
    }

    /**
     * Writes a value, without its type and name.
     *
     * @return its type
     * @throws InvalidValueException if it isn't JSON, or holds what a document can't; part of it may be written
     */
    BsonType write(byte[] json, int start, int end) throws InvalidValueException {
        if (Utf8.looksLikeAnother(json, start, end)) {
            // its characters may be taken for those of another encoding
            return add(BsonOfJson.value(new String(json, start, end - start, StandardCharsets.UTF_8)));
        }
        try (JsonParser parser = BsonOfJson.parser(json, start, end)) {
            if (parser.nextToken() == null) {
                throw new InvalidValueException("isn't JSON: it is empty");
            }
            BsonType type = value(parser);
            if (parser.nextToken() != null) {
                throw new InvalidValueException("isn't JSON: something stands behind it");
            }
            return type;
        } catch (IOException e) {
            throw BsonOfJson.isNone(e);
        }
    }

    private BsonType value(JsonParser parser) throws IOException, InvalidValueException {
        return switch (parser.currentToken()) {
            case START_OBJECT -> object(parser);
            case START_ARRAY -> array(parser);
            case VALUE_STRING -> {
                int start = out.size();
                out.int32(0);
                out.characters(parser.getTextCharacters(), parser.getTextOffset(), parser.getTextLength());
                out.add(0);
                out.length(start, out.size() - start - Integer.BYTES);
                yield BsonType.STRING;
            }
            case VALUE_TRUE -> {
                out.add(1);
                yield BsonType.BOOLEAN;
            }
            case VALUE_FALSE -> {
                out.add(0);
                yield BsonType.BOOLEAN;
            }
            case VALUE_NULL -> BsonType.NULL;
            case VALUE_NUMBER_INT -> whole(parser);
            default -> floating(parser);
        };
    }

    private BsonType whole(JsonParser parser) throws IOException, InvalidValueException {
        if (parser.getNumberType() == JsonParser.NumberType.BIG_INTEGER) {
            return add(BsonOfJson.numberOf(parser.getText()));
        }
        long number = parser.getLongValue();
        if (number == 0 && parser.getTextLength() > 1) {
            // a negative zero, which is no whole number
            return add(BsonOfJson.numberOf(parser.getText()));
        } else if (number == (int) number) {
            out.int32((int) number);
            return BsonType.INT32;
        }
        out.int64(number);
        return BsonType.INT64;
    }

    private BsonType floating(JsonParser parser) throws IOException, InvalidValueException {
        String text = parser.getText();
        double number = Double.parseDouble(text);
        if (Double.isFinite(number) && JavaValues.text(number).equals(text)) {
            out.int64(Double.doubleToRawLongBits(number));
            return BsonType.DOUBLE;
        }
        return add(BsonOfJson.numberOf(text));
    }

    private BsonType array(JsonParser parser) throws IOException, InvalidValueException {
        int start = out.begin();
        for (int i = 0; parser.nextToken() != JsonToken.END_ARRAY; i++) {
            int type = out.size();
            out.add(0);
            out.digits(i);
            out.add(0);
            out.type(type, value(parser));
        }
        out.end(start);
        return BsonType.ARRAY;
    }

    private BsonType object(JsonParser parser) throws IOException, InvalidValueException {
        int start = out.begin();
        for (boolean first = true; parser.nextToken() != JsonToken.END_OBJECT; first = false) {
            String name = BsonOfJson.name(parser);
            parser.nextToken();
            if (first && name.startsWith("$")) {
                out.cut(start);
                return wrapper(name, parser);
            }
            int type = out.size();
            out.add(0);
            out.characters(name);
            out.add(0);
            out.type(type, value(parser));
        }
        out.end(start);
        return BsonType.DOCUMENT;
    }

    /** What may be a typed wrapper, from its first value on. */
    private BsonType wrapper(String name, JsonParser parser) throws IOException, InvalidValueException {
        BsonValue first = BsonOfJson.value(parser);
        if (parser.nextToken() == JsonToken.END_OBJECT && first instanceof BsonString text) {
            BsonType type = single(name, text.getValue());
            if (type != BsonType.UNDEFINED) {
                return type;
            }
        }
        BsonDocument object = new BsonDocument(name, first);
        BsonOfJson.rest(parser, object);
        return add(TypedWrapper.unwrapped(object));
    }

    /** A wrapper that is frequent; {@link BsonType#UNDEFINED}, with nothing written, for any other. */
    private BsonType single(String name, String text) {
        byte[] ascii = text.getBytes(StandardCharsets.US_ASCII);
        switch (name) {
            case "$numberLong" -> {
                if (ascii.length <= MOST_DIGITS && isDigits(ascii)) {
                    out.int64(Long.parseLong(text));
                    return BsonType.INT64;
                }
            }
            case "$date" -> {
                // as it is written here; all else is looked at by TypedWrapper
                if (ascii.length <= LONGEST_DATE && MOMENTS.isProper(ascii, 0, ascii.length)) {
                    long millis = JavaValues.instant(text).toInstant().toEpochMilli();
                    if (JsonOfBson.isDated(millis)) {
                        out.int64(millis);
                        return BsonType.DATE_TIME;
                    }
                }
            }
            case "$numberDecimal" -> {
                // what is less than nothing may be no less: a negative zero
                if (!text.startsWith("-") && RawDecimals.encode(ascii, 0, ascii.length, out)) {
                    return BsonType.DECIMAL128;
                }
            }
            case "$oid" -> {
                if (ObjectId.isValid(text)) {
                    out.add(new ObjectId(text).toByteArray());
                    return BsonType.OBJECT_ID;
                }
            }
            default -> {
                // by a value
            }
        }
        return BsonType.UNDEFINED;
    }

    private static boolean isDigits(byte[] ascii) {
        for (byte b : ascii) {
            if (b < '0' || b > '9') {
                return false;
            }
        }
        return ascii.length > 0;
    }

    /** Writes a value as the driver does. */
    BsonType add(BsonValue value) {
        BasicOutputBuffer buffer = new BasicOutputBuffer();
        try (BsonBinaryWriter writer = new BsonBinaryWriter(buffer)) {
            CODEC.encode(writer, new BsonDocument("", value), ENCODING);
        }
        out.add(buffer.getInternalBuffer(), BEFORE, buffer.size() - 1);
        return value.getBsonType();
    }
}

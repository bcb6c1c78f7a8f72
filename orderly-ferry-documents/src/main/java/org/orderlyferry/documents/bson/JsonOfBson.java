package org.orderlyferry.documents.bson;

import com.fasterxml.jackson.core.io.JsonStringEncoder;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Base64;
import org.bson.BsonBinary;
import org.bson.BsonBinarySubType;
import org.bson.BsonDbPointer;
import org.bson.BsonInvalidOperationException;
import org.bson.BsonReader;
import org.bson.BsonRegularExpression;
import org.bson.BsonSerializationException;
import org.bson.BsonTimestamp;
import org.bson.BsonType;
import org.bson.types.Decimal128;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.JavaValues;

/**
 * Writes values as JSON that keeps their types, in the words of MongoDB Extended JSON (v2): a value stands plain where
 * {@link BsonOfJson} makes the very same of it again, and in its typed wrapper otherwise. So 5 is a 32-bit number, and the 64-bit
 * one is {@code {"$numberLong":"5"}}.
 */
public final class JsonOfBson {

    /** The longest way from January 1st of the year 0 to December 31st of 9999, in milliseconds since 1970. */
    private static final long FIRST_DATED = -62_167_219_200_000L;

    private static final long LAST_DATED = 253_402_300_799_999L;

    /** Deeper nesting than servers take. */
    public static final int DEEPEST = 500;

    private static final JsonStringEncoder ESCAPES = JsonStringEncoder.getInstance();

    private JsonOfBson() {}

    /**
     * Writes the value that a reader stands at.
     *
     * @throws InvalidValueException if it would be taken for another one when it is read
     */
    public static void write(BsonReader from, StringBuilder to) throws InvalidValueException {
        try {
            value(from, to, 0);
        } catch (BsonSerializationException | BsonInvalidOperationException e) {
            throw new InvalidValueException("can't be read: " + e.getMessage());
        }
    }

    private static void value(BsonReader from, StringBuilder to, int depth) throws InvalidValueException {
        switch (from.getCurrentBsonType()) {
            case DOCUMENT -> document(from, to, depth);
            case ARRAY -> array(from, to, depth);
            case STRING -> string(from.readString(), to);
            case INT32 -> to.append(from.readInt32());
            case INT64 -> whole(from.readInt64(), to);
            case DOUBLE -> floating(from.readDouble(), to);
            case DECIMAL128 -> decimal(from.readDecimal128(), to);
            case BOOLEAN -> to.append(from.readBoolean());
            case NULL -> {
                from.readNull();
                to.append("null");
            }
            case DATE_TIME -> moment(from.readDateTime(), to);
            case OBJECT_ID -> wrapped(to, "$oid", from.readObjectId().toHexString());
            case BINARY -> binary(from.readBinaryData(), to);
            default -> rare(from, to, depth);
        }
    }

    /** What applications hardly store. */
    private static void rare(BsonReader from, StringBuilder to, int depth) throws InvalidValueException {
        switch (from.getCurrentBsonType()) {
            case REGULAR_EXPRESSION -> {
                BsonRegularExpression expression = from.readRegularExpression();
                to.append("{\"$regularExpression\":{\"pattern\":");
                string(expression.getPattern(), to);
                to.append(",\"options\":");
                string(expression.getOptions(), to);
                to.append("}}");
            }
            case TIMESTAMP -> {
                BsonTimestamp stamp = from.readTimestamp();
                to.append("{\"$timestamp\":{\"t\":")
                        .append(Integer.toUnsignedLong(stamp.getTime()))
                        .append(",\"i\":")
                        .append(Integer.toUnsignedLong(stamp.getInc()))
                        .append("}}");
            }
            case JAVASCRIPT -> wrapped(to, "$code", from.readJavaScript());
            case JAVASCRIPT_WITH_SCOPE -> {
                to.append("{\"$code\":");
                string(from.readJavaScriptWithScope(), to);
                to.append(",\"$scope\":");
                document(from, to, depth + 1);
                to.append('}');
            }
            case SYMBOL -> wrapped(to, "$symbol", from.readSymbol());
            case UNDEFINED -> {
                from.readUndefined();
                to.append("{\"$undefined\":true}");
            }
            case MIN_KEY -> {
                from.readMinKey();
                to.append("{\"$minKey\":1}");
            }
            case MAX_KEY -> {
                from.readMaxKey();
                to.append("{\"$maxKey\":1}");
            }
            case DB_POINTER -> {
                BsonDbPointer pointer = from.readDBPointer();
                to.append("{\"$dbPointer\":{\"$ref\":");
                string(pointer.getNamespace(), to);
                to.append(",\"$id\":");
                wrapped(to, "$oid", pointer.getId().toHexString());
                to.append("}}");
            }
            default -> throw new InvalidValueException("is of a type that isn't known: " + from.getCurrentBsonType());
        }
    }

    private static void document(BsonReader from, StringBuilder to, int depth) throws InvalidValueException {
        mustBeShallow(depth);
        int start = to.length();
        boolean looksTyped = false;
        char separator = '{';
        from.readStartDocument();
        while (from.readBsonType() != BsonType.END_OF_DOCUMENT) {
            String name = from.readName();
            looksTyped |= separator == '{' && name.startsWith("$");
            to.append(separator);
            string(name, to);
            to.append(':');
            value(from, to, depth + 1);
            separator = ',';
        }
        from.readEndDocument();
        to.append(separator == '{' ? "{}" : "}");
        if (looksTyped && !BsonOfJson.value(to.substring(start)).isDocument()) {
            throw new InvalidValueException(
                    "holds an object that JSON has for a value of another type: " + to.substring(start));
        }
    }

    private static void array(BsonReader from, StringBuilder to, int depth) throws InvalidValueException {
        mustBeShallow(depth);
        char separator = '[';
        from.readStartArray();
        while (from.readBsonType() != BsonType.END_OF_DOCUMENT) {
            to.append(separator);
            value(from, to, depth + 1);
            separator = ',';
        }
        from.readEndArray();
        to.append(separator == '[' ? "[]" : "]");
    }

    private static void mustBeShallow(int depth) throws InvalidValueException {
        if (depth > DEEPEST) {
            throw new InvalidValueException("is nested deeper than " + DEEPEST + " levels");
        }
    }

    private static void whole(long number, StringBuilder to) {
        if (number == (int) number) {
            wrapped(to, "$numberLong", Long.toString(number));
        } else {
            to.append(number);
        }
    }

    private static void floating(double number, StringBuilder to) {
        if (Double.isFinite(number)) {
            to.append(JavaValues.text(number));
        } else {
            wrapped(to, "$numberDouble", Double.isNaN(number) ? "NaN" : number > 0 ? "Infinity" : "-Infinity");
        }
    }

    private static void decimal(Decimal128 number, StringBuilder to) {
        String text = number.toString();
        boolean plain = number.isFinite()
                && !isMinusZero(number)
                && BsonOfJson.number(text).filter(number::equals).isPresent();
        if (plain) {
            to.append(text);
        } else {
            wrapped(to, "$numberDecimal", text);
        }
    }

    /** A moment as value text has it, where its year has four digits; else the milliseconds since 1970. */
    private static void moment(long millis, StringBuilder to) {
        if (!isDated(millis)) {
            to.append("{\"$date\":{\"$numberLong\":\"").append(millis).append("\"}}");
        } else {
            wrapped(to, "$date", momentText(millis));
        }
    }

    /** Whether the year of a moment has four digits. */
    static boolean isDated(long millis) {
        return millis >= FIRST_DATED && millis <= LAST_DATED;
    }

    /** The value text of a moment. */
    static String momentText(long millis) {
        return JavaValues.text(Instant.ofEpochMilli(millis).atOffset(ZoneOffset.UTC));
    }

    private static void binary(BsonBinary value, StringBuilder to) {
        if (value.getType() == BsonBinarySubType.UUID_STANDARD.getValue() && value.getData().length == 16) {
            wrapped(to, "$uuid", Uuids.text(value.getData()));
            return;
        }
        to.append("{\"$binary\":{\"base64\":\"")
                .append(Base64.getEncoder().encodeToString(value.getData()))
                .append("\",\"subType\":\"")
                .append(Character.forDigit(value.getType() >> 4 & 0xf, 16))
                .append(Character.forDigit(value.getType() & 0xf, 16))
                .append("\"}}");
    }

    private static void wrapped(StringBuilder to, String name, String value) {
        to.append("{\"").append(name).append("\":");
        string(value, to);
        to.append('}');
    }

    private static void string(String text, StringBuilder to) {
        to.append('"');
        ESCAPES.quoteAsString(text, to);
        to.append('"');
    }

    /** Which exact numbers have elsewhere: no. */
    private static boolean isMinusZero(Decimal128 number) {
        return number.isNegative() && number.toString().matches("-0[.0]*(E.*)?");
    }

    /** A number's text, in which a program that has only plain decimals can trust. */
    static String plain(Decimal128 number) throws InvalidValueException {
        if (!number.isFinite()) {
            throw new InvalidValueException("is no number that an exact column could hold");
        }
        return isMinusZero(number) ? "0" : number.bigDecimalValue().toPlainString();
    }
}

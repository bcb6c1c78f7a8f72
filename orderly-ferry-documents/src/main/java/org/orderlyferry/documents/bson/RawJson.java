package org.orderlyferry.documents.bson;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import org.bson.BsonReader;
import org.bson.BsonSerializationException;
import org.bson.RawBsonDocument;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.JavaValues;
import org.orderlyferry.record.text.Utf8;

/**
 * Writes values of documents as the JSON that {@link JsonOfBson} makes of them, out of their bytes into bytes: texts aren't decoded, and
 * nothing is made for each value. What is rare goes by way of a reader. Not safe for use by several threads.
 */
public final class RawJson {

    private static final HexFormat HEX = HexFormat.of();

    private final GrowingBytes out = new GrowingBytes();
    /** The fields of the documents that stand one in another, which are used again for each. */
    private final List<RawFields> levels = new ArrayList<>();

    private final StringBuilder rare = new StringBuilder();

    /**
     * Writes the value of the field that is stood at.
     *
     * @param to where the bytes are then found, until the next call
     * @throws InvalidValueException if it would be taken for another one when it is read, or isn't BSON
     */
    public void write(RawFields field, CellBytes to) throws InvalidValueException {
        out.clear();
        try {
            value(field, 0);
        } catch (BsonSerializationException e) {
            throw new InvalidValueException("can't be read: " + e.getMessage());
        }
        to.set(out.bytes(), 0, out.size());
    }

    /** Writes a document, as {@link #write(RawFields, CellBytes)} does a value. */
    public void write(RawBsonDocument document, CellBytes to) throws InvalidValueException {
        out.clear();
        try {
            RawFields fields = level(0);
            fields.open(document);
            object(fields, 0);
        } catch (BsonSerializationException e) {
            throw new InvalidValueException("can't be read: " + e.getMessage());
        }
        to.set(out.bytes(), 0, out.size());
    }

    /** What has been written of a value that couldn't be, for people. */
    public String begun() {
        return new String(out.bytes(), 0, out.size(), StandardCharsets.UTF_8);
    }

    private RawFields level(int depth) {
        while (depth >= levels.size()) {
            levels.add(new RawFields());
        }
        return levels.get(depth);
    }

    private void value(RawFields at, int depth) throws InvalidValueException {
        switch (at.type()) {
            case DOCUMENT -> {
                RawFields inner = inside(at, depth);
                object(inner, depth);
            }
            case ARRAY -> {
                RawFields inner = inside(at, depth);
                byte separator = '[';
                while (inner.next()) {
                    out.add(separator);
                    value(inner, depth + 1);
                    separator = ',';
                }
                if (separator == '[') {
                    out.add('[');
                }
                out.add(']');
            }
            case STRING -> string(at.bytes(), at.textStart(), at.textEnd(), "a text");
            case INT32 -> out.digits(at.int32());
            case INT64 -> whole(at.int64());
            case DOUBLE -> {
                if (Double.isFinite(at.floating())) {
                    out.ascii(JavaValues.text(at.floating()));
                } else {
                    rare(at.reader());
                }
            }
            case DECIMAL128 -> {
                if (RawDecimals.isOtherInJson(at.high(), at.low())) {
                    out.ascii("{\"$numberDecimal\":\"");
                    RawDecimals.write(at.high(), at.low(), out);
                    out.ascii("\"}");
                } else {
                    rare(at.reader());
                }
            }
            case BOOLEAN -> out.ascii(at.truth() ? "true" : "false");
            case NULL -> out.ascii("null");
            case DATE_TIME -> {
                if (JsonOfBson.isDated(at.int64())) {
                    out.ascii("{\"$date\":\"");
                    out.moment(at.int64());
                    out.ascii("Z\"}");
                } else {
                    rare(at.reader());
                }
            }
            case OBJECT_ID -> {
                out.ascii("{\"$oid\":\"");
                for (int i = at.valueStart(); i < at.valueEndOf(); i++) {
                    byte b = at.bytes()[i];
                    out.add(HEX.toHighHexDigit(b));
                    out.add(HEX.toLowHexDigit(b));
                }
                out.ascii("\"}");
            }
            default -> rare(at.reader());
        }
    }

    private RawFields inside(RawFields at, int depth) throws InvalidValueException {
        // a reader that stands before the value counts the same levels
        if (depth > JsonOfBson.DEEPEST) {
            throw new InvalidValueException("is nested deeper than " + JsonOfBson.DEEPEST + " levels");
        }
        RawFields inner = level(depth + 1);
        inner.open(at);
        return inner;
    }

    private void object(RawFields fields, int depth) throws InvalidValueException {
        int start = out.size();
        boolean looksTyped = false;
        byte separator = '{';
        while (fields.next()) {
            int name = fields.nameStart();
            int end = fields.nameEnd();
            looksTyped |= separator == '{' && end > name && fields.bytes()[name] == '$';
            out.add(separator);
            string(fields.bytes(), name, end, "a name");
            out.add(':');
            value(fields, depth + 1);
            separator = ',';
        }
        if (separator == '{') {
            out.add('{');
        }
        out.add('}');
        if (looksTyped) {
            String json = new String(out.bytes(), start, out.size() - start, StandardCharsets.UTF_8);
            if (!BsonOfJson.value(json).isDocument()) {
                throw new InvalidValueException("holds an object that JSON has for a value of another type: " + json);
            }
        }
    }

    private void whole(long number) {
        if (number == (int) number) {
            out.ascii("{\"$numberLong\":\"");
            out.digits(number);
            out.ascii("\"}");
        } else {
            out.digits(number);
        }
    }

    private void rare(BsonReader reader) throws InvalidValueException {
        rare.setLength(0);
        JsonOfBson.write(reader, rare);
        byte[] bytes = Utf8.bytes(rare.toString());
        if (bytes == null) {
            throw new InvalidValueException(BsonOfJson.HALF);
        }
        out.add(bytes);
    }

    private void string(byte[] bytes, int start, int end, String what) {
        if (Utf8.firstInvalid(bytes, start, end) >= 0) {
            throw new BsonSerializationException(
                    what + " isn't UTF-8: " + new String(bytes, start, end - start, StandardCharsets.UTF_8));
        }
        out.add('"');
        int from = start;
        for (int i = start; i < end; i++) {
            byte b = bytes[i];
            if (b == '"' || b == '\\' || b >= 0 && b < ' ') {
                out.add(bytes, from, i);
                escape(b);
                from = i + 1;
            }
        }
        out.add(bytes, from, end);
        out.add('"');
    }

    private void escape(byte b) {
        out.add('\\');
        switch (b) {
            case '"', '\\' -> out.add(b);
            case '\b' -> out.add('b');
            case '\f' -> out.add('f');
            case '\n' -> out.add('n');
            case '\r' -> out.add('r');
            case '\t' -> out.add('t');
            default -> {
                out.ascii("u00");
                out.ascii(HEX.withUpperCase().toHexDigits(b));
            }
        }
    }
}

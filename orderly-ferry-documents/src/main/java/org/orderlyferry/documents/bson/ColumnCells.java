package org.orderlyferry.documents.bson;

import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.ZoneOffset;
import org.bson.BsonBinary;
import org.bson.BsonBinarySubType;
import org.bson.BsonBoolean;
import org.bson.BsonDateTime;
import org.bson.BsonDecimal128;
import org.bson.BsonDouble;
import org.bson.BsonInt32;
import org.bson.BsonInt64;
import org.bson.BsonObjectId;
import org.bson.BsonReader;
import org.bson.BsonString;
import org.bson.BsonType;
import org.bson.BsonValue;
import org.bson.types.Decimal128;
import org.bson.types.ObjectId;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.JavaValues;
import org.orderlyferry.record.text.Utf8;
import org.orderlyferry.record.text.ValueText;

/** One column's values, from documents and into them. Not safe for use by several threads. */
public final class ColumnCells {

    /** Largest whole number up to which a double has them all. */
    private static final long WHOLE_DOUBLES = 1L << 53;

    private final ColumnDefinition column;
    private final Held held;
    private static final byte[] TRUE = ascii("true");
    private static final byte[] FALSE = ascii("false");

    private final StringBuilder json = new StringBuilder();
    private final RawJson rawJson = new RawJson();
    private final GrowingBytes written = new GrowingBytes();
    /** What a text of the column has to be like, beyond being one; null where there is nothing to look at. */
    private final @Nullable ValueText text;

    /**
     * Cells of a column.
     *
     * @param system whose words its own type is
     */
    public ColumnCells(ColumnDefinition column, String system) {
        this.column = column;
        this.held = Held.of(column, system);
        this.text = held == Held.TEXT
                        && (column.type().isSized() || !column.type().name().isText())
                ? ValueText.of(column.type())
                : null;
    }

    /** The column. */
    public ColumnDefinition column() {
        return column;
    }

    /** How documents hold it. */
    public Held held() {
        return held;
    }

    /**
     * The value text of what a reader stands at, in its proper form; null for a null.
     *
     * @throws InvalidValueException if it is none of the column's; the reader stands behind it all the same where it is a plain
     *     value
     */
    public byte @Nullable [] read(BsonReader from) throws InvalidValueException {
        BsonType type = from.getCurrentBsonType();
        if (type == BsonType.NULL && held != Held.JSON) {
            from.readNull();
            return null;
        }
        byte subtype = type == BsonType.BINARY ? from.peekBinarySubType() : 0;
        if (!held.takes(type, subtype)) {
            json.setLength(0);
            JsonOfBson.write(from, json);
            throw new InvalidValueException("is of type " + BsonTypes.word(type, subtype) + ", the column is "
                    + column.type() + " of " + held.word().orElse("any"));
        }
        return switch (type) {
            case STRING -> held == Held.JSON ? json(from) : checked(text(from.readString()));
            case INT32 -> held == Held.JSON ? json(from) : whole(from.readInt32());
            case INT64 -> held == Held.JSON ? json(from) : whole(from.readInt64());
            case DOUBLE -> held == Held.JSON ? json(from) : ascii(JavaValues.text(from.readDouble()));
            case DECIMAL128 -> held == Held.JSON ? json(from) : ascii(JsonOfBson.plain(from.readDecimal128()));
            case BOOLEAN -> ascii(Boolean.toString(from.readBoolean()));
            case DATE_TIME -> held == Held.JSON ? json(from) : moment(from.readDateTime());
            case OBJECT_ID ->
                held == Held.JSON ? json(from) : ascii(from.readObjectId().toHexString());
            case BINARY -> held == Held.JSON ? json(from) : binary(from.readBinaryData());
            default -> json(from);
        };
    }

    /**
     * The value text of a field, in its proper form; most of them are where they stand.
     *
     * @throws InvalidValueException if it is none of the column's
     */
    public void read(RawFields from, CellBytes to) throws InvalidValueException {
        BsonType type = from.type();
        if (held == Held.JSON) {
            rawJson.write(from, to);
            return;
        } else if (!held.takes(type, from.subtype())) {
            byte[] value = read(from.reader());
            if (value == null) {
                to.setNull();
            } else {
                to.set(value);
            }
            return;
        }
        switch (type) {
            case STRING -> text(from, to);
            case INT32 -> whole(from.int32(), to);
            case INT64 -> whole(from.int64(), to);
            case DOUBLE -> to.set(ascii(JavaValues.text(from.floating())));
            case BOOLEAN -> to.set(from.truth() ? TRUE : FALSE);
            case DATE_TIME -> moment(from.int64(), to);
            case DECIMAL128 -> {
                if (RawDecimals.isShort(from.high(), from.low())) {
                    written.clear();
                    RawDecimals.write(from.high(), from.low(), written);
                    to.set(written.bytes(), 0, written.size());
                } else {
                    to.set(read(from.reader()));
                }
            }
            case BINARY -> {
                if (held == Held.BYTES) {
                    // its length, and the subtype
                    to.set(from.bytes(), from.valueStart() + 5, from.valueEndOf());
                } else {
                    to.set(read(from.reader()));
                }
            }
            default -> to.set(read(from.reader()));
        }
    }

    private void text(RawFields from, CellBytes to) throws InvalidValueException {
        int start = from.textStart();
        int end = from.textEnd();
        if (Utf8.firstInvalid(from.bytes(), start, end) >= 0) {
            throw new InvalidValueException("isn't UTF-8");
        }
        if (text == null || text.isProper(from.bytes(), start, end)) {
            to.set(from.bytes(), start, end);
        } else {
            to.set(text(text.toProper(new String(from.bytes(), start, end - start, StandardCharsets.UTF_8))));
        }
    }

    private void whole(long number, CellBytes to) throws InvalidValueException {
        if (held == Held.DOUBLE) {
            to.set(whole(number));
        } else {
            written.clear();
            written.digits(number);
            to.set(written.bytes(), 0, written.size());
        }
    }

    private void moment(long millis, CellBytes to) {
        written.clear();
        written.moment(millis);
        if (column.type().name() != TypeName.TIMESTAMP) {
            written.add('Z');
        }
        to.set(written.bytes(), 0, written.size());
    }

    private byte[] json(BsonReader from) throws InvalidValueException {
        json.setLength(0);
        JsonOfBson.write(from, json);
        return text(json.toString());
    }

    private static byte[] text(String text) throws InvalidValueException {
        byte[] bytes = Utf8.bytes(text);
        if (bytes == null) {
            throw new InvalidValueException(BsonOfJson.HALF);
        }
        return bytes;
    }

    /** A text in the proper form of its column's type. */
    private byte[] checked(byte[] value) throws InvalidValueException {
        if (text == null || text.isProper(value, 0, value.length)) {
            return value;
        }
        return text(text.toProper(new String(value, StandardCharsets.UTF_8)));
    }

    private byte[] whole(long number) throws InvalidValueException {
        if (held != Held.DOUBLE) {
            return ascii(Long.toString(number));
        }
        if (Math.abs(number) > WHOLE_DOUBLES) {
            throw new InvalidValueException("is a whole number that a column of doubles would round");
        }
        return ascii(JavaValues.text((double) number));
    }

    private byte[] moment(long millis) {
        String text = JsonOfBson.momentText(millis);
        return ascii(column.type().name() == TypeName.TIMESTAMP ? text.substring(0, text.length() - 1) : text);
    }

    private static byte[] binary(BsonBinary value) {
        return value.getType() == BsonBinarySubType.UUID_STANDARD.getValue()
                ? ascii(Uuids.text(value.getData()))
                : value.getData();
    }

    private static byte[] ascii(String text) {
        return text.getBytes(StandardCharsets.US_ASCII);
    }

    /**
     * A record's value, which is no null, as a document holds it.
     *
     * @throws InvalidValueException if no document could hold it
     */
    public BsonValue written(Records batch, int row, int index) throws InvalidValueException {
        if (held == Held.BYTES) {
            return new BsonBinary(batch.copy(row, index));
        }
        return written(batch.text(row, index));
    }

    /**
     * A value of no binary column as a document holds it.
     *
     * @throws InvalidValueException if no document could hold it
     */
    public BsonValue written(String text) throws InvalidValueException {
        return switch (held) {
            case INT32 -> new BsonInt32(Integer.parseInt(text));
            case INT64 -> new BsonInt64(Long.parseLong(text));
            case DOUBLE -> new BsonDouble(JavaValues.doubleOf(text));
            case DECIMAL -> decimal(text);
            case BOOLEAN -> BsonBoolean.valueOf(text.equals("true"));
            case TEXT -> new BsonString(text);
            case MOMENT -> new BsonDateTime(millis(text));
            case OBJECT_ID -> {
                if (!ObjectId.isValid(text)) {
                    throw new InvalidValueException("isn't 24 hexadecimal digits, as an id of documents has");
                }
                yield new BsonObjectId(new ObjectId(text));
            }
            case UUID -> new BsonBinary(BsonBinarySubType.UUID_STANDARD, Uuids.bytes(text));
            case JSON -> BsonOfJson.value(text);
            case BYTES -> throw new IllegalStateException("bytes are no text");
        };
    }

    private static BsonValue decimal(String text) throws InvalidValueException {
        try {
            return new BsonDecimal128(new Decimal128(new BigDecimal(text)));
        } catch (NumberFormatException e) {
            throw new InvalidValueException("has more digits than the 34 that an exact number has in a document");
        }
    }

    /**
     * The milliseconds since 1970 of a moment's value text.
     *
     * @throws InvalidValueException if it has a fraction of one, or is out of reach
     */
    long millis(String text) throws InvalidValueException {
        boolean zoned = column.type().name() == TypeName.TIMESTAMP_WITH_TIME_ZONE;
        try {
            Instant instant = zoned
                    ? JavaValues.instant(text).toInstant()
                    : JavaValues.timestamp(text).toInstant(ZoneOffset.UTC);
            return TypedWrapper.millis(instant);
        } catch (DateTimeException e) {
            throw new InvalidValueException("can't be a date in a document, which has milliseconds: " + e.getMessage());
        } catch (ArithmeticException e) {
            throw new InvalidValueException("is out of reach for a date in a document");
        }
    }
}

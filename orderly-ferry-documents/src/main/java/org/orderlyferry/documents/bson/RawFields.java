package org.orderlyferry.documents.bson;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import org.bson.BsonReader;
import org.bson.BsonSerializationException;
import org.bson.BsonType;
import org.bson.RawBsonDocument;
import org.orderlyferry.record.text.Utf8;

/**
 * The fields of a document one after the other, in its bytes (BSON 1.1): what isn't asked for is stepped over, and no text is decoded. A
 * length that leads out of the document ends it with an exception. Not safe for use by several threads.
 */
public final class RawFields {

    private static final BsonType[] TYPES = new BsonType[256];

    static {
        for (BsonType type : BsonType.values()) {
            TYPES[type.getValue() & 0xff] = type;
        }
    }

    private static final VarHandle INTS = MethodHandles.byteArrayViewVarHandle(int[].class, ByteOrder.LITTLE_ENDIAN);
    private static final VarHandle LONGS = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);

    private byte[] bytes = new byte[0];
    private int end;
    private int at;
    private BsonType type = BsonType.END_OF_DOCUMENT;
    private int name;
    private int nameEnd;
    private int value;
    private int valueEnd;

    /** Stands nowhere, until a document is opened. */
    RawFields() {}

    /**
     * Stands before a document's first field.
     *
     * @throws BsonSerializationException if its length isn't that of its bytes
     */
    public RawFields(RawBsonDocument document) {
        open(document);
    }

    /** Goes before another document's first field. */
    void open(RawBsonDocument document) {
        ByteBuffer all = document.getByteBuffer().asNIO();
        open(all.array(), all.arrayOffset() + all.position(), all.remaining());
    }

    /** Goes before the first field of the document, or list, that a field's value is. */
    void open(RawFields of) {
        open(of.bytes, of.value, of.valueEnd - of.value);
    }

    private void open(byte[] in, int start, int room) {
        int length = room < 5 ? 0 : (int) INTS.get(in, start);
        if (length < 5 || length > room || in[start + length - 1] != 0) {
            throw new BsonSerializationException("a document has the length " + length);
        }
        this.bytes = in;
        this.end = start + length - 1;
        this.at = start + 4;
    }

    /**
     * The fields of the document that the field's value is.
     *
     * @throws BsonSerializationException if its length isn't that of its bytes
     */
    public RawFields inside() {
        RawFields inner = new RawFields();
        inner.open(this);
        return inner;
    }

    /**
     * Goes to the next field.
     *
     * @return false if there is none
     * @throws BsonSerializationException if what stands there is none
     */
    public boolean next() {
        if (at == end) {
            return false;
        }
        type = TYPES[bytes[at] & 0xff];
        if (type == null || type == BsonType.END_OF_DOCUMENT) {
            throw new BsonSerializationException("a field has the type " + bytes[at]);
        }
        name = at + 1;
        nameEnd = name;
        while (nameEnd < end && bytes[nameEnd] != 0) {
            nameEnd++;
        }
        value = nameEnd + 1;
        valueEnd = valueEnd();
        if (valueEnd > end || valueEnd < value) {
            throw new BsonSerializationException("the field " + shownName() + " leads out of its document");
        }
        at = valueEnd;
        return true;
    }

    private int valueEnd() {
        return switch (type) {
            case DOUBLE, INT64, DATE_TIME, TIMESTAMP -> value + 8;
            case INT32 -> value + 4;
            case BOOLEAN -> value + 1;
            case NULL, UNDEFINED, MIN_KEY, MAX_KEY -> value;
            case OBJECT_ID -> value + 12;
            case DECIMAL128 -> value + 16;
            case STRING, SYMBOL, JAVASCRIPT -> past(4);
            case DOCUMENT, ARRAY, JAVASCRIPT_WITH_SCOPE -> past(0);
            case BINARY -> past(5);
            case DB_POINTER -> past(4 + 12);
            case REGULAR_EXPRESSION -> afterText(afterText(value));
            default -> -1;
        };
    }

    /** What has its length in front of it, which doesn't count so many bytes of it. */
    private int past(int more) {
        if (value + 4 > end) {
            return -1;
        }
        int length = (int) INTS.get(bytes, value);
        return length < 0 || length > end - value ? -1 : value + length + more;
    }

    private int afterText(int from) {
        int to = from;
        while (to >= 0 && to < end && bytes[to] != 0) {
            to++;
        }
        return to + 1;
    }

    /** The field's type. */
    public BsonType type() {
        return type;
    }

    /** The subtype of a field of bytes; 0 of any other. */
    public byte subtype() {
        return type == BsonType.BINARY ? bytes[value + 4] : 0;
    }

    int nameStart() {
        return name;
    }

    int nameEnd() {
        return nameEnd;
    }

    /** The half of an exact number with its sign and its exponent. */
    long high() {
        return (long) LONGS.get(bytes, value + Long.BYTES);
    }

    /** The other half. */
    long low() {
        return int64();
    }

    /**
     * The field's name.
     *
     * @throws BsonSerializationException if it isn't UTF-8
     */
    public String name() {
        if (Utf8.firstInvalid(bytes, name, nameEnd) >= 0) {
            throw new BsonSerializationException("a name isn't UTF-8: " + shownName());
        }
        return shownName();
    }

    private String shownName() {
        return new String(bytes, name, nameEnd - name, StandardCharsets.UTF_8);
    }

    /** Whether it is this name, in UTF-8. */
    public boolean isNamed(byte[] other) {
        return Arrays.equals(bytes, name, nameEnd, other, 0, other.length);
    }

    /** The document's bytes, of which the values are ranges. */
    byte[] bytes() {
        return bytes;
    }

    int valueStart() {
        return value;
    }

    /** Where a text's bytes begin. */
    int textStart() {
        return value + 4;
    }

    /** Where a text's bytes end: the one behind them is 0. */
    int textEnd() {
        if (valueEnd - value < 5 || bytes[valueEnd - 1] != 0) {
            throw new BsonSerializationException("the text in the field " + shownName() + " has no end");
        }
        return valueEnd - 1;
    }

    int valueEndOf() {
        return valueEnd;
    }

    int int32() {
        return (int) INTS.get(bytes, value);
    }

    long int64() {
        return (long) LONGS.get(bytes, value);
    }

    /** A truth value, which is a byte of 0 or 1. */
    boolean truth() {
        byte b = bytes[value];
        if (b != 0 && b != 1) {
            throw new BsonSerializationException("the truth value in the field " + shownName() + " is " + b);
        }
        return b == 1;
    }

    double floating() {
        return Double.longBitsToDouble(int64());
    }

    /** How many bytes a text has. */
    public int textLength() {
        return textEnd() - textStart();
    }

    /** How many characters a text has. */
    public int characters() {
        return Utf8.characters(bytes, textStart(), textEnd());
    }

    /** A 64-bit number. */
    public long number() {
        return int64();
    }

    /** Whether the value has the type and the bytes of another one. */
    public boolean isSame(RawFields other) {
        return type == other.type && Arrays.equals(bytes, value, valueEnd, other.bytes, other.value, other.valueEnd);
    }

    /** A reader that stands at the value, whatever it is. */
    public BsonReader reader() {
        // the field as a document of its own
        int length = valueEnd - value;
        byte[] alone = new byte[4 + 1 + 1 + length + 1];
        ByteBuffer.wrap(alone).order(ByteOrder.LITTLE_ENDIAN).putInt(alone.length);
        alone[4] = (byte) type.getValue();
        System.arraycopy(bytes, value, alone, 6, length);
        BsonReader reader = new StrictReader(alone);
        reader.readStartDocument();
        reader.readBsonType();
        reader.readName();
        return reader;
    }
}

package org.orderlyferry.documents.bson;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.util.Arrays;
import org.bson.BsonType;
import org.orderlyferry.record.text.Digits;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.TemporalDigits;
import org.orderlyferry.record.text.Utf8;

/** Bytes that are written one behind the other, in an array that is used again. Not safe for use by several threads. */
final class GrowingBytes {

    /** Numbers as BSON has them. */
    private static final VarHandle INTS = MethodHandles.byteArrayViewVarHandle(int[].class, ByteOrder.LITTLE_ENDIAN);

    private static final VarHandle LONGS = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);

    /** What is kept of an array that had to hold something large. */
    private static final int KEPT = 1 << 20;

    /** Digits of a whole number, and its sign. */
    private static final int DIGITS = 20;

    /** Milliseconds. */
    private static final long DAY = 86_400_000;

    private static final int LONGEST_MOMENT = 40;

    private byte[] bytes = new byte[512];
    private int size;

    /** Begins anew; what was given away by {@link #bytes} isn't valid any more. */
    void clear() {
        size = 0;
        if (bytes.length > KEPT) {
            bytes = new byte[512];
        }
    }

    /** The array, of which the first {@link #size} bytes are written. */
    byte[] bytes() {
        return bytes;
    }

    int size() {
        return size;
    }

    /** Forgets what is written behind a place. */
    void cut(int to) {
        size = to;
    }

    byte[] copy() {
        return Arrays.copyOf(bytes, size);
    }

    void add(int b) {
        room(1);
        bytes[size++] = (byte) b;
    }

    void add(byte[] from, int start, int end) {
        room(end - start);
        System.arraycopy(from, start, bytes, size, end - start);
        size += end - start;
    }

    void add(byte[] from) {
        add(from, 0, from.length);
    }

    /** Adds a text of ASCII. */
    void ascii(String text) {
        int length = text.length();
        room(length);
        for (int i = 0; i < length; i++) {
            bytes[size + i] = (byte) text.charAt(i);
        }
        size += length;
    }

    /**
     * Adds a text in UTF-8.
     *
     * @throws InvalidValueException if it holds half of a surrogate pair
     */
    void characters(String text) throws InvalidValueException {
        room(Math.multiplyExact(text.length(), 3));
        to(Utf8.encode(text, bytes, size));
    }

    /** Adds so many characters in UTF-8, as {@link #characters(String)} does. */
    void characters(char[] text, int from, int length) throws InvalidValueException {
        room(Math.multiplyExact(length, 3));
        to(Utf8.encode(text, from, length, bytes, size));
    }

    private void to(int end) throws InvalidValueException {
        if (end < 0) {
            throw new InvalidValueException(BsonOfJson.HALF);
        }
        size = end;
    }

    /** Adds a whole number's digits. */
    void digits(long number) {
        room(DIGITS);
        size = Digits.write(number, bytes, size);
    }

    /** Adds the value text of a moment without its zone, which is UTC. */
    void moment(long millis) {
        long days = Math.floorDiv(millis, DAY);
        room(LONGEST_MOMENT);
        size = TemporalDigits.date(days, bytes, size);
        bytes[size++] = 'T';
        size = TemporalDigits.time((millis - days * DAY) * 1000, bytes, size);
    }

    /** Adds a number of 32 bits, the least byte first. */
    void int32(int number) {
        room(Integer.BYTES);
        INTS.set(bytes, size, number);
        size += Integer.BYTES;
    }

    /** Adds a number of 64 bits, the least byte first. */
    void int64(long number) {
        room(Long.BYTES);
        LONGS.set(bytes, size, number);
        size += Long.BYTES;
    }

    /**
     * Begins a document (BSON 1.1).
     *
     * @return where, for {@link #end}
     */
    int begin() {
        int start = size;
        int32(0);
        return start;
    }

    /** Ends a document. */
    void end(int start) {
        add(0);
        length(start, size - start);
    }

    /** Says how many bytes something has that stands already. */
    void length(int place, int length) {
        INTS.set(bytes, place, length);
    }

    /** Says of which type a field is whose name stands already. */
    void type(int place, BsonType type) {
        bytes[place] = (byte) type.getValue();
    }

    private void room(int more) {
        if (more > bytes.length - size) {
            bytes = Arrays.copyOf(bytes, Math.max(Math.multiplyExact(bytes.length, 2), Math.addExact(size, more)));
        }
    }
}

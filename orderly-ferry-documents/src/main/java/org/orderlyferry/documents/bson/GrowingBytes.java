package org.orderlyferry.documents.bson;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.util.Arrays;
import org.orderlyferry.record.text.Digits;
import org.orderlyferry.record.text.InvalidValueException;
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

    /** Adds a number from 0 to 99 as two digits. */
    void two(int number) {
        room(2);
        Digits.two(number, bytes, size);
        size += 2;
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

    /** Puts a number of 32 bits where something stands already. */
    void int32At(int place, int number) {
        INTS.set(bytes, place, number);
    }

    /** Puts a byte where one stands already. */
    void byteAt(int place, int b) {
        bytes[place] = (byte) b;
    }

    private void room(int more) {
        if (more > bytes.length - size) {
            bytes = Arrays.copyOf(bytes, Math.max(Math.multiplyExact(bytes.length, 2), Math.addExact(size, more)));
        }
    }
}

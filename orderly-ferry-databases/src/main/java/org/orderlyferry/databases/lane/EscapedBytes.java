package org.orderlyferry.databases.lane;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * Lines of fields on their way to a server, in the form that PostgreSQL's COPY and MariaDB's LOAD DATA share: tabs between
 * fields, a backslash before what would end one, and {@code \N} for null. It makes room for whatever is put in; who fills it
 * sends it on when it {@link #isFull is full}, and cuts long values into pieces of {@link #PIECE} bytes.
 */
public final class EscapedBytes {

    /** The longest piece of a value that should be put in at once, so that the buffer doesn't grow with a huge value. */
    public static final int PIECE = 64 * 1024;

    private static final VarHandle LONGS = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);
    private static final long ONES = 0x0101010101010101L;
    private static final long HIGH_BITS = 0x8080808080808080L;
    private static final byte[] HEX = "0123456789abcdef".getBytes(StandardCharsets.US_ASCII);

    private final int full;
    private byte[] bytes;
    private int used;

    /**
     * An empty one.
     *
     * @param full from how many bytes on it should be sent
     */
    public EscapedBytes(int full) {
        this.full = full;
        this.bytes = new byte[full + PIECE];
    }

    /** Whether so much is in it that it should be sent. */
    public boolean isFull() {
        return used >= full;
    }

    /** What was put in, from 0 to {@link #length}. */
    public byte[] bytes() {
        return bytes;
    }

    /** How many bytes were put in. */
    public int length() {
        return used;
    }

    /** Empties it, and lets go of what an unusual record has made it grow to. */
    public void clear() {
        used = 0;
        if (bytes.length > 4 * (full + PIECE)) {
            bytes = new byte[full + PIECE];
        }
    }

    /** Puts a byte as it is. */
    public void put(int c) {
        room(1);
        bytes[used++] = (byte) c;
    }

    /** Puts a null. */
    public void putNull() {
        room(2);
        bytes[used++] = '\\';
        bytes[used++] = 'N';
    }

    /** Puts bytes in which nothing has to be escaped. */
    public void plain(byte[] b, int start, int end) {
        room(end - start);
        System.arraycopy(b, start, bytes, used, end - start);
        used += end - start;
    }

    /** Puts bytes as hexadecimal digits. */
    public void hex(byte[] b, int start, int end) {
        room(2L * (end - start));
        for (int i = start; i < end; i++) {
            bytes[used++] = HEX[b[i] >> 4 & 0xF];
            bytes[used++] = HEX[b[i] & 0xF];
        }
    }

    /** Puts text, escaped. Most of it needs nothing, which is seen eight bytes at a time. */
    public void text(byte[] b, int start, int end) {
        room(2L * (end - start) + Long.BYTES);
        byte[] to = bytes;
        int out = used;
        int at = start;
        while (at + Long.BYTES <= end) {
            long eight = (long) LONGS.get(b, at);
            if (needsNothing(eight)) {
                LONGS.set(to, out, eight);
                out += Long.BYTES;
                at += Long.BYTES;
            } else {
                for (int stop = at + Long.BYTES; at < stop; at++) {
                    out = escaped(b[at], to, out);
                }
            }
        }
        for (; at < end; at++) {
            out = escaped(b[at], to, out);
        }
        used = out;
    }

    /** Whether none of eight bytes is a backslash or below a blank; a doubtful case counts as no. */
    private static boolean needsNothing(long eight) {
        long low = eight - ONES * ' ' & ~eight;
        long other = eight ^ ONES * '\\';
        long slash = other - ONES & ~other;
        return ((low | slash) & HIGH_BITS) == 0;
    }

    private static int escaped(byte c, byte[] to, int at) {
        int letter =
                switch (c) {
                    case '\\' -> '\\';
                    case '\n' -> 'n';
                    case '\r' -> 'r';
                    case '\t' -> 't';
                    case 0 -> '0';
                    default -> -1;
                };
        if (letter < 0) {
            to[at] = c;
            return at + 1;
        }
        to[at] = '\\';
        to[at + 1] = (byte) letter;
        return at + 2;
    }

    private void room(long more) {
        if (used + more > bytes.length) {
            long wanted = Math.max(bytes.length * 2L, used + more + PIECE);
            if (used + more > Integer.MAX_VALUE - Long.BYTES) {
                throw new OutOfMemoryError("a record of more than 2 GB can't be sent");
            }
            bytes = Arrays.copyOf(bytes, (int) Math.min(Integer.MAX_VALUE - Long.BYTES, wanted));
        }
    }
}

package org.orderlyferry.format.csv;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import org.orderlyferry.record.Utf8;

/**
 * Where delimiters, quotes and line ends stand in bytes. They are found 64 bytes at a time and with hardly a branch, a
 * block ahead of the one who asks for them; so reading costs about as much for short values as for long ones.
 */
final class Marks {

    private static final VarHandle LONGS = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);
    private static final long ONES = 0x0101010101010101L;
    private static final long HIGH_BITS = 0x8080808080808080L;
    private static final long LF = ONES * '\n';
    private static final long CR = ONES * '\r';
    private static final int BLOCK = 16 * 1024;
    private static final int AT_ONCE = 8;

    /** A multiplication by this brings the lowest bit of each byte into the highest byte. */
    private static final long GATHER = 0x0102040810204080L;

    /** Hears of the first byte that isn't valid UTF-8. */
    interface BadByte {
        RuntimeException at(byte[] bytes, int place);
    }

    private final BadByte badByte;
    private final long delimiters;
    private final long quotes;
    private final int[] places = new int[BLOCK + 2 * Long.SIZE];
    private byte[] bytes;
    private int length;
    private int marked;
    private int count;
    private int next;
    private boolean ended;
    private int checked;
    private long seenBits;

    Marks(byte delimiter, byte quote, BadByte badByte) {
        this.badByte = badByte;
        this.delimiters = ONES * delimiter;
        this.quotes = ONES * quote;
    }

    /**
     * Begins anew.
     *
     * @param newBytes with {@link org.orderlyferry.record.RecordBatch#SLACK} bytes of room behind {@code newLength}; they begin with a whole character
     * @param newEnded whether no bytes follow these
     */
    void start(byte[] newBytes, int newLength, boolean newEnded) {
        bytes = newBytes;
        length = newLength;
        ended = newEnded;
        checked = 0;
        marked = 0;
        count = 0;
        next = 0;
    }

    /** The next mark's place, or the length where there are no more. */
    int next() {
        return next < count || fill() ? places[next++] : length;
    }

    /**
     * Takes the next marks as long as they are delimiters, writing where each field begins and ends. Stops at the first
     * mark that is something else, at the end of what has been marked, or when there is no more room.
     *
     * @param field where the first field begins
     * @param from the first index of {@code starts} and {@code ends} to write to
     * @param emptyEnd what to write as the end of a field with nothing in it
     * @return how many fields there are now
     */
    int fields(byte delimiter, int field, int[] starts, int[] ends, int from, int emptyEnd) {
        byte[] source = bytes;
        int[] at = places;
        int i = next;
        int stop = Math.min(count, i + starts.length - from);
        int n = from;
        int start = field;
        while (i < stop) {
            int p = at[i];
            if (source[p] != delimiter) {
                break;
            }
            starts[n] = start;
            ends[n] = p == start ? emptyEnd : p;
            n++;
            i++;
            start = p + 1;
        }
        next = i;
        return n;
    }

    private boolean fill() {
        next = 0;
        count = 0;
        while (count == 0 && marked < length) {
            int from = marked;
            marked = Math.min(from + BLOCK, length);
            count = find(from, marked);
            checkEncoding(from);
        }
        return count > 0;
    }

    /**
     * Checks a block before any value of it is handed on. Most blocks are ASCII, which looking for marks has shown; a
     * character that the block's end cuts in two is looked at with the next one.
     */
    private void checkEncoding(int from) {
        int end = ended && marked == length ? length : Utf8.lastWhole(bytes, checked, marked);
        if ((seenBits & HIGH_BITS) != 0 || checked < from) {
            int bad = Utf8.firstInvalid(bytes, checked, end);
            if (bad >= 0) {
                throw badByte.at(bytes, bad);
            }
        }
        checked = end;
    }

    /**
     * Gathers a bit for each of 64 bytes, then writes the places of the set ones: eight at once, wanted or not, since
     * hardly any 64 bytes hold more, and a branch that goes either way costs more than a store that is overwritten.
     */
    private int find(int from, int end) {
        byte[] source = bytes;
        int[] to = places;
        int found = 0;
        long seen = 0;
        for (int p = from; p < end; p += Long.SIZE) {
            long bits = 0;
            for (int k = 0; k < Long.SIZE; k += Long.BYTES) {
                long word = (long) LONGS.get(source, p + k);
                seen |= word;
                bits |= gathered(word) << k;
            }
            int count = Long.bitCount(bits);
            for (int i = 0; i < AT_ONCE; i++) {
                to[found + i] = p + Long.numberOfTrailingZeros(bits);
                bits &= bits - 1;
            }
            for (int i = found + AT_ONCE; bits != 0; i++) {
                to[i] = p + Long.numberOfTrailingZeros(bits);
                bits &= bits - 1;
            }
            found += count;
        }
        seenBits = seen;
        // the last 64 bytes may reach beyond the end, into bytes of an earlier time
        while (found > 0 && to[found - 1] >= end) {
            found--;
        }
        return found;
    }

    /** A word's marks as the lowest eight bits. */
    private long gathered(long word) {
        // 0x80 less a byte without its highest bit keeps that bit only where the byte is zero, and never borrows
        long low = word & ~HIGH_BITS;
        long hits = ((HIGH_BITS - (low ^ delimiters))
                        | (HIGH_BITS - (low ^ quotes))
                        | (HIGH_BITS - (low ^ LF))
                        | (HIGH_BITS - (low ^ CR)))
                & HIGH_BITS
                & ~word;
        return (hits >>> 7) * GATHER >>> 56;
    }
}

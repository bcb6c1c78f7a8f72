package org.orderlyferry.format.csv;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;

/**
 * Finds where delimiters, quotes and line ends stand in bytes, 64 bytes at a time and with hardly a branch; so it costs
 * about as much for short values as for long ones. Not safe for use by several threads.
 */
final class MarkFinder {

    private static final VarHandle LONGS = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);
    private static final long ONES = 0x0101010101010101L;
    private static final long HIGH_BITS = 0x8080808080808080L;
    private static final long LF = ONES * '\n';
    private static final long CR = ONES * '\r';
    private static final int AT_ONCE = 8;

    /** A multiplication by this brings the lowest bit of each byte into the highest byte. */
    private static final long GATHER = 0x0102040810204080L;

    private final long delimiters;
    private final long quotes;
    private long seenBits;

    MarkFinder(byte delimiter, byte quote) {
        this.delimiters = ONES * delimiter;
        this.quotes = ONES * quote;
    }

    /** Whether the bytes that were last looked at hold anything but ASCII. */
    boolean sawHighBit() {
        return (seenBits & HIGH_BITS) != 0;
    }

    /**
     * Writes the marks' places. A bit for each of 64 bytes is gathered, then the places of the set ones are written:
     * eight at once, wanted or not, since a branch that goes either way costs more than a store that is overwritten.
     *
     * @param source with {@link org.orderlyferry.record.RecordBatch#SLACK} bytes of room behind {@code end}
     * @param to has room for a place a byte, and 128 more
     * @return how many there are
     */
    int find(byte[] source, int from, int end, int[] to) {
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

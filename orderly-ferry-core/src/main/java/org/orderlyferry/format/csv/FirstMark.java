package org.orderlyferry.format.csv;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;

/** Finds the first delimiter, quote or line end in a value, eight bytes at a time: most values have none. Immutable. */
final class FirstMark {

    private static final VarHandle LONGS = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);
    private static final long ONES = 0x0101010101010101L;
    private static final long HIGH_BITS = 0x8080808080808080L;
    private static final long LF = ONES * '\n';
    private static final long CR = ONES * '\r';

    private final byte delimiter;
    private final byte quote;
    private final long delimiters;
    private final long quotes;

    FirstMark(byte delimiter, byte quote) {
        this.delimiter = delimiter;
        this.quote = quote;
        this.delimiters = ONES * (delimiter & 0xFF);
        this.quotes = ONES * (quote & 0xFF);
    }

    /** Where the first mark of any kind is; {@code end} where there is none. */
    int any(byte[] bytes, int start, int end) {
        int i = start;
        for (; i + Long.BYTES <= end; i += Long.BYTES) {
            long word = (long) LONGS.get(bytes, i);
            long hits =
                    (zeros(word ^ delimiters) | zeros(word ^ quotes) | zeros(word ^ LF) | zeros(word ^ CR)) & HIGH_BITS;
            if (hits != 0) {
                return i + (Long.numberOfTrailingZeros(hits) >>> 3);
            }
        }
        for (; i < end; i++) {
            byte b = bytes[i];
            if (b == delimiter || b == quote || b == '\n' || b == '\r') {
                return i;
            }
        }
        return end;
    }

    /** Where the first quote is; {@code end} where there is none. */
    int quote(byte[] bytes, int start, int end) {
        int i = start;
        for (; i + Long.BYTES <= end; i += Long.BYTES) {
            long hits = zeros((long) LONGS.get(bytes, i) ^ quotes) & HIGH_BITS;
            if (hits != 0) {
                return i + (Long.numberOfTrailingZeros(hits) >>> 3);
            }
        }
        while (i < end && bytes[i] != quote) {
            i++;
        }
        return i;
    }

    /** The highest bit of each byte that is zero; above the lowest such byte others may be set too, which nobody asks for. */
    private static long zeros(long word) {
        return (word - ONES) & ~word;
    }
}

package org.orderlyferry.format.csv;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.util.function.LongFunction;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;

/**
 * Finds records and their fields in bytes, eight bytes at a time. Delimiter, quote and line ends are ASCII, and no byte
 * of a longer UTF-8 sequence is, so bytes can be looked at without decoding them.
 */
final class CsvScanner {

    /** Takes each record as soon as its end is known. */
    interface RecordSink {
        void record(CsvRecord record, byte[] bytes);
    }

    private static final VarHandle LONGS = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);
    private static final long ONES = 0x0101010101010101L;
    private static final long HIGH_BITS = 0x8080808080808080L;
    private static final long LF = ONES * '\n';
    private static final long CR = ONES * '\r';
    private static final int UNFINISHED = -1;

    private final byte delimiter;
    private final byte quote;
    private final long delimiters;
    private final long quotes;
    private final LongFunction<Origin> origins;
    private final CsvRecord record = new CsvRecord();
    private final LineEnds lineEnds = new LineEnds();
    private int consumed;
    private long line = 1;

    CsvScanner(CsvDialect dialect, LongFunction<Origin> origins) {
        this.delimiter = (byte) dialect.delimiter();
        this.quote = (byte) dialect.quote();
        this.delimiters = ONES * delimiter;
        this.quotes = ONES * quote;
        this.origins = origins;
    }

    /** Where the first record begins that the last scan didn't hand on. */
    int consumed() {
        return consumed;
    }

    /** The line on which that record begins, from 1. */
    long line() {
        return line;
    }

    LineEnds lineEnds() {
        return lineEnds;
    }

    /**
     * Hands on each whole record.
     *
     * @param bytes with {@link org.orderlyferry.record.RecordBatch#SLACK} bytes of room behind {@code length}
     * @param ended whether no bytes follow these
     * @return how many records
     */
    int scan(byte[] bytes, int length, boolean ended, int most, RecordSink sink) {
        int records = 0;
        consumed = 0;
        while (consumed < length && records < most) {
            int end = record(bytes, consumed, length, ended);
            if (end == UNFINISHED) {
                break;
            }
            sink.record(record, bytes);
            consumed = end;
            line += 1 + record.innerLines();
            records++;
        }
        return records;
    }

    /** Finds the fields of the record that begins at p; returns where the next one begins. */
    private int record(byte[] bytes, int start, int length, boolean ended) {
        record.begin(line);
        int p = start;
        while (true) {
            int end;
            if (p < length && bytes[p] == quote) {
                end = quoted(bytes, p + 1, length, ended);
                if (end == UNFINISHED) {
                    return UNFINISHED;
                }
            } else {
                end = special(bytes, p, length);
                if (end == length && !ended) {
                    return UNFINISHED;
                }
                if (end < length && bytes[end] == quote) {
                    throw malformed("a quote stands inside a value that doesn't begin with one", bytes, p, end);
                }
                record.field(p, end, CsvRecord.PLAIN);
            }
            if (end == length) {
                return length;
            }
            byte at = bytes[end];
            if (at == delimiter) {
                p = end + 1;
            } else if (at == '\n') {
                lineEnds.saw(LineEnd.LF, line);
                return end + 1;
            } else if (end + 1 < length) {
                boolean both = bytes[end + 1] == '\n';
                lineEnds.saw(both ? LineEnd.CRLF : LineEnd.CR, line);
                return both ? end + 2 : end + 1;
            } else if (ended) {
                lineEnds.saw(LineEnd.CR, line);
                return end + 1;
            } else {
                return UNFINISHED;
            }
        }
    }

    /** Finds the end of a quoted value whose text begins at start; returns the place behind its closing quote. */
    private int quoted(byte[] bytes, int start, int length, boolean ended) {
        int p = start;
        byte kind = CsvRecord.QUOTED;
        while (true) {
            p = find(bytes, p, length, quotes);
            if (p == length) {
                if (ended) {
                    throw malformed(
                            "the file ends inside the quoted value that begins in this record",
                            bytes,
                            start,
                            Math.min(length, start + 40));
                }
                return UNFINISHED;
            }
            if (p + 1 == length && !ended) {
                return UNFINISHED;
            }
            if (p + 1 < length && bytes[p + 1] == quote) {
                kind = CsvRecord.QUOTED_WITH_QUOTES;
                p += 2;
                continue;
            }
            break;
        }
        int behind = p + 1;
        if (behind < length && bytes[behind] != delimiter && bytes[behind] != '\n' && bytes[behind] != '\r') {
            throw malformed("text follows the closing quote of a value", bytes, start, behind);
        }
        record.field(start, p, kind);
        record.countLines(bytes, start, p);
        return behind;
    }

    private MalformedFileException malformed(String what, byte[] bytes, int start, int end) {
        String value = new String(bytes, start, end - start, java.nio.charset.StandardCharsets.UTF_8);
        return new MalformedFileException(
                origins.apply(line),
                what + " (value " + (record.fields() + 1) + ": "
                        + org.orderlyferry.problem.BadValueException.shown(value) + ")");
    }

    /** The first delimiter, quote or line end at or behind p. */
    private int special(byte[] bytes, int from, int length) {
        int p = from;
        while (p < length) {
            long word = (long) LONGS.get(bytes, p);
            long found = zeros(word ^ delimiters) | zeros(word ^ LF) | zeros(word ^ CR) | zeros(word ^ quotes);
            if (found != 0) {
                return Math.min(p + (Long.numberOfTrailingZeros(found) >>> 3), length);
            }
            p += Long.BYTES;
        }
        return length;
    }

    private static int find(byte[] bytes, int from, int length, long wanted) {
        int p = from;
        while (p < length) {
            long found = zeros((long) LONGS.get(bytes, p) ^ wanted);
            if (found != 0) {
                return Math.min(p + (Long.numberOfTrailingZeros(found) >>> 3), length);
            }
            p += Long.BYTES;
        }
        return length;
    }

    /** Marks the zero bytes of a word; the lowest mark is always right, which is all that is asked of it. */
    private static long zeros(long word) {
        return (word - ONES) & ~word & HIGH_BITS;
    }
}

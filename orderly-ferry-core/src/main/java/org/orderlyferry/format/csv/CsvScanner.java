package org.orderlyferry.format.csv;

import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.function.LongFunction;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;

/**
 * Finds records and their fields in bytes, going from mark to mark. Delimiter, quote and line ends are ASCII, and no
 * byte of a longer UTF-8 sequence is, so bytes can be looked at without decoding them.
 */
final class CsvScanner {

    /** Takes each record as soon as its end is known. */
    interface RecordSink {
        void record(CsvRecord record, byte[] bytes);
    }

    private static final int UNFINISHED = -1;
    private static final int SHOWN = 40;

    private final byte delimiter;
    private final byte quote;
    private final LongFunction<Origin> origins;
    private final CsvRecord record = new CsvRecord();
    private final LineEnds lineEnds = new LineEnds();
    private final Marks marks;
    private final OpenValue open;
    private Chunk chunk;
    private int consumed;
    private long line;

    CsvScanner(CsvDialect dialect, long firstLine, LongFunction<Origin> origins) {
        this.line = firstLine;
        this.delimiter = (byte) dialect.delimiter();
        this.quote = (byte) dialect.quote();
        this.marks = new Marks(new MarkFinder(delimiter, quote));
        this.origins = origins;
        this.open = new OpenValue(quote);
    }

    /** In what kind of value the last scan ended; good until the next one. */
    OpenValue openValue() {
        return open;
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
     * Begins a chunk.
     *
     * @param from where the first record begins, in the chunk or in front of it
     */
    void start(Chunk newChunk, int from) {
        chunk = newChunk;
        consumed = from;
        if (newChunk.bad >= 0) {
            throw badByte(newChunk.bytes, newChunk.bad);
        }
        marks.start(newChunk, from);
    }

    /**
     * Hands on each whole record.
     *
     * @return how many records
     */
    int scan(int most, RecordSink sink) {
        byte[] bytes = chunk.bytes;
        int length = chunk.end;
        int records = 0;
        open.forget();
        while (consumed < length && records < most) {
            int end = record(bytes, consumed, length, chunk.last);
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

    /** Finds the fields of the record that begins at start; returns where the next one begins. */
    private int record(byte[] bytes, int start, int length, boolean ended) {
        record.begin(line);
        int field = start;
        while (true) {
            field = record.plainRun(marks, delimiter, field);
            int p = marks.next();
            if (p < length && bytes[p] == quote) {
                if (p != field) {
                    spoil("a quote stands inside a value that doesn't begin with one", bytes, field, p);
                    p = behindQuotes(bytes, length);
                    record.plain(field, p);
                } else {
                    p = quoted(bytes, field + 1, length, ended);
                    if (p == UNFINISHED) {
                        return UNFINISHED;
                    }
                }
                if (p == length && !ended) {
                    return UNFINISHED;
                }
            } else if (p == length && !ended) {
                open.plain();
                return UNFINISHED;
            } else {
                record.plain(field, p);
            }
            if (p == length) {
                return length;
            }
            byte at = bytes[p];
            if (at == delimiter) {
                field = p + 1;
            } else if (at == '\n') {
                lineEnds.saw(LineEnd.LF, line);
                return p + 1;
            } else if (p + 1 == length && !ended) {
                return UNFINISHED;
            } else {
                return afterReturn(bytes, p, length);
            }
        }
    }

    private int afterReturn(byte[] bytes, int p, int length) {
        boolean both = p + 1 < length && bytes[p + 1] == '\n';
        lineEnds.saw(both ? LineEnd.CRLF : LineEnd.CR, line);
        return both ? marks.next() + 1 : p + 1;
    }

    /** Goes on from a quoted value's first byte to the mark behind its closing quote. */
    private int quoted(byte[] bytes, int start, int length, boolean ended) {
        boolean withQuotes = false;
        while (true) {
            int p = marks.next();
            if (p == length) {
                if (!ended) {
                    open.quoted();
                    return UNFINISHED;
                }
                throw new MalformedFileException(
                        origins.apply(line),
                        "the file ends inside the quoted value that begins in this record"
                                + value(bytes, start, Math.min(length, start + SHOWN)));
            }
            if (bytes[p] != quote) {
                record.innerLine(bytes[p] == '\n');
                continue;
            }
            int behind = marks.next();
            if (behind == length && !ended) {
                return UNFINISHED;
            }
            if (behind == p + 1 && behind < length && bytes[behind] == quote) {
                withQuotes = true;
                continue;
            }
            if (behind != p + 1) {
                spoil("text follows the closing quote of a value", bytes, start, Math.min(behind, p + SHOWN));
                if (behind < length && bytes[behind] == quote) {
                    behind = behindQuotes(bytes, length);
                }
            }
            record.quoted(start, p, withQuotes);
            return behind;
        }
    }

    /** The next mark that is no quote: where a value ends that has quotes in a place where they mean nothing. */
    private int behindQuotes(byte[] bytes, int length) {
        int p = marks.next();
        while (p < length && bytes[p] == quote) {
            p = marks.next();
        }
        return p;
    }

    private MalformedFileException badByte(byte[] bytes, int bad) {
        long badLine = line;
        for (int i = consumed; i < bad; i++) {
            badLine += bytes[i] == '\n' ? 1 : 0;
        }
        return MalformedFileException.ofEncoding(
                origins.apply(badLine),
                String.format(
                        Locale.ROOT,
                        "the byte 0x%02X isn't valid UTF-8 here, after %s; if the file is in another encoding, give it",
                        bytes[bad],
                        before(bytes, bad)));
    }

    private static String before(byte[] bytes, int bad) {
        int from = Math.max(0, bad - SHOWN / 2);
        while (from < bad && (bytes[from] & 0xC0) == 0x80) {
            from++;
        }
        String text = new String(bytes, from, bad - from, StandardCharsets.UTF_8);
        return BadValueException.shown(text.substring(text.lastIndexOf('\n') + 1));
    }

    /**
     * A quote where none may stand costs this record only. Those behind it are read as if it had been a good one: a quote
     * in front of a value goes on to mean that line ends may follow, so that no line inside a value is taken for a record.
     */
    private void spoil(String what, byte[] bytes, int start, int end) {
        record.spoil(what + value(bytes, start, end) + "; if quotes are characters like others here, give no quote");
    }

    private String value(byte[] bytes, int start, int end) {
        String value = new String(bytes, start, end - start, StandardCharsets.UTF_8);
        return " (value " + (record.fields() + 1) + ": " + BadValueException.shown(value) + ")";
    }
}

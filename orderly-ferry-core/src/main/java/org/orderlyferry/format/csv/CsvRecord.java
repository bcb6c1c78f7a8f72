package org.orderlyferry.format.csv;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/** Where the fields of one record stand in the bytes; used again for each record. */
final class CsvRecord {

    /** The field has no quotes around it. */
    static final byte PLAIN = 0;
    /** The field has quotes around it and none inside. */
    static final byte QUOTED = 1;
    /** The field has quotes around it and doubled ones inside. */
    static final byte QUOTED_WITH_QUOTES = 2;

    private int[] starts = new int[32];
    private int[] ends = new int[32];
    private byte[] kinds = new byte[32];
    private int fields;
    private long line;
    private long innerLines;

    void begin(long firstLine) {
        fields = 0;
        innerLines = 0;
        line = firstLine;
    }

    void field(int start, int end, byte kind) {
        if (fields == starts.length) {
            starts = Arrays.copyOf(starts, fields * 2);
            ends = Arrays.copyOf(ends, fields * 2);
            kinds = Arrays.copyOf(kinds, fields * 2);
        }
        starts[fields] = start;
        ends[fields] = end;
        kinds[fields] = kind;
        fields++;
    }

    void countLines(byte[] bytes, int start, int end) {
        for (int i = start; i < end; i++) {
            if (bytes[i] == '\n') {
                innerLines++;
            }
        }
    }

    int fields() {
        return fields;
    }

    /** The line on which the record begins. */
    long line() {
        return line;
    }

    /** Line ends inside its values. */
    long innerLines() {
        return innerLines;
    }

    int start(int field) {
        return starts[field];
    }

    int end(int field) {
        return ends[field];
    }

    boolean isQuoted(int field) {
        return kinds[field] != PLAIN;
    }

    /** Takes one of each two quotes out of a value, in place; to be done once, when the whole record is there. */
    int unquote(byte[] bytes, int field, byte quote) {
        if (kinds[field] == QUOTED_WITH_QUOTES) {
            int to = starts[field];
            int end = ends[field];
            for (int from = to; from < end; from++) {
                byte b = bytes[from];
                bytes[to++] = b;
                if (b == quote) {
                    from++;
                }
            }
            ends[field] = to;
            kinds[field] = QUOTED;
        }
        return ends[field];
    }

    /** A field as text; for names and messages. */
    String text(byte[] bytes, int field) {
        return new String(bytes, starts[field], ends[field] - starts[field], StandardCharsets.UTF_8);
    }
}

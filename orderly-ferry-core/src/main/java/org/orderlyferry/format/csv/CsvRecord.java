package org.orderlyferry.format.csv;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import org.orderlyferry.record.RecordBatch;

/** Where the fields of one record stand in the bytes; used again for each record. */
final class CsvRecord {

    /** The end of a field with nothing in it and no quotes around it. */
    static final int NOTHING = -1;

    private static final int ROOM = 32;

    private int[] starts = new int[ROOM];
    private int[] ends = new int[ROOM];
    private boolean[] quoted = new boolean[ROOM];
    private int fields;
    private boolean anyQuoted;
    private boolean doubledQuotes;
    private long line;
    private long innerLines;
    private String fault;

    void begin(long firstLine) {
        fault = null;
        fields = 0;
        innerLines = 0;
        line = firstLine;
        if (anyQuoted) {
            Arrays.fill(quoted, false);
            anyQuoted = false;
            doubledQuotes = false;
        }
    }

    /** Takes all plain fields that follow each other from here; returns where the next field begins. */
    int plainRun(Marks marks, byte delimiter, int field) {
        if (fields + 1 >= starts.length) {
            grow();
        }
        int now = marks.fields(delimiter, field, starts, ends, fields, NOTHING);
        if (now == fields) {
            return field;
        }
        fields = now;
        return Math.max(starts[now - 1], ends[now - 1]) + 1;
    }

    void plain(int start, int end) {
        if (fields == starts.length) {
            grow();
        }
        starts[fields] = start;
        ends[fields++] = end == start ? NOTHING : end;
    }

    void quoted(int start, int end, boolean withQuotes) {
        if (fields == starts.length) {
            grow();
        }
        starts[fields] = start;
        ends[fields] = end;
        quoted[fields++] = true;
        anyQuoted = true;
        doubledQuotes |= withQuotes;
    }

    private void grow() {
        starts = Arrays.copyOf(starts, starts.length * 2);
        ends = Arrays.copyOf(ends, ends.length * 2);
        quoted = Arrays.copyOf(quoted, quoted.length * 2);
    }

    /** Counts a line end inside a value. */
    void innerLine(boolean isOne) {
        innerLines += isOne ? 1 : 0;
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

    /** Notes that this is no record, and why; the first reason counts. */
    void spoil(String why) {
        fault = fault == null ? why : fault;
    }

    /** Why this is no record; null for a good one. */
    String fault() {
        return fault == null || innerLines == 0 ? fault : fault + "; it ends on line " + (line + innerLines);
    }

    /** Whether some value has doubled quotes inside, which have to be taken out. */
    boolean hasDoubledQuotes() {
        return doubledQuotes;
    }

    int start(int field) {
        return starts[field];
    }

    /** The field's end; {@link #NOTHING} for one with nothing in it and no quotes around it. */
    int end(int field) {
        return ends[field];
    }

    boolean isQuoted(int field) {
        return quoted[field];
    }

    /** Hands all fields on as they stand. */
    void addTo(RecordBatch batch) {
        batch.addRow(starts, ends, line);
    }

    /** Takes one of each two quotes out of a value, in place; to be done once, when the whole record is there. */
    int unquote(byte[] bytes, int field, byte quote) {
        int end = ends[field];
        if (!doubledQuotes || !quoted[field]) {
            return end;
        }
        int to = starts[field];
        for (int from = to; from < end; from++) {
            byte b = bytes[from];
            bytes[to++] = b;
            if (b == quote) {
                from++;
            }
        }
        return to;
    }

    /** A field as text; for names and messages. */
    String text(byte[] bytes, int field, byte quote) {
        int end = unquote(bytes, field, quote);
        return end == NOTHING ? "" : new String(bytes, starts[field], end - starts[field], StandardCharsets.UTF_8);
    }
}

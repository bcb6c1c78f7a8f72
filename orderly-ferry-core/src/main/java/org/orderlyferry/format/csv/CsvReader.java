package org.orderlyferry.format.csv;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Base64;
import java.util.List;
import java.util.stream.IntStream;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.FieldCount;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** Reads records out of a delimited file; the batch's own bytes are the read buffer, and values stay where they are. */
final class CsvReader implements RecordReader {

    /** Bytes of base64 that are decoded at once at most; a multiple of four. */
    private static final int PIECE = 64 * 1024;

    private final CsvInput input;
    private final TableDefinition table;
    private final List<String> fileColumns;
    private final int[] match;
    private final boolean[] binary;
    private final byte[] nullText;
    private final byte quote;
    /** Whether a record's fields are the batch's values as they stand: same order, empty for null, no base64. */
    private final boolean asItStands;

    private final Rejects rejects;

    private RecordBatch batch;

    CsvReader(CsvInput input, TableDefinition table, int[] match, List<String> fileColumns, Rejects rejects) {
        this.rejects = rejects;
        this.input = input;
        this.table = table;
        this.match = match;
        this.fileColumns = fileColumns;
        this.binary = new boolean[match.length];
        for (int i = 0; i < match.length; i++) {
            binary[i] = table.columns().get(i).type().name().isBinary();
        }
        this.nullText = input.dialect().nullText().getBytes(StandardCharsets.UTF_8);
        this.quote = (byte) input.dialect().quote();
        this.asItStands = nullText.length == 0
                && match.length == fileColumns.size()
                && IntStream.range(0, match.length).allMatch(i -> match[i] == i && !binary[i]);
    }

    @Override
    public TableDefinition table() {
        return table;
    }

    @Override
    public boolean read(RecordBatch into) {
        batch = into;
        boolean more;
        do {
            // a chunk may hold nothing but records that are rejected
            into.start(match.length, table.name().toString(), input.source(), true);
            more = input.fill(into, Integer.MAX_VALUE, this::take);
        } while (into.rows() == 0 && more);
        return into.rows() > 0;
    }

    private void take(CsvRecord record, byte[] bytes) {
        if (record.fault() != null) {
            rejects.reject(new MalformedFileException(input.origin(record.line()), record.fault()));
            return;
        }
        if (record.fields() != fileColumns.size()) {
            rejects.reject(wrongCount(record, bytes));
            return;
        }
        if (asItStands && !record.hasDoubledQuotes()) {
            record.addTo(batch);
            return;
        }
        for (int column = 0; column < match.length; column++) {
            int field = match[column];
            int start = record.start(field);
            int end = record.end(field);
            if (record.isQuoted(field)) {
                end = record.unquote(bytes, field, quote);
            } else if (isNull(bytes, start, end)) {
                batch.addNull();
                continue;
            }
            end = Math.max(start, end);
            try {
                batch.addRange(start, binary[column] ? decoded(record, bytes, start, end, column) : end);
            } catch (BadValueException e) {
                batch.dropRow();
                rejects.reject(e);
                return;
            }
        }
        batch.endRow(record.line());
    }

    private boolean isNull(byte[] bytes, int start, int end) {
        return end == CsvRecord.NOTHING
                ? nullText.length == 0
                : end - start == nullText.length && Arrays.equals(bytes, start, end, nullText, 0, nullText.length);
    }

    /** Undoes base64 in place, where it always takes less room; returns the new end. */
    private int decoded(CsvRecord record, byte[] bytes, int start, int end, int column) {
        try {
            int to = start;
            // a large value in pieces of whole groups; only the last may end in padding
            for (int from = start; from < end; from += PIECE) {
                byte[] piece = Arrays.copyOfRange(bytes, from, Math.min(end, from + PIECE));
                if (from + PIECE < end && piece[PIECE - 1] == '=') {
                    throw new IllegalArgumentException("padding in the middle");
                }
                byte[] raw = Base64.getDecoder().decode(piece);
                System.arraycopy(raw, 0, bytes, to, raw.length);
                to += raw.length;
            }
            return to;
        } catch (IllegalArgumentException e) {
            throw new BadValueException(
                    input.origin(record.line()),
                    fileColumns.get(match[column]),
                    new String(bytes, start, end - start, StandardCharsets.UTF_8),
                    "isn't base64, as binary values are written in a text file");
        }
    }

    private MalformedFileException wrongCount(CsvRecord record, byte[] bytes) {
        int expected = fileColumns.size();
        int found = record.fields();
        String text = new FieldCount(found, expected) + "; "
                + (found < expected
                        ? "there is none for " + fileColumns.get(found)
                        : "too many from " + BadValueException.shown(record.text(bytes, expected, quote)) + " on");
        return new MalformedFileException(input.origin(record.line()), text);
    }

    @Override
    public List<Finding> findings() {
        return input.scanner().lineEnds().oddity().stream()
                .map(text -> Finding.of(FindingCode.FORM_FOUND, table.name(), input.source() + ": " + text))
                .toList();
    }

    @Override
    public void close() {
        input.close();
    }
}

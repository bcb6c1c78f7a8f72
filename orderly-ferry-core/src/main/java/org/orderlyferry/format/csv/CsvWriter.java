package org.orderlyferry.format.csv;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Base64;
import org.orderlyferry.io.FromUtf8OutputStream;
import org.orderlyferry.io.Narrow;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Records;

/** Writes records as delimited text: ranges of bytes are copied, and quoted where they must be. */
final class CsvWriter implements RecordWriter {

    /** Bytes of a value that are written at once at most; a multiple of three, for base64. */
    private static final int PIECE = 48 * 1024;

    private static final int BUFFER = 64 * 1024;

    private final OutputStream out;
    private final CsvDialect dialect;
    private final TableDefinition table;
    private final Narrow narrow;
    private final byte[] lineEnd;
    private final byte[] nullText;
    private final byte delimiter;
    private final byte quote;
    private final FirstMark marks;
    private final boolean[] binary;
    private final boolean[] bare;
    private byte[] buffer = new byte[BUFFER];
    private int size;
    private boolean headed;

    CsvWriter(OutputStream out, CsvDialect dialect, TableDefinition table) {
        boolean utf8 = dialect.encoding().equals(StandardCharsets.UTF_8);
        this.out = utf8 ? out : new FromUtf8OutputStream(out, dialect.encoding());
        this.narrow = utf8 ? null : new Narrow(dialect.encoding());
        this.dialect = dialect;
        this.table = table;
        this.lineEnd = dialect.lineEnd().text().getBytes(StandardCharsets.US_ASCII);
        this.nullText = dialect.nullText().getBytes(StandardCharsets.UTF_8);
        this.delimiter = (byte) dialect.delimiter();
        this.quote = (byte) dialect.quote();
        this.marks = new FirstMark(delimiter, quote);
        int columns = table.columns().size();
        this.binary = new boolean[columns];
        this.bare = new boolean[columns];
        boolean harmless = ",;|\t".indexOf(dialect.delimiter()) >= 0
                && "\"'".indexOf(dialect.quote()) >= 0
                && dialect.nullText().isEmpty();
        for (int i = 0; i < columns; i++) {
            TypeName type = table.columns().get(i).type().name();
            binary[i] = type.isBinary();
            bare[i] = harmless && isBare(type);
        }
    }

    /** Whether no value of the type ever holds a common delimiter, a quote or a line end, or is empty. */
    private static boolean isBare(TypeName type) {
        return type.isExactNumber()
                || type.isApproximateNumber()
                || type.isTimed()
                || type == TypeName.DATE
                || type == TypeName.BOOLEAN
                || type == TypeName.UUID;
    }

    @Override
    public void write(RecordBatch batch) {
        header();
        int columns = batch.columns();
        for (int row = 0; row < batch.rows(); row++) {
            for (int column = 0; column < columns; column++) {
                if (column > 0) {
                    add(delimiter);
                }
                cell(batch, row, column);
            }
            append(lineEnd, 0, lineEnd.length);
            if (size >= BUFFER) {
                drain();
            }
        }
    }

    private void header() {
        if (headed) {
            return;
        }
        headed = true;
        if (dialect.header()) {
            for (int i = 0; i < table.columns().size(); i++) {
                if (i > 0) {
                    add(delimiter);
                }
                byte[] name = table.columns().get(i).name().getBytes(StandardCharsets.UTF_8);
                text(name, 0, name.length);
            }
            append(lineEnd, 0, lineEnd.length);
        }
    }

    private void cell(Records batch, int row, int column) {
        int end = batch.end(row, column);
        if (end < 0) {
            append(nullText, 0, nullText.length);
            return;
        }
        int start = batch.start(row, column);
        if (bare[column]) {
            append(batch.bytes(), start, end);
        } else if (binary[column]) {
            base64(batch.bytes(), start, end);
        } else {
            if (narrow != null) {
                narrow.mustHold(
                        batch.text(row, column),
                        batch.origin(row),
                        table.columns().get(column).name());
            }
            text(batch.bytes(), start, end);
        }
    }

    /** A large value goes in pieces, so that nothing grows with it. */
    private void base64(byte[] bytes, int start, int end) {
        if (end - start <= PIECE || isBase64(quote) || isBase64(delimiter)) {
            byte[] base64 = Base64.getEncoder().encode(Arrays.copyOfRange(bytes, start, end));
            text(base64, 0, base64.length);
            return;
        }
        for (int at = start; at < end; at += PIECE) {
            byte[] piece = Base64.getEncoder().encode(Arrays.copyOfRange(bytes, at, Math.min(end, at + PIECE)));
            append(piece, 0, piece.length);
            drain();
        }
    }

    private static boolean isBase64(byte b) {
        return b >= '0' && b <= '9' || b >= 'A' && b <= 'Z' || b >= 'a' && b <= 'z' || b == '+' || b == '/' || b == '=';
    }

    /** Writes text, with quotes around it where it could be taken for something else without. */
    private void text(byte[] bytes, int start, int end) {
        int mark = marks.any(bytes, start, end);
        boolean needed = mark < end
                || start == end
                || bytes[start] == ' '
                || bytes[end - 1] == ' '
                || nullText.length > 0 && isNullText(bytes, start, end)
                || beginsWithMark(bytes, start, end);
        if (needed) {
            quoted(bytes, start, end, mark);
        } else {
            append(bytes, start, end);
        }
    }

    /** Writes text in quotes, those that it has doubled. */
    private void quoted(byte[] bytes, int start, int end, int mark) {
        add(quote);
        int from = start;
        for (int at = marks.quote(bytes, mark, end); at < end; at = marks.quote(bytes, from, end)) {
            append(bytes, from, at + 1);
            add(quote);
            from = at + 1;
            if (size >= BUFFER) {
                // many quotes in a huge value: nothing grows with it
                drain();
            }
        }
        append(bytes, from, end);
        add(quote);
    }

    private void add(byte b) {
        room(1);
        buffer[size++] = b;
    }

    /** At a file's very beginning, a reader would take it for a byte-order mark. */
    private static boolean beginsWithMark(byte[] bytes, int start, int end) {
        return bytes[start] == (byte) 0xEF
                && end - start >= 3
                && bytes[start + 1] == (byte) 0xBB
                && bytes[start + 2] == (byte) 0xBF;
    }

    private boolean isNullText(byte[] bytes, int start, int end) {
        return Arrays.equals(bytes, start, end, nullText, 0, nullText.length);
    }

    private void append(byte[] bytes, int start, int end) {
        int length = end - start;
        if (length > PIECE) {
            drain();
            write(bytes, start, length);
            return;
        }
        room(length);
        System.arraycopy(bytes, start, buffer, size, length);
        size += length;
    }

    private void room(int more) {
        if (size + more > buffer.length) {
            buffer = Arrays.copyOf(buffer, Math.max(buffer.length * 2, size + more));
        }
    }

    private void drain() {
        write(buffer, 0, size);
        size = 0;
        if (buffer.length > 4 * BUFFER) {
            buffer = new byte[BUFFER];
        }
    }

    private void write(byte[] bytes, int start, int length) {
        try {
            out.write(bytes, start, length);
        } catch (IOException e) {
            throw failed(e);
        }
    }

    private PlaceException failed(IOException e) {
        return new PlaceException("file of table " + table.name(), "can't be written: " + e.getMessage(), e);
    }

    @Override
    public void finish() {
        header();
        drain();
        try {
            out.flush();
        } catch (IOException e) {
            throw failed(e);
        }
    }

    @Override
    public void close() {
        try {
            out.close();
        } catch (IOException e) {
            throw failed(e);
        }
    }
}

package org.orderlyferry.format.json;

import java.io.ByteArrayOutputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Base64;
import org.orderlyferry.io.ByteSink;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Records;

/**
 * Writes records as objects: ranges of bytes are copied, and escaped where they must be. A column of JSON is written as
 * it is, so its null and the null of the record have to be told apart: a field whose record has none is left out.
 */
final class JsonWriter implements RecordWriter {

    private static final byte[] NULL = bytes("null");
    private static final byte[] HEX = bytes("0123456789abcdef");
    /** What stands behind a backslash for a byte; 0 where the byte stands for itself, {@code u} for four digits. */
    private static final byte[] ESCAPES = escapes();

    /** How a column's values are written. */
    private enum Form {
        /** Digits, true and false. */
        BARE,
        /** A number, or in quotes what JSON has no number for. */
        FLOATING,
        TEXT,
        BASE64,
        JSON,
        WRAPPED
    }

    private final ByteSink out;
    private final TableDefinition table;
    private final Shape shape;
    private final int key;
    private final Form[] forms;
    private final byte[][] names;
    private long rows;
    private boolean begun;

    JsonWriter(OutputStream out, TableDefinition table, Shape shape, int key, boolean wrapped) {
        this.out = new ByteSink(out, "file of table " + table.name());
        this.table = table;
        this.shape = shape;
        this.key = key;
        int columns = table.columns().size();
        this.forms = new Form[columns];
        this.names = new byte[columns][];
        for (int i = 0; i < columns; i++) {
            LogicalType type = table.columns().get(i).type();
            forms[i] = wrapped && Wrapper.json(type, "").isPresent() ? Form.WRAPPED : form(type);
            ByteArrayOutputStream name = new ByteArrayOutputStream();
            try (ByteSink sink = new ByteSink(name, "a name")) {
                byte[] plain = bytes(table.columns().get(i).name());
                quoted(sink, plain, 0, plain.length);
                sink.add((byte) ':');
                sink.flush();
            }
            names[i] = name.toByteArray();
        }
    }

    private static Form form(LogicalType type) {
        return switch (type.name()) {
            case BOOLEAN, SMALLINT, INTEGER, BIGINT, DECIMAL -> Form.BARE;
            case REAL, DOUBLE -> Form.FLOATING;
            case BINARY, VARBINARY, BLOB -> Form.BASE64;
            case JSON, ARRAY -> Form.JSON;
            default -> Form.TEXT;
        };
    }

    private static byte[] escapes() {
        byte[] escapes = new byte[256];
        Arrays.fill(escapes, 0, ' ', (byte) 'u');
        escapes['"'] = '"';
        escapes['\\'] = '\\';
        escapes['\n'] = 'n';
        escapes['\r'] = 'r';
        escapes['\t'] = 't';
        escapes['\b'] = 'b';
        escapes['\f'] = 'f';
        return escapes;
    }

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    @Override
    public void write(RecordBatch batch) {
        begin();
        for (int row = 0; row < batch.rows(); row++) {
            if (shape != Shape.LINES) {
                out.add(rows == 0 ? "\n" : ",\n");
            }
            if (key >= 0) {
                quoted(batch.bytes(), batch.start(row, key), batch.end(row, key));
                out.add((byte) ':');
            }
            record(batch, row);
            if (shape == Shape.LINES) {
                out.add((byte) '\n');
            }
            rows++;
            out.ease();
        }
    }

    private void begin() {
        if (!begun) {
            begun = true;
            if (shape != Shape.LINES) {
                out.add((byte) (shape == Shape.ARRAY ? '[' : '{'));
            }
        }
    }

    private void record(Records batch, int row) {
        out.add((byte) '{');
        boolean first = true;
        for (int column = 0; column < forms.length; column++) {
            int end = batch.end(row, column);
            if (column == key || end < 0 && forms[column] == Form.JSON) {
                continue;
            }
            if (!first) {
                out.add((byte) ',');
            }
            first = false;
            out.add(names[column]);
            if (end < 0) {
                out.add(NULL);
            } else {
                value(batch, row, column, batch.start(row, column), end);
            }
        }
        out.add((byte) '}');
    }

    private void value(Records batch, int row, int column, int start, int end) {
        byte[] from = batch.bytes();
        switch (forms[column]) {
            case BARE -> out.add(from, start, end);
            case FLOATING -> {
                byte last = from[end - 1];
                if (last == 'N' || last == 'F') {
                    quoted(from, start, end);
                } else {
                    out.add(from, start, end);
                }
            }
            case BASE64 -> {
                out.add((byte) '"');
                out.addBase64(from, start, end);
                out.add((byte) '"');
            }
            case JSON -> json(from, start, end);
            case WRAPPED -> {
                LogicalType type = table.columns().get(column).type();
                String text = type.name().isBinary()
                        ? Base64.getEncoder().encodeToString(batch.copy(row, column))
                        : batch.text(row, column);
                out.add(Wrapper.json(type, text).orElseThrow());
            }
            default -> quoted(from, start, end);
        }
    }

    private void quoted(byte[] from, int start, int end) {
        quoted(out, from, start, end);
    }

    private static void quoted(ByteSink out, byte[] from, int start, int end) {
        out.add((byte) '"');
        int plain = start;
        for (int i = start; i < end; i++) {
            byte escape = ESCAPES[from[i] & 0xFF];
            if (escape != 0) {
                out.add(from, plain, i);
                plain = i + 1;
                out.add((byte) '\\');
                out.add(escape);
                if (escape == 'u') {
                    out.add((byte) '0');
                    out.add((byte) '0');
                    out.add(HEX[from[i] >> 4]);
                    out.add(HEX[from[i] & 0xF]);
                }
            }
        }
        out.add(from, plain, end);
        out.add((byte) '"');
    }

    /** JSON as it is; outside of its texts, a line end is as good as a blank, and a record stays on its line. */
    private void json(byte[] from, int start, int end) {
        int plain = start;
        for (int i = start; i < end; i++) {
            if (from[i] == '\n' || from[i] == '\r') {
                out.add(from, plain, i);
                out.add((byte) ' ');
                plain = i + 1;
            }
        }
        out.add(from, plain, end);
    }

    @Override
    public void finish() {
        begin();
        if (shape != Shape.LINES) {
            out.add(rows == 0 ? "" : "\n");
            out.add((byte) (shape == Shape.ARRAY ? ']' : '}'));
            out.add((byte) '\n');
        }
        out.flush();
    }

    @Override
    public void close() {
        out.close();
    }
}

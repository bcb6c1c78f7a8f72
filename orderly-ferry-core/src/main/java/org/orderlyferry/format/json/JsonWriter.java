package org.orderlyferry.format.json;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Base64;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;

/**
 * Writes records as objects: ranges of bytes are copied, and escaped where they must be. A column of JSON is written as
 * it is, so its null and the null of the record have to be told apart: a field whose record has none is left out.
 */
final class JsonWriter implements RecordWriter {

    private static final int PIECE = 48 * 1024;
    private static final int BUFFER = 64 * 1024;
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

    private final OutputStream out;
    private final TableDefinition table;
    private final Shape shape;
    private final int key;
    private final Form[] forms;
    private final byte[][] names;
    private byte[] buffer = new byte[BUFFER];
    private int size;
    private long rows;
    private boolean begun;

    JsonWriter(OutputStream out, TableDefinition table, Shape shape, int key, boolean wrapped) {
        this.out = out;
        this.table = table;
        this.shape = shape;
        this.key = key;
        int columns = table.columns().size();
        this.forms = new Form[columns];
        this.names = new byte[columns][];
        for (int i = 0; i < columns; i++) {
            LogicalType type = table.columns().get(i).type();
            forms[i] = wrapped && Wrapper.json(type, "").isPresent() ? Form.WRAPPED : form(type);
            byte[] name = bytes(table.columns().get(i).name());
            quoted(name, 0, name.length);
            names[i] = Arrays.copyOf(buffer, size + 1);
            names[i][size] = ':';
            size = 0;
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
                append(bytes(rows == 0 ? "\n" : ",\n"));
            }
            if (key >= 0) {
                quoted(batch.bytes(), batch.start(row, key), batch.end(row, key));
                add((byte) ':');
            }
            record(batch, row);
            if (shape == Shape.LINES) {
                add((byte) '\n');
            }
            rows++;
            if (size >= BUFFER) {
                drain();
            }
        }
    }

    private void begin() {
        if (!begun) {
            begun = true;
            if (shape != Shape.LINES) {
                add((byte) (shape == Shape.ARRAY ? '[' : '{'));
            }
        }
    }

    private void record(RecordBatch batch, int row) {
        add((byte) '{');
        boolean first = true;
        for (int column = 0; column < forms.length; column++) {
            int end = batch.end(row, column);
            if (column == key || end < 0 && forms[column] == Form.JSON) {
                continue;
            }
            if (!first) {
                add((byte) ',');
            }
            first = false;
            append(names[column]);
            if (end < 0) {
                append(NULL);
            } else {
                value(batch, row, column, batch.start(row, column), end);
            }
        }
        add((byte) '}');
    }

    private void value(RecordBatch batch, int row, int column, int start, int end) {
        byte[] from = batch.bytes();
        switch (forms[column]) {
            case BARE -> append(from, start, end);
            case FLOATING -> {
                byte last = from[end - 1];
                if (last == 'N' || last == 'F') {
                    quoted(from, start, end);
                } else {
                    append(from, start, end);
                }
            }
            case BASE64 -> base64(from, start, end);
            case JSON -> json(from, start, end);
            case WRAPPED -> {
                LogicalType type = table.columns().get(column).type();
                String text = type.name().isBinary()
                        ? Base64.getEncoder().encodeToString(batch.copy(row, column))
                        : batch.text(row, column);
                append(bytes(Wrapper.json(type, text).orElseThrow()));
            }
            default -> quoted(from, start, end);
        }
    }

    private void quoted(byte[] from, int start, int end) {
        room(Math.min(PIECE, end - start) + 8);
        buffer[size++] = '"';
        int plain = start;
        for (int i = start; i < end; i++) {
            byte escape = ESCAPES[from[i] & 0xFF];
            if (escape != 0) {
                append(from, plain, i);
                plain = i + 1;
                room(6);
                buffer[size++] = '\\';
                buffer[size++] = escape;
                if (escape == 'u') {
                    buffer[size++] = '0';
                    buffer[size++] = '0';
                    buffer[size++] = HEX[from[i] >> 4];
                    buffer[size++] = HEX[from[i] & 0xF];
                }
            }
        }
        append(from, plain, end);
        add((byte) '"');
    }

    /** JSON as it is; outside of its texts, a line end is as good as a blank, and a record stays on its line. */
    private void json(byte[] from, int start, int end) {
        int plain = start;
        for (int i = start; i < end; i++) {
            if (from[i] == '\n' || from[i] == '\r') {
                append(from, plain, i);
                add((byte) ' ');
                plain = i + 1;
            }
        }
        append(from, plain, end);
    }

    private void base64(byte[] from, int start, int end) {
        add((byte) '"');
        for (int at = start; at < end; at += PIECE) {
            byte[] piece = Base64.getEncoder().encode(Arrays.copyOfRange(from, at, Math.min(end, at + PIECE)));
            append(piece, 0, piece.length);
        }
        add((byte) '"');
    }

    private void add(byte b) {
        room(1);
        buffer[size++] = b;
    }

    private void append(byte[] from) {
        append(from, 0, from.length);
    }

    private void append(byte[] from, int start, int end) {
        int length = end - start;
        if (length > PIECE) {
            drain();
            send(from, start, length);
            return;
        }
        room(length);
        System.arraycopy(from, start, buffer, size, length);
        size += length;
    }

    private void room(int more) {
        if (size + more > buffer.length) {
            buffer = Arrays.copyOf(buffer, Math.max(buffer.length * 2, size + more));
        }
    }

    private void drain() {
        send(buffer, 0, size);
        size = 0;
        if (buffer.length > 4 * BUFFER) {
            buffer = new byte[BUFFER];
        }
    }

    private void send(byte[] from, int start, int length) {
        try {
            out.write(from, start, length);
        } catch (IOException e) {
            throw failed(e);
        }
    }

    private PlaceException failed(IOException e) {
        return new PlaceException("file of table " + table.name(), "can't be written: " + e.getMessage(), e);
    }

    @Override
    public void finish() {
        begin();
        if (shape != Shape.LINES) {
            append(bytes(rows == 0 ? "" : "\n"));
            add((byte) (shape == Shape.ARRAY ? ']' : '}'));
            add((byte) '\n');
        }
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

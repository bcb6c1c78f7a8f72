package org.orderlyferry.format.xml;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Base64;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.orderlyferry.format.TablesWriter;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;

/** Writes tables: ranges of bytes are copied, and escaped where they must be. A null is an element that isn't there. */
final class XmlWriter implements TablesWriter {

    private static final int PIECE = 48 * 1024;
    private static final int BUFFER = 64 * 1024;

    private final OutputStream out;
    private final String shown;
    private final boolean several;
    private final boolean attributes;
    private final boolean eleven;
    private byte[] buffer = new byte[BUFFER];
    private int size;
    private boolean begun;

    /**
     * A writer.
     *
     * @param attributes whether values are attributes of their records' elements
     * @param eleven whether it is XML 1.1, which has control characters
     */
    XmlWriter(OutputStream out, String shown, List<TableDefinition> tables, boolean attributes, boolean eleven) {
        Set<String> names = new HashSet<>();
        for (TableDefinition table : tables) {
            if (!names.add(table.name().name())) {
                throw new UsageException("two tables are called " + table.name().name()
                        + ", and the file knows no schemas; give a folder instead");
            }
        }
        this.out = out;
        this.shown = shown;
        this.several = tables.size() != 1;
        this.attributes = attributes;
        this.eleven = eleven;
    }

    private void begin() {
        if (!begun) {
            begun = true;
            append("<?xml version=\"" + (eleven ? "1.1" : "1.0") + "\" encoding=\"UTF-8\"?>\n");
            append(several ? "<tables>\n" : "");
        }
    }

    @Override
    public RecordWriter writer(TableDefinition table) {
        begin();
        return new TableWriter(table);
    }

    /** One table's element. */
    private final class TableWriter implements RecordWriter {

        private final TableDefinition table;
        private final byte[][] before;
        private final byte[][] behind;
        private final boolean[] binary;

        TableWriter(TableDefinition table) {
            this.table = table;
            int columns = table.columns().size();
            before = new byte[columns][];
            behind = new byte[columns][];
            binary = new boolean[columns];
            for (int i = 0; i < columns; i++) {
                String name = XmlNames.of(table.columns().get(i).name());
                before[i] = bytes(attributes ? " " + name + "=\"" : "<" + name + ">");
                behind[i] = bytes(attributes ? "\"" : "</" + name + ">");
                binary[i] = table.columns().get(i).type().name().isBinary();
            }
            append("<" + XmlNames.of(table.name().name()) + ">\n");
        }

        @Override
        public void write(RecordBatch batch) {
            for (int row = 0; row < batch.rows(); row++) {
                append(attributes ? "<row" : "<row>");
                for (int column = 0; column < before.length; column++) {
                    int end = batch.end(row, column);
                    if (end >= 0) {
                        append(before[column]);
                        if (binary[column]) {
                            base64(batch.bytes(), batch.start(row, column), end);
                        } else {
                            escaped(batch, row, column);
                        }
                        append(behind[column]);
                    }
                }
                append(attributes ? "/>\n" : "</row>\n");
                if (size >= BUFFER) {
                    drain();
                }
            }
        }

        private void escaped(RecordBatch batch, int row, int column) {
            byte[] from = batch.bytes();
            int end = batch.end(row, column);
            int plain = batch.start(row, column);
            for (int i = plain; i < end; i++) {
                int b = from[i] & 0xFF;
                String instead = null;
                int length = 1;
                if (b < 0x20) {
                    instead = control(b, batch, row, column);
                } else if (b == '&') {
                    instead = "&amp;";
                } else if (b == '<') {
                    instead = "&lt;";
                } else if (b == '>') {
                    instead = "&gt;";
                } else if (b == '"' && attributes) {
                    instead = "&quot;";
                } else if (b == 0x7F) {
                    instead = "&#x7F;";
                } else if (b == 0xC2 && (from[i + 1] & 0xFF) < 0xA0) {
                    // control characters, among them what XML 1.1 takes for a line end
                    instead = String.format("&#x%X;", from[i + 1] & 0xFF);
                    length = 2;
                } else if (b == 0xE2 && (from[i + 1] & 0xFF) == 0x80 && (from[i + 2] & 0xFF) == 0xA8) {
                    instead = "&#x2028;";
                    length = 3;
                } else if (b == 0xEF && (from[i + 1] & 0xFF) == 0xBF && (from[i + 2] & 0xFF) >= 0xBE) {
                    throw bad(batch, row, column, 0xFFFE + (from[i + 2] & 1));
                }
                if (instead != null) {
                    append(from, plain, i);
                    append(instead);
                    i += length - 1;
                    plain = i + 1;
                }
            }
            append(from, plain, end);
        }

        /** What stands for a control character; empty text for one that may stand as it is. */
        private String control(int b, RecordBatch batch, int row, int column) {
            if (b == '\n' && !attributes) {
                return null;
            }
            if (b == '\t' && !attributes) {
                return null;
            }
            if (b == '\t' || b == '\n' || b == '\r' || eleven && b != 0) {
                return "&#x" + Integer.toHexString(b).toUpperCase(java.util.Locale.ROOT) + ";";
            }
            throw bad(batch, row, column, b);
        }

        private BadValueException bad(RecordBatch batch, int row, int column, int point) {
            String hint = eleven || point == 0 || point > 0xFF ? "" : "; version=1.1 has it";
            return new BadValueException(
                    batch.origin(row),
                    table.columns().get(column).name(),
                    batch.text(row, column),
                    String.format("can't be written: XML %s has no U+%04X%s", eleven ? "1.1" : "1.0", point, hint));
        }

        @Override
        public void finish() {
            append("</" + XmlNames.of(table.name().name()) + ">\n");
        }

        @Override
        public void close() {
            // the file is closed as a whole
        }
    }

    private void base64(byte[] from, int start, int end) {
        for (int at = start; at < end; at += PIECE) {
            byte[] piece = Base64.getEncoder().encode(Arrays.copyOfRange(from, at, Math.min(end, at + PIECE)));
            append(piece, 0, piece.length);
        }
    }

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    private void append(String text) {
        append(bytes(text));
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
        if (size + length > buffer.length) {
            buffer = Arrays.copyOf(buffer, Math.max(buffer.length * 2, size + length));
        }
        System.arraycopy(from, start, buffer, size, length);
        size += length;
    }

    private void drain() {
        send(buffer, 0, size);
        size = 0;
    }

    private void send(byte[] from, int start, int length) {
        try {
            out.write(from, start, length);
        } catch (IOException e) {
            throw failed(e);
        }
    }

    private PlaceException failed(IOException e) {
        return new PlaceException(shown, "can't be written: " + e.getMessage(), e);
    }

    @Override
    public void finish() {
        begin();
        append(several ? "</tables>\n" : "");
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

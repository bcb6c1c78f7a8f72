package org.orderlyferry.format.xml;

import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.format.TablesWriter;
import org.orderlyferry.io.ByteSink;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.Screen;

/** Writes tables: ranges of bytes are copied, and escaped where they must be. A null is an element that isn't there. */
final class XmlWriter implements TablesWriter {

    private final ByteSink out;
    private final String shown;
    private final boolean several;
    private final boolean attributes;
    private final boolean eleven;
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
        this.out = new ByteSink(out, shown);
        this.shown = shown;
        this.several = tables.size() != 1;
        this.attributes = attributes;
        this.eleven = eleven;
    }

    private void begin() {
        if (!begun) {
            begun = true;
            out.add("<?xml version=\"" + (eleven ? "1.1" : "1.0") + "\" encoding=\"UTF-8\"?>\n");
            out.add(several ? "<tables>\n" : "");
        }
    }

    @Override
    public RecordWriter writer(TableDefinition table) {
        begin();
        return new TableWriter(table);
    }

    @Override
    public Optional<Screen> screen(TableDefinition table) {
        return Optional.of(Screen.byWriting(
                () -> new XmlWriter(OutputStream.nullOutputStream(), shown, List.of(table), attributes, eleven)
                        .writer(table)));
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
            out.add("<" + XmlNames.of(table.name().name()) + ">\n");
        }

        @Override
        public void write(RecordBatch batch) {
            for (int row = 0; row < batch.rows(); row++) {
                out.add(attributes ? "<row" : "<row>");
                for (int column = 0; column < before.length; column++) {
                    int end = batch.end(row, column);
                    if (end >= 0) {
                        out.add(before[column]);
                        if (binary[column]) {
                            out.addBase64(batch.bytes(), batch.start(row, column), end);
                        } else {
                            escaped(batch, row, column);
                        }
                        out.add(behind[column]);
                    }
                }
                out.add(attributes ? "/>\n" : "</row>\n");
                out.ease();
            }
        }

        private void escaped(Records batch, int row, int column) {
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
                    instead = String.format(Locale.ROOT, "&#x%X;", from[i + 1] & 0xFF);
                    length = 2;
                } else if (b == 0xE2 && (from[i + 1] & 0xFF) == 0x80 && (from[i + 2] & 0xFF) == 0xA8) {
                    instead = "&#x2028;";
                    length = 3;
                } else if (b == 0xEF && (from[i + 1] & 0xFF) == 0xBF && (from[i + 2] & 0xFF) >= 0xBE) {
                    throw bad(batch, row, column, 0xFFFE + (from[i + 2] & 1));
                }
                if (instead != null) {
                    out.add(from, plain, i);
                    out.add(instead);
                    i += length - 1;
                    plain = i + 1;
                }
            }
            out.add(from, plain, end);
        }

        /** What stands for a control character; empty text for one that may stand as it is. */
        private String control(int b, Records batch, int row, int column) {
            if (b == '\n' && !attributes) {
                return null;
            }
            if (b == '\t' && !attributes) {
                return null;
            }
            if (b == '\t' || b == '\n' || b == '\r' || eleven && b != 0) {
                return "&#x" + Integer.toHexString(b).toUpperCase(Locale.ROOT) + ";";
            }
            throw bad(batch, row, column, b);
        }

        private BadValueException bad(Records batch, int row, int column, int point) {
            String hint = eleven || point == 0 || point > 0xFF ? "" : "; version=1.1 has it";
            return new BadValueException(
                    batch.origin(row),
                    table.columns().get(column).name(),
                    batch.text(row, column),
                    String.format(
                            Locale.ROOT,
                            "can't be written: XML %s has no U+%04X%s",
                            eleven ? "1.1" : "1.0",
                            point,
                            hint));
        }

        @Override
        public void finish() {
            out.add("</" + XmlNames.of(table.name().name()) + ">\n");
        }

        @Override
        public void close() {
            // the file is closed as a whole
        }
    }

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    @Override
    public void finish() {
        begin();
        out.add(several ? "</tables>\n" : "");
        out.flush();
    }

    @Override
    public void close() {
        out.close();
    }
}

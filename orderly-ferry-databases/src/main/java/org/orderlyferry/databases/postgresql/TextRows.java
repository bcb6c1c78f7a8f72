package org.orderlyferry.databases.postgresql;

import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.util.List;
import org.orderlyferry.databases.lane.EscapedBytes;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.record.Records;

/** Records in COPY's text form: most values go as they are, byte by byte. There is nothing that it can't say. */
final class TextRows implements CopyRows {

    private static final int BUFFER = 64 * 1024;

    /** How a column's values are written. */
    private enum Form {
        /** Digits, dates and the like, in which nothing has to be escaped. */
        PLAIN,
        TEXT,
        BYTES,
        /** Needs another text altogether. */
        OTHER
    }

    private final List<ColumnDefinition> columns;
    private final int[] places;
    private final Form[] forms;
    private final EscapedBytes lines = new EscapedBytes(BUFFER);

    /**
     * For records of a table.
     *
     * @param columns those that are written
     * @param places where each stands in a record
     */
    TextRows(List<ColumnDefinition> columns, int[] places) {
        this.columns = columns;
        this.places = places;
        this.forms = columns.stream().map(c -> form(c.type())).toArray(Form[]::new);
    }

    private static Form form(LogicalType type) {
        return switch (type.name()) {
            case BOOLEAN, SMALLINT, INTEGER, BIGINT, DECIMAL, UUID, TIME, INTERVAL -> Form.PLAIN;
            case BINARY, VARBINARY, BLOB -> Form.BYTES;
            case REAL, DOUBLE, DATE, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE, ARRAY -> Form.OTHER;
            default -> Form.TEXT;
        };
    }

    @Override
    public String clause() {
        return "";
    }

    @Override
    public boolean put(Records batch, int row, Wire wire) throws SQLException {
        for (int i = 0; i < forms.length; i++) {
            if (i > 0) {
                lines.put('\t');
            }
            if (batch.isNull(row, places[i])) {
                lines.putNull();
            } else {
                value(batch, row, i, wire);
            }
        }
        lines.put('\n');
        sendIfFull(wire);
        return true;
    }

    private void value(Records batch, int row, int i, Wire wire) throws SQLException {
        byte[] bytes = batch.bytes();
        int start = batch.start(row, places[i]);
        int end = batch.end(row, places[i]);
        switch (forms[i]) {
            case PLAIN -> lines.plain(bytes, start, end);
            case TEXT -> text(bytes, start, end, wire);
            case BYTES -> bytes(bytes, start, end, wire);
            case OTHER -> {
                LogicalType type = columns.get(i).type();
                if (isOrdinary(type, bytes, start, end)) {
                    lines.plain(bytes, start, end);
                } else {
                    byte[] other = CopyText.of(batch.text(row, places[i]), type).getBytes(StandardCharsets.UTF_8);
                    text(other, 0, other.length, wire);
                }
            }
        }
    }

    /** Numbers that are numbers, and years that PostgreSQL writes as the standard does. */
    private static boolean isOrdinary(LogicalType type, byte[] b, int start, int end) {
        return switch (type.name()) {
            case REAL, DOUBLE -> b[end - 1] <= '9';
            case DATE, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE ->
                b[start] != '-'
                        && !(b[start] == '0' && b[start + 1] == '0' && b[start + 2] == '0' && b[start + 3] == '0');
            default -> false;
        };
    }

    private void text(byte[] b, int start, int end, Wire wire) throws SQLException {
        for (int at = start; at < end; at += EscapedBytes.PIECE) {
            lines.text(b, at, Math.min(end, at + EscapedBytes.PIECE));
            sendIfFull(wire);
        }
    }

    private void bytes(byte[] b, int start, int end, Wire wire) throws SQLException {
        lines.put('\\');
        lines.put('\\');
        lines.put('x');
        for (int at = start; at < end; at += EscapedBytes.PIECE) {
            lines.hex(b, at, Math.min(end, at + EscapedBytes.PIECE));
            sendIfFull(wire);
        }
    }

    private void sendIfFull(Wire wire) throws SQLException {
        if (lines.isFull()) {
            end(wire);
        }
    }

    @Override
    public void end(Wire wire) throws SQLException {
        wire.send(lines.bytes(), lines.length());
        lines.clear();
    }
}

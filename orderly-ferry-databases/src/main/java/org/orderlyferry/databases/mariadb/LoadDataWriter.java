package org.orderlyferry.databases.mariadb;

import java.io.ByteArrayInputStream;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.lane.EscapedBytes;
import org.orderlyferry.databases.lane.SentRecords;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Records;

/**
 * Writes by LOAD DATA LOCAL, whose file is a stream of this process. With LOCAL, the server makes warnings of errors and
 * goes on without the record; so each warning, and each record that is missing from its count, is an error here.
 */
final class LoadDataWriter implements RecordWriter {

    private static final int CHUNK = 1024 * 1024;
    private static final Pattern ROW = Pattern.compile(".* at row (\\d+)", Pattern.DOTALL);

    /** How a column's values are written. */
    private enum Form {
        PLAIN,
        TEXT,
        TRUTH,
        /** As hexadecimal digits, of which the server makes bytes again. */
        BYTES,
        /** With a blank between day and time, and no letter for the zone. */
        MOMENT
    }

    private final Session session;
    private final TableName shown;
    private final org.mariadb.jdbc.Statement statement;
    private final String sql;
    private final List<Integer> positions = new ArrayList<>();
    private final Form[] forms;
    private final int[] largestExponents;
    private final RecordWriter plain;
    private final SentRecords sent = new SentRecords();
    private final EscapedBytes lines = new EscapedBytes(CHUNK);

    /**
     * A writer.
     *
     * @param plain takes the records that the lane can't carry
     */
    LoadDataWriter(Session session, TableDefinition into, TableName shown, RecordWriter plain) throws SQLException {
        this.plain = plain;
        this.session = session;
        this.shown = shown;
        List<ColumnDefinition> columns = new ArrayList<>();
        for (int i = 0; i < into.columns().size(); i++) {
            if (into.columns().get(i).generation().isEmpty()) {
                columns.add(into.columns().get(i));
                positions.add(i);
            }
        }
        this.forms = columns.stream().map(c -> form(c.type())).toArray(Form[]::new);
        this.largestExponents =
                columns.stream().mapToInt(c -> exponent(c.type())).toArray();
        List<String> names = new ArrayList<>();
        List<String> set = new ArrayList<>();
        for (int i = 0; i < forms.length; i++) {
            String name = session.dialect().quote(columns.get(i).name());
            boolean bit = forms[i] == Form.TRUTH && columns.get(i).sourceType().startsWith("bit");
            names.add(forms[i] == Form.BYTES || bit ? "@b" + i : name);
            if (forms[i] == Form.BYTES) {
                set.add(name + " = UNHEX(@b" + i + ")");
            } else if (bit) {
                set.add(name + " = CAST(@b" + i + " AS UNSIGNED)");
            }
        }
        // the session takes a backslash in a string for what it is
        this.sql = "LOAD DATA LOCAL INFILE 'records' INTO TABLE "
                + session.dialect().quote(into.name())
                + " CHARACTER SET utf8mb4 FIELDS TERMINATED BY '\t' ESCAPED BY '\\' LINES TERMINATED BY '\n' ("
                + String.join(", ", names) + ")" + (set.isEmpty() ? "" : " SET " + String.join(", ", set));
        this.statement = session.connection().createStatement().unwrap(org.mariadb.jdbc.Statement.class);
    }

    private static Form form(LogicalType type) {
        return switch (type.name()) {
            case SMALLINT, INTEGER, BIGINT, DECIMAL, REAL, DOUBLE, DATE, TIME, UUID -> Form.PLAIN;
            case BOOLEAN -> Form.TRUTH;
            case BINARY, VARBINARY, BLOB -> Form.BYTES;
            case TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE -> Form.MOMENT;
            default -> Form.TEXT;
        };
    }

    /** From which exponent on the server may not read a floating point number back; 0 for other types. */
    private static int exponent(LogicalType type) {
        return switch (type.name()) {
            case REAL -> 37;
            case DOUBLE -> 307;
            default -> 0;
        };
    }

    /** Whether a batch holds a number so large or small that the server's reading of its text fails. */
    private boolean hasExtremes(Records batch) {
        for (int i = 0; i < forms.length; i++) {
            if (largestExponents[i] > 0) {
                int column = positions.get(i);
                for (int row = 0; row < batch.rows(); row++) {
                    if (!batch.isNull(row, column)
                            && isExtreme(
                                    batch.bytes(),
                                    batch.start(row, column),
                                    batch.end(row, column),
                                    largestExponents[i])) {
                        return true;
                    }
                }
            }
        }
        return false;
    }

    private static boolean isExtreme(byte[] b, int start, int end, int largest) {
        for (int i = Math.max(start, end - 5); i < end; i++) {
            if (b[i] == 'E') {
                int exponent = Integer.parseInt(new String(b, i + 1, end - i - 1, StandardCharsets.US_ASCII));
                return Math.abs(exponent) >= largest;
            }
        }
        return false;
    }

    @Override
    public void write(RecordBatch batch) {
        if (hasExtremes(batch)) {
            send();
            plain.write(batch);
            return;
        }
        if (batch.size() > CHUNK) {
            send();
            sent.add(batch);
            send(new Encoded(batch));
            return;
        }
        sent.add(batch);
        for (int row = 0; row < batch.rows(); row++) {
            for (int i = 0; i < forms.length; i++) {
                if (i > 0) {
                    lines.put('\t');
                }
                int column = positions.get(i);
                if (batch.isNull(row, column)) {
                    lines.putNull();
                } else {
                    value(batch.bytes(), batch.start(row, column), batch.end(row, column), forms[i]);
                }
            }
            lines.put('\n');
        }
        if (lines.isFull()) {
            send();
        }
    }

    private void value(byte[] b, int start, int end, Form form) {
        switch (form) {
            case PLAIN -> lines.plain(b, start, end);
            case TRUTH -> lines.put(b[start] == 't' ? '1' : '0');
            case MOMENT -> {
                for (int i = start; i < end; i++) {
                    if (b[i] != 'Z') {
                        lines.put(b[i] == 'T' ? ' ' : b[i]);
                    }
                }
            }
            case BYTES -> lines.hex(b, start, end);
            case TEXT -> lines.text(b, start, end);
        }
    }

    private void send() {
        if (lines.length() > 0) {
            send(new ByteArrayInputStream(lines.bytes(), 0, lines.length()));
        }
    }

    private void send(InputStream records) {
        try {
            statement.setLocalInfileInputStream(new PacketSized(records));
            long taken = statement.executeLargeUpdate(sql);
            String warning = warning();
            if (taken != sent.count() || !warning.isEmpty()) {
                throw refused(taken, warning);
            }
        } catch (SQLException e) {
            throw session.failed("table " + shown + " can't be loaded, at " + sent.origin(0), e);
        }
        sent.clear();
        lines.clear();
    }

    private String warning() throws SQLException {
        try (ResultSet row = statement.executeQuery("SHOW WARNINGS LIMIT 1")) {
            return row.next() ? row.getString(3) : "";
        }
    }

    private PlaceException refused(long taken, String warning) {
        Matcher matcher = ROW.matcher(warning);
        String where = matcher.matches()
                ? sent.origin(Long.parseLong(matcher.group(1)) - 1)
                : "from " + sent.origin(0) + " on";
        String why = warning.isEmpty()
                ? "only " + taken + " of " + sent.count() + " records were taken"
                : session.worded(warning);
        return new PlaceException(session.address(), where + ": table " + shown + " refuses a record: " + why, null);
    }

    @Override
    public void finish() {
        send();
        plain.finish();
    }

    @Override
    public void close() {
        session.work("the load of table " + shown + " can't be ended", () -> {
            statement.close();
            plain.close();
            return null;
        });
    }

    /** A batch with a huge value, written while it is sent, so that nothing of its size is needed again. */
    private final class Encoded extends InputStream {

        private static final int PIECE = 16 * 1024;

        private final RecordBatch batch;
        private int row;
        private int field;
        /** Where the current value goes on; -1 before its beginning. */
        private int position = -1;

        private int taken;

        Encoded(RecordBatch batch) {
            this.batch = batch;
        }

        @Override
        public int read() {
            byte[] one = new byte[1];
            return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
        }

        @Override
        public int read(byte[] to, int from, int length) {
            if (taken == lines.length()) {
                taken = 0;
                lines.clear();
                while (lines.length() < 4 * PIECE && row < batch.rows()) {
                    piece();
                }
                if (lines.length() == 0) {
                    return -1;
                }
            }
            int count = Math.min(length, lines.length() - taken);
            System.arraycopy(lines.bytes(), taken, to, from, count);
            taken += count;
            return count;
        }

        private void piece() {
            int column = positions.get(field);
            if (position < 0) {
                if (field > 0) {
                    lines.put('\t');
                }
                if (batch.isNull(row, column)) {
                    lines.putNull();
                    next();
                    return;
                }
                position = batch.start(row, column);
            }
            int end = batch.end(row, column);
            int stop = Math.min(end, position + PIECE);
            value(batch.bytes(), position, stop, forms[field]);
            position = stop;
            if (position == end) {
                next();
            }
        }

        private void next() {
            position = -1;
            if (++field == forms.length) {
                lines.put('\n');
                field = 0;
                row++;
            }
        }
    }
}

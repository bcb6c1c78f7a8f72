package org.orderlyferry.databases.postgresql;

import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.databases.DefinitionSql;
import org.orderlyferry.databases.SentRecords;
import org.orderlyferry.databases.Session;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyIn;
import org.postgresql.util.PSQLException;

/** Writes by COPY, in text form: most values go as they are, byte by byte. */
final class CopyInWriter implements RecordWriter {

    private static final int BUFFER = 64 * 1024;
    private static final Pattern WHERE =
            Pattern.compile("COPY .*?, line (\\d+)(?:, column ([^:]+))?.*", Pattern.DOTALL);
    private static final byte[] HEX = "0123456789abcdef".getBytes(StandardCharsets.US_ASCII);

    /** How a column's values are written. */
    private enum Form {
        /** Digits, dates and the like, in which nothing has to be escaped. */
        PLAIN,
        TEXT,
        BYTES,
        /** Needs another text altogether. */
        OTHER
    }

    private final Session session;
    private final TableName shown;
    private final CopyIn copy;
    private final List<ColumnDefinition> columns = new ArrayList<>();
    private final List<Integer> positions = new ArrayList<>();
    private final Form[] forms;
    private final SentRecords sent = new SentRecords();
    private byte[] buffer = new byte[BUFFER + 1024];
    private int used;
    private boolean finished;

    CopyInWriter(Session session, TableDefinition into, TableName shown) throws SQLException {
        this.session = session;
        this.shown = shown;
        for (int i = 0; i < into.columns().size(); i++) {
            if (into.columns().get(i).generation().isEmpty()) {
                columns.add(into.columns().get(i));
                positions.add(i);
            }
        }
        this.forms = columns.stream().map(c -> form(c.type())).toArray(Form[]::new);
        String names = new DefinitionSql(session.dialect())
                .names(columns.stream().map(ColumnDefinition::name).toList());
        this.copy = session.connection()
                .unwrap(PGConnection.class)
                .getCopyAPI()
                .copyIn("COPY " + session.dialect().quote(into.name()) + " (" + names + ") FROM STDIN");
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
    public void write(RecordBatch batch) {
        sent.add(batch);
        try {
            for (int row = 0; row < batch.rows(); row++) {
                for (int i = 0; i < forms.length; i++) {
                    if (i > 0) {
                        put('\t');
                    }
                    int column = positions.get(i);
                    if (batch.isNull(row, column)) {
                        put('\\');
                        put('N');
                    } else {
                        value(batch, row, column, i);
                    }
                }
                put('\n');
                if (used >= BUFFER) {
                    send();
                }
            }
        } catch (SQLException e) {
            throw failed(e);
        }
    }

    private void value(RecordBatch batch, int row, int column, int i) throws SQLException {
        byte[] bytes = batch.bytes();
        int start = batch.start(row, column);
        int end = batch.end(row, column);
        switch (forms[i]) {
            case PLAIN -> plain(bytes, start, end);
            case TEXT -> text(bytes, start, end);
            case BYTES -> bytes(bytes, start, end);
            case OTHER -> {
                LogicalType type = columns.get(i).type();
                if (isOrdinary(type, bytes, start, end)) {
                    plain(bytes, start, end);
                } else {
                    byte[] other = CopyText.of(batch.text(row, column), type).getBytes(StandardCharsets.UTF_8);
                    text(other, 0, other.length);
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

    private void put(int c) {
        if (used == buffer.length) {
            // a record of many nulls has no value that would have made room
            room(1);
        }
        buffer[used++] = (byte) c;
    }

    private void room(int more) {
        if (used + more + 1024 > buffer.length) {
            buffer = java.util.Arrays.copyOf(buffer, Math.max(buffer.length * 2, used + more + 1024));
        }
    }

    private void plain(byte[] b, int start, int end) {
        room(end - start);
        System.arraycopy(b, start, buffer, used, end - start);
        used += end - start;
    }

    private void text(byte[] b, int start, int end) throws SQLException {
        int at = start;
        // a large value goes in pieces, so that nothing grows with it
        while (at < end) {
            int stop = Math.min(end, at + BUFFER);
            room(2 * (stop - at));
            for (; at < stop; at++) {
                byte c = b[at];
                if (c > '\\' || c < 0 || c >= ' ' && c != '\\') {
                    buffer[used++] = c;
                } else {
                    escape(c);
                }
            }
            if (used >= BUFFER && at < end) {
                send();
            }
        }
    }

    private void escape(byte c) {
        switch (c) {
            case '\\' -> {
                put('\\');
                put('\\');
            }
            case '\n' -> {
                put('\\');
                put('n');
            }
            case '\r' -> {
                put('\\');
                put('r');
            }
            case '\t' -> {
                put('\\');
                put('t');
            }
            default -> put(c);
        }
    }

    private void bytes(byte[] b, int start, int end) throws SQLException {
        room(16);
        put('\\');
        put('\\');
        put('x');
        int at = start;
        while (at < end) {
            int stop = Math.min(end, at + BUFFER);
            room(2 * (stop - at));
            for (; at < stop; at++) {
                buffer[used++] = HEX[b[at] >> 4 & 0xF];
                buffer[used++] = HEX[b[at] & 0xF];
            }
            if (used >= BUFFER && at < end) {
                send();
            }
        }
    }

    private void send() throws SQLException {
        copy.writeToCopy(buffer, 0, used);
        used = 0;
        if (buffer.length > 4 * BUFFER) {
            buffer = new byte[BUFFER + 1024];
        }
    }

    @Override
    public void finish() {
        try {
            send();
            copy.endCopy();
            finished = true;
        } catch (SQLException e) {
            throw failed(e);
        }
    }

    /** The server says in which line of the COPY it was; the line came from a record. */
    private FerryException failed(SQLException e) {
        String where = e instanceof PSQLException p && p.getServerErrorMessage() != null
                ? String.valueOf(p.getServerErrorMessage().getWhere())
                : "";
        Matcher matcher = WHERE.matcher(where);
        if (!matcher.matches()) {
            return session.failed("table " + shown + " can't be loaded", e);
        }
        String column = matcher.group(2) == null ? "" : ", column " + matcher.group(2);
        return new PlaceException(
                session.address(),
                sent.origin(Long.parseLong(matcher.group(1)) - 1) + column + ": table " + shown
                        + " refuses the record: " + session.explained(e),
                e);
    }

    @Override
    public void close() {
        if (!finished && copy.isActive()) {
            try {
                copy.cancelCopy();
            } catch (SQLException e) {
                org.slf4j.LoggerFactory.getLogger(CopyInWriter.class).debug("the COPY had ended already", e);
            }
        }
    }
}

package org.orderlyferry.databases.postgresql;

import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.lane.EscapedBytes;
import org.orderlyferry.databases.lane.SentRecords;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Records;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyIn;
import org.postgresql.util.PSQLException;

/** Writes by COPY, in text form: most values go as they are, byte by byte. */
final class CopyInWriter implements RecordWriter {

    private static final int BUFFER = 64 * 1024;
    /** Resources that are lacking, operators that intervene, errors of its system: no record is to blame for those. */
    private static final Pattern OF_THE_SERVER = Pattern.compile("5[378].{3}");

    private static final Pattern WHERE =
            Pattern.compile("COPY .*?, line (\\d+)(?:, column ([^:]+))?.*", Pattern.DOTALL);

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
    private final EscapedBytes lines = new EscapedBytes(BUFFER);
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
                        lines.put('\t');
                    }
                    int column = positions.get(i);
                    if (batch.isNull(row, column)) {
                        lines.putNull();
                    } else {
                        value(batch, row, column, i);
                    }
                }
                lines.put('\n');
                sendIfFull();
            }
        } catch (SQLException e) {
            throw failed(e);
        }
    }

    private void value(Records batch, int row, int column, int i) throws SQLException {
        byte[] bytes = batch.bytes();
        int start = batch.start(row, column);
        int end = batch.end(row, column);
        switch (forms[i]) {
            case PLAIN -> lines.plain(bytes, start, end);
            case TEXT -> text(bytes, start, end);
            case BYTES -> bytes(bytes, start, end);
            case OTHER -> {
                LogicalType type = columns.get(i).type();
                if (isOrdinary(type, bytes, start, end)) {
                    lines.plain(bytes, start, end);
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

    private void text(byte[] b, int start, int end) throws SQLException {
        for (int at = start; at < end; at += EscapedBytes.PIECE) {
            lines.text(b, at, Math.min(end, at + EscapedBytes.PIECE));
            sendIfFull();
        }
    }

    private void bytes(byte[] b, int start, int end) throws SQLException {
        lines.put('\\');
        lines.put('\\');
        lines.put('x');
        for (int at = start; at < end; at += EscapedBytes.PIECE) {
            lines.hex(b, at, Math.min(end, at + EscapedBytes.PIECE));
            sendIfFull();
        }
    }

    private void sendIfFull() throws SQLException {
        if (lines.isFull()) {
            send();
        }
    }

    private void send() throws SQLException {
        copy.writeToCopy(lines.bytes(), 0, lines.length());
        lines.clear();
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
        if (OF_THE_SERVER.matcher(String.valueOf(e.getSQLState())).matches()) {
            return session.failed(
                    "table " + shown + " can't be loaded, at " + sent.origin(Long.parseLong(matcher.group(1)) - 1), e);
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

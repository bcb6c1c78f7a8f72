package org.orderlyferry.databases.postgresql;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.lane.SentRecords;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyIn;
import org.postgresql.util.PSQLException;

/**
 * Writes by COPY: in its binary form where that has all of a table's types, and else as text. A value that the binary form
 * has no usual way for makes the records from its own on go as text, so that the server takes or refuses it as what it is.
 */
final class CopyInWriter implements RecordWriter {

    /** Resources that are lacking, operators that intervene, errors of its system: no record is to blame for those. */
    private static final Pattern OF_THE_SERVER = Pattern.compile("5[378].{3}");

    private static final Pattern WHERE =
            Pattern.compile("COPY .*?, line (\\d+)(?:, column ([^:]+))?.*", Pattern.DOTALL);

    private final Session session;
    private final TableName shown;
    private final String statement;
    private final List<ColumnDefinition> columns = new ArrayList<>();
    private final int[] places;
    private final SentRecords sent = new SentRecords();
    private CopyRows rows;
    private CopyIn copy;
    /** How many records were put before the COPY that is under way began. */
    private long before;

    private long put;
    private boolean finished;

    CopyInWriter(Session session, TableDefinition into, TableName shown) throws SQLException {
        this.session = session;
        this.shown = shown;
        List<Integer> positions = new ArrayList<>();
        for (int i = 0; i < into.columns().size(); i++) {
            if (into.columns().get(i).generation().isEmpty()) {
                columns.add(into.columns().get(i));
                positions.add(i);
            }
        }
        this.places = positions.stream().mapToInt(Integer::intValue).toArray();
        String names = new DefinitionSql(session.dialect())
                .names(columns.stream().map(ColumnDefinition::name).toList());
        this.statement = "COPY " + session.dialect().quote(into.name()) + " (" + names + ") FROM STDIN";
        begin(BinaryRows.of(session, into.name(), columns, places).orElseGet(() -> new TextRows(columns, places)));
    }

    private void begin(CopyRows form) throws SQLException {
        rows = form;
        before = put;
        copy = session.connection().unwrap(PGConnection.class).getCopyAPI().copyIn(statement + form.clause());
    }

    @Override
    public void write(RecordBatch batch) {
        sent.add(batch);
        try {
            for (int row = 0; row < batch.rows(); row++) {
                if (!rows.put(batch, row, this::send)) {
                    rows.end(this::send);
                    copy.endCopy();
                    begin(new TextRows(columns, places));
                    rows.put(batch, row, this::send);
                }
                put++;
            }
        } catch (SQLException e) {
            throw failed(e);
        }
    }

    private void send(byte[] bytes, int length) throws SQLException {
        copy.writeToCopy(bytes, 0, length);
    }

    @Override
    public void finish() {
        try {
            rows.end(this::send);
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
            return session.failed("table " + shown + " can't be loaded, at " + origin(matcher), e);
        }
        String column = matcher.group(2) == null ? "" : ", column " + matcher.group(2);
        return new PlaceException(
                session.address(),
                origin(matcher) + column + ": table " + shown + " refuses the record: " + session.explained(e),
                e);
    }

    private String origin(Matcher where) {
        return sent.origin(before + Long.parseLong(where.group(1)) - 1);
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

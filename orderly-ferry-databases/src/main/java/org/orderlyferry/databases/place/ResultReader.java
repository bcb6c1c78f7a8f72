package org.orderlyferry.databases.place;

import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import org.orderlyferry.databases.CellReader;
import org.orderlyferry.databases.LoadNotes;
import org.orderlyferry.databases.Session;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.OutOfRange;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.record.InvalidValueException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;

/** Reads a query's result as it streams in. */
final class ResultReader implements RecordReader {

    private static final int FETCH = 1_000;

    private final Session session;
    private final TableDefinition table;
    private final OutOfRange outOfRange;
    private final LoadNotes notes = new LoadNotes();
    private final PreparedStatement statement;
    private final ResultSet result;
    private final CellReader[] cells;
    private long record;
    private boolean ended;

    ResultReader(Session session, String sql, TableDefinition table, OutOfRange outOfRange) throws SQLException {
        this.session = session;
        this.table = table;
        this.outOfRange = outOfRange;
        this.cells = table.columns().stream()
                .map(c -> session.dialect().reading().reader(c))
                .toArray(CellReader[]::new);
        this.statement =
                session.connection().prepareStatement(sql, ResultSet.TYPE_FORWARD_ONLY, ResultSet.CONCUR_READ_ONLY);
        try {
            statement.setFetchSize(FETCH);
            this.result = statement.executeQuery();
        } catch (SQLException e) {
            statement.close();
            throw e;
        }
    }

    @Override
    public TableDefinition table() {
        return table;
    }

    @Override
    public boolean read(RecordBatch batch) {
        batch.start(cells.length, table.name().toString(), session.address(), false);
        try {
            while (!ended && !batch.isFull()) {
                if (!result.next()) {
                    ended = true;
                    break;
                }
                record++;
                for (int column = 0; column < cells.length; column++) {
                    cell(batch, column);
                }
                batch.endRow(record);
            }
        } catch (SQLException e) {
            throw session.failed("table " + table.name() + ", record " + record + " can't be read", e);
        }
        return batch.rows() > 0;
    }

    private void cell(RecordBatch batch, int column) throws SQLException {
        try {
            cells[column].read(result, column + 1, batch);
        } catch (InvalidValueException e) {
            ColumnDefinition definition = table.columns().get(column);
            String value = result.getString(column + 1);
            if (outOfRange == OutOfRange.REFUSE || !definition.nullable() || !e.isOutOfRange()) {
                String hint =
                        e.isOutOfRange() && definition.nullable() ? "; the option out-of-range can make it null" : "";
                throw new BadValueException(batch.originOf(record), definition.name(), value, e.getMessage() + hint);
            }
            batch.addNull();
            notes.value(
                    table.name(),
                    definition.name(),
                    "such as " + BadValueException.shown(value),
                    "became null: it " + e.getMessage());
        }
    }

    @Override
    public List<Finding> findings() {
        return notes.findings();
    }

    @Override
    public void close() {
        session.work("the reading of table " + table.name() + " can't be ended", () -> {
            result.close();
            statement.close();
            return null;
        });
    }
}

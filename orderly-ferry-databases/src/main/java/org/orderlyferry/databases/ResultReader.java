package org.orderlyferry.databases;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.record.InvalidValueException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;

/** Reads a query's result as it streams in. */
final class ResultReader implements RecordReader {

    private static final int FETCH = 1_000;

    private final DatabasePlace place;
    private final TableDefinition table;
    private final PreparedStatement statement;
    private final ResultSet result;
    private final CellReader[] cells;
    private long record;
    private boolean ended;

    ResultReader(DatabasePlace place, Dialect dialect, Connection connection, String sql, TableDefinition table)
            throws SQLException {
        this.place = place;
        this.table = table;
        this.cells = table.columns().stream().map(dialect::reader).toArray(CellReader[]::new);
        this.statement = connection.prepareStatement(sql, ResultSet.TYPE_FORWARD_ONLY, ResultSet.CONCUR_READ_ONLY);
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
        batch.start(cells.length, table.name().toString(), place.address(), false);
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
            throw place.failed("table " + table.name() + ", record " + record + " can't be read", e);
        }
        return batch.rows() > 0;
    }

    private void cell(RecordBatch batch, int column) throws SQLException {
        try {
            cells[column].read(result, column + 1, batch);
        } catch (InvalidValueException e) {
            throw new BadValueException(
                    batch.originOf(record),
                    table.columns().get(column).name(),
                    result.getString(column + 1),
                    e.getMessage());
        }
    }

    @Override
    public void close() {
        try {
            result.close();
            statement.close();
        } catch (SQLException e) {
            throw place.failed("the reading of table " + table.name() + " can't be ended", e);
        }
    }
}

package org.orderlyferry.databases;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Types;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.record.InvalidValueException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;

/** Loads a table by prepared batches. */
final class BatchWriter implements RecordWriter {

    private static final int ROWS = 1_000;

    private final DatabasePlace place;
    private final Dialect dialect;
    private final Connection connection;
    private final TableDefinition table;
    private final PreparedStatement insert;
    private final CellBinder[] cells;
    private int pending;

    BatchWriter(
            DatabasePlace place,
            Dialect dialect,
            Connection connection,
            String sql,
            TableDefinition table,
            LoadNotes notes)
            throws SQLException {
        this.place = place;
        this.dialect = dialect;
        this.connection = connection;
        this.table = table;
        this.cells = table.columns().stream()
                .map(c -> dialect.binder(table.name(), c, notes))
                .toArray(CellBinder[]::new);
        this.insert = connection.prepareStatement(sql);
    }

    @Override
    public void write(RecordBatch batch) {
        int first = 0;
        try {
            for (int row = 0; row < batch.rows(); row++) {
                bind(batch, row);
                insert.addBatch();
                if (++pending == ROWS) {
                    flush();
                    first = row + 1;
                }
            }
            flush();
        } catch (SQLException e) {
            throw place.failed(
                    "table " + table.name() + " refuses a record between " + batch.origin(first) + " and "
                            + batch.origin(batch.rows() - 1) + "; the target is as it was before",
                    e);
        }
    }

    private void bind(RecordBatch batch, int row) throws SQLException {
        for (int column = 0; column < cells.length; column++) {
            if (batch.isNull(row, column)) {
                insert.setNull(column + 1, Types.NULL);
                continue;
            }
            try {
                cells[column].bind(insert, column + 1, batch, row, column);
            } catch (InvalidValueException e) {
                throw new BadValueException(
                        batch.origin(row), table.columns().get(column).name(), batch.text(row, column), e.getMessage());
            }
        }
    }

    private void flush() throws SQLException {
        if (pending > 0) {
            insert.executeBatch();
            pending = 0;
            if (!dialect.rollsBackDefinitions()) {
                // the tables are dropped if the load fails, so a long transaction would only cost memory
                connection.commit();
            }
        }
    }

    @Override
    public void finish() {
        // write() leaves nothing pending
    }

    @Override
    public void close() {
        try {
            insert.close();
        } catch (SQLException e) {
            throw place.failed("the load of table " + table.name() + " can't be ended", e);
        }
    }
}

package org.orderlyferry.databases.lane;

import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Savepoint;
import java.sql.Types;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import java.util.function.ToIntFunction;
import org.orderlyferry.databases.dialect.CellBinder;
import org.orderlyferry.databases.dialect.DriverFault;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.BadRecordException;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Records;

/**
 * Loads a table by prepared batches. A batch that the system refuses is taken back, and its records are tried one by one,
 * so that the message can name the one that was meant.
 */
public final class BatchWriter implements RecordWriter {

    private static final int ROWS = 1_000;
    private static final int BATCHES_A_COMMIT = 10;

    private final Session session;
    private final TableDefinition table;
    private final TableName shown;
    private final boolean commitsBetween;
    private final PreparedStatement insert;
    private final List<Integer> written = new ArrayList<>();
    private final List<CellBinder> cells = new ArrayList<>();
    private final List<Integer> nulls = new ArrayList<>();
    private int pending;
    private int batches;

    /**
     * A writer.
     *
     * @param sql an INSERT with a mark for each column of the table that isn't generated
     * @param table the columns as records have them
     * @param shown the table's name for messages
     * @param commitsBetween whether what was written is committed now and then, in a system that undoes, or holds, a large
     *     transaction slowly
     * @param binders how each column's values are given to the system; asked for those that aren't generated
     */
    public BatchWriter(
            Session session,
            String sql,
            TableDefinition table,
            TableName shown,
            boolean commitsBetween,
            Function<ColumnDefinition, CellBinder> binders)
            throws SQLException {
        this(session, sql, table, shown, commitsBetween, binders, c -> Types.NULL);
    }

    /**
     * A writer for a driver that wants to be told of what type a null is.
     *
     * @param nulls a code of {@link Types} for each column
     */
    public BatchWriter(
            Session session,
            String sql,
            TableDefinition table,
            TableName shown,
            boolean commitsBetween,
            Function<ColumnDefinition, CellBinder> binders,
            ToIntFunction<ColumnDefinition> nulls)
            throws SQLException {
        this.commitsBetween = commitsBetween;
        this.session = session;
        this.table = table;
        this.shown = shown;
        for (int i = 0; i < table.columns().size(); i++) {
            if (table.columns().get(i).generation().isEmpty()) {
                written.add(i);
                cells.add(binders.apply(table.columns().get(i)));
                this.nulls.add(nulls.applyAsInt(table.columns().get(i)));
            }
        }
        this.insert = session.connection().prepareStatement(sql);
    }

    @Override
    public void write(RecordBatch batch) {
        int first = 0;
        try {
            for (int row = 0; row < batch.rows(); row++) {
                bind(batch, row);
                insert.addBatch();
                if (++pending == ROWS) {
                    flush(batch, first, row + 1);
                    first = row + 1;
                }
            }
            flush(batch, first, batch.rows());
        } catch (SQLException e) {
            throw session.failed("table " + shown + " can't be loaded from " + batch.origin(first) + " on", e);
        }
    }

    private void bind(Records batch, int row) throws SQLException {
        for (int i = 0; i < cells.size(); i++) {
            int column = written.get(i);
            if (batch.isNull(row, column)) {
                insert.setNull(i + 1, nulls.get(i));
            } else {
                bind(batch, row, column, i);
            }
        }
    }

    /** Some drivers look at a value as soon as they are given it. */
    private void bind(Records batch, int row, int column, int place) throws SQLException {
        try {
            cells.get(place).bind(insert, place + 1, batch, row, column);
        } catch (SQLException e) {
            if (session.dialect().isLost(e)) {
                throw e;
            }
            throw refused(batch, row, column, session.explained(e));
        } catch (RuntimeException e) {
            SQLException fault = DriverFault.in(e);
            throw refused(batch, row, column, fault.getMessage());
        }
    }

    private BadValueException refused(Records batch, int row, int column, String why) {
        return new BadValueException(
                batch.origin(row),
                table.columns().get(column).name(),
                batch.text(row, column),
                "is refused by the driver: " + why);
    }

    private void flush(Records batch, int first, int end) throws SQLException {
        if (pending == 0) {
            return;
        }
        pending = 0;
        Savepoint before = session.connection().setSavepoint();
        try {
            insert.executeBatch();
        } catch (SQLException e) {
            throw refused(batch, first, end, before, e);
        } catch (RuntimeException e) {
            throw refused(batch, first, end, before, DriverFault.in(e));
        }
        session.release(before);
        if (commitsBetween && ++batches % BATCHES_A_COMMIT == 0) {
            session.connection().commit();
        }
    }

    private RuntimeException refused(Records batch, int first, int end, Savepoint before, SQLException all) {
        PlaceException whole = session.failed(
                "table " + shown + " refuses a record between " + batch.origin(first) + " and " + batch.origin(end - 1),
                all);
        try {
            insert.clearBatch();
            session.connection().rollback(before);
            for (int row = first; row < end; row++) {
                bind(batch, row);
                try {
                    insert.executeUpdate();
                } catch (SQLException e) {
                    return new BadRecordException(
                            batch.origin(row), shown.toString(), key(batch, row), session.explained(e), e);
                } catch (RuntimeException e) {
                    SQLException fault = DriverFault.in(e);
                    return new BadRecordException(
                            batch.origin(row), shown.toString(), key(batch, row), fault.getMessage(), fault);
                }
            }
        } catch (SQLException e) {
            // the connection is gone, or the system can't go back: the first error says more
            whole.addSuppressed(e);
        }
        return whole;
    }

    private String key(Records batch, int row) {
        List<String> names = table.primaryKey()
                .map(k -> k.columns())
                .orElse(table.columnNames()
                        .subList(0, Math.min(1, table.columns().size())));
        List<String> values = new ArrayList<>();
        for (String name : names) {
            int column = table.columnNames().indexOf(name);
            if (column >= 0) {
                values.add(name + " = " + batch.text(row, column));
            }
        }
        return String.join(", ", values);
    }

    @Override
    public void finish() {
        // each batch was sent when it was full
    }

    @Override
    public void close() {
        session.work("the load of table " + shown + " can't be ended", () -> {
            insert.close();
            return null;
        });
    }
}

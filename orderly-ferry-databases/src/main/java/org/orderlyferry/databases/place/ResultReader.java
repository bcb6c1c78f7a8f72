package org.orderlyferry.databases.place;

import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import org.orderlyferry.databases.dialect.CellReader;
import org.orderlyferry.databases.dialect.DriverFault;
import org.orderlyferry.databases.dialect.OutOfRangeCells;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.text.InvalidValueException;
import org.slf4j.LoggerFactory;

/** Reads a query's result as it streams in. */
final class ResultReader implements RecordReader {

    private static final String DATA_EXCEPTION = "22";
    /** Stands for a value that the driver can't even give as a text. */
    private static final String UNTOLD = "?";

    private static final int FETCH = 1_000;

    private final Session session;
    private final TableDefinition table;
    private final OutOfRangeCells outOfRange;
    private final PreparedStatement statement;
    private final ResultSet result;
    private final CellReader[] cells;
    private long record;
    private boolean ended;

    ResultReader(Session session, String sql, TableDefinition table, OutOfRangeCells outOfRange) throws SQLException {
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
        batch.start(table, session.address());
        try {
            while (!ended && !batch.isFull()) {
                if (!next()) {
                    ended = true;
                    break;
                }
                record++;
                for (int column = 0; column < cells.length; column++) {
                    cell(batch, column);
                }
                outOfRange.endRow(batch, record);
            }
        } catch (SQLException e) {
            throw session.failed("table " + table.name() + ", record " + record + " can't be read", e);
        }
        return batch.rows() > 0;
    }

    private boolean next() throws SQLException {
        try {
            return result.next();
        } catch (RuntimeException e) {
            throw DriverFault.in(e);
        }
    }

    private void cell(RecordBatch batch, int column) throws SQLException {
        try {
            cells[column].read(result, column + 1, batch);
        } catch (InvalidValueException e) {
            outOfRange.handle(batch, column, shown(column), e);
        } catch (SQLException e) {
            if (!isOfValue(e)) {
                throw e;
            }
            unreadable(batch, column, e);
        } catch (RuntimeException e) {
            unreadable(batch, column, DriverFault.in(e));
        }
    }

    private void unreadable(RecordBatch batch, int column, SQLException why) {
        outOfRange.handle(
                batch, column, shown(column), new InvalidValueException("can't be read: " + why.getMessage()));
    }

    /** Whether it is the value that is amiss, by its class of errors (ISO/IEC 9075-2, "data exception"), and not the reading. */
    private static boolean isOfValue(SQLException e) {
        return e.getSQLState() != null && e.getSQLState().startsWith(DATA_EXCEPTION);
    }

    /** A value that can't travel, if it can be told at all. */
    private String shown(int column) {
        try {
            String text = result.getString(column + 1);
            return text == null ? UNTOLD : text;
        } catch (SQLException | RuntimeException e) {
            LoggerFactory.getLogger(ResultReader.class).debug("a value of {} can't be told", table.name(), e);
            return UNTOLD;
        }
    }

    @Override
    public List<Finding> findings() {
        return outOfRange.findings();
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

package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Records;

/** Takes records out of a table by their keys, some hundred with each statement, in one transaction. */
public final class RecordRemoval {

    private static final int AT_ONCE = 300;

    private final Session session;
    private final TableDefinition key;
    private final List<String> pending = new ArrayList<>();
    private long removed;

    /**
     * For a table.
     *
     * @param key the table, with the columns of its key alone
     * @throws UsageException if its key has a column of a type that isn't compared exactly
     */
    public RecordRemoval(Session session, TableDefinition key) {
        this.session = session;
        this.key = key;
        for (ColumnDefinition column : key.columns()) {
            switch (column.type().name()) {
                case REAL, DOUBLE, BINARY, VARBINARY, BLOB, JSON, XML, ARRAY ->
                    throw new UsageException("records of table " + key.name()
                            + " can't be taken out by their key, whose column " + column.name() + " is "
                            + column.type());
                default -> {
                    // its values can be written into a condition
                }
            }
        }
    }

    /** Does it; tells how many were there. */
    public long remove(RecordReader keys) throws SQLException {
        RecordBatch batch = new RecordBatch();
        while (keys.read(batch)) {
            for (int row = 0; row < batch.rows(); row++) {
                pending.add(condition(batch, row));
                if (pending.size() == AT_ONCE) {
                    flush();
                }
            }
        }
        flush();
        session.connection().commit();
        return removed;
    }

    private String condition(Records batch, int row) {
        List<String> parts = new ArrayList<>();
        for (int i = 0; i < key.columns().size(); i++) {
            ColumnDefinition column = key.columns().get(i);
            String name = session.dialect().quote(column.name());
            parts.add(
                    batch.isNull(row, i)
                            ? name + " IS NULL"
                            : name + " = " + session.dialect().reading().literal(column, batch.text(row, i)));
        }
        return "(" + String.join(" AND ", parts) + ")";
    }

    private void flush() throws SQLException {
        if (!pending.isEmpty()) {
            removed += session.update(
                    "DELETE FROM " + session.dialect().quote(key.name()) + " WHERE " + String.join(" OR ", pending));
            pending.clear();
        }
    }
}

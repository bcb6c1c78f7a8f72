package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.sql.Savepoint;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Settling;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.Removal;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Records;
import org.slf4j.LoggerFactory;

/** Takes records out of a table by their keys, some hundred with each statement. */
public final class RecordRemoval {

    private static final int AT_ONCE = 300;

    private static final int SQLITE_CONSTRAINT = 19;

    private final Session session;
    private final TableDefinition key;
    private long removed;
    private Optional<SQLException> stays = Optional.empty();

    /**
     * For a table.
     *
     * @param key the table, with the columns of its key alone
     * @throws UsageException if its key has a column of a type that isn't compared exactly
     */
    RecordRemoval(Session session, TableDefinition key) {
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

    /** Does it as a transaction of its own, in which the system looks after references. */
    public static long apart(Session session, Removal removal) throws SQLException {
        Settling settling = session.dialect().writing().settling();
        try {
            settling.heed(session, true);
            long gone = new RecordRemoval(session, removal.key()).remove(removal.keys());
            session.connection().commit();
            settling.heed(session, false);
            return gone;
        } catch (SQLException | RuntimeException e) {
            session.rollback();
            try {
                settling.heed(session, false);
            } catch (SQLException second) {
                e.addSuppressed(second);
            }
            throw e;
        }
    }

    /**
     * Does it, as part of the session's transaction. Where others of them refer to one, as yet, it goes after these.
     *
     * @return how many were there
     */
    long remove(Supplier<RecordReader> keys) throws SQLException {
        int atOnce = AT_ONCE;
        while (true) {
            long before = removed;
            stays = Optional.empty();
            round(keys, atOnce);
            if (stays.isEmpty()) {
                return removed;
            }
            if (removed == before) {
                if (atOnce == 1) {
                    throw failed(stays.get());
                }
                // those that can go may each stand beside one that can't
                atOnce = 1;
            }
        }
    }

    /** Whether a statement would break a key or a reference, as things are. */
    static boolean breaksRule(Session session, SQLException e) {
        // class 23 of ISO/IEC 9075-2: integrity constraint violation; SQLite's driver tells the library's own code
        boolean integrity = e.getSQLState() == null
                ? (e.getErrorCode() & 0xff) == SQLITE_CONSTRAINT
                : e.getSQLState().startsWith("23");
        return integrity && !session.isCancelled() && !session.dialect().isLost(e);
    }

    private SQLException failed(SQLException e) {
        return new SQLException(
                "records of table " + key.name() + " that are to go can't be taken out: " + session.explained(e),
                e.getSQLState(),
                e.getErrorCode(),
                e);
    }

    /** Takes out what can go. */
    private void round(Supplier<RecordReader> keys, int atOnce) throws SQLException {
        RecordBatch batch = new RecordBatch();
        List<String> pending = new ArrayList<>();
        try (RecordReader reader = keys.get()) {
            while (reader.read(batch)) {
                for (int row = 0; row < batch.rows(); row++) {
                    pending.add(condition(batch, row));
                    if (pending.size() == atOnce) {
                        flush(pending);
                    }
                }
            }
        }
        if (!pending.isEmpty()) {
            flush(pending);
        }
    }

    private String condition(Records batch, int row) {
        List<String> parts = new ArrayList<>();
        for (int i = 0; i < key.columns().size(); i++) {
            ColumnDefinition column = key.columns().get(i);
            String name = session.dialect().quote(column.name());
            parts.add(
                    batch.isNull(row, i)
                            ? name + " IS NULL"
                            : session.dialect()
                                    .writing()
                                    .settling()
                                    .isJust(
                                            column,
                                            name,
                                            session.dialect().reading().literal(column, batch.text(row, i))));
        }
        return "(" + String.join(" AND ", parts) + ")";
    }

    /** All of them go, or none. */
    private void flush(List<String> pending) throws SQLException {
        String sql = "DELETE FROM " + session.dialect().quote(key.name()) + " WHERE " + String.join(" OR ", pending);
        pending.clear();
        Optional<Savepoint> before = session.savepoint();
        try {
            removed += session.update(sql);
        } catch (SQLException e) {
            if (before.isEmpty() || !breaksRule(session, e)) {
                throw failed(e);
            }
            session.connection().rollback(before.get());
            stays = stays.or(() -> Optional.of(e));
        }
        before.ifPresent(this::release);
    }

    /** Some systems know it only as the end of a transaction, and some have let go of it when they went back to it. */
    private void release(Savepoint savepoint) {
        try {
            session.release(savepoint);
        } catch (SQLException e) {
            LoggerFactory.getLogger(RecordRemoval.class).debug("the savepoint ends with its transaction", e);
        }
    }
}

package org.orderlyferry.databases.postgresql;

import java.sql.SQLException;
import java.sql.Savepoint;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.orderlyferry.databases.dialect.Arrival;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.TableDefinition;

/**
 * Whether the server has room for all locks that thousands of tables need which take their places in one transaction: each
 * has its own, and so have its indexes, its counters and its references. When that shows, all records are in; so it is
 * tried before the first one moves, by as many locks of nothing, which are let go at once.
 */
final class LocksAtOnce {

    private static final String OUT_OF_MEMORY = "53200";

    /** The first half of the keys of locks: any number that nobody else is likely to take. */
    private static final int KEY = 0x6f72_6465;

    private LocksAtOnce() {}

    /** Why they can't, as a sentence. */
    static Optional<String> tooMany(Session session, List<Arrival> arrivals) throws SQLException {
        long needed = arrivals.stream().mapToLong(LocksAtOnce::of).sum();
        // others need some as well
        if (needed < sessions(session) * perTransaction(session) / 2) {
            return Optional.empty();
        }
        Savepoint before = session.connection().setSavepoint();
        try {
            session.value("SELECT count(pg_try_advisory_xact_lock(" + KEY + ", n)) FROM generate_series(1, " + needed
                    + ") n");
            return Optional.empty();
        } catch (SQLException e) {
            if (!OUT_OF_MEMORY.equals(e.getSQLState())) {
                throw e;
            }
            session.connection().rollback(before);
            return Optional.of(told(session, arrivals.size(), needed));
        } finally {
            session.connection().rollback(before);
        }
    }

    private static String told(Session session, int tables, long needed) throws SQLException {
        return String.format(
                Locale.ROOT,
                "%,d tables take their places in one transaction, which needs about %,d locks, and the server has no room for"
                        + " so many: max_locks_per_transaction is %d, and %d would do, from the server's next start on; or load"
                        + " some of the tables at a time",
                tables,
                needed,
                perTransaction(session),
                needed / Math.max(1, sessions(session)) + 1);
    }

    private static long perTransaction(Session session) throws SQLException {
        return number(session, "max_locks_per_transaction");
    }

    private static long sessions(Session session) throws SQLException {
        return number(session, "max_connections") + number(session, "max_prepared_transactions");
    }

    private static long number(Session session, String setting) throws SQLException {
        return Long.parseLong(session.value("SHOW " + setting).orElseThrow());
    }

    private static long of(Arrival arrival) {
        if (!arrival.isNewTable()) {
            return 1;
        }
        // what is replaced goes with all it has, and with where its long values are
        return of(arrival.table()) + arrival.there().map(old -> of(old) + 2).orElse(0L);
    }

    private static long of(TableDefinition table) {
        long counters =
                table.columns().stream().filter(c -> c.identity().isPresent()).count();
        return 1
                + (table.primaryKey().isPresent() ? 1 : 0)
                + table.uniqueKeys().size()
                + table.indexes().size()
                + table.foreignKeys().size()
                + counters;
    }
}

package org.orderlyferry.databases.loading;

import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.orderlyferry.databases.dialect.Deed;
import org.orderlyferry.databases.dialect.ReservedNames;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Settling;
import org.orderlyferry.model.LogicalType;

/**
 * A small table in the target with a line for each part that is in, committed together with the part's records: so that a
 * load that was killed goes on with the others, and a commit whose answer was lost can be asked for.
 */
final class Receipts {

    /** No receipt is longer, not even that of a table of thousands of columns; a longer one isn't ours. */
    private static final int LONGEST = 10_000_000;

    private Receipts() {}

    private static String name(Session session) {
        return session.dialect().quote(ReservedNames.RECEIPTS);
    }

    /** Makes the table. */
    static Settling.Step making(Session session) {
        return new Settling.Step(
                "CREATE TABLE " + name(session)
                        + " (task_number INTEGER NOT NULL PRIMARY KEY, table_number INTEGER NOT NULL,"
                        + " records " + session.dialect().types().own(LogicalType.BIGINT) + " NOT NULL, receipt "
                        + session.dialect().types().own(LogicalType.CLOB) + " NOT NULL)",
                new Deed.TableMade(ReservedNames.RECEIPTS));
    }

    /**
     * Writes a receipt, as part of the session's transaction.
     *
     * @param table which of the load's tables, by its number
     * @param records how many were written
     */
    static void write(Session session, int task, int table, long records, String receipt) throws SQLException {
        try (PreparedStatement insert =
                session.connection().prepareStatement("INSERT INTO " + name(session) + " VALUES (?, ?, ?, ?)")) {
            insert.setInt(1, task);
            insert.setInt(2, table);
            insert.setLong(3, records);
            insert.setString(4, receipt);
            insert.executeUpdate();
        }
    }

    /** Whether a part is in. */
    static boolean has(Session session, int task) throws SQLException {
        return session.value("SELECT 1 FROM " + name(session) + " WHERE task_number = " + task)
                .isPresent();
    }

    /** How many records of a table are in by its receipts. */
    static long records(Session session, int table) throws SQLException {
        return Long.parseLong(session.value(
                        "SELECT COALESCE(SUM(records), 0) FROM " + name(session) + " WHERE table_number = " + table)
                .orElse("0"));
    }

    /** Forgets those of a table: its records have to come again. */
    static void forget(Session session, int table) throws SQLException {
        session.update("DELETE FROM " + name(session) + " WHERE table_number = " + table);
    }

    /** A part's receipt, if it is in. */
    static Optional<String> one(Session session, int task) throws SQLException {
        return session.value("SELECT receipt FROM " + name(session) + " WHERE task_number = " + task);
    }

    /** All receipts, by their tasks. */
    static Map<Integer, String> all(Session session) throws SQLException {
        Map<Integer, String> all = new TreeMap<>();
        session.query()
                .each(
                        "SELECT task_number, CASE WHEN "
                                + session.dialect().writing().lengthOf("receipt") + " > " + LONGEST
                                + " THEN NULL ELSE receipt END FROM " + name(session),
                        row -> all.put(
                                row.getInt(1),
                                Optional.ofNullable(row.getString(2)).orElse("")));
        return all;
    }

    /** Takes the table away as part of the session's transaction. */
    static void drop(Session session) throws SQLException {
        session.execute("DROP TABLE " + name(session));
    }
}

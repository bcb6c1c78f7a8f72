package org.orderlyferry.databases.loading;

import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.databases.Session;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableName;
import org.slf4j.LoggerFactory;

/**
 * A small table in the target that says how to undo a load that is under way: a line for each step, written before the
 * step is done. If the load is killed, whoever comes next runs the lines backwards. It goes when the load ends.
 */
public final class Ledger {

    public static final TableName NAME = TableName.of("orderly_ferry_ledger");

    /** The number of a load's first step. */
    private static final int FIRST = 1;

    private final Session session;
    private int next = FIRST;
    private boolean open;

    Ledger(Session session) {
        this.session = session;
    }

    /** Whether a table is a ledger or one that a load makes on its way, and so none of the user's. */
    public static boolean isOwn(TableName table) {
        return table.name().matches("(?i)orderly_ferry_(ledger|\\d+o?)");
    }

    /** Whether a load is under way, or was killed. */
    public static boolean isThere(Session session) throws SQLException {
        return session.catalogue().tables().stream().anyMatch(t -> t.name().equalsIgnoreCase(NAME.name()));
    }

    private String name() {
        return session.dialect().quote(NAME);
    }

    void open() throws SQLException {
        session.execute("CREATE TABLE " + name() + " (step_number INTEGER NOT NULL PRIMARY KEY, way_back "
                + session.dialect().types().own(LogicalType.CLOB) + " NOT NULL)");
        session.connection().commit();
        open = true;
    }

    /** Does a step, whose undoing is written down first; a load that is one transaction needs no ledger for that. */
    void step(String sql, String undo) throws SQLException {
        if (open && !undo.isEmpty()) {
            // stays even if the step's own transaction doesn't
            add(undo);
            session.connection().commit();
        }
        session.execute(sql);
        if (open) {
            session.connection().commit();
        }
    }

    /** Replaces all lines by others with higher numbers, as part of the session's transaction: from its commit on, there is no way back. */
    void replace(List<String> statements) throws SQLException {
        session.update("DELETE FROM " + name());
        for (int i = statements.size() - 1; i >= 0; i--) {
            add(statements.get(i));
        }
    }

    private void add(String undo) throws SQLException {
        try (PreparedStatement insert =
                session.connection().prepareStatement("INSERT INTO " + name() + " VALUES (?, ?)")) {
            insert.setInt(1, next++);
            insert.setString(2, undo);
            insert.executeUpdate();
        }
    }

    /**
     * Runs all lines backwards; the last may be of a step that was never done, and so may fail.
     *
     * @return whether that was a way back; where lines were {@linkplain #replace replaced}, it leads to the load's end
     */
    boolean undo() throws SQLException {
        List<String> undo = new ArrayList<>();
        List<Integer> numbers = new ArrayList<>();
        session.query().each("SELECT way_back, step_number FROM " + name() + " ORDER BY step_number DESC", row -> {
            undo.add(row.getString(1));
            numbers.add(row.getInt(2));
        });
        for (int i = 0; i < undo.size(); i++) {
            try {
                session.execute(undo.get(i));
                session.connection().commit();
            } catch (SQLException e) {
                session.rollback();
                if (i > 0) {
                    throw e;
                }
                LoggerFactory.getLogger(Ledger.class).debug("the last step was never done: {}", undo.get(i), e);
            }
        }
        close();
        return !numbers.isEmpty() && numbers.get(numbers.size() - 1) == FIRST;
    }

    void close() throws SQLException {
        session.execute("DROP TABLE " + name());
        session.connection().commit();
    }

    /** Takes the table away as part of the session's transaction. */
    void drop() throws SQLException {
        session.execute("DROP TABLE " + name());
    }
}

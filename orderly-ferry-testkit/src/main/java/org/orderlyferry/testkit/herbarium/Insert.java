package org.orderlyferry.testkit.herbarium;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;

/** Inserts rows into one table by prepared batches. */
final class Insert implements AutoCloseable {

    private static final int BATCH = 1_000;

    private final PreparedStatement statement;
    private int pending;

    Insert(Connection connection, String table, String columns) throws SQLException {
        String marks = "?" + ", ?".repeat(columns.split(",").length - 1);
        statement = connection.prepareStatement(
                "INSERT INTO \"" + table + "\" (" + columns + ") OVERRIDING SYSTEM VALUE VALUES (" + marks + ")");
    }

    void row(Object... values) throws SQLException {
        for (int i = 0; i < values.length; i++) {
            statement.setObject(i + 1, values[i]);
        }
        statement.addBatch();
        if (++pending == BATCH) {
            statement.executeBatch();
            statement.getConnection().commit();
            pending = 0;
        }
    }

    @Override
    public void close() throws SQLException {
        if (pending > 0) {
            statement.executeBatch();
        }
        statement.close();
    }
}

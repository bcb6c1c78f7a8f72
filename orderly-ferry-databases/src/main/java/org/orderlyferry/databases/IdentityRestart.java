package org.orderlyferry.databases;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;

/** Sets identity columns past the highest value, in systems that do so as ISO/IEC 9075-2 has it. */
public final class IdentityRestart {

    private IdentityRestart() {}

    /** Sets all of a table's counters. */
    public static void advance(Dialect dialect, Connection connection, TableDefinition table) throws SQLException {
        for (ColumnDefinition column : table.columns()) {
            if (column.identity().isEmpty()) {
                continue;
            }
            try (Statement statement = connection.createStatement()) {
                long next = Math.max(column.identity().get().next(), afterHighest(dialect, statement, table, column));
                statement.execute("ALTER TABLE " + dialect.quote(table.name()) + " ALTER COLUMN "
                        + dialect.quote(column.name()) + " RESTART WITH " + next);
            }
        }
    }

    /** The value after the highest one; the smallest number there is where there are no rows. */
    public static long afterHighest(
            Dialect dialect, Statement statement, TableDefinition table, ColumnDefinition column) throws SQLException {
        try (ResultSet result = statement.executeQuery(
                "SELECT MAX(" + dialect.quote(column.name()) + ") FROM " + dialect.quote(table.name()))) {
            result.next();
            long highest = result.getLong(1);
            return result.wasNull() ? Long.MIN_VALUE : highest == Long.MAX_VALUE ? highest : highest + 1;
        }
    }
}

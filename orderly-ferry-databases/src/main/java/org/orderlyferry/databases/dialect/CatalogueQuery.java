package org.orderlyferry.databases.dialect;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;

/** Runs the queries by which catalogues are read. */
public final class CatalogueQuery {

    /** Takes a row. */
    @FunctionalInterface
    public interface Row {
        void take(ResultSet row) throws SQLException;
    }

    private final Connection connection;

    public CatalogueQuery(Connection connection) {
        this.connection = connection;
    }

    /** Whether a query's result has a row. */
    public boolean any(String sql, String... parameters) throws SQLException {
        boolean[] found = {false};
        each(sql, row -> found[0] = true, parameters);
        return found[0];
    }

    /** Hands on each row of a query's result. */
    public void each(String sql, Row row, String... parameters) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            for (int i = 0; i < parameters.length; i++) {
                statement.setString(i + 1, parameters[i]);
            }
            try (ResultSet result = statement.executeQuery()) {
                while (result.next()) {
                    row.take(result);
                }
            }
        }
    }
}

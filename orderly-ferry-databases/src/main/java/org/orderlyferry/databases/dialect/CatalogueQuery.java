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

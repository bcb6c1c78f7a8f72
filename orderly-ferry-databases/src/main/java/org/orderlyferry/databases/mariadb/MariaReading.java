package org.orderlyferry.databases.mariadb;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Statement;
import org.orderlyferry.databases.CellReader;
import org.orderlyferry.databases.Reading;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableName;

/** How records are read out of MariaDB. */
final class MariaReading implements Reading {

    private final MariaDialect dialect;

    MariaReading(MariaDialect dialect) {
        this.dialect = dialect;
    }

    @Override
    public void prepare(Connection connection) throws SQLException {
        connection.setTransactionIsolation(Connection.TRANSACTION_REPEATABLE_READ);
        connection.setReadOnly(true);
        try (Statement statement = connection.createStatement()) {
            // for the transactions that come after this one too
            statement.execute("SET SESSION TRANSACTION READ ONLY");
            statement.execute("START TRANSACTION WITH CONSISTENT SNAPSHOT, READ ONLY");
        }
    }

    @Override
    public String selected(ColumnDefinition column) {
        String name = dialect.quote(column.name());
        return switch (column.type().name()) {
            case DATE, TIME, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE -> "CAST(" + name + " AS CHAR)";
            default -> MariaTypes.isCarriedAsText(column.sourceType()) ? "CAST(" + name + " AS CHAR)" : name;
        };
    }

    @Override
    public CellReader reader(ColumnDefinition column) {
        return MariaCells.reader(column.type());
    }

    @Override
    public LogicalType queried(ResultSetMetaData columns, int index) throws SQLException {
        return MariaTypes.ofQuery(
                columns.getColumnTypeName(index), columns.getPrecision(index), columns.getScale(index));
    }

    @Override
    public long bytes(Connection connection, TableName table) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement("SELECT DATA_LENGTH + INDEX_LENGTH FROM"
                + " information_schema.TABLES WHERE TABLE_SCHEMA = DATABASE() AND TABLE_NAME = ?")) {
            statement.setString(1, table.name());
            try (ResultSet row = statement.executeQuery()) {
                return row.next() ? row.getLong(1) : -1;
            }
        }
    }
}

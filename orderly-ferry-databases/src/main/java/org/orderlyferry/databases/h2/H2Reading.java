package org.orderlyferry.databases.h2;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Statement;
import org.orderlyferry.databases.dialect.CellReader;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.Reading;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableName;

/** How records are read out of H2. */
final class H2Reading implements Reading {

    /** Isolation level of the driver by which all tables are read as of one moment. */
    private static final int SNAPSHOT = 6;

    private final H2Dialect dialect;

    H2Reading(H2Dialect dialect) {
        this.dialect = dialect;
    }

    @Override
    public void prepare(Connection connection) throws SQLException {
        connection.setReadOnly(true);
        connection.setTransactionIsolation(SNAPSHOT);
        try (Statement statement = connection.createStatement()) {
            // without it, H2 gathers a whole result before it gives the first row
            statement.execute("SET LAZY_QUERY_EXECUTION 1");
        }
    }

    /** It counts the units of UTF-16, and not characters. */
    @Override
    public boolean isPlainText(ColumnDefinition column) {
        return false;
    }

    @Override
    public String selected(ColumnDefinition column) {
        String name = dialect.quote(column.name());
        return H2Types.isCarriedAsText(column.sourceType())
                        || column.enumeration().isPresent()
                ? "CAST(" + name + " AS CHARACTER VARYING)"
                : name;
    }

    /** H2 gathers all that it is to skip before it gives the first row, and is read by one connection anyway. */
    @Override
    public boolean canCut(ColumnDefinition column) {
        return false;
    }

    @Override
    public CellReader reader(ColumnDefinition column) {
        return H2Cells.reader(column.type());
    }

    @Override
    public LogicalType queried(ResultSetMetaData columns, int index) throws SQLException {
        return H2Types.logical(
                columns.getColumnTypeName(index).replaceFirst("\\(.*", ""),
                columns.getPrecision(index),
                columns.getScale(index),
                columns.getScale(index));
    }

    @Override
    public long bytes(Connection connection, TableName table) throws SQLException {
        try (Statement statement = connection.createStatement();
                ResultSet result = statement.executeQuery(
                        "SELECT DISK_SPACE_USED(" + DefinitionSql.string(dialect.quote(table)) + ")")) {
            result.next();
            return result.getLong(1);
        }
    }
}

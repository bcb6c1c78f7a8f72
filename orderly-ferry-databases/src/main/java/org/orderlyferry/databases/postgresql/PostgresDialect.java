package org.orderlyferry.databases.postgresql;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Properties;
import org.orderlyferry.databases.Catalogue;
import org.orderlyferry.databases.CellBinder;
import org.orderlyferry.databases.CellReader;
import org.orderlyferry.databases.DefinitionSql;
import org.orderlyferry.databases.Dialect;
import org.orderlyferry.databases.IdentityRestart;
import org.orderlyferry.databases.LoadNotes;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.PlaceAddress;

/** PostgreSQL, from version 12 on. */
public final class PostgresDialect implements Dialect {

    static final String SYSTEM = "PostgreSQL";

    private static final String PREFIX = "jdbc:postgresql:";

    private final DefinitionSql sql = new DefinitionSql(this);

    @Override
    public String system() {
        return SYSTEM;
    }

    @Override
    public Optional<Connection> connect(PlaceAddress address, OpenOptions options, boolean write) throws SQLException {
        if (!address.isJdbc() || !address.toString().startsWith(PREFIX)) {
            return Optional.empty();
        }
        Properties properties = new Properties();
        properties.setProperty("ApplicationName", "Orderly Ferry");
        // the server reads a value's text by the column's own type, so no type of Java's comes in between
        properties.setProperty("stringtype", "unspecified");
        properties.setProperty("reWriteBatchedInserts", "true");
        Connection connection = new org.postgresql.Driver().connect(address.opened(options.secrets()), properties);
        try (Statement statement = connection.createStatement()) {
            statement.execute("SET TIME ZONE 'UTC'");
            statement.execute("SET DateStyle = 'ISO, YMD'");
            statement.execute("SET IntervalStyle = 'iso_8601'");
            statement.execute("SET extra_float_digits = 1");
        }
        return Optional.of(connection);
    }

    @Override
    public Optional<String> explain(SQLException error) {
        SQLException told = error.getNextException() == null ? error : error.getNextException();
        String state = told.getSQLState() == null ? "" : told.getSQLState();
        String message = told.getMessage().replaceFirst("^ERROR: ", "").replaceAll("\\s*\\R\\s*", "; ");
        return Optional.of(
                switch (state) {
                    case "28P01", "28000" -> "wrong user name or password (" + message + ")";
                    case "3D000" -> "there is no such database (" + message + ")";
                    case "08001" -> "the server can't be reached; is it running at that address? (" + message + ")";
                    case "42501" -> "the user may not do that (" + message + ")";
                    case "53100" -> "the server's disk is full (" + message + ")";
                    case "57P01", "57P02", "08006", "08003" ->
                        "the server ended the connection; nothing of the load is there, so it can be run again ("
                                + message + ")";
                    default -> message;
                });
    }

    @Override
    public void prepareReading(Connection connection) throws SQLException {
        connection.setReadOnly(true);
        // every statement sees the database as of the first one
        connection.setTransactionIsolation(Connection.TRANSACTION_REPEATABLE_READ);
    }

    @Override
    public Catalogue catalogue(Connection connection) throws SQLException {
        return new PostgresCatalogue(connection);
    }

    @Override
    public String quote(String name) {
        return '"' + name.replace("\"", "\"\"") + '"';
    }

    @Override
    public String selected(ColumnDefinition column) {
        String name = quote(column.name());
        return switch (column.type().name()) {
            case ARRAY -> "to_json(" + name + ")::text";
            case DATE, TIME, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE, INTERVAL, DECIMAL -> name + "::text";
            default -> PostgresTypes.isCarriedAsText(column.sourceType()) ? name + "::text" : name;
        };
    }

    @Override
    public CellReader reader(ColumnDefinition column) {
        return PostgresCells.reader(column.type());
    }

    @Override
    public LogicalType queried(ResultSetMetaData columns, int index) throws SQLException {
        String name = columns.getColumnTypeName(index);
        int precision = columns.getPrecision(index);
        int scale = columns.getScale(index);
        return PostgresTypes.ofQuery(name, precision, scale);
    }

    @Override
    public String placeholder(ColumnDefinition column) {
        if (column.type().name() != TypeName.ARRAY) {
            return "?";
        }
        // no elements of no array would be an array of none
        return "(SELECT CASE WHEN v.j IS NOT NULL THEN ARRAY(SELECT json_array_elements_text(v.j)) END"
                + " FROM (SELECT ?::json AS j) v)::" + PostgresTypes.sql(column.type());
    }

    @Override
    public CellBinder binder(TableName table, ColumnDefinition column, LoadNotes notes) {
        return PostgresCells.binder(column.type());
    }

    @Override
    public String insertClause(TableDefinition table) {
        return sql.overriding(table);
    }

    @Override
    public TableDefinition adapt(TableDefinition table, LoadNotes notes) {
        return new PostgresAdapting(this, notes).adapt(table);
    }

    @Override
    public List<String> createStatements(TableDefinition table, LoadNotes notes) {
        List<String> parts =
                table.columns().stream().map(c -> PostgresColumnSql.of(this, c)).toList();
        List<String> statements = new ArrayList<>();
        statements.add("CREATE TABLE " + quote(table.name()) + " (\n  " + String.join(",\n  ", parts) + "\n)");
        statements.addAll(sql.comments(table));
        return statements;
    }

    @Override
    public List<String> keyStatements(TableDefinition table) {
        List<String> statements = new ArrayList<>();
        table.primaryKey().ifPresent(key -> statements.add(sql.add(table, sql.primaryKey(key))));
        statements.addAll(sql.keysAndIndexes(table));
        return statements;
    }

    @Override
    public List<String> referenceStatements(TableDefinition table) {
        return sql.references(table);
    }

    @Override
    public void advanceCounters(Connection connection, TableDefinition table) throws SQLException {
        IdentityRestart.advance(this, connection, table);
    }

    @Override
    public boolean rollsBackDefinitions() {
        return true;
    }

    @Override
    public long bytes(Connection connection, TableName table) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement("SELECT pg_total_relation_size(?::regclass)")) {
            statement.setString(1, quote(table));
            try (ResultSet row = statement.executeQuery()) {
                row.next();
                return row.getLong(1);
            }
        }
    }
}

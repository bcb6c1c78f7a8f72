package org.orderlyferry.databases.mariadb;

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
import java.util.stream.Collectors;
import org.orderlyferry.databases.Catalogue;
import org.orderlyferry.databases.CellBinder;
import org.orderlyferry.databases.CellReader;
import org.orderlyferry.databases.DefinitionSql;
import org.orderlyferry.databases.Dialect;
import org.orderlyferry.databases.IdentityRestart;
import org.orderlyferry.databases.LoadNotes;
import org.orderlyferry.databases.MissingReference;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.PlaceAddress;

/** MariaDB, from version 10.7 on. */
public final class MariaDialect implements Dialect {

    static final String SYSTEM = "MariaDB";

    private static final String PREFIX = "jdbc:mariadb:";
    private static final String OTHER_PREFIX = "jdbc:mysql:";

    private final DefinitionSql sql = new DefinitionSql(this);

    @Override
    public String system() {
        return SYSTEM;
    }

    @Override
    public Optional<Connection> connect(PlaceAddress address, OpenOptions options, boolean write) throws SQLException {
        String shown = address.toString();
        if (!address.isJdbc() || !shown.startsWith(PREFIX) && !shown.startsWith(OTHER_PREFIX)) {
            return Optional.empty();
        }
        String url = address.opened(options.secrets());
        if (url.startsWith(OTHER_PREFIX)) {
            url = PREFIX + url.substring(OTHER_PREFIX.length());
        }
        Properties properties = new Properties();
        // values go to the server beside the statement and not inside it, and single precision keeps all its digits
        properties.setProperty("useServerPrepStmts", "true");
        Connection connection = new org.mariadb.jdbc.Driver().connect(url, properties);
        try (Statement statement = connection.createStatement()) {
            statement.execute("SET SESSION time_zone = '+00:00', sql_mode ="
                    + " 'NO_BACKSLASH_ESCAPES,STRICT_ALL_TABLES,NO_ENGINE_SUBSTITUTION,NO_AUTO_VALUE_ON_ZERO'");
            if (write) {
                // references are checked by a query of our own, once all tables are there
                statement.execute("SET SESSION foreign_key_checks = 0");
            }
        }
        return Optional.of(connection);
    }

    @Override
    public Optional<String> explain(SQLException error) {
        SQLException told = error.getNextException() == null ? error : error.getNextException();
        String message = told.getMessage().replaceFirst("^\\(conn=\\d+\\) ", "");
        return Optional.of(
                switch (told.getErrorCode()) {
                    case 1045 -> "wrong user name or password (" + message + ")";
                    case 1049 -> "there is no such database (" + message + ")";
                    case 1142, 1044 -> "the user may not do that (" + message + ")";
                    case 1114 -> "the server's disk is full (" + message + ")";
                    default -> {
                        boolean lost =
                                told.getSQLState() != null && told.getSQLState().startsWith("08");
                        yield lost ? "the server can't be reached, or ended the connection (" + message + ")" : message;
                    }
                });
    }

    @Override
    public void prepareReading(Connection connection) throws SQLException {
        connection.setTransactionIsolation(Connection.TRANSACTION_REPEATABLE_READ);
        connection.setReadOnly(true);
        try (Statement statement = connection.createStatement()) {
            statement.execute("START TRANSACTION WITH CONSISTENT SNAPSHOT, READ ONLY");
        }
    }

    @Override
    public Catalogue catalogue(Connection connection) {
        return new MariaCatalogue(connection);
    }

    @Override
    public String quote(String name) {
        return '`' + name.replace("`", "``") + '`';
    }

    @Override
    public String selected(ColumnDefinition column) {
        String name = quote(column.name());
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
    public CellBinder binder(TableName table, ColumnDefinition column, LoadNotes notes) {
        return MariaCells.binder(column.type());
    }

    @Override
    public TableDefinition adapt(TableDefinition table, LoadNotes notes) {
        return new MariaAdapting(this, notes).adapt(table);
    }

    @Override
    public List<String> createStatements(TableDefinition table, LoadNotes notes) {
        List<String> parts = new ArrayList<>();
        table.columns().forEach(c -> parts.add(MariaColumnSql.of(this, c)));
        // here and not afterwards: InnoDB keeps rows in the order of this key, and a counter has to be one
        table.primaryKey().ifPresent(key -> parts.add("PRIMARY KEY (" + sql.names(key.columns()) + ")"));
        String comment = table.comment().isEmpty() ? "" : " COMMENT = " + DefinitionSql.string(table.comment());
        // compared by bytes, with blanks at the end, so that unique keys forbid no more than elsewhere
        return List.of("CREATE TABLE " + quote(table.name()) + " (\n  " + String.join(",\n  ", parts)
                + "\n) ENGINE = InnoDB DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin" + comment);
    }

    @Override
    public List<String> keyStatements(TableDefinition table) {
        List<String> additions = new ArrayList<>();
        table.uniqueKeys().forEach(key -> additions.add("ADD " + sql.unique(key)));
        table.checks().forEach(check -> additions.add("ADD " + sql.check(check)));
        List<String> statements = new ArrayList<>();
        if (!additions.isEmpty()) {
            statements.add("ALTER TABLE " + quote(table.name()) + " " + String.join(", ", additions));
        }
        table.indexes().forEach(index -> statements.add(sql.index(table.name(), index)));
        return statements;
    }

    @Override
    public List<String> referenceStatements(TableDefinition table) {
        if (table.foreignKeys().isEmpty()) {
            return List.of();
        }
        return List.of("ALTER TABLE " + quote(table.name()) + " "
                + table.foreignKeys().stream()
                        .map(k -> "ADD " + sql.foreignKey(k))
                        .collect(Collectors.joining(", ")));
    }

    @Override
    public void advanceCounters(Connection connection, TableDefinition table) throws SQLException {
        for (ColumnDefinition column : table.columns()) {
            if (column.identity().isPresent()) {
                try (Statement statement = connection.createStatement()) {
                    long next = Math.max(
                            column.identity().get().next(),
                            IdentityRestart.afterHighest(this, statement, table, column));
                    statement.execute("ALTER TABLE " + quote(table.name()) + " AUTO_INCREMENT = " + Math.max(1, next));
                }
            }
        }
    }

    @Override
    public boolean rollsBackDefinitions() {
        return false;
    }

    @Override
    public void checkReferences(Connection connection, List<TableDefinition> tables) throws SQLException {
        Optional<String> missing = new MissingReference(this, connection).find(tables);
        if (missing.isPresent()) {
            throw new SQLException(missing.get());
        }
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

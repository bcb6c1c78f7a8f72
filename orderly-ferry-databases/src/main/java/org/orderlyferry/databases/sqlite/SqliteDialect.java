package org.orderlyferry.databases.sqlite;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.databases.Catalogue;
import org.orderlyferry.databases.CellBinder;
import org.orderlyferry.databases.CellReader;
import org.orderlyferry.databases.DefinitionSql;
import org.orderlyferry.databases.Dialect;
import org.orderlyferry.databases.LoadNotes;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.PlaceAddress;
import org.sqlite.SQLiteConfig;
import org.sqlite.SQLiteErrorCode;
import org.sqlite.SQLiteOpenMode;

/** SQLite 3, as a file. */
public final class SqliteDialect implements Dialect {

    static final String SYSTEM = "SQLite";

    private static final String PREFIX = "jdbc:sqlite:";
    private static final List<String> ENDINGS = List.of(".sqlite", ".sqlite3", ".db", ".db3");
    private static final byte[] FILE_HEAD = "SQLite format 3\0".getBytes(StandardCharsets.US_ASCII);
    private static final int CACHE_KIB = 64 * 1024;

    private final DefinitionSql sql = new DefinitionSql(this);

    @Override
    public String system() {
        return SYSTEM;
    }

    @Override
    public Optional<Connection> connect(PlaceAddress address, OpenOptions options, boolean write) throws SQLException {
        String url;
        if (address.isJdbc()) {
            url = address.opened(options.secrets());
            if (!url.startsWith(PREFIX)) {
                return Optional.empty();
            }
        } else if (isMine(address.path(), write)) {
            url = PREFIX + address.path().toAbsolutePath();
        } else {
            return Optional.empty();
        }
        SQLiteConfig config = new SQLiteConfig();
        config.setReadOnly(!write);
        if (!write) {
            config.resetOpenMode(SQLiteOpenMode.CREATE);
        }
        config.setCacheSize(-CACHE_KIB);
        config.enforceForeignKeys(false);
        config.setTransactionMode(
                write ? SQLiteConfig.TransactionMode.IMMEDIATE : SQLiteConfig.TransactionMode.DEFERRED);
        return Optional.of(config.createConnection(url));
    }

    private static boolean isMine(Path file, boolean write) {
        if (!Files.exists(file) || isEmptyFile(file)) {
            String name = file.toString();
            return write && ENDINGS.stream().anyMatch(name::endsWith) && !name.endsWith(".mv.db");
        }
        if (!Files.isRegularFile(file)) {
            return false;
        }
        try (InputStream in = Files.newInputStream(file)) {
            return java.util.Arrays.equals(in.readNBytes(FILE_HEAD.length), FILE_HEAD);
        } catch (IOException e) {
            return false;
        }
    }

    private static boolean isEmptyFile(Path file) {
        try {
            return Files.isRegularFile(file) && Files.size(file) == 0;
        } catch (IOException e) {
            return false;
        }
    }

    @Override
    public Optional<String> explain(SQLException error) {
        int code = error.getErrorCode() & 0xFF;
        if (code == SQLiteErrorCode.SQLITE_CANTOPEN.code) {
            return Optional.of("there is no such database file, or its folder isn't there");
        }
        if (code == SQLiteErrorCode.SQLITE_NOTADB.code) {
            return Optional.of("the file is no SQLite database, or an encrypted one");
        }
        if (code == SQLiteErrorCode.SQLITE_BUSY.code || code == SQLiteErrorCode.SQLITE_LOCKED.code) {
            return Optional.of("the database is locked by another process; try again when it has ended");
        }
        if (code == SQLiteErrorCode.SQLITE_FULL.code) {
            return Optional.of("the disk is full");
        }
        return Optional.empty();
    }

    @Override
    public void prepareReading(Connection connection) throws SQLException {
        // The first read begins a transaction, and all later ones see the database as of then.
        try (Statement statement = connection.createStatement()) {
            statement.executeQuery("SELECT COUNT(*) FROM sqlite_schema").close();
        }
    }

    @Override
    public Catalogue catalogue(Connection connection) {
        return new SqliteCatalogue(connection);
    }

    @Override
    public String quote(String name) {
        return '"' + name.replace("\"", "\"\"") + '"';
    }

    @Override
    public CellReader reader(ColumnDefinition column) {
        return new SqliteCellReader(column.type());
    }

    @Override
    public LogicalType queried(ResultSetMetaData columns, int index) throws SQLException {
        return SqliteTypes.logical(columns.getColumnTypeName(index));
    }

    @Override
    public CellBinder binder(TableName table, ColumnDefinition column, LoadNotes notes) {
        return SqliteCellBinders.of(table, column, notes);
    }

    @Override
    public TableDefinition adapt(TableDefinition table, LoadNotes notes) {
        return new SqliteAdapting(this, notes).adapt(table);
    }

    @Override
    public List<String> createStatements(TableDefinition table, LoadNotes notes) {
        List<String> parts = new ArrayList<>();
        // SQLite adds no key to a table that is there, so all of them stand here
        for (ColumnDefinition column : table.columns()) {
            parts.add(SqliteColumnSql.of(this, table, column));
        }
        table.primaryKey()
                .filter(key -> !SqliteColumnSql.hasCounter(table))
                .ifPresent(key -> parts.add(sql.primaryKey(key)));
        table.uniqueKeys().forEach(key -> parts.add(sql.unique(key)));
        table.checks().forEach(check -> parts.add(sql.check(check)));
        table.foreignKeys().forEach(key -> parts.add(sql.foreignKey(key)));
        return List.of("CREATE TABLE " + quote(table.name()) + " (\n  " + String.join(",\n  ", parts) + "\n)");
    }

    @Override
    public List<String> keyStatements(TableDefinition table) {
        return table.indexes().stream().map(i -> sql.index(table.name(), i)).toList();
    }

    @Override
    public List<String> referenceStatements(TableDefinition table) {
        return List.of();
    }

    @Override
    public void advanceCounters(Connection connection, TableDefinition table) throws SQLException {
        for (ColumnDefinition column : table.columns()) {
            if (column.identity().isEmpty()) {
                continue;
            }
            long last = column.identity().get().next() - column.identity().get().increment();
            String name = table.name().name();
            try (PreparedStatement update =
                            connection.prepareStatement("UPDATE sqlite_sequence SET seq = MAX(seq, ?) WHERE name = ?");
                    PreparedStatement insert =
                            connection.prepareStatement("INSERT INTO sqlite_sequence (seq, name) VALUES (?, ?)")) {
                update.setLong(1, last);
                update.setString(2, name);
                if (update.executeUpdate() == 0) {
                    insert.setLong(1, last);
                    insert.setString(2, name);
                    insert.executeUpdate();
                }
            }
        }
    }

    @Override
    public boolean rollsBackDefinitions() {
        return true;
    }

    @Override
    public void checkReferences(Connection connection, List<TableDefinition> tables) throws SQLException {
        for (TableDefinition table : tables) {
            if (table.foreignKeys().isEmpty()) {
                continue;
            }
            try (Statement statement = connection.createStatement();
                    ResultSet row = statement.executeQuery("PRAGMA foreign_key_check(" + quote(table.name()) + ")")) {
                if (row.next()) {
                    throw new SQLException("the record with the row id " + row.getString(2) + " of table "
                            + table.name() + " refers to a record of " + row.getString(3) + " that isn't there");
                }
            }
        }
    }

    @Override
    public long bytes(Connection connection, TableName table) throws SQLException {
        try (PreparedStatement statement =
                connection.prepareStatement("SELECT SUM(pgsize) FROM dbstat WHERE name = ?")) {
            statement.setString(1, table.name());
            try (ResultSet row = statement.executeQuery()) {
                row.next();
                long bytes = row.getLong(1);
                return row.wasNull() ? -1 : bytes;
            }
        }
    }
}

package org.orderlyferry.databases.h2;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
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
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.PlaceAddress;

/** H2, as a file, in memory or as a server. */
public final class H2Dialect implements Dialect {

    static final String SYSTEM = "H2";

    private static final String PREFIX = "jdbc:h2:";
    private static final String FILE_ENDING = ".mv.db";
    private static final byte[] FILE_HEAD = "H:2,".getBytes(StandardCharsets.US_ASCII);

    /** Isolation level of the driver by which all tables are read as of one moment. */
    private static final int SNAPSHOT = 6;

    private final DefinitionSql sql = new DefinitionSql(this);

    @Override
    public String system() {
        return SYSTEM;
    }

    @Override
    public Optional<Connection> connect(PlaceAddress address, OpenOptions options, boolean write) throws SQLException {
        Optional<String> url = url(address, options, write);
        if (url.isEmpty()) {
            return Optional.empty();
        }
        Properties properties = new Properties();
        if (!url.get().toUpperCase(Locale.ROOT).contains(";USER=")) {
            properties.setProperty("user", "sa");
            properties.setProperty("password", "");
        }
        return Optional.of(new org.h2.Driver().connect(url.get(), properties));
    }

    private static Optional<String> url(PlaceAddress address, OpenOptions options, boolean write) {
        String url;
        if (address.isJdbc()) {
            url = address.opened(options.secrets());
            if (!url.startsWith(PREFIX)) {
                return Optional.empty();
            }
        } else {
            Path file = address.path();
            String name = file.toAbsolutePath().toString();
            boolean mine = Files.exists(file) ? isH2(file) : write && name.endsWith(FILE_ENDING);
            if (!mine || !name.endsWith(FILE_ENDING)) {
                return Optional.empty();
            }
            url = PREFIX + "file:" + name.substring(0, name.length() - FILE_ENDING.length());
        }
        // reading must not make a database; and Ctrl-C must leave it open until the work that it stops has been undone
        return Optional.of(url
                + extra(url, "DB_CLOSE_ON_EXIT=FALSE")
                + extra(url, "TRACE_LEVEL_FILE=0")
                + (write ? "" : extra(url, "IFEXISTS=TRUE")));
    }

    private static String extra(String url, String setting) {
        String key = setting.substring(0, setting.indexOf('='));
        return url.toUpperCase(Locale.ROOT).contains(";" + key + "=") ? "" : ";" + setting;
    }

    private static boolean isH2(Path file) {
        if (!Files.isRegularFile(file)) {
            return false;
        }
        try (InputStream in = Files.newInputStream(file)) {
            return java.util.Arrays.equals(in.readNBytes(FILE_HEAD.length), FILE_HEAD);
        } catch (IOException e) {
            return false;
        }
    }

    @Override
    public Optional<String> explain(SQLException error) {
        return switch (error.getErrorCode()) {
            case 28000 -> Optional.of("wrong user name or password");
            case 90146, 90013 -> Optional.of("there is no such database");
            case 90020 ->
                Optional.of("the database is in use by another process; close it there, or use its server's URL");
            case 90067 ->
                Optional.of("the server can't be reached; is it running at that address? (" + brief(error) + ")");
            default -> Optional.of(fullDisk(error).orElseGet(() -> brief(error)));
        };
    }

    /** H2 tells of a full disk only as the cause of something else. */
    private static Optional<String> fullDisk(SQLException error) {
        for (Throwable cause = error; cause != null; cause = cause.getCause()) {
            if (cause instanceof IOException
                    && String.valueOf(cause.getMessage()).contains("No space left")) {
                return Optional.of("the disk is full");
            }
        }
        return Optional.empty();
    }

    /** H2 puts the whole statement and its version behind the message; a person wants the message. */
    private static String brief(SQLException error) {
        String message = error.getMessage();
        int statement = message.indexOf("; SQL statement:");
        String text = statement < 0 ? message : message.substring(0, statement);
        return text.replaceFirst(" \\[\\d+-\\d+\\]$", "");
    }

    @Override
    public void prepareReading(Connection connection) throws SQLException {
        connection.setReadOnly(true);
        connection.setTransactionIsolation(SNAPSHOT);
        try (Statement statement = connection.createStatement()) {
            // without it, H2 gathers a whole result before it gives the first row
            statement.execute("SET LAZY_QUERY_EXECUTION 1");
        }
    }

    @Override
    public Catalogue catalogue(Connection connection) {
        return new H2Catalogue(connection);
    }

    @Override
    public String quote(String name) {
        return '"' + name.replace("\"", "\"\"") + '"';
    }

    @Override
    public CellReader reader(ColumnDefinition column) {
        return H2Cells.reader(column.type());
    }

    @Override
    public String selected(ColumnDefinition column) {
        return H2Types.isCarriedAsText(column.sourceType())
                ? "CAST(" + quote(column.name()) + " AS CHARACTER VARYING)"
                : quote(column.name());
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
    public String placeholder(ColumnDefinition column) {
        return H2Types.sql(column.type()).equals("JSON") ? "? FORMAT JSON" : "?";
    }

    @Override
    public CellBinder binder(TableName table, ColumnDefinition column, LoadNotes notes) {
        return H2Cells.binder(table, column, notes);
    }

    @Override
    public String insertClause(TableDefinition table) {
        return sql.overriding(table);
    }

    @Override
    public TableDefinition adapt(TableDefinition table, LoadNotes notes) {
        return new H2Adapting(this, notes).adapt(table);
    }

    @Override
    public List<String> createStatements(TableDefinition table, LoadNotes notes) {
        List<String> parts = new ArrayList<>();
        for (ColumnDefinition column : table.columns()) {
            parts.add(H2ColumnSql.of(this, column));
        }
        // here and not afterwards: H2 orders a table's rows by a key that is there from the start
        table.primaryKey().ifPresent(key -> parts.add(sql.primaryKey(key)));
        List<String> statements = new ArrayList<>();
        statements.add("CREATE TABLE " + quote(table.name()) + " (\n  " + String.join(",\n  ", parts) + "\n)");
        statements.addAll(sql.comments(table));
        return statements;
    }

    @Override
    public List<String> keyStatements(TableDefinition table) {
        return sql.keysAndIndexes(table);
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
        return false;
    }

    @Override
    public long bytes(Connection connection, TableName table) throws SQLException {
        try (Statement statement = connection.createStatement();
                ResultSet result =
                        statement.executeQuery("SELECT DISK_SPACE_USED(" + DefinitionSql.string(quote(table)) + ")")) {
            result.next();
            return result.getLong(1);
        }
    }
}

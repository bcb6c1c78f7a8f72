package org.orderlyferry.databases.postgresql;

import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Properties;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.databases.dialect.CatalogueQuery;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.JsonPaths;
import org.orderlyferry.databases.dialect.NamingRules;
import org.orderlyferry.databases.dialect.Reading;
import org.orderlyferry.databases.dialect.Scripting;
import org.orderlyferry.databases.dialect.SystemSql;
import org.orderlyferry.databases.dialect.TypeMapping;
import org.orderlyferry.databases.dialect.Writing;
import org.orderlyferry.databases.sql.SqlToken;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.PlaceAddress;
import org.postgresql.PGConnection;
import org.postgresql.jdbc.AutoSave;

/** PostgreSQL, from version 12 on. */
public final class PostgresDialect implements Dialect {

    static final String SYSTEM = "PostgreSQL";

    private static final String PREFIX = "jdbc:postgresql:";
    private static final String MISSING_DATABASE = "3D000";
    private static final Set<String> DENIED = Set.of("42501");
    private static final int LONGEST_NAME = 63;

    private static final NamingRules NAMING = new NamingRules(
                    LONGEST_NAME,
                    NamingRules.Unit.BYTES,
                    true,
                    true,
                    NamingRules.Scope.SCHEMA,
                    NamingRules.Scope.TABLE,
                    NamingRules.Scope.TABLE,
                    true,
                    c -> c != 0)
            .withOwnColumns("tableoid", "ctid", "xmin", "cmin", "xmax", "cmax");

    private final PostgresReading reading = new PostgresReading(this);
    private final PostgresWriting writing = new PostgresWriting(this);

    @Override
    public String system() {
        return SYSTEM;
    }

    @Override
    public String driver() {
        return "org.postgresql:postgresql";
    }

    @Override
    public Optional<Connection> connect(PlaceAddress address, OpenOptions options, boolean write) throws SQLException {
        if (!isMine(address)) {
            return Optional.empty();
        }
        Connection connection = open(address.opened(options.secrets()));
        adopt(connection, write);
        return Optional.of(connection);
    }

    @Override
    public void adopt(Connection connection, boolean write) throws SQLException {
        // a table that may not be read must not end the snapshot that the others are read in
        connection.unwrap(PGConnection.class).setAutosave(write ? AutoSave.NEVER : AutoSave.ALWAYS);
        PostgresSession.settle(connection, write);
    }

    private static boolean isMine(PlaceAddress address) {
        return address.isJdbc() && address.toString().startsWith(PREFIX);
    }

    private static Connection open(String url) throws SQLException {
        Properties properties = new Properties();
        properties.setProperty("ApplicationName", "Orderly Ferry");
        // the server reads a value's text by the column's own type, so no type of Java's comes in between
        properties.setProperty("stringtype", "unspecified");
        properties.setProperty("reWriteBatchedInserts", "true");
        return new org.postgresql.Driver().connect(url, properties);
    }

    @Override
    public boolean isMissingDatabase(SQLException error) {
        return MISSING_DATABASE.equals(error.getSQLState());
    }

    @Override
    public void makeDatabase(PlaceAddress address, OpenOptions options) throws SQLException {
        // template0 has nothing in it, and so allows any encoding
        onServer(address, options, "CREATE DATABASE %s ENCODING 'UTF8' TEMPLATE template0");
    }

    @Override
    public void removeDatabase(PlaceAddress address, OpenOptions options) throws SQLException {
        onServer(address, options, "DROP DATABASE %s");
    }

    /** Runs a statement in the database that every server has. */
    private void onServer(PlaceAddress address, OpenOptions options, String statement) throws SQLException {
        String url = address.opened(options.secrets());
        Properties parsed = org.postgresql.Driver.parseURL(url, new Properties());
        if (parsed == null) {
            throw new SQLException("the URL can't be read");
        }
        String name = parsed.getProperty("PGDBNAME");
        int query = url.indexOf('?');
        String head = query < 0 ? url : url.substring(0, query);
        int slash = head.lastIndexOf('/');
        String server = head.substring(0, slash + 1) + "postgres" + (query < 0 ? "" : url.substring(query));
        try (Connection connection = open(server);
                Statement make = connection.createStatement()) {
            make.execute(String.format(Locale.ROOT, statement, quote(name)));
        }
    }

    @Override
    public Optional<String> explain(SQLException error) {
        SQLException told = error.getNextException() == null ? error : error.getNextException();
        String state = told.getSQLState() == null ? "" : told.getSQLState();
        String message =
                String.valueOf(told.getMessage()).replaceFirst("^ERROR: ", "").replaceAll("\\s*\\R\\s*", "; ");
        return Optional.of(
                switch (state) {
                    case "28P01", "28000" -> "wrong user name or password (" + message + ")";
                    case MISSING_DATABASE -> "there is no such database (" + message + ")";
                    case "08001" -> "the server can't be reached; is it running at that address? (" + message + ")";
                    case "42501" -> "the user may not do that (" + message + ")";
                    case "3F000" ->
                        "the session's search_path names no schema that is there; currentSchema in the address names one"
                                + " (" + message + ")";
                    case "53100" -> "the server's disk is full (" + message + ")";
                    case "57P01", "57P02", "08006", "08003" ->
                        "the server ended the connection (" + message + "); run it again when the server is well";
                    default -> message;
                });
    }

    @Override
    public boolean isDenied(SQLException error) {
        return DENIED.contains(String.valueOf(error.getSQLState()));
    }

    @Override
    public boolean isLost(SQLException error) {
        String state = String.valueOf(error.getSQLState());
        return state.startsWith("08") || state.startsWith("57P0");
    }

    @Override
    public List<String> databases(Connection connection) throws SQLException {
        List<String> names = new ArrayList<>();
        new CatalogueQuery(connection)
                .each(
                        "SELECT datname FROM pg_database WHERE datallowconn AND NOT datistemplate ORDER BY 1",
                        row -> names.add(row.getString(1)));
        return names;
    }

    @Override
    public boolean namesDatabase(PlaceAddress address) {
        String url = address.toString();
        int query = url.indexOf('?');
        String head = (query < 0 ? url : url.substring(0, query)).substring(PREFIX.length());
        return head.startsWith("//") ? head.indexOf('/', 2) > 0 && !head.endsWith("/") : !head.isEmpty();
    }

    @Override
    public Catalogue catalogue(Connection connection) {
        return new PostgresCatalogue(connection);
    }

    @Override
    public String quote(String name) {
        return '"' + name.replace("\"", "\"\"") + '"';
    }

    @Override
    public Optional<JsonPaths> paths() {
        return Optional.of(new PostgresPaths(types()));
    }

    @Override
    public Scripting scripting() {
        return new PostgresScripting(this);
    }

    /** A name with or without a schema, in quotes or without. */
    @Override
    public Optional<String> collation(String written) {
        List<SqlToken> tokens = SqlToken.of(written);
        boolean whole = tokens.size() == 1 && tokens.get(0).isName()
                || tokens.size() == 3
                        && tokens.get(0).isName()
                        && tokens.get(1).isSymbol(".")
                        && tokens.get(2).isName();
        return Optional.of(tokens).filter(t -> whole).map(t -> t.stream()
                .filter(SqlToken::isName)
                .map(name -> quote(name.text()))
                .collect(Collectors.joining(".")));
    }

    @Override
    public void cancel(Connection connection) throws SQLException {
        connection.unwrap(PGConnection.class).cancelQuery();
    }

    @Override
    public NamingRules naming() {
        return NAMING;
    }

    @Override
    public TypeMapping types() {
        return PostgresTypes.MAPPING;
    }

    @Override
    public Reading reading() {
        return reading;
    }

    @Override
    public Writing writing() {
        return writing;
    }

    /** A name cut to what the server takes, with room for so many more bytes. */
    static String cut(String name, int room) {
        StringBuilder kept = new StringBuilder();
        int bytes = 0;
        for (int point : name.codePoints().toArray()) {
            bytes += Character.toString(point).getBytes(StandardCharsets.UTF_8).length;
            if (bytes > LONGEST_NAME - room) {
                break;
            }
            kept.appendCodePoint(point);
        }
        return kept.toString();
    }

    /** A table as a value of the server's own type for such. */
    static String regclass(SystemSql dialect, TableName table) {
        return DefinitionSql.string(dialect.quote(table)) + "::regclass";
    }
}

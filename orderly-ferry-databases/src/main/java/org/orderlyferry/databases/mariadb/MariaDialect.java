package org.orderlyferry.databases.mariadb;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Properties;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.mariadb.jdbc.Configuration;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.databases.dialect.CatalogueQuery;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.JsonPaths;
import org.orderlyferry.databases.dialect.NamingRules;
import org.orderlyferry.databases.dialect.Reading;
import org.orderlyferry.databases.dialect.Scripting;
import org.orderlyferry.databases.dialect.TypeMapping;
import org.orderlyferry.databases.dialect.Writing;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.PlaceAddress;

/** MariaDB, from version 10.7 on. */
public final class MariaDialect implements Dialect {

    static final String SYSTEM = "MariaDB";

    private static final String PREFIX = "jdbc:mariadb:";
    private static final String OTHER_PREFIX = "jdbc:mysql:";

    private static final int MISSING_DATABASE = 1049;
    private static final int KILLED = 1927;
    private static final Pattern DATABASE = Pattern.compile("(jdbc:[a-z]+:.*?//[^/?]*/)([^/?]+)(\\?.*)?");

    /** Names are told apart by case in some installations and not in others, and columns' never are. */
    private static final NamingRules NAMING = new NamingRules(
                    64,
                    NamingRules.Unit.CHARACTERS,
                    false,
                    false,
                    NamingRules.Scope.TABLE,
                    NamingRules.Scope.SCHEMA,
                    NamingRules.Scope.TABLE,
                    false,
                    c -> c != 0 && c <= 0xFFFF)
            .withOwnColumns("DB_ROW_ID", "DB_TRX_ID", "DB_ROLL_PTR");

    private final MariaReading reading = new MariaReading(this);
    private final MariaWriting writing = new MariaWriting(this);

    @Override
    public String system() {
        return SYSTEM;
    }

    @Override
    public String driver() {
        return "org.mariadb.jdbc:mariadb-java-client";
    }

    @Override
    public Optional<Connection> connect(PlaceAddress address, OpenOptions options, boolean write) throws SQLException {
        String shown = address.toString();
        if (!address.isJdbc() || !shown.startsWith(PREFIX) && !shown.startsWith(OTHER_PREFIX)) {
            return Optional.empty();
        }
        Connection connection = open(address.opened(options.secrets()), write);
        adopt(connection, write);
        return Optional.of(connection);
    }

    @Override
    public void adopt(Connection connection, boolean write) throws SQLException {
        Configuration driver = connection
                .unwrap(org.mariadb.jdbc.Connection.class)
                .getContext()
                .getConf();
        if (!driver.useServerPrepStmts()) {
            throw new SQLException("numbers of single precision would lose digits on the way that its connections take;"
                    + " its URL needs useServerPrepStmts=true");
        }
        if (driver.allowMultiQueries()) {
            throw new SQLException("its connections take several statements for one; its URL mustn't have"
                    + " allowMultiQueries=true");
        }
        MariaSession.settle(connection, write);
    }

    private static Connection open(String address, boolean write) throws SQLException {
        String named = address.startsWith(OTHER_PREFIX) ? PREFIX + address.substring(OTHER_PREFIX.length()) : address;
        // a statement that is sent is one statement, whatever the URL asks for
        String url = named.replaceAll("(?i)([?&]allowMultiQueries=)[^&]*", "$1false");
        Properties properties = new Properties();
        // values go to the server beside the statement and not inside it, and single precision keeps all its digits
        properties.setProperty("useServerPrepStmts", "true");
        // a server that is only read has no file to ask for
        properties.setProperty("allowLocalInfile", String.valueOf(write));
        return new org.mariadb.jdbc.Driver().connect(url, properties);
    }

    @Override
    public Optional<String> explain(SQLException error) {
        SQLException told = error.getNextException() == null ? error : error.getNextException();
        String message = String.valueOf(told.getMessage()).replaceFirst("^\\(conn=\\d+\\) ", "");
        return Optional.of(
                switch (told.getErrorCode()) {
                    case 1045 -> "wrong user name or password (" + message + ")";
                    case 1049 -> "there is no such database (" + message + ")";
                    case 1142, 1143, 1044 -> "the user may not do that (" + message + ")";
                    case 1114 -> "the server's disk is full (" + message + ")";
                    default -> {
                        boolean lost =
                                told.getSQLState() != null && told.getSQLState().startsWith("08");
                        yield lost ? "the server can't be reached, or ended the connection (" + message + ")" : message;
                    }
                });
    }

    @Override
    public boolean isDenied(SQLException error) {
        return error.getErrorCode() == 1142 || error.getErrorCode() == 1143 || error.getErrorCode() == 1044;
    }

    @Override
    public boolean isLost(SQLException error) {
        String state = String.valueOf(error.getSQLState());
        return state.startsWith("08") || error.getErrorCode() == KILLED;
    }

    @Override
    public boolean isMissingDatabase(SQLException error) {
        return error.getErrorCode() == MISSING_DATABASE;
    }

    @Override
    public void makeDatabase(PlaceAddress address, OpenOptions options) throws SQLException {
        onServer(address, options, "CREATE DATABASE %s CHARACTER SET utf8mb4");
    }

    @Override
    public void removeDatabase(PlaceAddress address, OpenOptions options) throws SQLException {
        onServer(address, options, "DROP DATABASE %s");
    }

    /** Runs a statement with the address's database, connected to none. */
    private void onServer(PlaceAddress address, OpenOptions options, String statement) throws SQLException {
        String url = address.opened(options.secrets());
        Matcher matcher = DATABASE.matcher(url);
        if (!matcher.matches()) {
            throw new SQLException("the URL names no database");
        }
        try (Connection connection = open(
                        matcher.group(1) + Optional.ofNullable(matcher.group(3)).orElse(""), true);
                Statement make = connection.createStatement()) {
            make.execute(String.format(Locale.ROOT, statement, quote(matcher.group(2))));
        }
    }

    @Override
    public boolean namesDatabase(PlaceAddress address) {
        return DATABASE.matcher(address.toString()).matches();
    }

    @Override
    public List<String> databases(Connection connection) throws SQLException {
        List<String> names = new ArrayList<>();
        new CatalogueQuery(connection)
                .each(
                        "SELECT SCHEMA_NAME FROM information_schema.SCHEMATA WHERE SCHEMA_NAME NOT IN"
                                + " ('information_schema', 'performance_schema', 'mysql', 'sys') ORDER BY 1",
                        row -> names.add(row.getString(1)));
        return names;
    }

    @Override
    public Catalogue catalogue(Connection connection) {
        return new MariaCatalogue(connection, this::quote);
    }

    @Override
    public String quote(String name) {
        return '`' + name.replace("`", "``") + '`';
    }

    @Override
    public Optional<JsonPaths> paths() {
        return Optional.of(new MariaPaths());
    }

    @Override
    public Scripting scripting() {
        return new MariaScripting(this);
    }

    @Override
    public Optional<String> collation(String written) {
        return Optional.of(written)
                .filter(w -> w.matches("[a-z0-9]+(?:_[a-z0-9]+)*+"))
                .map(CharacterSets::full);
    }

    @Override
    public void cancel(Connection connection) throws SQLException {
        connection.unwrap(org.mariadb.jdbc.Connection.class).cancelCurrentQuery();
    }

    @Override
    public NamingRules naming() {
        return NAMING;
    }

    @Override
    public TypeMapping types() {
        return MariaTypes.MAPPING;
    }

    @Override
    public Reading reading() {
        return reading;
    }

    @Override
    public Writing writing() {
        return writing;
    }
}

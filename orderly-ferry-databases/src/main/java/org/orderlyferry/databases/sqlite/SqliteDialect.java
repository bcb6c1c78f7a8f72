package org.orderlyferry.databases.sqlite;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.JsonPaths;
import org.orderlyferry.databases.dialect.NamingRules;
import org.orderlyferry.databases.dialect.Reading;
import org.orderlyferry.databases.dialect.Scripting;
import org.orderlyferry.databases.dialect.TypeMapping;
import org.orderlyferry.databases.dialect.Writing;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.PlaceAddress;
import org.sqlite.SQLiteConfig;
import org.sqlite.SQLiteConnection;
import org.sqlite.SQLiteErrorCode;
import org.sqlite.SQLiteOpenMode;

/** SQLite 3, as a file. */
public final class SqliteDialect implements Dialect {

    static final String SYSTEM = "SQLite";

    /** A URL of a file; others are in memory, of a resource, or a URI of SQLite's own. */
    private static final Pattern FILE_URL = Pattern.compile("jdbc:sqlite:((?!:|file:)[^?]+)", Pattern.DOTALL);

    private static final String PREFIX = "jdbc:sqlite:";
    private static final List<String> ENDINGS = List.of(".sqlite", ".sqlite3", ".db", ".db3");
    private static final byte[] FILE_HEAD = "SQLite format 3\0".getBytes(StandardCharsets.US_ASCII);
    private static final int CACHE_KIB = 64 * 1024;

    private static final NamingRules NAMING = new NamingRules(
            0,
            NamingRules.Unit.CHARACTERS,
            false,
            false,
            NamingRules.Scope.SCHEMA,
            NamingRules.Scope.TABLE,
            NamingRules.Scope.TABLE,
            true,
            c -> c != 0);

    private final SqliteReading reading = new SqliteReading(this);
    private final SqliteWriting writing = new SqliteWriting(this);

    @Override
    public String system() {
        return SYSTEM;
    }

    @Override
    public String driver() {
        return "org.xerial:sqlite-jdbc";
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
        Connection connection =
                config.createConnection(url.replaceAll("(?i)([?&]enable_load_extension=)[^&]*", "$1false"));
        adopt(connection, write);
        return Optional.of(connection);
    }

    @Override
    public void adopt(Connection connection, boolean write) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            // a file of strangers may have views and computed columns that call what isn't harmless
            statement.execute("PRAGMA trusted_schema = OFF");
            // what the address asks for must not let in what a rule refuses
            statement.execute("PRAGMA ignore_check_constraints = OFF");
        }
    }

    @Override
    public Optional<NewFile> newFile(PlaceAddress address) {
        if (address.isJdbc()) {
            return named(address.toString()).filter(f -> !Files.exists(f)).map(f -> new NewFile(f, false));
        }
        return !Files.exists(address.path()) && isMine(address.path(), true)
                ? Optional.of(new NewFile(address.path(), false))
                : Optional.empty();
    }

    /** The file that a URL names; nothing where it names none, or one that SQLite finds in another way. */
    private static Optional<Path> named(String url) {
        Matcher matcher = FILE_URL.matcher(url);
        try {
            return matcher.matches() ? Optional.of(Path.of(matcher.group(1))) : Optional.empty();
        } catch (InvalidPathException e) {
            return Optional.empty();
        }
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
        // the driver puts its code before the message, and a person wants the message
        String message = String.valueOf(error.getMessage());
        return Optional.of(message.replaceFirst("^\\[SQLITE_[A-Z_]+\\]\\s*", ""));
    }

    @Override
    public boolean isDenied(SQLException error) {
        return false;
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
    public Optional<JsonPaths> paths() {
        return Optional.of(new SqlitePaths());
    }

    @Override
    public Scripting scripting() {
        return new SqliteScripting();
    }

    @Override
    public Optional<String> collation(String written) {
        return Optional.of(written.toUpperCase(Locale.ROOT)).filter(List.of("BINARY", "NOCASE", "RTRIM")::contains);
    }

    @Override
    public void cancel(Connection connection) throws SQLException {
        connection.unwrap(SQLiteConnection.class).getDatabase().interrupt();
    }

    @Override
    public NamingRules naming() {
        return NAMING;
    }

    @Override
    public TypeMapping types() {
        return SqliteTypes.MAPPING;
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

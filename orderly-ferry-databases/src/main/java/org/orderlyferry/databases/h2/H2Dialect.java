package org.orderlyferry.databases.h2;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Locale;
import java.util.Optional;
import java.util.Properties;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.h2.engine.SessionLocal;
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

/** H2, as a file, in memory or as a server. */
public final class H2Dialect implements Dialect {

    static final String SYSTEM = "H2";

    private static final String PREFIX = "jdbc:h2:";
    /** A URL of a file, with or without the word; what has another word in front is kept elsewhere, or otherwise. */
    private static final Pattern FILE_URL =
            Pattern.compile("jdbc:h2:(?:file:)?((?![a-zA-Z]+:)[^;]+)(?:;.*)?", Pattern.DOTALL);

    private static final String FILE_ENDING = ".mv.db";
    private static final byte[] FILE_HEAD = "H:2,".getBytes(StandardCharsets.US_ASCII);

    /** What is to be run on connecting; a backslash keeps a semicolon from ending it. */
    private static final Pattern INIT = Pattern.compile("(?i);INIT=((?:[^;\\\\]++|\\\\.)*+)");

    /** The compatibility mode in which a text of no characters is stored as a null. */
    private static final String EMPTY_IS_NULL = "Oracle";

    /** What shows the tables of definitions as they were in versions before 2.0. */
    private static final Pattern OLD_DEFINITIONS = Pattern.compile("(?i);OLD_INFORMATION_SCHEMA=[^;]*");

    private static final int NOT_ENOUGH_RIGHTS = 90096;
    private static final int ADMINISTRATORS_ONLY = 90040;
    private static final int WRONG_USER = 28_000;

    private static final String NO_LOG = "TRACE_LEVEL_FILE=0";

    private static final NamingRules NAMING = new NamingRules(
            256,
            NamingRules.Unit.CHARACTERS,
            true,
            true,
            NamingRules.Scope.SCHEMA,
            NamingRules.Scope.SCHEMA,
            NamingRules.Scope.SCHEMA,
            true,
            c -> c != 0);

    private final H2Reading reading = new H2Reading(this);
    private final H2Writing writing = new H2Writing(this);

    @Override
    public String system() {
        return SYSTEM;
    }

    @Override
    public String driver() {
        return "com.h2database:h2";
    }

    @Override
    public Optional<Connection> connect(PlaceAddress address, OpenOptions options, boolean write) throws SQLException {
        Optional<String> url = url(address, options, write);
        if (url.isEmpty()) {
            return Optional.empty();
        }
        Optional<Path> file = named(url.get());
        if (file.isPresent()) {
            ClosedFile.mustBeWhole(file.get());
        }
        Connection connection = byUser(url.get());
        try {
            adopt(connection, write);
        } catch (SQLException e) {
            connection.close();
            throw e;
        }
        return Optional.of(connection);
    }

    /** Who makes a database and names no user makes it for one called sa, or for one without a name: programs do either. */
    private static Connection byUser(String url) throws SQLException {
        String whole = url + extra(url, NO_LOG);
        if (url.toUpperCase(Locale.ROOT).contains(";USER=")) {
            return opened(whole, new Properties());
        }
        try {
            return opened(whole, user("sa"));
        } catch (SQLException e) {
            if (e.getErrorCode() != WRONG_USER) {
                throw e;
            }
        }
        return opened(whole, user(""));
    }

    private static Properties user(String name) {
        Properties properties = new Properties();
        properties.setProperty("user", name);
        properties.setProperty("password", "");
        return properties;
    }

    /** Only an administrator may say that H2 shall write no log beside the database; any other user connects without. */
    private static Connection opened(String url, Properties properties) throws SQLException {
        try {
            return new org.h2.Driver().connect(url, properties);
        } catch (SQLException e) {
            if (e.getErrorCode() != ADMINISTRATORS_ONLY || !url.endsWith(";" + NO_LOG)) {
                throw e;
            }
            return new org.h2.Driver().connect(url.substring(0, url.length() - NO_LOG.length() - 1), properties);
        }
    }

    @Override
    public void adopt(Connection connection, boolean write) throws SQLException {
        try (Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery(
                        "SELECT S.* FROM INFORMATION_SCHEMA.SETTINGS S WHERE SETTING_NAME = 'MODE'")) {
            if (write && row.next() && EMPTY_IS_NULL.equalsIgnoreCase(row.getString("SETTING_VALUE"))) {
                throw new SQLException("in the mode of Oracle it takes an empty text for none; open it without"
                        + " MODE=Oracle to write to it");
            }
        }
    }

    @Override
    public Optional<NewFile> newFile(PlaceAddress address) {
        return (address.isJdbc() ? named(address.toString()) : Optional.of(address.path()))
                .filter(f -> f.toString().endsWith(FILE_ENDING) && !Files.exists(f))
                .map(f -> new NewFile(f, true));
    }

    /** The file of a database that a URL names; nothing where it names none, or one that H2 finds in another way. */
    private static Optional<Path> named(String url) {
        Matcher matcher = FILE_URL.matcher(url);
        if (!matcher.matches()) {
            return Optional.empty();
        }
        String name = matcher.group(1);
        try {
            return Optional.of(
                    Path.of((name.startsWith("~/") ? System.getProperty("user.home") + name.substring(1) : name)
                            + FILE_ENDING));
        } catch (InvalidPathException e) {
            return Optional.empty();
        }
    }

    private static Optional<String> url(PlaceAddress address, OpenOptions options, boolean write) throws SQLException {
        String url;
        if (address.isJdbc()) {
            url = address.opened(options.secrets());
            if (!url.startsWith(PREFIX)) {
                return Optional.empty();
            }
            url = OLD_DEFINITIONS.matcher(write ? url : readOnly(url)).replaceAll("");
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
                + (write ? "" : extra(url, "IFEXISTS=TRUE"))
                // a file that is only read is opened so that nothing in it can be changed
                + (write || !isFile(url) ? "" : extra(url, "ACCESS_MODE_DATA=r")));
    }

    /** What a URL asks for can't make a database that is read one that is written to. */
    private static String readOnly(String url) throws SQLException {
        Matcher init = INIT.matcher(url);
        if (init.find() && !init.group(1).strip().matches("(?i)SET SCHEMA (\\w+|\"[^\"]+\")")) {
            throw new SQLException(
                    "INIT in the URL of a database that is only read may be SET SCHEMA, and nothing else");
        }
        return url.replaceAll("(?i);ACCESS_MODE_DATA=[^;]*", "");
    }

    private static boolean isFile(String url) {
        return !url.matches("jdbc:h2:(mem|tcp|ssl|zip|nio\\w+):.*");
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
            case WRONG_USER -> Optional.of("wrong user name or password, which stand in its URL as USER and PASSWORD");
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
    public boolean isDenied(SQLException error) {
        return error.getErrorCode() == NOT_ENOUGH_RIGHTS;
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
    public Optional<JsonPaths> paths() {
        return Optional.of(new H2Paths(this));
    }

    @Override
    public Scripting scripting() {
        return new H2Scripting(this);
    }

    @Override
    public void cancel(Connection connection) throws SQLException {
        // an interrupted session ends at its next row, whichever statement it runs
        if (connection.unwrap(org.h2.jdbc.JdbcConnection.class).getSession() instanceof SessionLocal session) {
            session.cancel();
        }
    }

    @Override
    public NamingRules naming() {
        return NAMING;
    }

    @Override
    public TypeMapping types() {
        return H2Types.MAPPING;
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

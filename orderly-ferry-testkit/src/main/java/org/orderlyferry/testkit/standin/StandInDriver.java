package org.orderlyferry.testkit.standin;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.Driver;
import java.sql.DriverManager;
import java.sql.DriverPropertyInfo;
import java.sql.SQLException;
import java.sql.SQLFeatureNotSupportedException;
import java.sql.Statement;
import java.util.Arrays;
import java.util.Optional;
import java.util.Properties;
import java.util.logging.Logger;

/**
 * Connects to stand-ins: {@code jdbc:stand-in:sqlserver:PATH} and {@code jdbc:stand-in:oracle:PATH}, where the path is that of a
 * database file of H2's without its ending, or {@code mem:NAME}. What isn't there is made. Safe for use by several threads.
 */
public final class StandInDriver implements Driver {

    private static final String PREFIX = "jdbc:stand-in:";

    static {
        try {
            DriverManager.registerDriver(new StandInDriver());
        } catch (SQLException e) {
            throw new ExceptionInInitializerError(e);
        }
    }

    /** A system that is stood in for. */
    enum System {
        SQLSERVER(
                "sqlserver",
                "Microsoft SQL Server",
                "dbo",
                "MSSQLServer;DATABASE_TO_UPPER=FALSE;CASE_INSENSITIVE_IDENTIFIERS=TRUE"),
        ORACLE("oracle", "Oracle", "KEEPER", "Oracle");

        private final String word;
        private final String product;
        private final String schema;
        private final String mode;

        System(String word, String product, String schema, String mode) {
            this.word = word;
            this.product = product;
            this.schema = schema;
            this.mode = mode;
        }

        /** What its own driver calls it. */
        String product() {
            return product;
        }
    }

    private static Optional<System> system(String url) {
        return Arrays.stream(System.values())
                .filter(s -> url.startsWith(PREFIX + s.word + ":"))
                .findFirst();
    }

    @Override
    public boolean acceptsURL(String url) {
        return system(url).isPresent();
    }

    @Override
    public Connection connect(String url, Properties properties) throws SQLException {
        Optional<System> system = system(url);
        if (system.isEmpty()) {
            return null;
        }
        String path = url.substring((PREFIX + system.get().word + ":").length());
        // databases in memory are told apart by their names alone
        String place = path.startsWith("mem:") ? path + "-" + system.get().word : path;
        String inner = "jdbc:h2:" + place + ";MODE=" + system.get().mode
                + (path.startsWith("mem:") ? ";DB_CLOSE_DELAY=-1" : "");
        Connection connection = new org.h2.Driver().connect(inner, new Properties());
        try {
            prepare(connection, system.get());
            return new StandIn(connection, system.get(), url).proxy();
        } catch (SQLException e) {
            connection.close();
            throw e;
        }
    }

    private static synchronized void prepare(Connection connection, System system) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            boolean there = statement
                    .executeQuery("SELECT 1 FROM INFORMATION_SCHEMA.SCHEMATA WHERE UPPER(SCHEMA_NAME) = 'SYS'")
                    .next();
            if (!there) {
                statement.execute("CREATE SCHEMA " + system.schema);
                statement.execute("CREATE SCHEMA " + (system == System.SQLSERVER ? "sys" : "SYS"));
                for (String sql : views(system).split(";\n")) {
                    if (!sql.isBlank()) {
                        statement.execute(sql);
                    }
                }
            }
            statement.execute("SET SCHEMA " + system.schema);
        }
    }

    private static String views(System system) {
        try (InputStream script = StandInDriver.class.getResourceAsStream(system.word + ".sql")) {
            return new String(script.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** A number for a thing's whole name, the same each time; called by the views. */
    public static int number(String name) {
        return name.hashCode();
    }

    @Override
    public DriverPropertyInfo[] getPropertyInfo(String url, Properties properties) {
        return new DriverPropertyInfo[0];
    }

    @Override
    public int getMajorVersion() {
        return 1;
    }

    @Override
    public int getMinorVersion() {
        return 0;
    }

    @Override
    public boolean jdbcCompliant() {
        return false;
    }

    @Override
    public Logger getParentLogger() throws SQLFeatureNotSupportedException {
        throw new SQLFeatureNotSupportedException();
    }
}

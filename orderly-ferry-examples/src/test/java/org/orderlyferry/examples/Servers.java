package org.orderlyferry.examples;

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
 * others: {@code FERRY_TEST_POSTGRES_URL}, the JDBC URL of a database whose user may create databases.
 */
final class Servers {

    private static final AtomicInteger NUMBER = new AtomicInteger();
    private static EmbeddedPostgres postgres;

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

    /** The URL of a new, empty database on PostgreSQL. */
    static String newPostgres() throws SQLException {
        String url = postgresUrl();
        String name = "ferry_" + ProcessHandle.current().pid() + "_" + NUMBER.incrementAndGet();
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement()) {
            statement.execute("CREATE DATABASE " + name + " TEMPLATE template0 ENCODING 'UTF8'");
        }
        return url.replaceFirst("/postgres\\?", "/" + name + "?");
    }
}

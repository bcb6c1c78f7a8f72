package org.orderlyferry.testkit.servers;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.concurrent.atomic.AtomicInteger;

/**
 * Real servers, each started once for all tests, on a free port and in a temporary folder. The environment may name
 * others by JDBC URLs whose user may create databases: {@code FERRY_TEST_POSTGRES_URL}, {@code FERRY_TEST_MARIADB_URL}.
 */
public final class Servers {

    private static final AtomicInteger NUMBER = new AtomicInteger();
    private static LocalPostgres postgres;
    private static LocalMaria maria;

    private Servers() {}

    private static synchronized String postgresUrl() {
        String given = System.getenv("FERRY_TEST_POSTGRES_URL");
        if (given != null) {
            return given;
        }
        if (postgres == null) {
            postgres = LocalPostgres.start("fsync=off", "full_page_writes=off", "autovacuum=off");
            Runtime.getRuntime().addShutdownHook(new Thread(postgres::close));
        }
        return postgres.url("postgres");
    }

    private static synchronized String mariaUrl() {
        String given = System.getenv("FERRY_TEST_MARIADB_URL");
        if (given != null) {
            return given;
        }
        if (maria == null) {
            // the room for tables without files of their own is small, so that a test can fill it up
            maria = LocalMaria.start(
                    "--innodb-data-file-path=ibdata1:12M:autoextend:max:40M",
                    "--local-infile=1",
                    "--innodb-flush-log-at-trx-commit=2",
                    "--innodb-flush-method=nosync",
                    "--innodb-doublewrite=0",
                    "--sync-frm=0",
                    "--max-allowed-packet=512M");
            Runtime.getRuntime().addShutdownHook(new Thread(maria::close));
        }
        return maria.url("test");
    }

    /** The URL of a new, empty database on MariaDB. */
    public static String newMaria() throws SQLException {
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
    public static String newPostgres() throws SQLException {
        String url = postgresUrl();
        String name = newName();
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement()) {
            statement.execute("CREATE DATABASE " + name + " TEMPLATE template0 ENCODING 'UTF8'");
        }
        return url.replaceFirst("/[^/?]*\\?", "/" + name + "?");
    }
}

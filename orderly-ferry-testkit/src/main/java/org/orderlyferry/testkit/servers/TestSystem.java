package org.orderlyferry.testkit.servers;

import java.nio.file.Path;
import java.sql.SQLException;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;

/**
 * The database systems that tests have real databases of: the one list of them, to which a new dialect's system is added.
 * A test of the databases' module fails while a dialect's system is missing here.
 */
public enum TestSystem {
    H2("H2", false),
    SQLITE("SQLite", false),
    POSTGRESQL("PostgreSQL", true),
    MARIADB("MariaDB", true);

    private static final AtomicInteger NUMBER = new AtomicInteger();

    private final String system;
    private final boolean server;

    TestSystem(String system, boolean server) {
        this.system = system;
        this.server = server;
    }

    /** The one that a dialect calls so. */
    public static TestSystem of(String system) {
        return Stream.of(values())
                .filter(s -> s.system.equals(system))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("no test has a database of " + system));
    }

    /** All systems' names, as dialects give them; only some where the environment says so, as in {@code FERRY_TEST_SYSTEMS=H2,SQLite}. */
    public static Stream<String> names() {
        return wanted().map(TestSystem::toString);
    }

    /** The names of those that run as servers. */
    public static Stream<String> serverNames() {
        return wanted().filter(s -> s.server).map(TestSystem::toString);
    }

    private static Stream<TestSystem> wanted() {
        String only = System.getenv("FERRY_TEST_SYSTEMS");
        return Stream.of(values())
                .filter(s -> only == null || List.of(only.split(",")).contains(s.system));
    }

    /**
     * The JDBC URL of a new, empty database.
     *
     * @param folder where those that are files stand
     */
    public String fresh(Path folder) {
        Path file = folder.resolve(system.toLowerCase(Locale.ROOT) + "-" + NUMBER.incrementAndGet());
        try {
            return switch (this) {
                case H2 -> "jdbc:h2:" + file + ";USER=sa";
                case SQLITE -> "jdbc:sqlite:" + file + ".sqlite";
                case POSTGRESQL -> Servers.newPostgres();
                case MARIADB -> Servers.newMaria();
            };
        } catch (SQLException e) {
            throw new IllegalStateException(system + " has no new database", e);
        }
    }

    /** A name in quotes, as a test's own SQL has it. */
    public String quote(String name) {
        return this == MARIADB ? '`' + name.replace("`", "``") + '`' : '"' + name.replace("\"", "\"\"") + '"';
    }

    /** Whether it runs as a server. */
    public boolean isServer() {
        return server;
    }

    @Override
    public String toString() {
        return system;
    }
}

package org.orderlyferry.testkit.herbarium;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;

/**
 * Makes the Quillmoor Herbarium's old system: an H2 database with thirteen tables of made-up records. The same seed and
 * sizes give the same records, to the bit.
 *
 * <pre>{@code
 * new Herbarium().readings(5_000_000).create(Path.of("herbarium.mv.db"));
 * }</pre>
 */
public final class Herbarium {

    private static final int SPECIMENS = 1_000;
    private static final long READINGS = 2_000;
    private static final String ENDING = ".mv.db";

    private int specimens = SPECIMENS;
    private long readings = READINGS;
    private boolean commonDates;

    /** How many specimens; other tables grow with them. */
    public Herbarium specimens(int count) {
        specimens = count;
        return this;
    }

    /** How many rows the large table, {@code chamber_reading}, has. */
    public Herbarium readings(long count) {
        readings = count;
        return this;
    }

    /** Whether dates are left out that some systems don't have: those before the year 1 and after 9999. */
    public Herbarium commonDates(boolean only) {
        commonDates = only;
        return this;
    }

    /**
     * Makes the database.
     *
     * @param file where to; ends in {@code .mv.db}
     */
    public void create(Path file) throws SQLException {
        String name = file.toAbsolutePath().toString();
        if (!name.endsWith(ENDING)) {
            throw new IllegalArgumentException("an H2 database file ends in " + ENDING + ": " + file);
        }
        String url = "jdbc:h2:file:" + name.substring(0, name.length() - ENDING.length());
        try (Connection connection = DriverManager.getConnection(url, "sa", "")) {
            create(connection);
        }
    }

    /** Makes the tables and their records in an open H2 database. */
    public void create(Connection connection) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(tables());
            // references are checked once, at the end, where they can hold
            statement.execute("SET REFERENTIAL_INTEGRITY FALSE");
            connection.setAutoCommit(false);
            new Records(connection, specimens, readings).insert();
            if (commonDates) {
                statement.execute("UPDATE \"calibration\" SET \"day\" = NULL, \"moment\" = NULL WHERE \"name\" IN"
                        + " ('smallest', 'largest', 'tiny')");
            }
            connection.commit();
            statement.execute("SET REFERENTIAL_INTEGRITY TRUE");
            connection.commit();
        }
    }

    private static String tables() {
        try (InputStream in = Herbarium.class.getResourceAsStream("tables.sql")) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}

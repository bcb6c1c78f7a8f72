package org.orderlyferry.bench;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Locale;

/** The table that is measured with: ten columns of the kinds that most tables are made of. */
final class SampleTable {

    static final String NAME = "reading";

    private static final String KEYED =
            """
            CREATE TABLE %s (
              id BIGINT PRIMARY KEY, code VARCHAR(12), note TEXT, amount INTEGER, price NUMERIC(12,2),
              ratio DOUBLE PRECISION, day DATE, moment %s, flag BOOLEAN, remark TEXT)""";

    private SampleTable() {}

    static String create(String name, boolean maria) {
        return String.format(Locale.ROOT, KEYED, name, maria ? "DATETIME(6)" : "TIMESTAMP(6)");
    }

    /** Fills a table of PostgreSQL with so many rows; a fifth of the remarks are null, others hold quotes. */
    static void fill(Connection connection, String name, long rows) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(
                    "INSERT INTO " + name + " SELECT i, 'QM-' || lpad(i::text, 8, '0'), 'drawer ' || i % 977 ||"
                            + " ' of the herbarium', i % 100000, (i % 1000000) / 7.0, i / 3.0::float8, date '1990-01-01' + (i %"
                            + " 12000)::int, timestamp '2001-02-03 04:05:06' + i * interval '1.000417 second', i % 3 = 0,"
                            + " CASE WHEN i % 5 = 0 THEN NULL WHEN i % 7 = 0 THEN 'it said \"moss\", and, later, \"fern\" ' || i"
                            + " ELSE 'plain remark number ' || i END FROM generate_series(1, " + rows + ") i");
            statement.execute("ANALYZE " + name);
        }
    }

    /** What many do today: a prepared INSERT, a thousand rows at a time. */
    static void insertLoop(String from, String to, String target, String name, long rows, boolean oneTransaction)
            throws SQLException {
        try (Connection source = DriverManager.getConnection(from);
                Connection connection = DriverManager.getConnection(to);
                Statement read = source.createStatement();
                PreparedStatement insert =
                        connection.prepareStatement("INSERT INTO " + target + " VALUES (?,?,?,?,?,?,?,?,?,?)")) {
            source.setAutoCommit(false);
            connection.setAutoCommit(false);
            read.setFetchSize(1_000);
            try (var row = read.executeQuery("SELECT * FROM " + name + " WHERE id <= " + rows)) {
                int pending = 0;
                while (row.next()) {
                    for (int i = 1; i <= 10; i++) {
                        insert.setObject(i, row.getObject(i));
                    }
                    insert.addBatch();
                    if (++pending % 1_000 == 0) {
                        insert.executeBatch();
                        if (!oneTransaction) {
                            connection.commit();
                        }
                    }
                }
                insert.executeBatch();
            }
            connection.commit();
        }
    }
}

package org.orderlyferry.testkit.standin;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Properties;

/**
 * A stand-in whose catalogue can be written to, so that it tells of what H2 hasn't. Tables that are made after it was opened aren't
 * told of. For one thread.
 */
public final class MadeUpCatalogue implements AutoCloseable {

    private final Connection inner;
    private final Connection standIn;

    /**
     * A stand-in in memory.
     *
     * @param system {@code sqlserver} or {@code oracle}
     * @param tables statements that make tables, in H2's words
     */
    public MadeUpCatalogue(String system, String name, String... tables) throws SQLException {
        standIn = new StandInDriver().connect("jdbc:stand-in:" + system + ":mem:" + name, new Properties());
        inner = standIn.unwrap(org.h2.jdbc.JdbcConnection.class);
        execute(tables);
        List<String> views = new ArrayList<>();
        try (Statement statement = inner.createStatement();
                ResultSet row =
                        statement.executeQuery("SELECT TABLE_SCHEMA, TABLE_NAME FROM INFORMATION_SCHEMA.VIEWS WHERE"
                                + " UPPER(TABLE_SCHEMA) = 'SYS'")) {
            while (row.next()) {
                views.add("\"" + row.getString(1) + "\".\"" + row.getString(2) + "\"");
            }
        }
        for (String view : views) {
            String kept = view.substring(0, view.length() - 1) + "_KEPT\"";
            execute("CREATE TABLE " + kept + " AS SELECT * FROM " + view);
        }
        widen();
        for (String view : views) {
            String kept = view.substring(0, view.length() - 1) + "_KEPT\"";
            execute("DROP VIEW " + view, "ALTER TABLE " + kept + " RENAME TO " + view.substring(view.indexOf('.') + 1));
        }
    }

    /** Room for whatever is made up. */
    private void widen() throws SQLException {
        List<String> statements = new ArrayList<>();
        try (Statement statement = inner.createStatement();
                ResultSet row = statement.executeQuery(
                        "SELECT TABLE_SCHEMA, TABLE_NAME, COLUMN_NAME FROM"
                                + " INFORMATION_SCHEMA.COLUMNS WHERE RIGHT(TABLE_NAME, 5) = '_KEPT' AND DATA_TYPE LIKE 'CHARACTER%'")) {
            while (row.next()) {
                statements.add("ALTER TABLE \"" + row.getString(1) + "\".\"" + row.getString(2) + "\" ALTER COLUMN \""
                        + row.getString(3) + "\" SET DATA TYPE VARCHAR(4000)");
            }
        }
        execute(statements.toArray(String[]::new));
    }

    /** The stand-in's connection. */
    public Connection connection() {
        return standIn;
    }

    /** Changes what the catalogue tells, or what a table holds. */
    public void execute(String... statements) throws SQLException {
        try (Statement statement = inner.createStatement()) {
            for (String sql : statements) {
                statement.execute(sql);
            }
        }
    }

    @Override
    public void close() throws SQLException {
        standIn.close();
    }
}

package org.orderlyferry.databases;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.model.TableName;

/**
 * A small table in a target whose definitions no rollback undoes: it names the tables of a load that is under way, so
 * that those of a load that was killed are never taken for whole ones. It goes when the load ends.
 */
final class Ledger {

    private static final TableName NAME = TableName.of("orderly_ferry_ledger");

    private final Dialect dialect;
    private final Connection connection;

    Ledger(Dialect dialect, Connection connection) {
        this.dialect = dialect;
        this.connection = connection;
    }

    boolean isLedger(TableName table) {
        return table.equals(NAME);
    }

    /** The tables that a killed load left incomplete, as SQL names. */
    List<String> unfinished() throws SQLException {
        List<String> names = new ArrayList<>();
        if (!dialect.rollsBackDefinitions()
                && dialect.catalogue(connection).tables().contains(NAME)) {
            try (Statement statement = connection.createStatement();
                    ResultSet result = statement.executeQuery("SELECT table_name FROM " + dialect.quote(NAME))) {
                while (result.next()) {
                    names.add(result.getString(1));
                }
            }
        }
        return names;
    }

    void open(List<TableName> tables) throws SQLException {
        if (dialect.rollsBackDefinitions()) {
            return;
        }
        try (Statement statement = connection.createStatement()) {
            statement.execute("CREATE TABLE " + dialect.quote(NAME) + " (" + "table_name VARCHAR(1000) NOT NULL)");
        }
        try (PreparedStatement insert =
                connection.prepareStatement("INSERT INTO " + dialect.quote(NAME) + " VALUES (?)")) {
            for (TableName table : tables) {
                insert.setString(1, dialect.quote(table));
                insert.addBatch();
            }
            insert.executeBatch();
        }
        connection.commit();
    }

    void close() throws SQLException {
        if (!dialect.rollsBackDefinitions()) {
            try (Statement statement = connection.createStatement()) {
                statement.execute("DROP TABLE IF EXISTS " + dialect.quote(NAME));
            }
        }
    }
}

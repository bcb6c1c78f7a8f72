package org.orderlyferry.testkit.servers;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;

/** What tests ask databases for directly, past the tool. */
public final class Databases {

    private Databases() {}

    /** Connects. */
    public static Connection connect(String url) throws SQLException {
        return url.startsWith("jdbc:h2:") && !url.contains("USER=")
                ? DriverManager.getConnection(url, "sa", "")
                : DriverManager.getConnection(url);
    }

    /** Runs statements. */
    public static void run(String url, String... statements) throws SQLException {
        try (Connection connection = connect(url);
                Statement statement = connection.createStatement()) {
            for (String sql : statements) {
                statement.execute(sql);
            }
        }
    }

    /** A query's rows, each with blanks between its values. */
    public static List<String> rows(String url, String sql) throws SQLException {
        List<String> rows = new ArrayList<>();
        try (Connection connection = connect(url);
                Statement statement = connection.createStatement();
                ResultSet result = statement.executeQuery(sql)) {
            while (result.next()) {
                List<String> values = new ArrayList<>();
                for (int i = 1; i <= result.getMetaData().getColumnCount(); i++) {
                    values.add(String.valueOf(result.getString(i)));
                }
                rows.add(String.join(" ", values));
            }
        }
        return rows;
    }
}

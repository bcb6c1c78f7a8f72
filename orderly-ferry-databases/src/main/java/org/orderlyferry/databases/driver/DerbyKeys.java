package org.orderlyferry.databases.driver;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.HashSet;
import java.util.Set;

/**
 * Which indexes of Derby's are those of unique keys: its driver says of a key whose columns may be null that its index isn't
 * unique.
 */
final class DerbyKeys {

    private static final String INDEXES = "SELECT g.CONGLOMERATENAME FROM SYS.SYSCONSTRAINTS c"
            + " JOIN SYS.SYSKEYS k ON k.CONSTRAINTID = c.CONSTRAINTID"
            + " JOIN SYS.SYSCONGLOMERATES g ON g.CONGLOMERATEID = k.CONGLOMERATEID"
            + " WHERE c.TYPE = 'U'";

    private DerbyKeys() {}

    /** Their names, which Derby gives by itself and to no two. */
    static Set<String> indexes(Connection connection) throws SQLException {
        Set<String> names = new HashSet<>();
        try (Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery(INDEXES)) {
            while (row.next()) {
                names.add(row.getString(1));
            }
        }
        return names;
    }
}

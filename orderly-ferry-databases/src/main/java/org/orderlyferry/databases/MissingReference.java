package org.orderlyferry.databases;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.TableDefinition;

/** Finds a record that refers to one that isn't there: systems say that there is one, but often not which. */
public final class MissingReference {

    private final Dialect dialect;
    private final Connection connection;

    public MissingReference(Dialect dialect, Connection connection) {
        this.dialect = dialect;
        this.connection = connection;
    }

    /** The first one in any of the tables, as a sentence. */
    public Optional<String> find(Collection<TableDefinition> tables) throws SQLException {
        for (TableDefinition table : tables) {
            for (ForeignKey key : table.foreignKeys()) {
                Optional<String> found = find(table, key);
                if (found.isPresent()) {
                    return found;
                }
            }
        }
        return Optional.empty();
    }

    private Optional<String> find(TableDefinition table, ForeignKey key) throws SQLException {
        List<String> shown = new ArrayList<>();
        List<String> given = new ArrayList<>();
        List<String> same = new ArrayList<>();
        for (int i = 0; i < key.columns().size(); i++) {
            String column = "c." + dialect.quote(key.columns().get(i));
            shown.add(column);
            given.add(column + " IS NOT NULL");
            same.add("p." + dialect.quote(key.targetColumns().get(i)) + " = " + column);
        }
        String sql = "SELECT " + String.join(", ", shown) + " FROM " + dialect.quote(table.name()) + " c WHERE "
                + String.join(" AND ", given) + " AND NOT EXISTS (SELECT 1 FROM " + dialect.quote(key.target())
                + " p WHERE " + String.join(" AND ", same) + ")";
        try (Statement statement = connection.createStatement()) {
            statement.setMaxRows(1);
            try (ResultSet row = statement.executeQuery(sql)) {
                if (!row.next()) {
                    return Optional.empty();
                }
                List<String> values = new ArrayList<>();
                for (int i = 0; i < key.columns().size(); i++) {
                    values.add(key.columns().get(i) + " = " + row.getString(i + 1));
                }
                return Optional.of("table " + table.name() + " has a record with " + String.join(", ", values)
                        + ", which refers to a record of " + key.target() + " that isn't there");
            }
        }
    }
}

package org.orderlyferry.databases.sqlite;

import java.sql.SQLException;
import java.util.HashMap;
import java.util.Map;
import org.orderlyferry.databases.dialect.CatalogueQuery;
import org.orderlyferry.record.text.AsciiCase;

/**
 * The statements by which tables and indexes were made, which SQLite keeps: read once, since it goes through all of them to
 * find one.
 */
final class KeptTexts {

    private final Map<String, String> tables = new HashMap<>();
    private final Map<String, String> indexes = new HashMap<>();
    private final Map<String, String> spelled = new HashMap<>();

    KeptTexts(CatalogueQuery query) throws SQLException {
        query.each("SELECT type, name, sql FROM sqlite_schema WHERE type IN ('table', 'index')", row -> {
            String name = row.getString(2);
            String sql = row.getString(3) == null ? "" : row.getString(3);
            if (row.getString(1).equals("index")) {
                indexes.put(name, sql);
            } else {
                tables.put(name, sql);
                // SQLite takes these letters alone for the same in both cases
                spelled.put(AsciiCase.small(name), name);
            }
        });
    }

    /** How a table was made; empty where there is none. */
    String ofTable(String name) {
        return tables.getOrDefault(name, "");
    }

    /** How an index was made; empty where a key brought it along. */
    String ofIndex(String name) {
        return indexes.getOrDefault(name, "");
    }

    /** A table's name as it was given when the table was made; a reference may write it in other cases of its letters. */
    String spelled(String table) {
        return spelled.getOrDefault(AsciiCase.small(table), table);
    }

    boolean hasCounters() {
        return tables.containsKey("sqlite_sequence");
    }
}

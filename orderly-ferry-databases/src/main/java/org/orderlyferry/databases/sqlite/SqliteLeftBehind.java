package org.orderlyferry.databases.sqlite;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.orderlyferry.databases.dialect.CatalogueQuery;
import org.orderlyferry.databases.dialect.NotCarried;
import org.orderlyferry.databases.sql.SqlToken;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;

/** What a SQLite database has that definitions of tables have no place for. */
final class SqliteLeftBehind {

    private static final String BY_BYTES = "BINARY";

    private final CatalogueQuery query;

    SqliteLeftBehind(CatalogueQuery query) {
        this.query = query;
    }

    List<LeftBehind> all() throws SQLException {
        List<LeftBehind> all = new ArrayList<>();
        String own = "its SQL is SQLite's own; make it anew at the target";
        query.each(
                "SELECT type, name, tbl_name FROM sqlite_schema WHERE type IN ('view', 'trigger') ORDER BY 1 DESC, 2",
                row -> all.add(
                        row.getString(1).equals("trigger")
                                ? LeftBehind.of(TableName.of(row.getString(3)), "trigger", row.getString(2), own)
                                : new LeftBehind(row.getString(1), row.getString(2), own)));
        query.each(
                "SELECT name FROM pragma_table_list WHERE schema = 'main' AND type = 'virtual' ORDER BY 1",
                row -> all.add(new LeftBehind("virtual table", row.getString(1), "its rows come from a module")));
        query.each(
                "SELECT name FROM pragma_table_list l WHERE schema = 'main' AND type = 'table' AND "
                        + SqliteCatalogue.NAMELESS + " ORDER BY 1",
                row -> all.add(
                        new LeftBehind(
                                "table",
                                row.getString(1).isEmpty() ? "(without a name)" : row.getString(1),
                                "it, or a column of it, is called by an empty text, which no other system has; give it a name")));
        rules(all);
        return all;
    }

    /** What only the text of a statement says of tables and their indexes. */
    private void rules(List<LeftBehind> all) throws SQLException {
        Map<String, CreateTableText> texts = new HashMap<>();
        query.each(
                "SELECT name, sql FROM sqlite_schema WHERE type = 'table' AND sql IS NOT NULL AND name NOT LIKE 'sqlite\\_%'"
                        + " ESCAPE '\\' ORDER BY 1",
                row -> {
                    String table = row.getString(1);
                    List<SqlToken> tokens = SqlToken.of(row.getString(2));
                    texts.put(table, CreateTableText.of(row.getString(2)));
                    if (isStrict(tokens)) {
                        all.add(LeftBehind.of(TableName.of(table), "strictness", NotCarried.STRICT));
                    }
                    for (int i = 1; i < tokens.size(); i++) {
                        if (tokens.get(i).is("CONFLICT") && tokens.get(i - 1).is("ON")) {
                            all.add(LeftBehind.of(TableName.of(table), "on conflict", NotCarried.ON_CONFLICT));
                            break;
                        }
                    }
                });
        // an index that has no statement of its own is that of a key
        query.each(
                "SELECT m.tbl_name, m.name, x.name, x.coll, m.sql IS NULL FROM sqlite_schema m JOIN pragma_index_xinfo(m.name) x"
                        + " WHERE m.type = 'index' AND x.key = 1 AND x.name IS NOT NULL ORDER BY 1, 2, x.seqno",
                row -> {
                    CreateTableText text = texts.get(row.getString(1));
                    String own = text == null ? "" : text.collation(row.getString(3));
                    if (!row.getString(4).equalsIgnoreCase(own.isEmpty() ? BY_BYTES : own)) {
                        boolean key = row.getBoolean(5);
                        all.add(LeftBehind.of(
                                TableName.of(row.getString(1)),
                                key ? "key" : "index",
                                key ? row.getString(3) : row.getString(2),
                                "it compares " + row.getString(3) + " by " + row.getString(4)
                                        + ", and comes as one that compares it as the column does"));
                    }
                });
    }

    /** The word stands behind the columns. */
    private static boolean isStrict(List<SqlToken> tokens) {
        for (int i = tokens.size() - 1; i >= 0 && !tokens.get(i).isSymbol(")"); i--) {
            if (tokens.get(i).is("STRICT")) {
                return true;
            }
        }
        return false;
    }
}

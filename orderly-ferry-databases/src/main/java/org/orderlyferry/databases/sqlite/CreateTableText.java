package org.orderlyferry.databases.sqlite;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.orderlyferry.databases.sql.SqlToken;
import org.orderlyferry.model.CheckConstraint;

/** What only the text of a CREATE TABLE statement tells: constraints' names, checks, and WITHOUT ROWID. */
final class CreateTableText {

    private final String sql;
    private final List<CheckConstraint> checks = new ArrayList<>();
    private final Map<List<String>, String> foreignKeys = new LinkedHashMap<>();
    private final Map<List<String>, String> uniqueKeys = new LinkedHashMap<>();
    private String primaryKey = "";
    private boolean withoutRowid;

    private CreateTableText(String sql) {
        this.sql = sql;
    }

    static CreateTableText of(String sql) {
        CreateTableText text = new CreateTableText(sql);
        List<SqlToken> tokens = SqlToken.of(sql);
        int open = 0;
        while (open < tokens.size() && !tokens.get(open).isSymbol("(")) {
            open++;
        }
        int close = open < tokens.size() ? closing(tokens, open) : tokens.size();
        int start = open + 1;
        int i = start;
        while (i <= close && i < tokens.size()) {
            if (tokens.get(i).isSymbol("(")) {
                i = closing(tokens, i);
            } else if (i == close || tokens.get(i).isSymbol(",")) {
                text.element(tokens.subList(start, i));
                start = i + 1;
            }
            i++;
        }
        for (int k = close; k + 1 < tokens.size(); k++) {
            text.withoutRowid |=
                    tokens.get(k).is("WITHOUT") && tokens.get(k + 1).is("ROWID");
        }
        return text;
    }

    /** The parenthesis that closes the one at open, or the end. */
    private static int closing(List<SqlToken> tokens, int open) {
        int depth = 0;
        for (int i = open; i < tokens.size(); i++) {
            if (tokens.get(i).isSymbol("(")) {
                depth++;
            } else if (tokens.get(i).isSymbol(")") && --depth == 0) {
                return i;
            }
        }
        return tokens.size();
    }

    /** A column or a table constraint: what stands between two commas. */
    private void element(List<SqlToken> tokens) {
        if (tokens.isEmpty()) {
            return;
        }
        String first = tokens.get(0).text().toUpperCase(Locale.ROOT);
        boolean constraint = tokens.get(0).kind() == SqlToken.Kind.WORD
                && List.of("CONSTRAINT", "PRIMARY", "UNIQUE", "CHECK", "FOREIGN")
                        .contains(first);
        List<String> own = constraint ? List.of() : List.of(tokens.get(0).text());
        String name = "";
        for (int i = constraint ? 0 : 1; i < tokens.size(); i++) {
            SqlToken token = tokens.get(i);
            if (token.isSymbol("(")) {
                i = closing(tokens, i);
            } else if (token.is("CONSTRAINT") && i + 1 < tokens.size()) {
                name = tokens.get(++i).text();
            } else if (token.is("CHECK") && i + 1 < tokens.size()) {
                int end = closing(tokens, i + 1);
                String expression = sql.substring(
                        tokens.get(i + 1).end(),
                        tokens.get(Math.min(end, tokens.size() - 1)).start());
                checks.add(new CheckConstraint(name, expression.strip(), SqliteDialect.SYSTEM));
                name = "";
                i = end;
            } else if (token.is("PRIMARY")) {
                primaryKey = name;
                name = "";
            } else if (token.is("UNIQUE")) {
                uniqueKeys.put(constraint ? columns(tokens, i + 1) : own, name);
                name = "";
            } else if (token.is("FOREIGN")) {
                foreignKeys.put(columns(tokens, i + 2), name);
                name = "";
            } else if (token.is("REFERENCES") && !constraint) {
                foreignKeys.put(own, name);
                name = "";
            }
        }
    }

    private static List<String> columns(List<SqlToken> tokens, int open) {
        int close = closing(tokens, open);
        List<String> names = new ArrayList<>();
        for (int i = open + 1; i < close; i++) {
            if (tokens.get(i).isName()
                    && (tokens.get(i - 1).isSymbol("(") || tokens.get(i - 1).isSymbol(","))) {
                names.add(tokens.get(i).text());
            }
        }
        return names;
    }

    boolean isWithoutRowid() {
        return withoutRowid;
    }

    String primaryKeyName() {
        return primaryKey;
    }

    List<CheckConstraint> checks() {
        return checks;
    }

    String foreignKeyName(List<String> columns) {
        return foreignKeys.getOrDefault(columns, "");
    }

    String uniqueName(List<String> columns) {
        return uniqueKeys.getOrDefault(columns, "");
    }
}

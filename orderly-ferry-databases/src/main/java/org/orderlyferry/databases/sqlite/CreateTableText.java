package org.orderlyferry.databases.sqlite;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.databases.sql.SqlToken;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.Deferrability;
import org.orderlyferry.model.GenerationRule;
import org.orderlyferry.model.SqlText;

/** What only the text of a CREATE TABLE statement tells: constraints' names, checks, and WITHOUT ROWID. */
final class CreateTableText {

    private final String sql;
    private final List<CheckConstraint> checks = new ArrayList<>();
    private final Map<List<String>, String> foreignKeys = new LinkedHashMap<>();
    private final Map<List<String>, String> uniqueKeys = new LinkedHashMap<>();
    private final Map<List<String>, Deferrability> deferrable = new LinkedHashMap<>();
    private final Map<String, GenerationRule> generations = new LinkedHashMap<>();
    private final Map<String, String> collations = new LinkedHashMap<>();
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
        List<String> reference = List.of();
        for (int i = constraint ? 0 : 1; i < tokens.size(); i++) {
            SqlToken token = tokens.get(i);
            if (token.is("AS") && !constraint && i + 1 < tokens.size()) {
                i = generation(tokens, i + 1);
            } else if (token.isSymbol("(")) {
                i = closing(tokens, i);
            } else if (token.is("COLLATE") && !constraint && i + 1 < tokens.size()) {
                collations.put(own.get(0), collationNamed(tokens.get(++i).text()));
            } else if (token.is("DEFERRABLE") && !tokens.get(i - 1).is("NOT")) {
                boolean deferred = i + 2 < tokens.size() && tokens.get(i + 2).is("DEFERRED");
                deferrable.put(reference, deferred ? Deferrability.INITIALLY_DEFERRED : Deferrability.DEFERRABLE);
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
                reference = columns(tokens, i + 2);
                foreignKeys.put(reference, name);
                name = "";
            } else if (token.is("REFERENCES") && !constraint) {
                reference = own;
                foreignKeys.put(reference, name);
                name = "";
            }
        }
    }

    /** Takes {@code (expression) STORED}; gives where the expression ends. */
    private int generation(List<SqlToken> tokens, int open) {
        int end = closing(tokens, open);
        boolean stored = end + 1 < tokens.size() && tokens.get(end + 1).is("STORED");
        String expression = sql.substring(
                tokens.get(open).end(),
                tokens.get(Math.min(end, tokens.size() - 1)).start());
        generations.put(
                tokens.get(0).text(),
                new GenerationRule(new SqlText(expression.strip(), SqliteDialect.SYSTEM), stored));
        return end;
    }

    Optional<GenerationRule> generation(String column) {
        return Optional.ofNullable(generations.get(column));
    }

    /** How a column's texts are compared; empty text where nothing is said. */
    /** SQLite's own ones are found by their names in any case; the one that compares bytes is the default. */
    private static String collationNamed(String written) {
        String name = written.toUpperCase(Locale.ROOT);
        return name.equals("BINARY") ? "" : List.of("NOCASE", "RTRIM").contains(name) ? name : written;
    }

    String collation(String column) {
        return collations.getOrDefault(column, "");
    }

    Deferrability deferrability(List<String> columns) {
        return deferrable.getOrDefault(columns, Deferrability.NOT_DEFERRABLE);
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

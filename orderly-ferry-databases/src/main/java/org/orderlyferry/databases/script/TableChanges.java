package org.orderlyferry.databases.script;

import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** What a script's ALTER TABLE changes. */
final class TableChanges {

    /** What ALTER TABLE can do without changing records or definitions. */
    private static final Set<String> HARMLESS_CHANGES = Set.of(
            "OWNER",
            "ENABLE",
            "DISABLE",
            "CLUSTER",
            "SET",
            "REPLICA",
            "VALIDATE",
            "FORCE",
            "NO",
            "REPLICATE",
            "ROW_FORMAT",
            "COMMENT");

    private final ScriptColumns columns;
    private final ScriptStatements statements;

    /**
     * Of one script.
     *
     * @param statements hears of changes that aren't followed
     */
    TableChanges(ScriptColumns columns, ScriptStatements statements) {
        this.columns = columns;
        this.statements = statements;
    }

    /** Takes the rest of an ALTER TABLE. */
    void take(Tokens tokens, Map<TableName, TableDefinition.Builder> tables, long line) {
        tokens.skip("ONLY");
        tokens.skip("IF");
        tokens.skip("EXISTS");
        TableName name = tokens.name();
        TableDefinition.Builder table = tables.get(name);
        while (tokens.hasMore()) {
            int end = tokens.elementEnd();
            String word = tokens.isWord() ? tokens.upper() : "";
            String whole = tokens.text(tokens.start(), tokens.end(end));
            if (!HARMLESS_CHANGES.contains(word) && (table == null || !altered(table, tokens, end, line))) {
                String head = whole.substring(0, Math.min(whole.length(), 60)).replaceAll("\\s+", " ");
                statements.tell("ALTER TABLE " + name + " " + head, "it isn't followed", line);
            }
            tokens.goTo(end);
            if (!tokens.skip(",")) {
                return;
            }
        }
    }

    /** Takes a change of a table; false for one that isn't followed. */
    private boolean altered(TableDefinition.Builder table, Tokens tokens, int end, long line) {
        if (tokens.skip("ADD")) {
            if (columns.isRule(tokens)) {
                columns.rule(table.build().name(), table, tokens, end);
            } else {
                boolean column = tokens.skip("COLUMN");
                if (tokens.skip("IF")) {
                    tokens.skip("NOT");
                    tokens.skip("EXISTS");
                }
                if (!column && !tokens.isName()) {
                    return false;
                }
                columns.column(table, tokens, end, line);
            }
            return true;
        }
        if (tokens.skip("ALTER")) {
            tokens.skip("COLUMN");
            return alterColumn(table, tokens.next().text(), tokens);
        }
        if (tokens.skip("AUTO_INCREMENT")) {
            tokens.skip("=");
            return counted(table, c -> true, tokens);
        }
        if (tokens.skip("MODIFY")) {
            tokens.skip("COLUMN");
            String column = tokens.next().text();
            boolean counter = tokens.text(tokens.start(), tokens.end(end))
                    .toUpperCase(Locale.ROOT)
                    .contains("AUTO_INCREMENT");
            if (counter) {
                identity(table, column, ScriptColumns.PLAIN);
            }
            return counter;
        }
        return false;
    }

    private static boolean alterColumn(TableDefinition.Builder table, String column, Tokens tokens) {
        if (tokens.skip("ADD") && tokens.skip("GENERATED")) {
            boolean always = tokens.skip("ALWAYS");
            tokens.skip("BY");
            tokens.skip("DEFAULT");
            tokens.skip("AS");
            tokens.skip("IDENTITY");
            identity(table, column, CounterText.read(tokens, always));
            return true;
        }
        if (tokens.skip("RESTART")) {
            tokens.skip("WITH");
            return counted(table, c -> c.name().equals(column), tokens);
        }
        if (!tokens.skip("SET")) {
            return false;
        }
        if (tokens.skip("STATISTICS") || tokens.skip("STORAGE") || tokens.skip("COMPRESSION")) {
            return true;
        }
        if (tokens.skip("NOT")) {
            table.columns(table.build().columns().stream()
                    .map(c -> c.name().equals(column)
                            ? c.toBuilder().nullable(false).build()
                            : c)
                    .toList());
            return true;
        }
        if (tokens.skip("DEFAULT") && tokens.isWord() && tokens.upper().equals("NEXTVAL")) {
            identity(table, column, ScriptColumns.PLAIN);
            return true;
        }
        return false;
    }

    /** Takes the value that a counter gives next; one that isn't a whole number of 64 bits isn't followed. */
    private static boolean counted(TableDefinition.Builder table, Predicate<ColumnDefinition> which, Tokens tokens) {
        boolean down = tokens.skip("-");
        String digits = tokens.hasMore() ? tokens.next().text() : "";
        if (!digits.matches("\\d{1,18}")) {
            return false;
        }
        long next = (down ? -1 : 1) * Long.parseLong(digits);
        table.columns(table.build().columns().stream()
                .map(c -> c.identity().isPresent() && which.test(c)
                        ? c.toBuilder()
                                .identity(
                                        c.identity().map(i -> new Identity(i.always(), i.start(), i.increment(), next)))
                                .build()
                        : c)
                .toList());
        return true;
    }

    private static void identity(TableDefinition.Builder table, String column, Identity identity) {
        table.columns(table.build().columns().stream()
                .map(c -> c.name().equals(column)
                        ? c.toBuilder()
                                .identity(Optional.of(identity))
                                .defaultValue(Optional.empty())
                                .build()
                        : c)
                .toList());
    }
}

package org.orderlyferry.databases.script;

import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.IntPredicate;
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
            "ROW_FORMAT");

    /** What stands behind a column's name where no type does. */
    private static final Set<String> UNTYPED =
            Set.of("DEFAULT", "NULL", "NOT", "SET", "DROP", "ADD", "RENAME", "SELECTIVITY", "INVISIBLE", "VISIBLE");

    private final ScriptColumns columns;
    private final DroppedRules dropped;
    private final ScriptStatements statements;
    /** Whether the table that is altered has records so far. */
    private boolean records;

    /**
     * Of one script.
     *
     * @param statements hears of changes that aren't followed
     */
    TableChanges(ScriptColumns columns, DroppedRules dropped, ScriptStatements statements) {
        this.columns = columns;
        this.dropped = dropped;
        this.statements = statements;
    }

    /**
     * Takes the rest of an ALTER TABLE.
     *
     * @param hasRecords whether a table of a name has records so far
     */
    void take(Tokens tokens, MadeTables tables, Predicate<String> hasRecords, long line) {
        tokens.skip("ONLY");
        tokens.skip("IF");
        tokens.skip("EXISTS");
        TableName name = tokens.name();
        TableDefinition.Builder table = tables.get(name);
        records = table != null && hasRecords.test(table.build().name().name());
        if (tokens.skip("WITH")) {
            // whether SQL Server looks at the records that are there
            tokens.next();
        }
        boolean adding = false;
        while (tokens.hasMore()) {
            int end = tokens.elementEnd();
            String word = tokens.isWord() ? tokens.upper() : "";
            // SQL Server's ADD holds for all that follow on it
            boolean more = adding && columns.isAddedWithoutSaying();
            adding = more || word.equals("ADD");
            String whole = tokens.text(tokens.start(), tokens.end(end));
            boolean watched =
                    !more && (word.equals("CHECK") || word.equals("NOCHECK")) && tokens.isNextWord("CONSTRAINT");
            if (watched && word.equals("NOCHECK") && table != null) {
                switchedOff(name, table, tokens.peek(2).text());
            }
            if (!watched
                    && !HARMLESS_CHANGES.contains(word)
                    && (table == null
                            || !(more ? added(table, tokens, end, line) : altered(table, tokens, end, line)))) {
                String head = whole.substring(0, Math.min(whole.length(), 60)).replaceAll("\\s+", " ");
                statements.tell("ALTER TABLE " + name + " " + head, "it isn't followed", line);
            }
            tokens.goTo(end);
            if (!tokens.skip(",")) {
                return;
            }
        }
    }

    /** A rule of SQL Server's that records may break doesn't come. */
    private void switchedOff(TableName name, TableDefinition.Builder table, String rule) {
        if (dropped.named(table, rule)) {
            columns.switchedOff(name, rule);
        }
    }

    /** Takes a change of a table; false for one that isn't followed. */
    private boolean altered(TableDefinition.Builder table, Tokens tokens, int end, long line) {
        if (tokens.skip("ADD")) {
            if (tokens.peek().isSymbol("(")) {
                return each(tokens, last -> added(table, tokens, last, line));
            }
            return added(table, tokens, end, line);
        }
        if (tokens.skip("ALTER")) {
            tokens.skip("COLUMN");
            return alterColumn(table, tokens.next().text(), tokens, end, line);
        }
        if (tokens.skip("AUTO_INCREMENT")) {
            tokens.skip("=");
            return counted(table, c -> true, tokens);
        }
        if (tokens.skip("COMMENT")) {
            tokens.skip("=");
            table.comment(tokens.string());
            return true;
        }
        if (tokens.skip("MODIFY")) {
            if (tokens.peek().isSymbol("(")) {
                return each(tokens, last -> modified(table, tokens, last, line));
            }
            tokens.skip("COLUMN");
            return modified(table, tokens, end, line);
        }
        return tokens.skip("DROP") && dropped(table, tokens);
    }

    /** Takes a rule away; what becomes of a column's records isn't followed. */
    private boolean dropped(TableDefinition.Builder table, Tokens tokens) {
        if (tokens.skip("PRIMARY")) {
            return DroppedRules.primaryKey(table);
        }
        boolean rule = tokens.skip("CONSTRAINT")
                || tokens.skip("CHECK")
                || tokens.skip("INDEX")
                || tokens.skip("KEY")
                || tokens.skip("FOREIGN") && tokens.skip("KEY");
        boolean maybe = rule && tokens.skip("IF") && tokens.skip("EXISTS");
        return rule && tokens.hasMore() && (dropped.named(table, tokens.next().text()) || maybe);
    }

    /** Takes each of Oracle's several changes in parentheses; false if one isn't followed. */
    private static boolean each(Tokens tokens, IntPredicate change) {
        tokens.next();
        boolean all = true;
        do {
            int last = tokens.elementEnd();
            all &= change.test(last);
            tokens.goTo(last);
        } while (tokens.skip(","));
        return all;
    }

    private boolean added(TableDefinition.Builder table, Tokens tokens, int end, long line) {
        if (columns.isRule(tokens)) {
            columns.rule(table.build().name(), table, tokens, end);
            return true;
        }
        boolean column = tokens.skip("COLUMN");
        if (tokens.skip("IF")) {
            tokens.skip("NOT");
            tokens.skip("EXISTS");
        }
        if (!column && !tokens.isName()) {
            return false;
        }
        columns.column(table, tokens, end, line);
        return true;
    }

    /** What a column becomes. */
    private boolean modified(TableDefinition.Builder table, Tokens tokens, int end, long line) {
        String column = tokens.next().text();
        if (tokens.skip("CONSTRAINT")) {
            tokens.next();
        }
        if (tokens.skip("NOT") && tokens.skip("NULL")) {
            nullable(table, column, false);
            return true;
        }
        if (tokens.skip("GENERATED")) {
            boolean always = tokens.skip("ALWAYS");
            tokens.skip("BY");
            tokens.skip("DEFAULT");
            if (tokens.skip("ON")) {
                tokens.skip("NULL");
            }
            tokens.skip("AS");
            boolean counts = tokens.skip("IDENTITY");
            if (counts) {
                identity(table, column, CounterText.read(tokens, always, increment(table, column)));
            }
            return counts;
        }
        boolean typed = tokens.isWord() && !UNTYPED.contains(tokens.upper());
        return typed && columns.changed(table, column, records, tokens, end, line);
    }

    private static long increment(TableDefinition.Builder table, String column) {
        return table.build().columns().stream()
                .filter(c -> c.name().equals(column))
                .flatMap(c -> c.identity().stream())
                .mapToLong(Identity::increment)
                .findFirst()
                .orElse(1);
    }

    private static void nullable(TableDefinition.Builder table, String column, boolean nullable) {
        table.columns(table.build().columns().stream()
                .map(c -> c.name().equals(column)
                        ? c.toBuilder().nullable(nullable).build()
                        : c)
                .toList());
    }

    /** Of values that are made of others by an expression, nothing is known here. */
    private boolean typed(TableDefinition.Builder table, String column, Tokens tokens, int end, long line) {
        boolean computed = (" " + tokens.text(tokens.start(), tokens.end(end)) + " ")
                .replaceAll("\\s", " ")
                .toUpperCase(Locale.ROOT)
                .contains(" USING ");
        return !computed && columns.changed(table, column, records, tokens, end, line);
    }

    private boolean alterColumn(TableDefinition.Builder table, String column, Tokens tokens, int end, long line) {
        if (tokens.skip("TYPE")) {
            return typed(table, column, tokens, end, line);
        }
        if (tokens.skip("DROP")) {
            boolean nulls = tokens.skip("NOT") && tokens.skip("NULL");
            if (nulls) {
                nullable(table, column, true);
            }
            return nulls;
        }
        if (tokens.skip("ADD") && tokens.skip("GENERATED")) {
            boolean always = tokens.skip("ALWAYS");
            tokens.skip("BY");
            tokens.skip("DEFAULT");
            tokens.skip("AS");
            tokens.skip("IDENTITY");
            identity(table, column, columns.counted(table.build().name(), column, tokens, always));
            return true;
        }
        if (tokens.skip("RESTART")) {
            tokens.skip("WITH");
            return counted(table, c -> c.name().equals(column), tokens);
        }
        if (!tokens.skip("SET")) {
            boolean word = tokens.isWord() && !UNTYPED.contains(tokens.upper());
            return word && typed(table, column, tokens, end, line);
        }
        if (tokens.skip("DATA")) {
            return tokens.skip("TYPE") && typed(table, column, tokens, end, line);
        }
        if (tokens.skip("STATISTICS") || tokens.skip("STORAGE") || tokens.skip("COMPRESSION")) {
            return true;
        }
        if (tokens.skip("NOT")) {
            nullable(table, column, false);
            return true;
        }
        if (tokens.skip("DEFAULT") && tokens.isWord() && tokens.upper().equals("NEXTVAL")) {
            columns.takesFrom(
                    tokens.text(tokens.start(), tokens.end(end)), table.build().name(), column);
            identity(table, column, ScriptColumns.PLAIN);
            return true;
        }
        return false;
    }

    /** Takes the value that a counter gives next; one that isn't a whole number of 64 bits isn't followed. */
    static boolean counted(TableDefinition.Builder table, Predicate<ColumnDefinition> which, Tokens tokens) {
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

package org.orderlyferry.databases.script;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.databases.dialect.SystemSql;
import org.orderlyferry.databases.sql.SqlToken;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.Deferrability;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** Keys, references and checks of a table, as they stand in CREATE TABLE and ALTER TABLE. */
final class TableRules {

    private final SystemSql dialect;

    TableRules(SystemSql dialect) {
        this.dialect = dialect;
    }

    /**
     * Whether a rule begins here rather than a column: the same words are names of columns in one system and keywords in
     * another, and what comes next tells.
     */
    boolean begin(Tokens tokens) {
        if (!tokens.isWord()) {
            return false;
        }
        SqlToken next = tokens.peek(1);
        boolean maria = dialect.system().equals("MariaDB");
        boolean sqlServer = isSqlServer();
        return switch (tokens.upper()) {
            case "CONSTRAINT" -> next.isName();
            case "PRIMARY", "FOREIGN" -> next.is("KEY");
            case "UNIQUE" ->
                maria || next.isSymbol("(") || next.is("NULLS") || next.is("KEY") || next.is("INDEX") || isOrder(next);
            case "DEFAULT" -> sqlServer;
            case "CHECK" -> next.isSymbol("(");
            case "EXCLUDE" -> next.is("USING") || next.isSymbol("(");
            case "PERIOD" -> next.is("FOR");
            // MariaDB reserves these words, and only there do they begin a rule
            case "KEY", "FULLTEXT", "SPATIAL" -> maria;
            case "INDEX" -> maria || sqlServer;
            default -> false;
        };
    }

    private boolean isSqlServer() {
        return dialect.system().equals("SQL Server");
    }

    /** Whether it says in which order SQL Server keeps the records. */
    private static boolean isOrder(SqlToken token) {
        return token.is("CLUSTERED") || token.is("NONCLUSTERED");
    }

    private static void order(Tokens tokens) {
        if (tokens.hasMore() && isOrder(tokens.peek())) {
            tokens.next();
        }
    }

    /** Takes the rule that begins here. */
    void take(TableDefinition.Builder table, Tokens tokens, int end) {
        String name = "";
        if (tokens.skip("CONSTRAINT")) {
            name = tokens.next().text();
        }
        if (tokens.skip("PRIMARY")) {
            tokens.skip("KEY");
            order(tokens);
            ignoredName(tokens);
            List<String> columns = columns(tokens);
            table.primaryKey(new Key(name, columns));
            notNull(table, columns);
        } else if (tokens.skip("UNIQUE")) {
            boolean named = tokens.skip("KEY")
                    || tokens.skip("INDEX")
                    || dialect.system().equals("MariaDB");
            if (named && tokens.isName() && !tokens.peek().is("USING")) {
                name = tokens.next().text();
            }
            order(tokens);
            if (tokens.skip("NULLS")) {
                tokens.skip("NOT");
                tokens.skip("DISTINCT");
            }
            unique(table, name, parts(tokens));
        } else if (tokens.skip("FOREIGN")) {
            tokens.skip("KEY");
            ignoredName(tokens);
            List<String> columns = columns(tokens);
            tokens.skip("REFERENCES");
            table.foreignKey(reference(name, columns, tokens, end));
        } else if (tokens.skip("CHECK")) {
            if (tokens.skip("NOT")) {
                // … FOR REPLICATION
                tokens.skip("FOR");
                tokens.skip("REPLICATION");
            }
            check(table, name, tokens);
        } else if (tokens.skip("DEFAULT")) {
            defaultOf(table, tokens, end);
        } else if (tokens.skip("KEY") || tokens.skip("INDEX")) {
            String index = tokens.isName() && !tokens.peek().is("USING")
                    ? tokens.next().text()
                    : "";
            boolean unique = tokens.skip("UNIQUE");
            order(tokens);
            table.index(IndexText.within(index, unique, tokens, end, dialect.system()));
        }
    }

    /** SQL Server's {@code DEFAULT … FOR} a column that is there. */
    private void defaultOf(TableDefinition.Builder table, Tokens tokens, int end) {
        String sql = tokens.expression(end, Set.of("FOR"));
        if (!tokens.skip("FOR") || !tokens.isName()) {
            return;
        }
        String column = tokens.next().text();
        table.columns(table.build().columns().stream()
                .map(c -> c.name().equalsIgnoreCase(column)
                        ? c.toBuilder()
                                .defaultValue(dialect.scripting().defaultValue(sql, c.type()))
                                .build()
                        : c)
                .toList());
    }

    /** MariaDB takes a name there, and makes nothing of it. */
    private static void ignoredName(Tokens tokens) {
        if (tokens.isName() && !tokens.peek().is("USING")) {
            tokens.next();
        }
    }

    /** A key of which some texts count by their beginnings alone is an index. */
    private static void unique(TableDefinition.Builder table, String name, List<IndexDefinition.Part> parts) {
        if (parts.stream().anyMatch(p -> p.prefix() > 0)) {
            table.index(new IndexDefinition(name, true, parts, Optional.empty(), Optional.empty()));
        } else {
            table.unique(new Key(
                    name, parts.stream().map(IndexDefinition.Part::column).toList()));
        }
    }

    private static void notNull(TableDefinition.Builder table, List<String> columns) {
        table.columns(table.build().columns().stream()
                .map(c -> columns.contains(c.name())
                        ? c.toBuilder().nullable(false).build()
                        : c)
                .toList());
    }

    /** Where a reference doesn't say to which columns, it is to the primary key, which a later statement may make. */
    static final String UNSAID = "";

    void check(TableDefinition.Builder table, String name, Tokens tokens) {
        table.check(new CheckConstraint(name, tokens.parenthesis(), dialect.system()));
    }

    static ForeignKey reference(String name, List<String> columns, Tokens tokens, int end) {
        TableName target = tokens.name();
        List<String> targetColumns = tokens.hasMore() && tokens.peek().isSymbol("(")
                ? columns(tokens)
                : columns.stream().map(c -> UNSAID).toList();
        ReferentialAction update = ReferentialAction.NO_ACTION;
        ReferentialAction delete = ReferentialAction.NO_ACTION;
        Deferrability deferrability = Deferrability.NOT_DEFERRABLE;
        while (tokens.at() < end) {
            if (tokens.skip("ON")) {
                boolean isDelete = tokens.skip("DELETE");
                boolean isUpdate = !isDelete && tokens.skip("UPDATE");
                if (!isDelete && !isUpdate) {
                    // SQLite takes it, and does nothing of it
                    tokens.skip("INSERT");
                }
                ReferentialAction action = action(tokens);
                delete = isDelete ? action : delete;
                update = isUpdate ? action : update;
            } else if (tokens.skip("DEFERRABLE")) {
                deferrability =
                        deferrability == Deferrability.NOT_DEFERRABLE ? Deferrability.DEFERRABLE : deferrability;
            } else if (tokens.skip("INITIALLY")) {
                // by ISO/IEC 9075-2, what is deferred at first can be
                deferrability = tokens.next().is("DEFERRED") ? Deferrability.INITIALLY_DEFERRED : deferrability;
            } else if (tokens.isWord()
                    && (tokens.upper().equals("NOT") || tokens.upper().equals("MATCH"))) {
                tokens.next();
                tokens.next();
            } else {
                break;
            }
        }
        return new ForeignKey(name, columns, target, targetColumns, update, delete, deferrability);
    }

    private static ReferentialAction action(Tokens tokens) {
        String first = tokens.next().text().toUpperCase(Locale.ROOT);
        boolean two = first.equals("SET") || first.equals("NO");
        return ReferentialAction.ofSql(two ? first + " " + tokens.next().text().toUpperCase(Locale.ROOT) : first);
    }

    private static List<String> columns(Tokens tokens) {
        return parts(tokens).stream().map(IndexDefinition.Part::column).toList();
    }

    static List<IndexDefinition.Part> parts(Tokens tokens) {
        List<IndexDefinition.Part> parts = new ArrayList<>();
        if (tokens.skip("USING")) {
            tokens.next();
        }
        if (!tokens.skip("(")) {
            return parts;
        }
        while (tokens.hasMore() && !tokens.skip(")")) {
            int end = tokens.elementEnd();
            String name = tokens.next().text();
            int prefix = 0;
            if (tokens.at() < end && tokens.skip("(")) {
                String digits = tokens.next().text();
                prefix = digits.matches("[0-9]{1,9}") ? Integer.parseInt(digits) : 0;
                tokens.skip(")");
            }
            boolean descending = tokens.at() < end && tokens.skip("DESC");
            tokens.goTo(end);
            parts.add(new IndexDefinition.Part(name, Optional.empty(), descending, prefix));
            tokens.skip(",");
        }
        return parts;
    }
}

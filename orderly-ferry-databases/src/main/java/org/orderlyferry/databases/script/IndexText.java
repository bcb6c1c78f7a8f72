package org.orderlyferry.databases.script;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.databases.sql.SqlToken;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** A script's CREATE INDEX, behind the word INDEX. */
final class IndexText {

    /** Systems that say behind an index's columns how it is to be stored, which is left to the target. */
    private static final Set<String> STORED = Set.of("SQL Server", "Oracle");

    /** What stands behind a list and changes what the index holds, or what it forbids. */
    private static final Set<String> BEHIND = Set.of("WHERE", "NULLS", "INCLUDE");

    private final String system;
    private final ScriptStatements statements;

    IndexText(String system, ScriptStatements statements) {
        this.system = system;
        this.statements = statements;
    }

    /** Adds the index to its table, if the script makes that. */
    void take(Tokens tokens, boolean unique, MadeTables tables, long line) {
        tokens.skip("CONCURRENTLY");
        tokens.skip("IF");
        tokens.skip("NOT");
        tokens.skip("EXISTS");
        // PostgreSQL names one itself that has no name
        String name = tokens.isWord() && tokens.peek().is("ON") ? "" : nameOf(tokens.path());
        if (tokens.peek().is("USING")) {
            // MariaDB has it on either side of the table
            tokens.next();
            tokens.next();
        }
        tokens.skip("ON");
        tokens.skip("ONLY");
        TableName table = tokens.name();
        TableDefinition.Builder builder = tables.get(table);
        if (builder == null) {
            statements.tell("CREATE INDEX … ON " + table, "the script makes no such table", line);
            return;
        }
        if (tokens.peek().is("USING") && !tokens.peek(1).is("BTREE")) {
            // a method of its own, for values that have no order perhaps
            builder.index(own(name, unique, tokens.rest(), system));
            return;
        }
        if (tokens.skip("USING")) {
            tokens.next();
        }
        builder.index(
                STORED.contains(system) ? stored(name, unique, tokens, line) : whole(name, unique, tokens, system));
    }

    private static String nameOf(List<String> path) {
        return path.get(path.size() - 1);
    }

    private static IndexDefinition whole(String name, boolean unique, Tokens tokens, String system) {
        int close = tokens.closing();
        boolean plain = isPlain(tokens, close, system);
        for (int i = close + 1 - tokens.at();
                plain && tokens.peek(i).end() > tokens.peek(i).start();
                i++) {
            SqlToken behind = tokens.peek(i);
            plain = !behind.isSymbol("(") && BEHIND.stream().noneMatch(behind::is);
        }
        return plain
                ? new IndexDefinition(name, unique, TableRules.parts(tokens), Optional.empty(), Optional.empty())
                : own(name, unique, tokens.rest(), system);
    }

    /**
     * An index whose list begins here, as CREATE TABLE has it.
     *
     * @param end where its rule ends
     */
    static IndexDefinition within(String name, boolean unique, Tokens tokens, int end, String system) {
        if (tokens.skip("USING")) {
            tokens.next();
        }
        int close = tokens.closing();
        return isPlain(tokens, close, system)
                ? new IndexDefinition(name, unique, TableRules.parts(tokens), Optional.empty(), Optional.empty())
                : own(name, unique, tokens.text(tokens.start(), tokens.end(Math.min(end, close + 1))), system);
    }

    /** Whether the list that begins here is one of columns, each perhaps with a length and a direction, and of nothing else. */
    private static boolean isPlain(Tokens tokens, int close, String system) {
        int end = close - tokens.at();
        int i = 1;
        while (i < end) {
            if (!tokens.peek(i).isName()) {
                return false;
            }
            i++;
            // elsewhere, this is a function
            if (system.equals("MariaDB")
                    && tokens.peek(i).isSymbol("(")
                    && tokens.peek(i + 1).kind() == SqlToken.Kind.NUMBER
                    && tokens.peek(i + 2).isSymbol(")")) {
                i += 3;
            }
            if (tokens.peek(i).is("ASC") || tokens.peek(i).is("DESC")) {
                i++;
            }
            if (i < end && !tokens.peek(i).isSymbol(",")) {
                return false;
            }
            i++;
        }
        return true;
    }

    private static IndexDefinition own(String name, boolean unique, String sql, String system) {
        return new IndexDefinition(name, unique, List.of(), Optional.empty(), Optional.of(new SqlText(sql, system)));
    }

    private IndexDefinition stored(String name, boolean unique, Tokens tokens, long line) {
        int close = tokens.closing();
        boolean columns = isPlain(tokens, close, system);
        String list = tokens.text(tokens.start(), tokens.end(close + 1));
        List<IndexDefinition.Part> parts = columns ? TableRules.parts(tokens) : List.of();
        tokens.goTo(close + 1);
        Optional<SqlText> predicate = Optional.empty();
        while (tokens.hasMore()) {
            if (tokens.skip("INCLUDE")) {
                statements.tell(
                        "CREATE INDEX … INCLUDE", "columns that an index carries beside its own aren't kept", line);
            } else if (tokens.skip("WHERE")) {
                int start = tokens.start();
                tokens.expression(tokens.elementEnd(), Set.of("WITH", "ON"));
                predicate = Optional.of(
                        new SqlText(tokens.text(start, tokens.end(tokens.at())).strip(), system));
            } else {
                tokens.next();
            }
        }
        return columns
                ? new IndexDefinition(name, unique, parts, predicate, Optional.empty())
                : own(
                        name,
                        unique,
                        list + predicate.map(p -> " WHERE " + p.sql()).orElse(""),
                        system);
    }
}

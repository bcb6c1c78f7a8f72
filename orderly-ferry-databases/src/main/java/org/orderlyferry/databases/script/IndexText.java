package org.orderlyferry.databases.script;

import java.util.List;
import java.util.Locale;
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
        tokens.skip("ON");
        tokens.skip("ONLY");
        TableName table = tokens.name();
        if (tokens.skip("USING")) {
            tokens.next();
        }
        TableDefinition.Builder builder = tables.get(table);
        if (builder == null) {
            return;
        }
        builder.index(STORED.contains(system) ? stored(name, unique, tokens, line) : whole(name, unique, tokens));
    }

    private static String nameOf(List<String> path) {
        return path.get(path.size() - 1);
    }

    private IndexDefinition whole(String name, boolean unique, Tokens tokens) {
        String own = tokens.rest();
        boolean plain = own.indexOf('(', 1) < 0 && !own.toUpperCase(Locale.ROOT).contains(" WHERE ");
        return plain
                ? new IndexDefinition(name, unique, TableRules.parts(tokens), Optional.empty(), Optional.empty())
                : own(name, unique, own);
    }

    private IndexDefinition own(String name, boolean unique, String sql) {
        return new IndexDefinition(name, unique, List.of(), Optional.empty(), Optional.of(new SqlText(sql, system)));
    }

    private IndexDefinition stored(String name, boolean unique, Tokens tokens, long line) {
        int from = tokens.at();
        int close = tokens.closing();
        boolean columns = true;
        for (int i = 1; from + i < close; i++) {
            SqlToken token = tokens.peek(i);
            columns &= token.isName() || token.isSymbol(",");
        }
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
                        list + predicate.map(p -> " WHERE " + p.sql()).orElse(""));
    }
}

package org.orderlyferry.databases.sql;

import java.util.List;
import java.util.Set;

/**
 * Looks whether a text can be more than the one statement, or the one expression, that it is meant to be. A text that
 * systems may take apart in different ways, such as one with dollar quotes, counts as several.
 */
public final class Statements {

    private static final Set<String> JAVA = Set.of("ALIAS", "TRIGGER", "LINK_SCHEMA", "AGGREGATE", "JAVA_OBJECT");

    private static final Set<String> QUERIES = Set.of("SELECT", "WITH", "VALUES", "TABLE");
    private static final Set<String> CHANGES =
            Set.of("INSERT", "UPDATE", "DELETE", "MERGE", "INTO", "OUTFILE", "DUMPFILE", "CALL", "EXECUTE", "COPY");

    /** What may stand behind an order, and either keeps it or leaves no room for a limit. */
    private static final Set<String> LIMITS = Set.of("LIMIT", "OFFSET", "FETCH", "FOR", "LOCK");

    private Statements() {}

    /** Whether a text holds no more than one statement; a semicolon may stand at its end. */
    public static boolean isOne(String sql, String system) {
        List<SqlToken> tokens = SqlToken.of(sql, Spelling.of(system).bracketNames());
        boolean trigger = system.equals("SQLite")
                && tokens.size() > 2
                && tokens.get(0).is("CREATE")
                && (tokens.get(1).is("TRIGGER") || tokens.get(2).is("TRIGGER"));
        int depth = 0;
        int done = 0;
        for (int i = 0; i < tokens.size(); i++) {
            SqlToken token = tokens.get(i);
            // what is a comment to one server may be run by another
            boolean hidden = sql.substring(done, token.start()).matches("(?s).*/\\*M?!.*");
            depth += token.isSymbol("(") ? 1 : token.isSymbol(")") ? -1 : 0;
            boolean second = token.isSymbol(";") && i < tokens.size() - 1 && !(trigger && inBody(tokens, i));
            boolean dollars = token.kind() == SqlToken.Kind.WORD && token.text().contains("$$");
            if (hidden || depth < 0 || second || dollars || !isClosed(sql, token)) {
                return false;
            }
            done = token.end();
        }
        return depth == 0 && !sql.substring(done).contains("/*");
    }

    /** Whether a semicolon stands between a trigger's BEGIN and its last END, where it ends a part of it. */
    private static boolean inBody(List<SqlToken> tokens, int at) {
        int last = tokens.size() - 1;
        last = tokens.get(last).isSymbol(";") ? last - 1 : last;
        return tokens.get(last).is("END") && tokens.subList(0, at).stream().anyMatch(t -> t.is("BEGIN"));
    }

    private static boolean isClosed(String sql, SqlToken token) {
        boolean quoted = token.kind() == SqlToken.Kind.STRING || token.kind() == SqlToken.Kind.NAME;
        return !quoted || token.end() - token.start() > 1 && "'\"`]".indexOf(sql.charAt(token.end() - 1)) >= 0;
    }

    /**
     * Whether a text is one query. Words that change something inside of one, as {@code FROM OLD TABLE (DELETE …)} or
     * {@code INTO OUTFILE} do, stand in no query that only reads; a column of such a name stands in quotes.
     */
    public static boolean isQuery(String sql, String system) {
        List<SqlToken> tokens = SqlToken.of(sql, Spelling.of(system).bracketNames());
        SqlToken first =
                tokens.stream().filter(t -> !t.isSymbol("(")).findFirst().orElse(null);
        return first != null
                && first.kind() == SqlToken.Kind.WORD
                && QUERIES.contains(first.upper())
                && tokens.stream().noneMatch(t -> t.kind() == SqlToken.Kind.WORD && CHANGES.contains(t.upper()))
                && isOne(sql, system);
    }

    /** One statement without the semicolons and comments at its end, so that it can stand in parentheses. */
    public static String withoutEnd(String sql, String system) {
        List<SqlToken> tokens = SqlToken.of(sql, Spelling.of(system).bracketNames());
        int last = tokens.size() - 1;
        while (last >= 0 && tokens.get(last).isSymbol(";")) {
            last--;
        }
        return last < 0 ? "" : sql.substring(0, tokens.get(last).end());
    }

    /**
     * A query as a part of another one that is to give its records in the order that it asks for: without a limit, systems
     * don't heed what a part says of it.
     */
    public static String inOrder(String query, String system) {
        String sql = withoutEnd(query, system);
        boolean ordered = false;
        boolean limited = false;
        int depth = 0;
        for (SqlToken token : SqlToken.of(sql, Spelling.of(system).bracketNames())) {
            depth += token.isSymbol("(") ? 1 : token.isSymbol(")") ? -1 : 0;
            if (depth == 0 && token.kind() == SqlToken.Kind.WORD) {
                ordered |= token.upper().equals("ORDER");
                limited |= ordered && LIMITS.contains(token.upper());
            }
        }
        return ordered && !limited ? sql + "\nLIMIT " + Long.MAX_VALUE : sql;
    }

    /** Whether a definition could make H2 run Java. */
    public static boolean namesJava(String sql, String system) {
        return system.equals("H2")
                && SqlToken.of(sql).stream().anyMatch(t -> t.kind() == SqlToken.Kind.WORD && JAVA.contains(t.upper()));
    }
}

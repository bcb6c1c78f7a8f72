package org.orderlyferry.databases.script;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.UnaryOperator;
import org.orderlyferry.databases.sql.SqlToken;
import org.orderlyferry.model.TableName;

/** A statement's tokens, one after the other. */
final class Tokens {

    private static final Set<String> USUAL_SCHEMAS = Set.of("public", "PUBLIC", "main", "dbo");

    private final String sql;
    private final List<SqlToken> tokens;
    private int at;

    /**
     * A statement's tokens.
     *
     * @param folded a name that stands without quotes, as the system takes it
     */
    Tokens(String sql, UnaryOperator<String> folded) {
        this.sql = sql;
        this.tokens = SqlToken.of(sql).stream()
                .map(t -> t.kind() == SqlToken.Kind.WORD
                        ? new SqlToken(t.kind(), folded.apply(t.text()), t.start(), t.end())
                        : t)
                .toList();
    }

    boolean hasMore() {
        return at < tokens.size();
    }

    int at() {
        return at;
    }

    /** How many there are. */
    int count() {
        return tokens.size();
    }

    void goTo(int index) {
        at = index;
    }

    SqlToken peek() {
        return at < tokens.size() ? tokens.get(at) : new SqlToken(SqlToken.Kind.SYMBOL, "", sql.length(), sql.length());
    }

    /** A token further on, without going there. */
    SqlToken peek(int further) {
        at += further;
        SqlToken token = peek();
        at -= further;
        return token;
    }

    SqlToken next() {
        SqlToken token = peek();
        at++;
        return token;
    }

    boolean isWord() {
        return peek().kind() == SqlToken.Kind.WORD;
    }

    boolean isName() {
        return hasMore() && peek().isName();
    }

    String upper() {
        return peek().text().toUpperCase(Locale.ROOT);
    }

    boolean isNextWord(String word) {
        return at + 1 < tokens.size() && tokens.get(at + 1).is(word);
    }

    /** Goes past a keyword or symbol, if it stands here. */
    boolean skip(String wanted) {
        boolean here = hasMore() && (peek().is(wanted) || peek().isSymbol(wanted));
        at += here ? 1 : 0;
        return here;
    }

    /** Where this token begins in the text. */
    int start() {
        return peek().start();
    }

    /** Where the token before an index ends in the text. */
    int end(int index) {
        return index == 0 ? 0 : tokens.get(Math.min(index, tokens.size()) - 1).end();
    }

    String text(int from, int to) {
        return sql.substring(Math.min(from, to), to);
    }

    String rest() {
        return sql.substring(Math.min(sql.length(), start())).strip();
    }

    /** The index of the comma or parenthesis that ends the element that begins here. */
    int elementEnd() {
        int depth = 0;
        for (int i = at; i < tokens.size(); i++) {
            SqlToken token = tokens.get(i);
            if (token.isSymbol("(")) {
                depth++;
            } else if (token.isSymbol(")")) {
                if (depth == 0) {
                    return i;
                }
                depth--;
            } else if (token.isSymbol(",") && depth == 0) {
                return i;
            }
        }
        return tokens.size();
    }

    /** The index of the parenthesis that closes the one here. */
    int closing() {
        int depth = 0;
        for (int i = at; i < tokens.size(); i++) {
            if (tokens.get(i).isSymbol("(")) {
                depth++;
            } else if (tokens.get(i).isSymbol(")") && --depth == 0) {
                return i;
            }
        }
        return tokens.size() - 1;
    }

    /** What stands in the parentheses that begin here; goes behind them. */
    String parenthesis() {
        int close = closing();
        String inner = sql.substring(peek().end(), tokens.get(close).start()).strip();
        at = close + 1;
        return inner;
    }

    /** The expression that begins here, up to one of some keywords or the end. */
    String expression(int end, Set<String> keywords) {
        int from = start();
        int to = from;
        boolean first = true;
        while (at < end && (first || !(isWord() && keywords.contains(upper())))) {
            if (peek().isSymbol("(")) {
                at = closing();
            }
            to = peek().end();
            at++;
            first = false;
        }
        return sql.substring(from, to).strip();
    }

    /** A string's text, if one stands here. */
    String string() {
        return hasMore() && peek().kind() == SqlToken.Kind.STRING ? next().text() : "";
    }

    /** Names with points in between. */
    List<String> path() {
        List<String> path = new ArrayList<>();
        do {
            path.add(next().text());
        } while (skip("."));
        return path;
    }

    /** The name that stands further on, without going there. */
    List<String> pathAt(int further) {
        int here = at;
        at += further;
        List<String> path = path();
        at = here;
        return path;
    }

    /** A table's name, with its schema where that is another than the usual one. */
    TableName name() {
        return name(path());
    }

    static TableName name(List<String> path) {
        String name = path.get(path.size() - 1);
        String schema = path.size() > 1 ? path.get(path.size() - 2) : "";
        return new TableName(USUAL_SCHEMAS.contains(schema) ? "" : schema, name);
    }
}

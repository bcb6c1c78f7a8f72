package org.orderlyferry.databases.sql;

import java.util.List;

/** Goes through the tokens of an expression. Not safe for use by several threads. */
final class TokenCursor {

    private static final SqlToken END = new SqlToken(SqlToken.Kind.SYMBOL, "", 0, 0);

    private final List<SqlToken> tokens;
    private int at;

    TokenCursor(List<SqlToken> tokens) {
        this.tokens = tokens;
    }

    boolean isAtEnd() {
        return at == tokens.size();
    }

    /** A token that comes, the next one being 0; behind the last there are symbols without a text. */
    SqlToken peek(int ahead) {
        int index = at + ahead;
        return index < tokens.size() ? tokens.get(index) : END;
    }

    SqlToken peek() {
        return peek(0);
    }

    SqlToken next() {
        SqlToken token = peek();
        at++;
        return token;
    }

    /** Passes over some tokens. */
    void pass(int count) {
        at += count;
    }

    /** Passes over a word or a symbol, if it stands here. */
    boolean skip(String wanted) {
        boolean here = peek().is(wanted) || peek().isSymbol(wanted);
        at += here ? 1 : 0;
        return here;
    }

    void need(String wanted) throws NotParsedException {
        if (!skip(wanted)) {
            throw new NotParsedException(wanted + " is missing before " + peek().text());
        }
    }

    /** A name; what stands in front of it with a dot doesn't count. */
    String name() throws NotParsedException {
        SqlToken token = next();
        while (token.isName() && skip(".")) {
            token = next();
        }
        if (!token.isName()) {
            throw new NotParsedException(token.text());
        }
        return token.text();
    }
}

package org.orderlyferry.databases.sql;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.regex.Pattern;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;

/**
 * What stands behind the table's name in CREATE INDEX, read and written anew: the method, the parts with their operator
 * classes, included columns, storage parameters, the predicate. What goes beyond that is refused.
 */
public final class IndexTail {

    private static final Set<String> METHODS = Set.of("BTREE", "HASH", "GIN", "GIST", "SPGIST", "BRIN");
    private static final Pattern OPERATOR_CLASS = Pattern.compile("[a-z0-9_]+_ops");
    private static final Pattern WORD = Pattern.compile("[A-Za-z_]{1,40}");
    private static final Pattern NUMBER_OR_WORD = Pattern.compile("[A-Za-z0-9_]{1,20}");

    private final String sql;
    private final String system;
    private final TableDefinition table;
    private final List<SqlToken> tokens;
    private final ExpressionWriter writer;
    private final ExpressionWriter.Target target;
    private final StringBuilder written = new StringBuilder();
    private int at;

    private IndexTail(SqlText text, TableDefinition table, ExpressionWriter.Target target, ExpressionWriter writer) {
        this.table = table;
        this.sql = text.sql();
        this.system = text.system();
        this.tokens = SqlToken.of(sql, Spelling.of(system).bracketNames());
        this.target = target;
        this.writer = writer;
    }

    /** The text, written anew for the same system; nothing where it isn't understood. */
    public static Optional<String> rewrite(
            SqlText text,
            TableDefinition table,
            ExpressionWriter.Target target,
            Function<Expression.Column, Optional<String>> columns) {
        IndexTail tail = new IndexTail(text, table, target, new ExpressionWriter(target, columns));
        try {
            tail.read();
            return Optional.of(tail.written.toString());
        } catch (NotParsedException e) {
            return Optional.empty();
        }
    }

    private SqlToken peek() {
        return at < tokens.size() ? tokens.get(at) : new SqlToken(SqlToken.Kind.SYMBOL, "", sql.length(), sql.length());
    }

    private boolean skip(String wanted) {
        boolean here = peek().is(wanted) || peek().isSymbol(wanted);
        at += here ? 1 : 0;
        return here;
    }

    private String take(Pattern pattern) throws NotParsedException {
        String text = peek().text();
        if (!pattern.matcher(text).matches()) {
            throw new NotParsedException(text);
        }
        at++;
        return text;
    }

    private void need(String wanted) throws NotParsedException {
        if (!skip(wanted)) {
            throw new NotParsedException(wanted);
        }
    }

    private void read() throws NotParsedException {
        if (skip("USING")) {
            String method = take(WORD).toUpperCase(java.util.Locale.ROOT);
            if (!METHODS.contains(method)) {
                throw new NotParsedException(method);
            }
            written.append("USING ").append(method).append(' ');
        }
        need("(");
        written.append('(');
        do {
            part();
            written.append(peek().isSymbol(",") ? ", " : "");
        } while (skip(","));
        need(")");
        written.append(')');
        if (skip("INCLUDE")) {
            include();
        }
        if (skip("NULLS")) {
            written.append(" NULLS").append(skip("NOT") ? " NOT" : "").append(" DISTINCT");
            need("DISTINCT");
        }
        if (skip("WITH")) {
            parameters();
        }
        if (skip("WHERE")) {
            written.append(" WHERE ").append(written(expression(tokens.size())));
        }
        if (at < tokens.size()) {
            throw new NotParsedException(peek().text());
        }
    }

    /** Up to where the next comma or closing parenthesis on this level stands, or one of the words behind a part. */
    private int partEnd() {
        int depth = 0;
        for (int i = at; i < tokens.size(); i++) {
            SqlToken token = tokens.get(i);
            if (token.isSymbol("(") || token.isSymbol("[")) {
                depth++;
            } else if (depth > 0 && (token.isSymbol(")") || token.isSymbol("]"))) {
                depth--;
            } else if (depth == 0
                    && (token.isSymbol(")")
                            || token.isSymbol(",")
                            || token.is("ASC")
                            || token.is("DESC")
                            || token.is("NULLS")
                            || i > at && token.kind() == SqlToken.Kind.WORD && isClass(token))) {
                return i;
            }
        }
        return tokens.size();
    }

    private static boolean isClass(SqlToken token) {
        return OPERATOR_CLASS.matcher(token.text()).matches();
    }

    private void part() throws NotParsedException {
        Expression part = expression(partEnd());
        String text = written(part);
        boolean bare = part instanceof Expression.Column || part instanceof Expression.Call;
        written.append(bare ? text : "(" + text + ")");
        if (peek().kind() == SqlToken.Kind.WORD && isClass(peek())) {
            written.append(' ').append(take(OPERATOR_CLASS));
        }
        if (peek().is("ASC") || peek().is("DESC")) {
            written.append(skip("DESC") ? " DESC" : skip("ASC") ? " ASC" : "");
        }
        if (skip("NULLS")) {
            written.append(skip("FIRST") ? " NULLS FIRST" : " NULLS LAST");
            skip("LAST");
        }
    }

    private String written(Expression expression) throws NotParsedException {
        return writer.write(expression).orElseThrow(() -> new NotParsedException("a column that isn't there"));
    }

    private Expression expression(int end) throws NotParsedException {
        if (end == at) {
            throw new NotParsedException("nothing to index");
        }
        String text = sql.substring(tokens.get(at).start(), tokens.get(end - 1).end());
        at = end;
        return ExpressionParser.parse(new SqlText(text, system), table).orElseThrow(() -> new NotParsedException(text));
    }

    private void include() throws NotParsedException {
        need("(");
        written.append(" INCLUDE (");
        do {
            written.append(written(expression(at + 1))).append(peek().isSymbol(",") ? ", " : "");
        } while (skip(","));
        need(")");
        written.append(')');
    }

    private void parameters() throws NotParsedException {
        need("(");
        written.append(" WITH (");
        do {
            String name = take(WORD);
            need("=");
            boolean quoted = peek().kind() == SqlToken.Kind.STRING;
            String value = take(NUMBER_OR_WORD);
            written.append(name).append(" = ").append(quoted ? target.literal(value) : value);
            written.append(peek().isSymbol(",") ? ", " : "");
        } while (skip(","));
        need(")");
        written.append(')');
    }
}

package org.orderlyferry.databases.sql;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.model.Enumeration;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;

/**
 * Reads an expression of a system's SQL into the closed language of {@link Expression}, by its own precedence of
 * operators. Whatever it doesn't know, it refuses: a function that isn't known to be pure, a query, a placeholder, a
 * second statement. Bounded in length and depth. One instance reads one text.
 */
public final class ExpressionParser {

    private static final Map<String, String> LIKES =
            Map.of("~~", "LIKE", "~~*", "ILIKE", "!~~", "LIKE", "!~~*", "ILIKE");
    private static final Set<String> LIKE_WORDS = Set.of("LIKE", "ILIKE", "GLOB", "REGEXP", "RLIKE");
    /** Words that are part of the language, and so no columns unless they stand in quotes. */
    private static final Set<String> RESERVED = Set.of(
            "SELECT", "FROM", "WHERE", "AND", "OR", "NOT", "IN", "IS", "BETWEEN", "LIKE", "CASE", "WHEN", "THEN",
            "ELSE", "END", "CAST", "AS", "UNION", "EXISTS", "ANY", "ALL", "SOME", "ROW", "WITH", "INTO", "COLLATE",
            "ESCAPE");

    /** What ISO SQL's TRIM takes blanks from, and the function that does so. */
    private static final Map<String, String> SIDES = Map.of("BOTH", "TRIM", "LEADING", "LTRIM", "TRAILING", "RTRIM");

    /** As PostgreSQL keeps a pattern that says ESCAPE. */
    private static final String ESCAPING = "LIKE_ESCAPE";

    private static final int COMPARING = 5;
    private static final int OTHERS = 6;
    private static final int NOT = 4;
    private static final int PREFIX = 10;
    private static final int LONGEST = 64 * 1024;
    private static final int DEEPEST = 200;
    private static final int LONGEST_CHAIN = 1_000;

    private final TokenCursor in;
    private final Spelling spelling;
    private final Enumerated enumerated;
    private int depth;

    private ExpressionParser(String sql, Spelling spelling, Enumerated enumerated) {
        this.in = new TokenCursor(SqlToken.of(sql, spelling.bracketNames()));
        this.spelling = spelling;
        this.enumerated = enumerated;
    }

    /**
     * The expression that a text is; nothing where it is none of the closed language. A backslash in a string is one: those
     * of MariaDB's catalogue and scripts are {@linkplain PlainStrings put in plain form} where they are read.
     */
    public static Optional<Expression> parse(SqlText text) {
        return parse(text, List.of());
    }

    /** The same for an expression about a table's columns, some of which are of enumerations. */
    public static Optional<Expression> parse(SqlText text, TableDefinition table) {
        return parse(
                text,
                table.columns().stream()
                        .flatMap(c -> c.enumeration().stream())
                        .map(Enumeration::name)
                        .toList());
    }

    private static Optional<Expression> parse(SqlText text, List<String> enumerations) {
        Spelling spelling = Spelling.of(text.system());
        if (text.sql().length() > LONGEST || text.sql().indexOf('\0') >= 0) {
            return Optional.empty();
        }
        ExpressionParser parser = new ExpressionParser(text.sql(), spelling, new Enumerated(enumerations));
        try {
            Expression expression = parser.expression(0);
            return parser.in.isAtEnd() ? Optional.of(expression) : Optional.empty();
        } catch (NotParsedException e) {
            return Optional.empty();
        }
    }

    private Expression expression(int least) throws NotParsedException {
        if (++depth > DEEPEST) {
            throw new NotParsedException("too deep");
        }
        Expression left = first();
        int compared = 0;
        String other = "";
        for (int links = 0; ; links++) {
            if (links > LONGEST_CHAIN) {
                throw new NotParsedException("too long");
            }
            if (in.peek().isSymbol("::")) {
                in.next();
                left = enumerated.isCastOf(left, in) ? left : new Expression.Cast(left, WrittenType.of(in));
                continue;
            }
            if (in.peek().is("COLLATE")) {
                in.next();
                left = new Expression.Collated(left, in.name());
                continue;
            }
            Optional<String> operator = Operators.at(in, spelling);
            if (operator.isPresent()) {
                int strength = Operators.strength(operator.get(), spelling);
                if (strength < least) {
                    break;
                }
                // a < b < c is read in other ways by other systems, and so is a | b & c
                boolean unclear = strength == COMPARING && compared++ > 0
                        || strength == OTHERS && !other.isEmpty() && !other.equals(operator.get());
                if (unclear) {
                    throw new NotParsedException("unclear without parentheses");
                }
                other = strength == OTHERS ? operator.get() : "";
                in.pass(operator.get().split(" ").length);
                left = joined(left, operator.get(), strength);
            } else if (least <= COMPARING && isQuestion()) {
                if (compared > 0) {
                    throw new NotParsedException("unclear without parentheses");
                }
                // a IS NULL = b is (a IS NULL) = b wherever it is anything
                compared += in.peek().is("IS") ? 0 : 1;
                left = question(left);
            } else {
                break;
            }
        }
        depth--;
        return left;
    }

    private Expression joined(Expression left, String operator, int strength) throws NotParsedException {
        if (strength == COMPARING
                && (in.peek().is("ANY") || in.peek().is("SOME") || in.peek().is("ALL"))) {
            boolean all = in.next().is("ALL");
            in.need("(");
            Expression array = expression(0);
            in.need(")");
            Optional<Expression> among = enumerated.in(left, operator, array, all);
            return among.isPresent() ? among.get() : new Expression.Each(left, operator, array, all);
        }
        Expression right = expression(strength + 1);
        if (!operator.equals("=") && !operator.equals("<>")) {
            enumerated.none(left, right);
        }
        return new Expression.Joined(operator, left, right);
    }

    private boolean isQuestion() {
        SqlToken token = in.peek(in.peek().is("NOT") ? 1 : 0);
        return token.is("IS")
                || token.is("ISNULL")
                || token.is("NOTNULL")
                || token.is("IN")
                || token.is("BETWEEN")
                || token.is("SIMILAR")
                || token.kind() == SqlToken.Kind.WORD && LIKE_WORDS.contains(token.upper())
                || token.kind() == SqlToken.Kind.SYMBOL && LIKES.containsKey(token.text());
    }

    private Expression question(Expression of) throws NotParsedException {
        boolean not = in.skip("NOT");
        SqlToken token = in.next();
        if (token.is("ISNULL") || token.is("NOTNULL")) {
            return new Expression.Is(of, "NULL", token.is("NOTNULL"));
        }
        if (token.is("IS")) {
            boolean isNot = in.skip("NOT");
            String what = in.next().upper();
            if (not || !Set.of("NULL", "TRUE", "FALSE", "UNKNOWN").contains(what)) {
                throw new NotParsedException("IS " + what);
            }
            return new Expression.Is(of, what, isNot);
        }
        if (token.is("IN")) {
            return new Expression.In(of, list(), not);
        }
        if (token.is("BETWEEN")) {
            Expression low = expression(OTHERS);
            in.need("AND");
            Expression high = expression(OTHERS);
            enumerated.none(of, low, high);
            return new Expression.Between(of, low, high, not);
        }
        String operator = token.kind() == SqlToken.Kind.SYMBOL ? LIKES.get(token.text()) : token.upper();
        if (operator.equals("SIMILAR")) {
            in.need("TO");
            operator = "SIMILAR TO";
        }
        Expression pattern = expression(OTHERS);
        Optional<Expression> escape = in.skip("ESCAPE") ? Optional.of(expression(OTHERS)) : Optional.empty();
        if (pattern instanceof Expression.Call call
                && call.function().equals(ESCAPING)
                && call.arguments().size() == 2
                && escape.isEmpty()) {
            pattern = call.arguments().get(0);
            escape = Optional.of(call.arguments().get(1));
        }
        return new Expression.Like(
                of,
                operator.equals("RLIKE") ? "REGEXP" : operator,
                pattern,
                escape,
                not || token.text().startsWith("!"));
    }

    private List<Expression> list() throws NotParsedException {
        in.need("(");
        List<Expression> items = new ArrayList<>();
        if (in.skip(")")) {
            return items;
        }
        do {
            items.add(expression(0));
        } while (in.skip(","));
        in.need(")");
        return items;
    }

    private Expression first() throws NotParsedException {
        SqlToken token = in.next();
        return switch (token.kind()) {
            case STRING -> new Expression.Text(token.text());
            case NUMBER -> Constants.number(token.text());
            case NAME -> in.peek().isSymbol("(") ? call(token) : column(token);
            case WORD -> word(token);
            case SYMBOL -> symbol(token.text());
        };
    }

    private Expression symbol(String symbol) throws NotParsedException {
        switch (symbol) {
            case "(" -> {
                Expression inner = expression(0);
                in.need(")");
                return inner;
            }
            case "-", "+" -> {
                return new Expression.Prefixed(symbol, expression(PREFIX));
            }
            case "!" -> {
                return new Expression.Prefixed("NOT", expression(PREFIX));
            }
            default -> throw new NotParsedException(symbol);
        }
    }

    /** A column's name; one in front of it says which table's it is, and there is only one table. */
    private Expression column(SqlToken token) throws NotParsedException {
        SqlToken name = token;
        while (in.skip(".")) {
            name = in.next();
            if (!name.isName()) {
                throw new NotParsedException(name.text());
            }
        }
        return new Expression.Column(name.text(), name.kind() == SqlToken.Kind.NAME);
    }

    private Expression word(SqlToken token) throws NotParsedException {
        String upper = token.upper();
        if (in.peek().kind() == SqlToken.Kind.STRING) {
            return Constants.prefixed(upper, in);
        }
        switch (upper) {
            case "NULL" -> {
                return new Expression.Null();
            }
            case "TRUE", "FALSE" -> {
                return new Expression.Truth(upper.equals("TRUE"));
            }
            case "NOT" -> {
                return new Expression.Prefixed("NOT", expression(NOT));
            }
            case "CASE" -> {
                return cases();
            }
            case "CAST" -> {
                in.need("(");
                Expression of = expression(0);
                in.need("AS");
                if (enumerated.isCastToItsValues(of, in)) {
                    in.need(")");
                    return of;
                }
                String type = WrittenType.of(in);
                in.need(")");
                return new Expression.Cast(of, type);
            }
            case "EXTRACT" -> {
                in.need("(");
                String field = in.next().upper();
                in.need("FROM");
                Expression of = expression(0);
                in.need(")");
                if (!field.matches("[A-Z_]{1,20}")) {
                    throw new NotParsedException(field);
                }
                return new Expression.Extract(field, of);
            }
            case "ARRAY" -> {
                if (in.skip("[")) {
                    return elements();
                }
            }
            default -> {
                // a name or a function
            }
        }
        if (Constants.isNow(upper)) {
            return Constants.now(upper, in);
        }
        if (in.peek().isSymbol("(")) {
            return call(token);
        }
        if (RESERVED.contains(upper) || upper.startsWith("$")) {
            throw new NotParsedException(upper);
        }
        return column(token);
    }

    private Expression call(SqlToken token) throws NotParsedException {
        String name = token.upper();
        if (!spelling.isPure(name)) {
            throw new NotParsedException("the function " + token.text());
        }
        if (name.equals("TRIM") && SIDES.containsKey(in.peek(1).upper())) {
            return trim();
        }
        return new Expression.Call(name, name.equals("SUBSTRING") ? piece() : arguments());
    }

    private List<Expression> arguments() throws NotParsedException {
        List<Expression> all = list();
        enumerated.none(all.toArray(Expression[]::new));
        return all;
    }

    /** Of blanks, as ISO SQL writes it; which other characters go differs from system to system. */
    private Expression trim() throws NotParsedException {
        in.need("(");
        String name = SIDES.get(in.next().upper());
        in.need("FROM");
        Expression of = expression(0);
        in.need(")");
        return new Expression.Call(name, List.of(of));
    }

    /** {@code SUBSTRING(text FROM 2 FOR 3)} of ISO/IEC 9075-2, or with commas. */
    private List<Expression> piece() throws NotParsedException {
        in.need("(");
        List<Expression> all = new ArrayList<>(List.of(expression(0)));
        if (in.skip("FROM")) {
            all.add(expression(0));
            if (in.skip("FOR")) {
                all.add(expression(0));
            }
        }
        while (all.size() < 3 && in.skip(",")) {
            all.add(expression(0));
        }
        in.need(")");
        enumerated.none(all.toArray(Expression[]::new));
        return all;
    }

    private Expression elements() throws NotParsedException {
        List<Expression> items = new ArrayList<>();
        if (!in.skip("]")) {
            do {
                items.add(expression(0));
            } while (in.skip(","));
            in.need("]");
        }
        return new Expression.Elements(items);
    }

    private Expression cases() throws NotParsedException {
        Optional<Expression> of = in.peek().is("WHEN") ? Optional.empty() : Optional.of(expression(0));
        List<Expression.When> whens = new ArrayList<>();
        while (in.skip("WHEN")) {
            Expression condition = expression(0);
            in.need("THEN");
            whens.add(new Expression.When(condition, expression(0)));
        }
        Optional<Expression> otherwise = in.skip("ELSE") ? Optional.of(expression(0)) : Optional.empty();
        in.need("END");
        if (whens.isEmpty()) {
            throw new NotParsedException("CASE without WHEN");
        }
        return new Expression.Case(of, whens, otherwise);
    }
}

package org.orderlyferry.databases.sql;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/**
 * An expression as servers write it down that don't keep it as it was sent: BETWEEN as two comparisons, a day beside a time
 * as its midnight, NOT on its way inward, the casts between numbers that they add. Two expressions that are the same in this
 * form mean the same; it is for comparing, and is sent to nobody.
 */
public final class ServersForm {

    private static final Set<String> COMPARING = Set.of("=", "<>", "<", "<=", ">", ">=");
    private static final Set<String> CHAINS = Set.of("AND", "OR");
    private static final Map<String, String> OPPOSITES =
            Map.of("AND", "OR", "OR", "AND", "=", "<>", "<>", "=", "<", ">=", ">=", "<", ">", "<=", "<=", ">");
    private static final Set<String> RECKONING = Set.of("+", "-", "*", "/");
    private static final Set<String> APPROXIMATE = Set.of("double precision", "double", "real");

    private final Function<Expression.Column, Optional<LogicalType>> types;

    /**
     * For one table.
     *
     * @param types a column's type; nothing where the table hasn't one of this name
     */
    public ServersForm(Function<Expression.Column, Optional<LogicalType>> types) {
        this.types = types;
    }

    /** The expression in that form. */
    public Expression of(Expression expression) {
        if (expression instanceof Expression.Joined joined) {
            return joined(joined.operator(), of(joined.left()), of(joined.right()));
        } else if (expression instanceof Expression.Between between) {
            return between(of(between.of()), of(between.low()), of(between.high()), between.not());
        } else if (expression instanceof Expression.In in) {
            Expression of = of(in.of());
            return new Expression.In(
                    of, all(in.list()).stream().map(v -> value(v, of)).toList(), in.not());
        } else if (expression instanceof Expression.Prefixed prefixed) {
            return prefixed.operator().equals("NOT")
                    ? not(of(prefixed.of()))
                    : new Expression.Prefixed(prefixed.operator(), of(prefixed.of()));
        } else if (expression instanceof Expression.Is is) {
            return new Expression.Is(of(is.of()), is.what(), is.not());
        } else if (expression instanceof Expression.Case cases) {
            return new Expression.Case(
                    cases.of().map(this::of),
                    cases.whens().stream()
                            .map(w -> new Expression.When(of(w.condition()), of(w.result())))
                            .toList(),
                    cases.otherwise().map(this::of));
        } else if (expression instanceof Expression.Call call) {
            return new Expression.Call(call.function(), all(call.arguments()));
        } else if (expression instanceof Expression.Cast cast) {
            return new Expression.Cast(of(cast.of()), cast.type());
        }
        return expression;
    }

    private List<Expression> all(List<Expression> expressions) {
        List<Expression> all = new ArrayList<>();
        expressions.forEach(e -> all.add(of(e)));
        return all;
    }

    private Expression between(Expression of, Expression low, Expression high, boolean not) {
        return new Expression.Joined(
                not ? "OR" : "AND", joined(not ? "<" : ">=", of, low), joined(not ? ">" : "<=", of, high));
    }

    /** What is not, of what already has this form: a NOT stays only before what has no other way to say it. */
    private static Expression not(Expression of) {
        if (of instanceof Expression.Joined joined && OPPOSITES.containsKey(joined.operator())) {
            String operator = OPPOSITES.get(joined.operator());
            return CHAINS.contains(operator)
                    ? chained(operator, not(joined.left()), not(joined.right()))
                    : new Expression.Joined(operator, joined.left(), joined.right());
        } else if (of instanceof Expression.Is is && is.what().equals("NULL")) {
            return new Expression.Is(is.of(), is.what(), !is.not());
        } else if (of instanceof Expression.In in) {
            return new Expression.In(in.of(), in.list(), !in.not());
        }
        return of instanceof Expression.Prefixed prefixed && prefixed.operator().equals("NOT")
                ? prefixed.of()
                : new Expression.Prefixed("NOT", of);
    }

    /** Many of them in a row are one row, however they were put in brackets. */
    private static Expression chained(String operator, Expression left, Expression right) {
        return right instanceof Expression.Joined joined && joined.operator().equals(operator)
                ? new Expression.Joined(operator, chained(operator, left, joined.left()), joined.right())
                : new Expression.Joined(operator, left, right);
    }

    private Expression joined(String operator, Expression left, Expression right) {
        if (CHAINS.contains(operator)) {
            return chained(operator, left, right);
        }
        if (COMPARING.contains(operator)) {
            return new Expression.Joined(
                    operator,
                    value(plain(beside(operator, left, right)), right),
                    value(plain(beside(operator, right, left)), left));
        }
        return RECKONING.contains(operator)
                ? new Expression.Joined(operator, beside(operator, left, right), beside(operator, right, left))
                : new Expression.Joined(operator, left, right);
    }

    /** A number beside one that is approximate is made so by every server, whether it says so or not. */
    private Expression beside(String operator, Expression one, Expression other) {
        if (!(one instanceof Expression.Cast cast) || !APPROXIMATE.contains(cast.type())) {
            return one;
        }
        boolean approximate =
                type(other).filter(t -> t.name() == TypeName.DOUBLE).isPresent();
        // 7 / 2 is 3, and 7 / 2.0 isn't
        boolean number = cast.of() instanceof Expression.Number && (approximate || !operator.equals("/"));
        boolean column = approximate
                && type(cast.of()).filter(t -> t.name().isExactNumber()).isPresent();
        return number || column ? cast.of() : one;
    }

    /** A number that is compared, without zeros at its end. */
    private static Expression plain(Expression expression) {
        return expression instanceof Expression.Number number && number.digits().matches("\\d+\\.\\d*")
                ? new Expression.Number(
                        new BigDecimal(number.digits()).stripTrailingZeros().toPlainString())
                : expression;
    }

    private Optional<LogicalType> type(Expression expression) {
        return expression instanceof Expression.Column column ? types.apply(column) : Optional.empty();
    }

    /** What is compared with a column of days or times, as a text of its type. */
    private Expression value(Expression expression, Expression column) {
        Optional<TypeName> type = type(column).map(LogicalType::name);
        String text = expression instanceof Expression.Text plain
                ? plain.value()
                : expression instanceof Expression.Dated dated ? dated.value() : "";
        if (type.isEmpty() || text.isEmpty()) {
            return expression;
        }
        return switch (type.get()) {
            case DATE -> new Expression.Text(text);
            case TIMESTAMP -> new Expression.Text(MomentText.timestamp(text));
            default -> expression;
        };
    }
}

package org.orderlyferry.databases.check;

import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.orderlyferry.databases.sql.Expression;

/**
 * Makes checks ready to be worked out: what {@link org.orderlyferry.databases.sql.Portable} has let through, as one system
 * sees it. A check is broken if it is false, and only then.
 */
final class CheckParts {

    private final NumberRules numbers;
    private final Comparison comparison;
    private final TextParts texts;

    CheckParts(String system) {
        this.numbers = new NumberRules(system);
        this.comparison = new Comparison(system, numbers);
        this.texts = new TextParts(system);
    }

    /** Makes an expression ready. */
    Part of(Expression expression) {
        if (expression instanceof Expression.Column column) {
            return record -> record.apply(column);
        } else if (expression instanceof Expression.Text text) {
            return new Part.Constant(new Told.Text(text.value(), TextRule.LITERAL));
        } else if (expression instanceof Expression.Number number) {
            return new Part.Constant(NumberRules.literal(number.digits()));
        } else if (expression instanceof Expression.Truth truth) {
            return new Part.Constant(Told.truth(truth.value()));
        } else if (expression instanceof Expression.Null) {
            return new Part.Constant(Told.NULL);
        } else if (expression instanceof Expression.Dated dated) {
            return new Part.Constant(Moments.literal(dated));
        } else if (expression instanceof Expression.Prefixed prefixed) {
            return prefixed(prefixed.operator(), of(prefixed.of()));
        } else if (expression instanceof Expression.Joined joined) {
            return joined(joined.operator(), of(joined.left()), of(joined.right()));
        } else if (expression instanceof Expression.Is is) {
            Part of = of(is.of());
            return record -> Logic.is(of.of(record), is.what(), is.not());
        } else if (expression instanceof Expression.In in) {
            Part found = comparison.among(of(in.of()), all(in.list()));
            return in.not() ? not(found) : found;
        } else if (expression instanceof Expression.Between between) {
            Part within = between(of(between.of()), of(between.low()), of(between.high()));
            return between.not() ? not(within) : within;
        } else if (expression instanceof Expression.Like like) {
            Part found = texts.like(of(like.of()), like.pattern(), like.escape());
            return like.not() ? not(found) : found;
        } else if (expression instanceof Expression.Case cases) {
            return cases(cases);
        } else if (expression instanceof Expression.Call call) {
            return call(call.function(), all(call.arguments()));
        }
        return Part.OPEN;
    }

    private List<Part> all(List<Expression> expressions) {
        return expressions.stream().map(this::of).toList();
    }

    private static Part not(Part of) {
        return record -> Logic.not(of.of(record));
    }

    private static Part prefixed(String operator, Part of) {
        if (operator.equals("NOT")) {
            return not(of);
        }
        UnaryOperator<Told> signed = told -> {
            if (told instanceof Told.Number number) {
                return operator.equals("-") ? new Told.Number(number.value().negate(), number.exactness()) : number;
            }
            return told instanceof Told.Nothing ? told : Told.OPEN;
        };
        return of instanceof Part.Constant constant
                ? new Part.Constant(signed.apply(constant.told()))
                : record -> signed.apply(of.of(record));
    }

    private Part joined(String operator, Part left, Part right) {
        return switch (operator) {
            case "AND" -> record -> Logic.and(left.of(record), right.of(record));
            case "OR" -> record -> Logic.or(left.of(record), right.of(record));
            case "+", "-", "*" -> record -> numbers.reckoned(operator, left.of(record), right.of(record));
            default -> record -> comparison.of(operator, left.of(record), right.of(record));
        };
    }

    private Part between(Part of, Part low, Part high) {
        return record -> {
            Told told = of.of(record);
            return Logic.and(comparison.of(">=", told, low.of(record)), comparison.of("<=", told, high.of(record)));
        };
    }

    /** A branch of CASE. */
    private record Branch(Part condition, Part result) {}

    private Part cases(Expression.Case cases) {
        Optional<Part> of = cases.of().map(this::of);
        List<Branch> branches = cases.whens().stream()
                .map(w -> new Branch(of(w.condition()), of(w.result())))
                .toList();
        Part otherwise = cases.otherwise().map(this::of).orElse(new Part.Constant(Told.NULL));
        return record -> {
            for (Branch branch : branches) {
                Told condition = branch.condition().of(record);
                Told met = of.isPresent() ? comparison.of("=", of.get().of(record), condition) : condition;
                if (!Logic.isAnswer(met)) {
                    return Told.OPEN;
                }
                if (met.equals(Told.TRUE)) {
                    return branch.result().of(record);
                }
            }
            return otherwise.of(record);
        };
    }

    private Part call(String function, List<Part> arguments) {
        return record -> {
            List<Told> given = arguments.stream().map(a -> a.of(record)).toList();
            return switch (function) {
                case "COALESCE" -> TextParts.computed(coalesced(given), given);
                case "NULLIF" ->
                    given.size() == 2 ? TextParts.computed(nullIf(given.get(0), given.get(1)), given) : Told.OPEN;
                case "ABS" -> ofOne(given, CheckParts::absolute);
                case "CHAR_LENGTH" -> ofOne(given, texts::characters);
                case "LOWER", "UPPER" ->
                    TextParts.computed(ofOne(given, told -> TextParts.inCase(told, function.equals("UPPER"))), given);
                default -> Told.OPEN;
            };
        };
    }

    private static Told ofOne(List<Told> given, UnaryOperator<Told> function) {
        if (given.size() != 1) {
            return Told.OPEN;
        }
        return given.get(0) instanceof Told.Nothing ? Told.NULL : function.apply(given.get(0));
    }

    private static Told coalesced(List<Told> given) {
        return given.stream()
                .filter(t -> !(t instanceof Told.Nothing))
                .findFirst()
                .orElse(Told.NULL);
    }

    private Told nullIf(Told one, Told other) {
        Told same = comparison.of("=", one, other);
        return same.equals(Told.TRUE) ? Told.NULL : Logic.isAnswer(same) ? one : Told.OPEN;
    }

    private static Told absolute(Told told) {
        return told instanceof Told.Number number
                ? new Told.Number(number.value().abs(), number.exactness())
                : Told.OPEN;
    }
}

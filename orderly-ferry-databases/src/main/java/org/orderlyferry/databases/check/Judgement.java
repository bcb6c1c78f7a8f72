package org.orderlyferry.databases.check;

import java.math.BigDecimal;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import org.orderlyferry.databases.sql.Expression;

/**
 * Works a check out for one record: in the logic of ISO/IEC 9075-2, which knows nulls, and with a fourth outcome for what
 * systems may see otherwise, or can't be told from here. A check is broken if it is false, and only then. Only what
 * {@link org.orderlyferry.databases.sql.Portable} has let through is known.
 */
final class Judgement {

    /** So long may a text be that is held against a pattern. */
    private static final int LONGEST = 10_000;

    private static final Set<String> COUNTS_CHARACTERS = Set.of("PostgreSQL", "MariaDB", "SQLite");

    private final Function<Expression.Column, Told> values;
    private final String system;
    private final NumberRules numbers;

    /** Of a record's values. */
    Judgement(Function<Expression.Column, Told> values, String system) {
        this.values = values;
        this.system = system;
        this.numbers = new NumberRules(system);
    }

    /** Whether the record breaks the check for certain. */
    boolean isBroken(Expression check) {
        return of(check).equals(Told.FALSE);
    }

    private Told of(Expression expression) {
        if (expression instanceof Expression.Column column) {
            return values.apply(column);
        } else if (expression instanceof Expression.Text text) {
            return new Told.Text(text.value(), TextRule.LITERAL);
        } else if (expression instanceof Expression.Number number) {
            return NumberRules.literal(number.digits());
        } else if (expression instanceof Expression.Truth truth) {
            return Told.truth(truth.value());
        } else if (expression instanceof Expression.Null) {
            return Told.NULL;
        } else if (expression instanceof Expression.Dated dated) {
            return Moments.literal(dated);
        } else if (expression instanceof Expression.Prefixed prefixed) {
            return prefixed.operator().equals("NOT") ? not(of(prefixed.of())) : signed(prefixed);
        } else if (expression instanceof Expression.Joined joined) {
            return joined(joined);
        } else if (expression instanceof Expression.Is is) {
            return is(is);
        } else if (expression instanceof Expression.In in) {
            Told of = of(in.of());
            Told found =
                    in.list().stream().map(one -> compared("=", of, of(one))).reduce(Told.FALSE, Judgement::or);
            return in.not() ? not(found) : found;
        } else if (expression instanceof Expression.Between between) {
            Told of = of(between.of());
            Told within = and(compared(">=", of, of(between.low())), compared("<=", of, of(between.high())));
            return between.not() ? not(within) : within;
        } else if (expression instanceof Expression.Like like) {
            Told found = like(like);
            return like.not() ? not(found) : found;
        } else if (expression instanceof Expression.Case cases) {
            return cases(cases);
        } else if (expression instanceof Expression.Call call) {
            return call(call);
        }
        return Told.OPEN;
    }

    private Told signed(Expression.Prefixed prefixed) {
        Told of = of(prefixed.of());
        if (of instanceof Told.Number number) {
            return prefixed.operator().equals("-")
                    ? new Told.Number(number.value().negate(), number.exactness())
                    : number;
        }
        return of instanceof Told.Nothing ? of : Told.OPEN;
    }

    private Told joined(Expression.Joined joined) {
        Told left = of(joined.left());
        Told right = of(joined.right());
        return switch (joined.operator()) {
            case "AND" -> and(left, right);
            case "OR" -> or(left, right);
            case "+", "-", "*" -> numbers.reckoned(joined.operator(), left, right);
            default -> compared(joined.operator(), left, right);
        };
    }

    private static Told and(Told left, Told right) {
        return not(or(not(left), not(right)));
    }

    private static Told or(Told left, Told right) {
        if (left.equals(Told.TRUE) || right.equals(Told.TRUE)) {
            return Told.TRUE;
        }
        if (isAnswer(left) && isAnswer(right)) {
            return left.equals(Told.FALSE) && right.equals(Told.FALSE) ? Told.FALSE : Told.NULL;
        }
        return Told.OPEN;
    }

    private static Told not(Told told) {
        return told instanceof Told.Truth truth ? Told.truth(!truth.value()) : isAnswer(told) ? told : Told.OPEN;
    }

    private static boolean isAnswer(Told told) {
        return told instanceof Told.Truth || told instanceof Told.Nothing;
    }

    private Told is(Expression.Is is) {
        Told of = of(is.of());
        if (of instanceof Told.Open) {
            return of;
        }
        boolean missing = of instanceof Told.Nothing;
        boolean held =
                switch (is.what()) {
                    case "TRUE" -> of.equals(Told.TRUE);
                    case "FALSE" -> of.equals(Told.FALSE);
                    default -> missing;
                };
        boolean asksForTruth = !is.what().equals("NULL");
        return asksForTruth && !isAnswer(of) ? Told.OPEN : Told.truth(held != is.not());
    }

    /** One of {@code = <> < <= > >=}. */
    private Told compared(String operator, Told left, Told right) {
        if (left instanceof Told.Open || right instanceof Told.Open) {
            return Told.OPEN;
        }
        if (left instanceof Told.Nothing || right instanceof Told.Nothing) {
            return Told.NULL;
        }
        boolean equality = operator.equals("=") || operator.equals("<>");
        if (left instanceof Told.Text one && right instanceof Told.Text other) {
            return equality
                    ? one.rule()
                            .with(other.rule())
                            .same(one.value(), other.value())
                            .map(same -> Told.truth(same == operator.equals("=")))
                            .orElse(Told.OPEN)
                    // the order of texts is the system's own
                    : Told.OPEN;
        }
        if (left instanceof Told.Truth one && right instanceof Told.Truth other) {
            return equality ? Told.truth((one.value() == other.value()) == operator.equals("=")) : Told.OPEN;
        }
        Optional<Integer> order = left instanceof Told.Number one && right instanceof Told.Number other
                ? numbers.order(one, other)
                : Moments.order(left, right, system);
        return order.map(o -> Told.truth(
                        switch (operator) {
                            case "=" -> o == 0;
                            case "<>" -> o != 0;
                            case "<" -> o < 0;
                            case "<=" -> o <= 0;
                            case ">" -> o > 0;
                            default -> o >= 0;
                        }))
                .orElse(Told.OPEN);
    }

    private Told like(Expression.Like like) {
        Told of = of(like.of());
        if (of instanceof Told.Nothing) {
            return Told.NULL;
        }
        if (!(of instanceof Told.Text text)
                || !(like.pattern() instanceof Expression.Text pattern)
                || text.rule().isPadded()
                || text.rule() == TextRule.UNKNOWN
                || text.value().length() > LONGEST
                || text.value().indexOf('\0') >= 0) {
            return Told.OPEN;
        }
        Optional<Integer> escape = Optional.empty();
        if (like.escape().isPresent()) {
            if (!(like.escape().get() instanceof Expression.Text given)
                    || given.value().codePointCount(0, given.value().length()) != 1) {
                return Told.OPEN;
            }
            escape = Optional.of(given.value().codePointAt(0));
        } else if (pattern.value().indexOf('\\') >= 0) {
            // takes the meaning from what follows in most systems
            return Told.OPEN;
        }
        return LikePattern.of(pattern.value(), escape)
                .map(read -> like(read, text))
                .orElse(Told.OPEN);
    }

    private Told like(LikePattern pattern, Told.Text text) {
        String value = text.value();
        if (pattern.countsCharacters() && !countsAsCharacters(value)) {
            return Told.OPEN;
        }
        if (system.equals("SQLite")) {
            // whatever the column's collation
            return Told.truth(pattern.folded().matches(TextRule.folded(value), false));
        }
        if (pattern.matches(value, false)) {
            return Told.TRUE;
        }
        return switch (text.rule()) {
            case EXACT -> Told.FALSE;
            case CASELESS, LOOSE ->
                pattern.matches(value, true) || !TextRule.isPlain(value) || !pattern.isPlain() ? Told.OPEN : Told.FALSE;
            default -> Told.OPEN;
        };
    }

    /** Whether a text's characters are what the system counts: H2 counts units of UTF-16. */
    private boolean countsAsCharacters(String text) {
        return COUNTS_CHARACTERS.contains(system) || text.chars().noneMatch(c -> Character.isSurrogate((char) c));
    }

    private Told cases(Expression.Case cases) {
        Optional<Told> of = cases.of().map(this::of);
        for (Expression.When when : cases.whens()) {
            Told condition = of(when.condition());
            Told met = of.isPresent() ? compared("=", of.get(), condition) : condition;
            if (!isAnswer(met)) {
                return Told.OPEN;
            }
            if (met.equals(Told.TRUE)) {
                return of(when.result());
            }
        }
        return cases.otherwise().map(this::of).orElse(Told.NULL);
    }

    private Told call(Expression.Call call) {
        List<Told> given = call.arguments().stream().map(this::of).toList();
        return switch (call.function()) {
            case "COALESCE" -> computed(coalesced(given), given);
            case "NULLIF" -> given.size() == 2 ? computed(nullIf(given.get(0), given.get(1)), given) : Told.OPEN;
            case "ABS" -> given.size() == 1 ? ofOne(given.get(0), Judgement::absolute) : Told.OPEN;
            case "CHAR_LENGTH" -> given.size() == 1 ? ofOne(given.get(0), this::characters) : Told.OPEN;
            case "LOWER", "UPPER" ->
                given.size() == 1
                        ? computed(
                                ofOne(
                                        given.get(0),
                                        t -> inCase(t, call.function().equals("UPPER"))),
                                given)
                        : Told.OPEN;
            default -> Told.OPEN;
        };
    }

    private static Told coalesced(List<Told> given) {
        return given.stream()
                .filter(t -> !(t instanceof Told.Nothing))
                .findFirst()
                .orElse(Told.NULL);
    }

    /** How a text is compared that a function gives, systems see differently, unless it is by its characters. */
    private static Told computed(Told result, List<Told> given) {
        if (!(result instanceof Told.Text text)) {
            return result;
        }
        boolean exact = given.stream().map(Judgement::rule).allMatch(r -> r == TextRule.EXACT || r == TextRule.LITERAL);
        return new Told.Text(text.value(), exact ? TextRule.EXACT : TextRule.UNKNOWN);
    }

    private static TextRule rule(Told told) {
        return told instanceof Told.Text text
                ? text.rule()
                : told instanceof Told.Nothing nothing ? nothing.rule() : TextRule.UNKNOWN;
    }

    private Told nullIf(Told one, Told other) {
        Told same = compared("=", one, other);
        return same.equals(Told.TRUE) ? Told.NULL : isAnswer(same) ? one : Told.OPEN;
    }

    private static Told ofOne(Told given, Function<Told, Told> function) {
        return given instanceof Told.Nothing ? Told.NULL : function.apply(given);
    }

    private static Told absolute(Told given) {
        return given instanceof Told.Number number
                ? new Told.Number(number.value().abs(), number.exactness())
                : Told.OPEN;
    }

    private Told characters(Told given) {
        return given instanceof Told.Text text
                        && !text.rule().isPadded()
                        && text.rule() != TextRule.UNKNOWN
                        && (countsAsCharacters(text.value()) || system.equals("H2"))
                        && text.value().indexOf('\0') < 0
                ? new Told.Number(BigDecimal.valueOf(length(text.value())), Told.Exactness.WHOLE)
                : Told.OPEN;
    }

    private int length(String text) {
        return system.equals("H2") ? text.length() : text.codePointCount(0, text.length());
    }

    /** Of letters beyond ASCII, systems and their settings know more or less. */
    private static Told inCase(Told given, boolean capitals) {
        if (given instanceof Told.Text text && text.value().chars().allMatch(c -> c > 0 && c < 0x80)) {
            String folded = TextRule.folded(text.value());
            return new Told.Text(capitals ? folded.toUpperCase(java.util.Locale.ROOT) : folded, text.rule());
        }
        return Told.OPEN;
    }
}

package org.orderlyferry.databases.sql;

import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/**
 * What kind of value an expression gives. Systems agree about values of one family; between two, each has rules of its own:
 * a day and a number added are a day here, and the digits of a date as a number there.
 */
enum Family {
    TRUTH,
    NUMBER,
    TEXT,
    DATE,
    TIME,
    TIMESTAMP,
    /** A text that stands there, which is of whatever type it is put beside. */
    LITERAL,
    NULL,
    OTHER;

    /** An expression's family, by its columns' types. */
    static Family of(Expression expression, Function<Expression.Column, Optional<LogicalType>> types) {
        if (expression instanceof Expression.Column column) {
            return types.apply(column).map(Family::of).orElse(OTHER);
        } else if (expression instanceof Expression.Text) {
            return LITERAL;
        } else if (expression instanceof Expression.Number) {
            return NUMBER;
        } else if (expression instanceof Expression.Null) {
            return NULL;
        } else if (expression instanceof Expression.Dated dated) {
            return valueOf(dated.type());
        } else if (expression instanceof Expression.Prefixed prefixed) {
            return prefixed.operator().equals("NOT") ? TRUTH : NUMBER;
        } else if (expression instanceof Expression.Joined joined) {
            return "+-*".contains(joined.operator()) ? NUMBER : TRUTH;
        } else if (expression instanceof Expression.Call call) {
            return of(call, types);
        } else if (expression instanceof Expression.Case cases) {
            Family family = cases.otherwise().map(o -> of(o, types)).orElse(NULL);
            for (Expression.When when : cases.whens()) {
                family = family.with(of(when.result(), types));
            }
            return family;
        }
        boolean question = expression instanceof Expression.Truth
                || expression instanceof Expression.Is
                || expression instanceof Expression.In
                || expression instanceof Expression.Between
                || expression instanceof Expression.Like;
        return question ? TRUTH : OTHER;
    }

    private static Family of(Expression.Call call, Function<Expression.Column, Optional<LogicalType>> types) {
        List<Expression> arguments = call.arguments();
        switch (call.function()) {
            case Portable.CHARACTERS, "ABS" -> {
                return NUMBER;
            }
            case "NULLIF" -> {
                return arguments.isEmpty() ? OTHER : of(arguments.get(0), types);
            }
            case "COALESCE" -> {
                return arguments.stream().map(a -> of(a, types)).reduce(NULL, Family::with);
            }
            default -> {
                return arguments.stream().allMatch(a -> of(a, types) == LITERAL) ? LITERAL : TEXT;
            }
        }
    }

    private static Family of(LogicalType type) {
        TypeName name = type.name();
        if (name.isExactNumber() || name.isApproximateNumber()) {
            return NUMBER;
        }
        return switch (name) {
            case BOOLEAN -> TRUTH;
            case CHARACTER, VARCHAR, CLOB -> TEXT;
            case DATE -> DATE;
            case TIME -> TIME;
            case TIMESTAMP -> TIMESTAMP;
            default -> OTHER;
        };
    }

    /** The family of what is now one, now the other. */
    private Family with(Family other) {
        if (this == other || other == NULL) {
            return this;
        }
        if (this == NULL) {
            return other;
        }
        boolean texts = this == LITERAL && other == TEXT || this == TEXT && other == LITERAL;
        return texts ? TEXT : OTHER;
    }

    /** Whether every system that takes the two beside each other sees the same in it. */
    boolean compares(Family other) {
        return this == other
                || this == NULL
                || other == NULL
                || this == LITERAL && other.takesTexts()
                || other == LITERAL && takesTexts();
    }

    boolean isMoment() {
        return this == DATE || this == TIME || this == TIMESTAMP;
    }

    private boolean takesTexts() {
        return this != NUMBER && this != TRUTH;
    }
}

package org.orderlyferry.databases.sql;

import java.util.Collection;
import java.util.List;
import java.util.Optional;

/**
 * An expression of the closed language that checks, defaults, generated columns and indexes are read in: values, the
 * table's own columns, operators and pure functions. It has no statements, no queries and no names of other tables, so
 * nothing that is written from it can do anything but compute.
 */
public sealed interface Expression {

    /**
     * One of the table's columns.
     *
     * @param name without quotes
     * @param quoted whether it stood in quotes, so that the case of its letters counts
     */
    record Column(String name, boolean quoted) implements Expression {

        /** Which of a table's columns it is: as it is written, or, where it has no quotes, but for the case of its letters. */
        public Optional<String> among(Collection<String> names) {
            if (names.contains(name) || quoted) {
                return names.contains(name) ? Optional.of(name) : Optional.empty();
            }
            List<String> alike =
                    names.stream().filter(n -> n.equalsIgnoreCase(name)).toList();
            return alike.size() == 1 ? Optional.of(alike.get(0)) : Optional.empty();
        }
    }

    /** A text. */
    record Text(String value) implements Expression {}

    /** A number without a sign: digits with a point and an exponent, or without. */
    record Number(String digits) implements Expression {}

    /** TRUE or FALSE. */
    record Truth(boolean value) implements Expression {}

    /** NULL. */
    record Null() implements Expression {}

    /** Bytes, as hexadecimal digits. */
    record Bytes(String digits) implements Expression {}

    /**
     * A text with a type in front, such as {@code DATE '2031-04-09'}.
     *
     * @param type DATE, TIME or TIMESTAMP
     */
    record Dated(String type, String value) implements Expression {}

    /** The time of asking, such as CURRENT_TIMESTAMP; with digits of a second's fraction, or -1. */
    record Now(String function, int fraction) implements Expression {}

    /** Something with {@code -}, {@code +} or NOT in front. */
    record Prefixed(String operator, Expression of) implements Expression {}

    /** Two things with an operator in between; the operator is one of {@link Operators}. */
    record Joined(String operator, Expression left, Expression right) implements Expression {}

    /**
     * A question about one thing.
     *
     * @param what NULL, TRUE, FALSE or UNKNOWN
     */
    record Is(Expression of, String what, boolean not) implements Expression {}

    /** Whether something is among others. */
    record In(Expression of, List<Expression> list, boolean not) implements Expression {}

    /** PostgreSQL's comparison with each, or some, of an array's elements. */
    record Each(Expression of, String operator, Expression array, boolean all) implements Expression {}

    /** PostgreSQL's array of elements. */
    record Elements(List<Expression> items) implements Expression {}

    /** BETWEEN. */
    record Between(Expression of, Expression low, Expression high, boolean not) implements Expression {}

    /**
     * A text against a pattern.
     *
     * @param operator LIKE, ILIKE, GLOB, REGEXP or SIMILAR TO
     */
    record Like(Expression of, String operator, Expression pattern, Optional<Expression> escape, boolean not)
            implements Expression {}

    /** CASE, with or without something to compare. */
    record Case(Optional<Expression> of, List<When> whens, Optional<Expression> otherwise) implements Expression {}

    /** A branch of CASE. */
    record When(Expression condition, Expression result) {}

    /**
     * CAST.
     *
     * @param type one of {@link CastTypes}, as it is to be written
     */
    record Cast(Expression of, String type) implements Expression {}

    /** EXTRACT; the field is a word such as YEAR. */
    record Extract(String field, Expression of) implements Expression {}

    /** A function, by its name in upper case. */
    record Call(String function, List<Expression> arguments) implements Expression {}

    /** A text compared in another way than its column's. */
    record Collated(Expression of, String collation) implements Expression {}
}

package org.orderlyferry.reshape;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.place.Restriction;

/**
 * A search condition of ISO/IEC 9075-2, as far as it is about one record: comparisons, LIKE, IN, IS NULL, AND, OR, NOT.
 * What compares with a null is neither true nor false.
 */
sealed interface Condition {

    /** Whether it holds for a record; null where that isn't known. */
    @Nullable
    Boolean holds(Function<String, @Nullable String> values);

    /** The columns that it asks for. */
    Set<String> columns();

    /**
     * What holds for all records that it holds for, and maybe for others; nothing where that can't be said so.
     *
     * @param asked whether it may ask for a column
     */
    Optional<Restriction> restriction(Predicate<String> asked);

    /** Both, or either. */
    record Both(Condition one, Condition other, boolean and) implements Condition {
        @Override
        public @Nullable Boolean holds(Function<String, @Nullable String> values) {
            @Nullable Boolean a = one.holds(values);
            @Nullable Boolean b = other.holds(values);
            if (and) {
                return Boolean.FALSE.equals(a) || Boolean.FALSE.equals(b)
                        ? Boolean.FALSE
                        : a == null || b == null ? null : Boolean.TRUE;
            }
            return Boolean.TRUE.equals(a) || Boolean.TRUE.equals(b)
                    ? Boolean.TRUE
                    : a == null || b == null ? null : Boolean.FALSE;
        }

        @Override
        public Set<String> columns() {
            Set<String> all = new java.util.LinkedHashSet<>(one.columns());
            all.addAll(other.columns());
            return all;
        }

        @Override
        public Optional<Restriction> restriction(Predicate<String> asked) {
            List<Restriction> parts = Stream.of(one, other)
                    .flatMap(c -> c.restriction(asked).stream())
                    .toList();
            if (parts.size() == 2) {
                return Optional.of(new Restriction.Several(parts, and));
            }
            return and ? parts.stream().findFirst() : Optional.empty();
        }
    }

    /** The opposite. */
    record Not(Condition inner) implements Condition {
        @Override
        public @Nullable Boolean holds(Function<String, @Nullable String> values) {
            @Nullable Boolean held = inner.holds(values);
            return held == null ? null : !held;
        }

        @Override
        public Set<String> columns() {
            return inner.columns();
        }

        @Override
        public Optional<Restriction> restriction(Predicate<String> asked) {
            return inner instanceof IsNull is && asked.test(is.column())
                    ? Optional.of(new Restriction.Missing(is.column(), false))
                    : Optional.empty();
        }
    }

    /** Whether a column has no value. */
    record IsNull(String column) implements Condition {
        @Override
        public @Nullable Boolean holds(Function<String, @Nullable String> values) {
            return values.apply(column) == null;
        }

        @Override
        public Set<String> columns() {
            return Set.of(column);
        }

        @Override
        public Optional<Restriction> restriction(Predicate<String> asked) {
            return asked.test(column) ? Optional.of(new Restriction.Missing(column, true)) : Optional.empty();
        }
    }

    /**
     * What is asked of a value that is there.
     *
     * @param kept what holds for all values that pass; empty where nothing is known
     */
    record Test(String column, Predicate<String> test, Optional<Restriction> kept) implements Condition {
        @Override
        public @Nullable Boolean holds(Function<String, @Nullable String> values) {
            @Nullable String value = values.apply(column);
            return value == null ? null : test.test(value);
        }

        @Override
        public Set<String> columns() {
            return Set.of(column);
        }

        @Override
        public Optional<Restriction> restriction(Predicate<String> asked) {
            return kept.filter(r -> asked.test(column));
        }
    }
}

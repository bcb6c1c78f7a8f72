package org.orderlyferry.reshape;

import java.util.Set;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

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
    }

    /** What is asked of a value that is there. */
    record Test(String column, java.util.function.Predicate<String> test) implements Condition {
        @Override
        public @Nullable Boolean holds(Function<String, @Nullable String> values) {
            @Nullable String value = values.apply(column);
            return value == null ? null : test.test(value);
        }

        @Override
        public Set<String> columns() {
            return Set.of(column);
        }
    }
}

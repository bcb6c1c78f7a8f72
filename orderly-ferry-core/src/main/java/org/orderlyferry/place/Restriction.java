package org.orderlyferry.place;

import java.util.List;
import org.jspecify.annotations.NullMarked;

/**
 * By what whoever gives records may leave some out itself. It keeps all that are wanted, and maybe others: who asks looks at
 * each. So it has only what every system means the same by: numbers and dates in their order, and nulls. A plain value.
 */
@NullMarked
public sealed interface Restriction {

    /** How a value that is kept compares with another. */
    enum Comparison {
        /** It is equal. */
        EQUAL("="),
        /** It is no greater. */
        AT_MOST("<="),
        /** It is no less. */
        AT_LEAST(">=");

        private final String operator;

        Comparison(String operator) {
            this.operator = operator;
        }

        /** The operator of ISO/IEC 9075-2, 8.2. */
        public String operator() {
            return operator;
        }
    }

    /**
     * A column's value compares so.
     *
     * @param value value text of the column's type
     */
    record Compared(String column, Comparison comparison, String value) implements Restriction {}

    /** A column has a value, or has none. */
    record Missing(String column, boolean missing) implements Restriction {}

    /** All of some hold, or any of them. */
    record Several(List<Restriction> of, boolean all) implements Restriction {
        public Several {
            of = List.copyOf(of);
        }
    }
}

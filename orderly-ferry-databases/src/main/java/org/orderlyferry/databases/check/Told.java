package org.orderlyferry.databases.check;

import java.math.BigDecimal;

/** What a part of a check comes to for one record. */
sealed interface Told {

    /** A null that is nobody's. */
    Told NULL = new Nothing(TextRule.LITERAL);

    /** Not to be told from here: only the system knows. */
    Told OPEN = new Open();

    /** A value, and not a null, that isn't looked into. */
    Told VALUE = new Value();

    Told TRUE = new Truth(true);

    Told FALSE = new Truth(false);

    static Told truth(boolean value) {
        return value ? TRUE : FALSE;
    }

    /**
     * A null.
     *
     * @param rule how texts would be compared that stood in its place
     */
    record Nothing(TextRule rule) implements Told {}

    record Open() implements Told {}

    record Value() implements Told {}

    record Truth(boolean value) implements Told {}

    /** What is known of a number's exactness. */
    enum Exactness {
        WHOLE,
        DECIMAL,
        /** A floating point number of four bytes. */
        SINGLE,
        /** A floating point number of eight bytes. */
        DOUBLE
    }

    record Number(BigDecimal value, Exactness exactness) implements Told {}

    record Text(String value, TextRule rule) implements Told {}

    /** A date, or a date with a time of day; as ISO 8601 has it, so that the earlier one is the lesser text. */
    record Moment(String value, boolean withTime) implements Told {}
}

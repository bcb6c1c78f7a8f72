package org.orderlyferry.place;

/**
 * What is done with values that no other system could hold, such as MariaDB's {@code 0000-00-00}, or PostgreSQL's dates
 * of {@code infinity} and decimals of {@code NaN}.
 */
public enum OutOfRange {
    /** The work stops at the first one, which is named. */
    REFUSE,
    /** They become null, and are counted, with an example. */
    NULL
}

package org.orderlyferry.reconcile;

import org.orderlyferry.model.LogicalType;
import org.orderlyferry.tally.ComparisonForm;

/** What is totalled of a column, by the types that it has on both sides. */
enum TotalKind {
    /** Smallest, largest and sum. */
    NUMBER,
    /** Smallest, largest and length, without blanks at the end where they don't count. */
    TEXT,
    /** Smallest and largest. */
    ORDERED,
    /** Length. */
    BYTES,
    /** No more than how many there are. */
    COUNTED;

    static TotalKind of(LogicalType one, LogicalType other) {
        if (isNumber(one) && isNumber(other)) {
            return NUMBER;
        }
        if (one.name().isText() && other.name().isText()) {
            return TEXT;
        }
        if (one.name().isBinary() && other.name().isBinary()) {
            return BYTES;
        }
        boolean alike = one.name() == other.name() && ComparisonForm.of(one) == ComparisonForm.EXACT;
        return alike ? ORDERED : COUNTED;
    }

    private static boolean isNumber(LogicalType type) {
        return switch (type.name()) {
            case SMALLINT, INTEGER, BIGINT, DECIMAL, REAL, DOUBLE -> true;
            default -> false;
        };
    }
}

package org.orderlyferry.reconcile;

import org.jspecify.annotations.NullMarked;

/**
 * How many records of a table differ.
 *
 * @param missing those that the target doesn't have
 * @param extra those that only the target has
 * @param different those that both have, with other values
 */
@NullMarked
public record RowCounts(long missing, long extra, long different) {

    /** None. */
    public static final RowCounts NONE = new RowCounts(0, 0, 0);

    RowCounts plus(RowCounts other) {
        return new RowCounts(missing + other.missing, extra + other.extra, different + other.different);
    }

    /** All of them. */
    public long all() {
        return missing + extra + different;
    }
}

package org.orderlyferry.reconcile;

import org.jspecify.annotations.NullMarked;

/** How deeply two places are compared. */
@NullMarked
public enum Depth {
    /** The numbers of records. */
    COUNTS,
    /** Every value, by digests of the tables and of each column. */
    DIGESTS,
    /** Every value, and which records differ, and where: by their keys, or as a whole where a table has none. */
    ROWS
}

package org.orderlyferry.reconcile;

/** How deeply two places are compared. */
public enum Depth {
    /** The numbers of records. */
    COUNTS,
    /** Every value, by digests of the tables and of each column. */
    DIGESTS
}

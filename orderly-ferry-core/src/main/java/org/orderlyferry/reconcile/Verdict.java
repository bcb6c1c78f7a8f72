package org.orderlyferry.reconcile;

import org.jspecify.annotations.NullMarked;

/** What comparing one table came to. */
@NullMarked
public enum Verdict {
    EQUAL,
    DIFFERENT,
    /** The source has the table and the target doesn't. */
    MISSING_IN_TARGET,
    /** The target has the table and the source doesn't. */
    MISSING_IN_SOURCE
}

package org.orderlyferry.reconcile;

import org.jspecify.annotations.NullMarked;

/** Hears of each record that differs, one after another, table by table, on the thread that compares. */
@NullMarked
@FunctionalInterface
public interface DifferenceListener {

    /** One of them. */
    void found(RowDifference difference);
}

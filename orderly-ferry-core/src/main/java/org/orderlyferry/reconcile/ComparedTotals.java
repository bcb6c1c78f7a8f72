package org.orderlyferry.reconcile;

import org.jspecify.annotations.NullMarked;

/**
 * A column's control totals on both sides.
 *
 * @param column by the source's name
 * @param equal whether they agree, by the rules by which the columns' values are compared
 */
@NullMarked
public record ComparedTotals(String column, ColumnTotal source, ColumnTotal target, boolean equal) {}

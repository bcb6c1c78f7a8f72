package org.orderlyferry.report;

import org.jspecify.annotations.NullMarked;
import org.orderlyferry.reconcile.ComparedTotals;

/**
 * A column's control totals on both sides.
 *
 * @param column by the source's name
 * @param equal whether they agree
 */
@NullMarked
public record RecordedTotals(String column, boolean equal, RecordedTotal source, RecordedTotal target) {
    public RecordedTotals {
        column = Bounded.text(column);
    }

    static RecordedTotals of(ComparedTotals totals) {
        return new RecordedTotals(
                totals.column(), totals.equal(), RecordedTotal.of(totals.source()), RecordedTotal.of(totals.target()));
    }
}

package org.orderlyferry.report;

import com.fasterxml.jackson.annotation.JsonInclude;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.reconcile.ComparedTotals;

/**
 * A column's control totals on both sides.
 *
 * @param column by the source's name
 * @param equal whether they agree
 * @param sourceConfirmed whether the source's own SQL comes to the same; null if it wasn't asked
 * @param targetConfirmed likewise at the target
 */
@NullMarked
@JsonInclude(JsonInclude.Include.NON_NULL)
public record RecordedTotals(
        String column,
        boolean equal,
        RecordedTotal source,
        RecordedTotal target,
        @Nullable Boolean sourceConfirmed,
        @Nullable Boolean targetConfirmed) {
    public RecordedTotals {
        column = Bounded.text(column);
    }

    static RecordedTotals of(ComparedTotals totals) {
        return new RecordedTotals(
                totals.column(),
                totals.equal(),
                RecordedTotal.of(totals.source()),
                RecordedTotal.of(totals.target()),
                totals.sourceConfirmed().orElse(null),
                totals.targetConfirmed().orElse(null));
    }
}

package org.orderlyferry.reconcile;

import java.util.Optional;
import org.jspecify.annotations.NullMarked;

/**
 * A column's control totals on both sides.
 *
 * @param column by the source's name
 * @param equal whether they agree, by the rules by which the columns' values are compared
 * @param sourceConfirmed whether the source's own SQL comes to the same; empty if it wasn't asked, or is none
 * @param targetConfirmed likewise at the target
 */
@NullMarked
public record ComparedTotals(
        String column,
        ColumnTotal source,
        ColumnTotal target,
        boolean equal,
        Optional<Boolean> sourceConfirmed,
        Optional<Boolean> targetConfirmed) {

    /** Whether a server that was asked says otherwise. */
    public boolean isContradicted() {
        return !sourceConfirmed.orElse(true) || !targetConfirmed.orElse(true);
    }
}

package org.orderlyferry.report;

import java.util.List;
import org.jspecify.annotations.NullMarked;

/**
 * Records that were rejected for the same reason.
 *
 * @param column which column's values; empty for whole records
 * @param count how many
 * @param first the first {@value #FIRST} of them
 */
@NullMarked
public record RejectGroup(String table, String column, String reason, long count, List<RejectSample> first) {

    /** How many are kept of each group. */
    public static final int FIRST = 10;

    public RejectGroup {
        table = Bounded.text(table);
        column = Bounded.text(column);
        reason = Bounded.text(reason);
        first = Bounded.list(first);
    }
}

package org.orderlyferry.reconcile;

import java.util.List;
import org.jspecify.annotations.NullMarked;

/**
 * A rule that had to do with a table.
 *
 * @param rule as a person gave it
 * @param values how many values it made equal that weren't; -1 for a column that wasn't compared, of which nobody knows
 */
@NullMarked
public record AppliedRule(String rule, long values) {

    /** That columns weren't compared. */
    static List<AppliedRule> without(List<String> columns) {
        return columns.stream().map(c -> new AppliedRule("without=" + c, -1)).toList();
    }
}

package org.orderlyferry.report;

import org.jspecify.annotations.NullMarked;

/**
 * A rule of comparison that had to do with a table.
 *
 * @param values how many values it made equal that weren't; -1 for a column that wasn't compared
 */
@NullMarked
public record RecordedRule(String rule, long values) {
    public RecordedRule {
        rule = Bounded.text(rule);
    }
}

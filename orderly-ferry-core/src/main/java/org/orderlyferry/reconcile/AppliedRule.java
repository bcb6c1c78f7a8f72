package org.orderlyferry.reconcile;

import org.jspecify.annotations.NullMarked;

/**
 * A rule that had to do with a table.
 *
 * @param rule as a person gave it
 * @param values how many values it made equal that weren't; -1 for a column that wasn't compared, of which nobody knows
 */
@NullMarked
public record AppliedRule(String rule, long values) {}

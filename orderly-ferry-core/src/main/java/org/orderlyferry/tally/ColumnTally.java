package org.orderlyferry.tally;

/**
 * What was counted of one column.
 *
 * @param name the column
 * @param form how its values were brought into comparison form
 * @param nulls how many are null
 * @param digest the sum of all its values' hashes
 */
public record ColumnTally(String name, ComparisonForm form, long nulls, Digest digest) {}

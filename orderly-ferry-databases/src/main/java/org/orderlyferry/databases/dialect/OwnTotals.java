package org.orderlyferry.databases.dialect;

/**
 * What a system's own SQL can be asked of a column so that it must come to the same as what is computed from its values.
 *
 * @param ordered the smallest and the largest value
 * @param summed the exact sum
 * @param measured the sum of lengths
 */
public record OwnTotals(boolean ordered, boolean summed, boolean measured) {

    /** No more than how many there are. */
    public static final OwnTotals COUNTED = new OwnTotals(false, false, false);
}

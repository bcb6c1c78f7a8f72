package org.orderlyferry.reconcile;

import java.math.BigDecimal;
import java.util.Optional;
import java.util.OptionalLong;
import org.jspecify.annotations.NullMarked;

/**
 * Control totals of a column on one side, computed from its values as they were read.
 *
 * @param values how many aren't null
 * @param nulls how many are
 * @param smallest the smallest value as text: by number where both sides' columns are numbers, else by code points; empty
 *     where values have no order
 * @param largest the largest value, likewise
 * @param sum of numbers, exact; what isn't finite is left out; empty for other types
 * @param length of texts in characters, of binary values in bytes; empty for other types
 */
@NullMarked
public record ColumnTotal(
        long values,
        long nulls,
        Optional<String> smallest,
        Optional<String> largest,
        Optional<BigDecimal> sum,
        OptionalLong length) {}

package org.orderlyferry.place;

import java.math.BigDecimal;
import java.util.Optional;
import java.util.OptionalLong;

/**
 * Control totals of a column as the place's own SQL computes them; empty what isn't asked of it, since it would compute
 * something else: texts are ordered by collations, and floating point numbers are rounded on the way.
 *
 * @param column which column
 * @param values how many aren't null
 * @param nulls how many are
 * @param smallest the smallest value, as text
 * @param largest the largest value, as text
 * @param sum of exact numbers
 * @param length of texts in characters, without blanks at their ends; of binary values in bytes
 */
public record ServerTotal(
        String column,
        long values,
        long nulls,
        Optional<String> smallest,
        Optional<String> largest,
        Optional<BigDecimal> sum,
        OptionalLong length) {}

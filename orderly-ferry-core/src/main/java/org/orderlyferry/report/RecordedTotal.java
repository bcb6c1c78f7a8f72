package org.orderlyferry.report;

import com.fasterxml.jackson.annotation.JsonInclude;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.reconcile.ColumnTotal;

/**
 * Control totals of a column on one side; null what values of its type don't have.
 *
 * @param values how many aren't null
 * @param sum of numbers, exact
 * @param length of texts in characters, of binary values in bytes
 */
@NullMarked
@JsonInclude(JsonInclude.Include.NON_NULL)
public record RecordedTotal(
        long values,
        long nulls,
        @Nullable String smallest,
        @Nullable String largest,
        @Nullable String sum,
        @Nullable Long length) {
    public RecordedTotal {
        smallest = Bounded.value(smallest);
        largest = Bounded.value(largest);
        sum = sum == null ? null : Bounded.text(sum);
    }

    static RecordedTotal of(ColumnTotal total) {
        return new RecordedTotal(
                total.values(),
                total.nulls(),
                total.smallest().orElse(null),
                total.largest().orElse(null),
                total.sum().map(s -> s.toPlainString()).orElse(null),
                total.length().isPresent() ? total.length().getAsLong() : null);
    }
}

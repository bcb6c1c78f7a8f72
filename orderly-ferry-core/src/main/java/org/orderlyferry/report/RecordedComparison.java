package org.orderlyferry.report;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.math.BigDecimal;
import java.util.List;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.reconcile.SampleCount;

/**
 * What comparing both ends came to.
 *
 * @param between what was compared, in words
 * @param equal whether the target has what it should
 * @param differences the first {@value #MOST} records that differ
 * @param where all of them are; empty where they weren't kept
 * @param definitions what comparing definitions came to; null where they weren't
 * @param sampledPercent which share of the records was compared; null where all were
 * @param sampledRows how many of the source's records were; likewise
 */
@NullMarked
@JsonInclude(JsonInclude.Include.NON_NULL)
public record RecordedComparison(
        String between,
        Depth depth,
        boolean equal,
        List<ComparedCounts> tables,
        List<RecordedDifference> differences,
        String where,
        @Nullable RecordedDefinitions definitions,
        @Nullable BigDecimal sampledPercent,
        @Nullable Long sampledRows) {

    /** How many records that differ are kept. */
    public static final int MOST = 100;

    public RecordedComparison {
        between = Bounded.text(between);
        depth = depth == null ? Depth.COUNTS : depth;
        tables = Bounded.list(tables);
        differences = Bounded.list(differences);
        where = Bounded.text(where);
    }

    /** Of a comparison that a record is to hold. */
    public static RecordedComparison of(
            String between, boolean equal, ReconcileResult result, List<RecordedDifference> first, String where) {
        return new RecordedComparison(
                between,
                result.depth(),
                equal,
                result.tables().stream().map(ComparedCounts::of).toList(),
                first,
                where,
                result.definitions().map(RecordedDefinitions::of).orElse(null),
                result.sample().map(SampleCount::percent).orElse(null),
                result.sample().map(SampleCount::rows).orElse(null));
    }
}

package org.orderlyferry.report;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.List;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.reconcile.ComparedTable;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.RowCounts;
import org.orderlyferry.reconcile.Verdict;

/**
 * What comparing one table came to.
 *
 * @param sourceRows records at the source; null if the table isn't there
 * @param targetRows records at the target; null if the table isn't there
 * @param missing records that the target doesn't have; null where they weren't looked for
 * @param extra records that only the target has; likewise
 * @param different records that both have, with other values; likewise
 */
@NullMarked
@JsonInclude(JsonInclude.Include.NON_NULL)
public record ComparedCounts(
        String table,
        Verdict verdict,
        @Nullable Long sourceRows,
        @Nullable Long targetRows,
        List<String> differingColumns,
        List<String> onlyAtSource,
        List<String> onlyAtTarget,
        String sourceDigest,
        String targetDigest,
        @Nullable Long missing,
        @Nullable Long extra,
        @Nullable Long different,
        List<RecordedRule> rules,
        List<RecordedTotals> totals) {
    public ComparedCounts {
        table = Bounded.text(table);
        verdict = verdict == null ? Verdict.DIFFERENT : verdict;
        differingColumns = Bounded.list(differingColumns);
        onlyAtSource = Bounded.list(onlyAtSource);
        onlyAtTarget = Bounded.list(onlyAtTarget);
        sourceDigest = Bounded.text(sourceDigest);
        targetDigest = Bounded.text(targetDigest);
        rules = Bounded.list(rules);
        totals = Bounded.list(totals);
    }

    static ComparedCounts of(ComparedTable table) {
        return new ComparedCounts(
                table.table().text(),
                table.verdict(),
                table.sourceRows().isPresent() ? table.sourceRows().getAsLong() : null,
                table.targetRows().isPresent() ? table.targetRows().getAsLong() : null,
                table.differing(),
                table.onlyAtSource(),
                table.onlyAtTarget(),
                table.sourceDigest(),
                table.targetDigest(),
                table.rows().map(RowCounts::missing).orElse(null),
                table.rows().map(RowCounts::extra).orElse(null),
                table.rows().map(RowCounts::different).orElse(null),
                table.rules().stream()
                        .map(r -> new RecordedRule(r.rule(), r.values()))
                        .toList(),
                table.totals().stream().map(RecordedTotals::of).toList());
    }

    /** How deeply it was compared. */
    Depth depth() {
        if (missing != null) {
            return Depth.ROWS;
        }
        return sourceDigest.isEmpty() ? Depth.COUNTS : Depth.DIGESTS;
    }

    /** How many records differ, where that was looked for. */
    public long differingRows() {
        return (missing == null ? 0 : missing) + (extra == null ? 0 : extra) + (different == null ? 0 : different);
    }
}

package org.orderlyferry.reconcile;

import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.TableName;
import org.orderlyferry.tally.Digest;
import org.orderlyferry.tally.SeededDigest;

/**
 * What comparing one table came to.
 *
 * @param table the table's name at the source; at the target, where only that has it
 * @param sourceRows records at the source; empty if the table isn't there
 * @param targetRows records at the target; empty if the table isn't there
 * @param differing columns whose values differ; empty at the depth of counts
 * @param onlyAtSource columns that the target doesn't have
 * @param onlyAtTarget columns that the source doesn't have
 * @param sourceDigest digest of all compared columns; empty text at the depth of counts
 * @param targetDigest likewise
 * @param rows how many records differ; empty where that wasn't looked for
 * @param totals control totals of the compared columns; none unless they were asked for
 * @param rules what of a person's own rules had to do with it
 */
@NullMarked
public record ComparedTable(
        TableName table,
        OptionalLong sourceRows,
        OptionalLong targetRows,
        Verdict verdict,
        List<String> differing,
        List<String> onlyAtSource,
        List<String> onlyAtTarget,
        String sourceDigest,
        String targetDigest,
        Optional<RowCounts> rows,
        List<AppliedRule> rules,
        List<ComparedTotals> totals) {

    public ComparedTable {
        rules = List.copyOf(rules);
        totals = List.copyOf(totals);
    }

    /** How deeply it was compared. */
    public Depth depth() {
        if (rows.isPresent()) {
            return Depth.ROWS;
        }
        return sourceDigest.isEmpty() ? Depth.COUNTS : Depth.DIGESTS;
    }

    /** Whether both sides have as many records, with the same digest. */
    boolean hasEqualDigests() {
        return sourceDigest.equals(targetDigest) && sourceRows.equals(targetRows);
    }

    /** Whether the places' own servers took its digests, so that no record was read; see {@link Reconcile#byServers}. */
    public boolean isByServers() {
        return SeededDigest.parse(sourceDigest).isPresent();
    }

    /** With digests that say so, and with which seed they were taken. */
    ComparedTable byServers(long seed) {
        return new ComparedTable(
                table,
                sourceRows,
                targetRows,
                verdict,
                differing,
                onlyAtSource,
                onlyAtTarget,
                new SeededDigest(seed, Digest.parse(sourceDigest)).toString(),
                new SeededDigest(seed, Digest.parse(targetDigest)).toString(),
                rows,
                rules,
                totals);
    }

    ComparedTable withVerdict(Verdict value) {
        return with(value, totals);
    }

    ComparedTable withTotals(List<ComparedTotals> value) {
        return with(verdict, value);
    }

    private ComparedTable with(Verdict found, List<ComparedTotals> taken) {
        return new ComparedTable(
                table,
                sourceRows,
                targetRows,
                found,
                differing,
                onlyAtSource,
                onlyAtTarget,
                sourceDigest,
                targetDigest,
                rows,
                rules,
                taken);
    }

    /** With the numbers of all records, where only a sample of them was compared. */
    ComparedTable withCounts(ComparedTable counts) {
        return new ComparedTable(
                table,
                counts.sourceRows,
                counts.targetRows,
                verdict == Verdict.EQUAL ? counts.verdict : verdict,
                differing,
                onlyAtSource,
                onlyAtTarget,
                sourceDigest,
                targetDigest,
                rows,
                rules,
                totals);
    }

    /** With what was found of its records; which alone decides where rules were given. */
    ComparedTable withRows(RowCounts counts, List<AppliedRule> applied, List<String> columns) {
        Verdict found = counts.all() == 0 && onlyAtSource.isEmpty() && onlyAtTarget.isEmpty()
                ? Verdict.EQUAL
                : Verdict.DIFFERENT;
        return new ComparedTable(
                table,
                sourceRows,
                targetRows,
                found,
                columns,
                onlyAtSource,
                onlyAtTarget,
                sourceDigest,
                targetDigest,
                Optional.of(counts),
                applied,
                totals);
    }
}

package org.orderlyferry.reconcile;

import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableName;

/**
 * What comparing two places came to.
 *
 * @param depth how deeply they were compared
 * @param tables in order of their names
 * @param findings what a person should know besides
 * @param definitions what comparing definitions came to; empty unless it was asked for
 * @param sample that only some records were compared; empty where all were
 */
@NullMarked
public record ReconcileResult(
        Depth depth,
        List<ComparedTable> tables,
        List<Finding> findings,
        Optional<ComparedDefinitions> definitions,
        Optional<SampleCount> sample) {
    public ReconcileResult {
        tables = List.copyOf(tables);
        findings = List.copyOf(findings);
    }

    /**
     * The same, where some tables were held against each other in another way, that alone decides.
     *
     * @param known those tables
     * @param lacking which of them aren't as they should be; the others are
     */
    public ReconcileResult decided(Collection<TableName> known, Collection<TableName> lacking) {
        List<ComparedTable> all = tables.stream()
                .map(t -> known.contains(t.table())
                        ? t.withVerdict(lacking.contains(t.table()) ? Verdict.DIFFERENT : Verdict.EQUAL)
                        : t)
                .toList();
        return new ReconcileResult(depth, all, findings, definitions, sample);
    }

    /**
     * Whether all tables are equal, and their definitions so far as they were compared and can be. Never so where only a
     * sample was compared.
     */
    public boolean isEqual() {
        return sample.isEmpty() && isWithoutDifference();
    }

    /** Whether no difference was found, in all records or in those of a sample. */
    public boolean isWithoutDifference() {
        return tables.stream().allMatch(t -> t.verdict() == Verdict.EQUAL)
                && tables.stream().flatMap(t -> t.totals().stream()).noneMatch(ComparedTotals::isContradicted)
                && definitions.map(ComparedDefinitions::areEqual).orElse(true);
    }
}

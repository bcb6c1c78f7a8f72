package org.orderlyferry.reconcile;

import java.util.List;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.Finding;

/**
 * What comparing two places came to.
 *
 * @param depth how deeply they were compared
 * @param tables in order of their names
 * @param findings what a person should know besides
 */
@NullMarked
public record ReconcileResult(Depth depth, List<ComparedTable> tables, List<Finding> findings) {
    public ReconcileResult {
        tables = List.copyOf(tables);
        findings = List.copyOf(findings);
    }

    /** Whether all tables are equal. */
    public boolean isEqual() {
        return tables.stream().allMatch(t -> t.verdict() == Verdict.EQUAL);
    }
}

package org.orderlyferry.crossing;

import java.nio.file.Path;
import java.util.List;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableName;

/**
 * What undoing a run came to.
 *
 * @param folder the run's
 * @param removed tables that the run had made, and that are gone
 * @param restored tables that are as they were before the run
 * @param equal whether those were shown to be
 * @param moved whether they came back whole, from where the target kept them, so that only their records were counted
 * @param findings what a person should know
 */
@NullMarked
public record UndoResult(
        Path folder,
        List<TableName> removed,
        List<TableName> restored,
        boolean equal,
        boolean moved,
        List<Finding> findings) {
    public UndoResult {
        removed = List.copyOf(removed);
        restored = List.copyOf(restored);
        findings = List.copyOf(findings);
    }
}

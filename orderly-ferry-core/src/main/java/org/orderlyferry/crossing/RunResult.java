package org.orderlyferry.crossing;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.ledger.LedgerLine;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.reconcile.ReconcileResult;

/**
 * What a run came to.
 *
 * @param folder the run's
 * @param wentOn whether it had been cut short before
 * @param steps what the ledger says, the oldest first
 * @param proof what the proof came to; empty where an earlier process had it
 * @param equal whether the target was shown to have what it should
 * @param findings what a person should know
 * @param leftBehind what couldn't be carried
 */
@NullMarked
public record RunResult(
        Path folder,
        boolean wentOn,
        List<LedgerLine> steps,
        Optional<ReconcileResult> proof,
        boolean equal,
        List<Finding> findings,
        List<LeftBehind> leftBehind) {
    public RunResult {
        steps = List.copyOf(steps);
        findings = List.copyOf(findings);
        leftBehind = List.copyOf(leftBehind);
    }
}

package org.orderlyferry.crossing;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.crossing.LedgerLine.State;
import org.orderlyferry.crossing.LedgerLine.Step;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;

/** What the runs of a crossing are in. */
final class Runs {

    private Runs() {}

    /** The last run that wasn't refused before it had begun. */
    static Optional<RunFolder> last(Path keep) {
        List<RunFolder> all = RunFolder.all(keep);
        for (int i = all.size() - 1; i >= 0; i--) {
            if (!RunLedger.read(all.get(i).path()).has(Step.RUN, State.GIVEN_UP)) {
                return Optional.of(all.get(i));
            }
        }
        return Optional.empty();
    }

    /** The last run, if it was cut short. */
    static Optional<RunFolder> unfinished(Path keep) {
        return last(keep).filter(f -> {
            RunLedger ledger = RunLedger.read(f.path());
            return !ledger.has(Step.RUN, State.DONE)
                    && !ledger.has(Step.UNDO, State.BEGUN)
                    && !ledger.has(Step.UNDO, State.DONE);
        });
    }

    /** Which of a crossing's tables a target has. */
    static List<TableName> there(Crossing crossing, Place target) {
        List<TableName> all = target.tables();
        return crossing.tables().stream()
                .map(CrossingTable::to)
                .filter(all::contains)
                .toList();
    }
}

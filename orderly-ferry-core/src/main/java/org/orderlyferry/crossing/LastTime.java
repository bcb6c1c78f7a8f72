package org.orderlyferry.crossing;

import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.ledger.LedgerLine;
import org.orderlyferry.ledger.LedgerLine.State;
import org.orderlyferry.ledger.LedgerLine.Step;
import org.orderlyferry.ledger.RunFolder;
import org.orderlyferry.ledger.RunLedger;

/** How long the last run of all records took that went through in one piece. */
final class LastTime {

    private LastTime() {}

    static Optional<Duration> of(Path keep) {
        List<RunFolder> runs = RunFolder.all(keep);
        for (int i = runs.size() - 1; i >= 0; i--) {
            RunLedger ledger = RunLedger.read(runs.get(i).path());
            if (Runs.isCatchUp(ledger)) {
                continue;
            }
            List<LedgerLine> lines = ledger.lines();
            long begun = lines.stream()
                    .filter(l -> l.what() == Step.RUN && l.state() == State.BEGUN)
                    .count();
            Optional<Instant> end = lines.stream()
                    .filter(l -> l.what() == Step.RUN && l.state() == State.DONE)
                    .map(LedgerLine::at)
                    .findFirst();
            if (begun == 1 && end.isPresent()) {
                return Optional.of(Duration.between(lines.get(0).at(), end.get()));
            }
        }
        return Optional.empty();
    }
}

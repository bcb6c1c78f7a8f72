package org.orderlyferry.reconcile;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.work.TallyLedger;
import org.orderlyferry.work.TallyWork;

/** What a comparison keeps of both sides until it has come to its end; nothing, where there is no folder for it. */
final class KeptTallies implements AutoCloseable {

    private final List<TallyLedger> ledgers;

    KeptTallies(Optional<Path> folder) {
        ledgers = folder.map(f -> Stream.of("source", "target")
                        .map(side -> TallyLedger.open(f.resolve(side + "-tallies.jsonl")))
                        .toList())
                .orElse(List.of());
    }

    /** That it goes on, and since when: who has written in between has made two moments of it. */
    List<Finding> findings() {
        boolean goesOn = ledgers.stream().anyMatch(TallyLedger::isGoingOn);
        return goesOn
                ? List.of(
                        Finding.ofAll(
                                FindingCode.RESUMED,
                                "a comparison that was begun at "
                                        + ledgers.get(0).began() + " goes on: "
                                        + ledgers.stream()
                                                .mapToInt(TallyLedger::done)
                                                .sum() + " of "
                                        + ledgers.stream()
                                                .mapToInt(TallyLedger::all)
                                                .sum()
                                        + " slices were tallied already. What anybody has written since counts in the others alone"))
                : List.of();
    }

    void of(TallyWork source, TallyWork target) {
        if (!ledgers.isEmpty()) {
            source.ledger(ledgers.get(0));
            target.ledger(ledgers.get(1));
        }
    }

    /** All is tallied: nothing of it is trusted again. */
    void done() {
        ledgers.forEach(TallyLedger::remove);
    }

    @Override
    public void close() {
        ledgers.forEach(TallyLedger::close);
    }
}

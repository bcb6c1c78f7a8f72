package org.orderlyferry.crossing;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.ledger.LedgerLine;
import org.orderlyferry.ledger.LedgerLine.State;
import org.orderlyferry.ledger.LedgerLine.Step;
import org.orderlyferry.ledger.RunLedger;

/** The table of arrivals: a ledger as runs have it, with a line for each file that was taken or refused. */
final class ArrivalLedger implements AutoCloseable {

    private final RunLedger ledger;

    private ArrivalLedger(RunLedger ledger) {
        this.ledger = ledger;
    }

    private static Path folder(Path keep) {
        return keep.resolve("arrivals");
    }

    static ArrivalLedger open(Path keep) {
        return new ArrivalLedger(RunLedger.open(folder(keep)));
    }

    /** All arrivals so far, the oldest first. */
    static List<Arrival> all(Path keep) {
        return Files.exists(folder(keep).resolve(RunLedger.NAME))
                ? new ArrivalLedger(RunLedger.read(folder(keep))).arrivals()
                : List.of();
    }

    List<Arrival> arrivals() {
        List<Arrival> all = new ArrayList<>();
        for (LedgerLine line : ledger.lines()) {
            all.add(new Arrival(
                    line.at(),
                    line.fact("file"),
                    line.fact("content"),
                    Long.parseLong(line.fact("rows")),
                    line.state() == State.DONE ? Arrival.State.TAKEN : Arrival.State.REFUSED,
                    line.fact("why")));
        }
        return all;
    }

    /** The arrival of a content that was taken. */
    Optional<Arrival> taken(String content) {
        return arrivals().stream()
                .filter(a -> a.state() == Arrival.State.TAKEN && a.content().equals(content))
                .findFirst();
    }

    void note(Arrival arrival) {
        ledger.note(
                Step.ARRIVAL,
                arrival.state() == Arrival.State.TAKEN ? State.DONE : State.GIVEN_UP,
                Map.of(
                        "file",
                        arrival.file(),
                        "content",
                        arrival.content(),
                        "rows",
                        Long.toString(arrival.rows()),
                        "why",
                        arrival.why()));
    }

    @Override
    public void close() {
        ledger.close();
    }
}

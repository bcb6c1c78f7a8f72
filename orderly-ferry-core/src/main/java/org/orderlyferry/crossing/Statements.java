package org.orderlyferry.crossing;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.ledger.LedgerLine;
import org.orderlyferry.ledger.LedgerLine.State;
import org.orderlyferry.ledger.LedgerLine.Step;
import org.orderlyferry.ledger.RunLedger;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.StopSignal;

/**
 * The statements that a crossing runs at its target before the load, or after it, each once. They are a person's own: nobody
 * but that person can tell whether one that was begun was done.
 */
final class Statements {

    private static final String NUMBER = "number";
    private static final String SQL = "sql";
    private static final String WHY = "why";
    private static final String UNDOING = "undoing";
    private static final String UNDONE = "statement";

    private final Step step;
    private final List<TargetStatement> all;
    private final RunLedger ledger;

    /**
     * Of a run.
     *
     * @param step {@link Step#BEFORE} or {@link Step#AFTER}
     */
    Statements(Step step, Crossing crossing, RunLedger ledger) {
        this.step = step;
        this.all = of(step, crossing);
        this.ledger = ledger;
    }

    private static List<TargetStatement> of(Step step, Crossing crossing) {
        return step == Step.BEFORE ? crossing.before() : crossing.after();
    }

    /** Runs those that weren't. */
    void run(Ends ends, Optional<Run.StatementDecision> decision, RunListener listener, StopSignal stop) {
        for (int i = 0; i < all.size(); i++) {
            String number = Integer.toString(i + 1);
            String sql = all.get(i).sql();
            Optional<LedgerLine> done = noted(State.DONE, number);
            if (done.isPresent()) {
                listener.done(done.get(), List.of());
                continue;
            }
            boolean open = isOpen(number, sql);
            if (open && decision.isEmpty()) {
                throw new UsageException(asking(number, sql));
            }
            stop.check();
            listener.begins(step);
            if (!open || decision.get() == Run.StatementDecision.AGAIN) {
                ledger.note(step, State.BEGUN, Map.of(NUMBER, number, SQL, sql));
                try (TargetPlace target = ends.target()) {
                    target.execute(sql);
                } catch (PlaceException e) {
                    if (e.isLost() || stop.isStopped()) {
                        throw e;
                    }
                    ledger.note(step, State.GIVEN_UP, Map.of(NUMBER, number, SQL, sql, WHY, e.what()));
                    throw new PlaceException(
                            e.place(),
                            shown(number) + " failed: " + e.what() + ". It may be written otherwise in the crossing",
                            e);
                }
            }
            ledger.note(step, State.DONE, Map.of(NUMBER, number, SQL, sql));
            listener.done(ledger.last(step, State.DONE).orElseThrow(), List.of());
        }
    }

    /** What a person is asked before a run goes on, if anything. */
    Optional<String> question() {
        for (int i = 0; i < all.size(); i++) {
            String number = Integer.toString(i + 1);
            if (noted(State.DONE, number).isEmpty() && isOpen(number, all.get(i).sql())) {
                return Optional.of(asking(number, all.get(i).sql()));
            }
        }
        return Optional.empty();
    }

    /** Whether nobody can know if it was done: it was begun, and isn't another one than that which the target has refused. */
    private boolean isOpen(String number, String sql) {
        Optional<LedgerLine> begun = noted(State.BEGUN, number);
        Optional<LedgerLine> refused = refused(number);
        return begun.isPresent()
                && (refused.isEmpty() || refused.get().fact(SQL).equals(sql));
    }

    /** What the target said when the statement was run last, if it said anything. */
    private Optional<LedgerLine> refused(String number) {
        List<LedgerLine> lines = ledger.lines().stream()
                .filter(l -> l.what() == step && l.fact(NUMBER).equals(number))
                .toList();
        return lines.isEmpty() || lines.get(lines.size() - 1).state() != State.GIVEN_UP
                ? Optional.empty()
                : Optional.of(lines.get(lines.size() - 1));
    }

    private String asking(String number, String sql) {
        return refused(number)
                .map(l -> shown(number) + " failed when it was run: " + l.fact(WHY)
                        + ". Write it otherwise in the crossing; or say by the option statement whether it is done, or is to"
                        + " be run again as it is; nothing was changed")
                .orElseGet(
                        () -> "the run was cut short while " + shown(number)
                                + " was under way, and only you can find out whether it was done: "
                                + noted(State.BEGUN, number)
                                        .map(l -> l.fact(SQL))
                                        .filter(s -> !s.isEmpty())
                                        .orElse(sql)
                                + ". Say by the option statement whether it is done, or is to be run again; nothing was changed");
    }

    private String shown(String number) {
        return "statement " + number + (step == Step.BEFORE ? " before" : " after") + " the load";
    }

    /** Runs what undoes those that were done, the last one first. */
    void undo(TargetPlace target, Optional<Run.StatementDecision> decision) {
        for (int i = all.size() - 1; i >= 0; i--) {
            String number = Integer.toString(i + 1);
            String named = step.word() + " " + number;
            boolean undone = undoing(UNDONE, named).isPresent();
            if (noted(State.DONE, number).isPresent()
                    && !undone
                    && !all.get(i).undo().isEmpty()) {
                undo(target, all.get(i), number, named, decision);
                ledger.note(Step.UNDO, State.BEGUN, Map.of(UNDONE, named));
            }
        }
    }

    private void undo(
            TargetPlace target,
            TargetStatement statement,
            String number,
            String named,
            Optional<Run.StatementDecision> decision) {
        Optional<LedgerLine> before = undoing(UNDOING, named);
        boolean open = before.filter(l -> l.fact(WHY).isEmpty()).isPresent();
        if (open && decision.isEmpty()) {
            throw new UsageException("undoing was cut short while what undoes " + shown(number)
                    + " was under way, and only you can find out whether it was done: " + statement.undo()
                    + ". Say by the option statement whether it is done, or is to be run again; nothing was changed");
        }
        if (before.isPresent()
                && decision.filter(d -> d == Run.StatementDecision.DONE).isPresent()) {
            return;
        }
        ledger.note(Step.UNDO, State.BEGUN, Map.of(UNDOING, named));
        try {
            target.execute(statement.undo());
        } catch (PlaceException e) {
            if (e.isLost()) {
                throw e;
            }
            ledger.note(Step.UNDO, State.BEGUN, Map.of(UNDOING, named, WHY, e.what()));
            throw new PlaceException(
                    e.place(),
                    "what undoes " + shown(number) + " failed: " + e.what()
                            + ". Undo runs it again, unless it is told by the option statement that it is done",
                    e);
        }
    }

    private Optional<LedgerLine> undoing(String fact, String named) {
        return ledger.lines().stream()
                .filter(l -> l.what() == Step.UNDO && l.fact(fact).equals(named))
                .reduce((first, second) -> second);
    }

    /** Those of which nobody knows whether they were done, and that aren't undone therefore. */
    List<Finding> unknown() {
        List<Finding> unknown = new ArrayList<>();
        for (int i = 0; i < all.size(); i++) {
            String number = Integer.toString(i + 1);
            if (noted(State.BEGUN, number).isPresent()
                    && noted(State.DONE, number).isEmpty()
                    && refused(number).isEmpty()) {
                unknown.add(Finding.ofAll(
                        FindingCode.STATEMENT_UNKNOWN,
                        shown(number)
                                + " was under way when the run was cut short, and nobody knows whether it was done; it wasn't"
                                + " undone: " + all.get(i).sql()));
            }
        }
        return unknown;
    }

    private Optional<LedgerLine> noted(State state, String number) {
        return ledger.lines().stream()
                .filter(l ->
                        l.what() == step && l.state() == state && l.fact(NUMBER).equals(number))
                .reduce((first, second) -> second);
    }

    /**
     * Whether a run may go on by other statements than it was begun with: those that are done stay as they are, and none comes
     * before a load that has begun.
     *
     * @param before the crossing as it was
     * @param now the crossing as it is
     */
    static boolean mayGoOn(Step step, Crossing before, Crossing now, RunLedger ledger) {
        List<TargetStatement> old = of(step, before);
        List<TargetStatement> all = of(step, now);
        if (step == Step.BEFORE && ledger.has(Step.LOAD, State.BEGUN)) {
            return old.equals(all);
        }
        int done = (int) ledger.lines().stream()
                .filter(l -> l.what() == step && l.state() == State.DONE)
                .count();
        return old.size() >= done && all.size() >= done && old.subList(0, done).equals(all.subList(0, done));
    }
}

package org.orderlyferry.crossing;

import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import org.orderlyferry.ledger.LedgerLine.State;
import org.orderlyferry.ledger.LedgerLine.Step;
import org.orderlyferry.ledger.RunFolder;
import org.orderlyferry.ledger.RunLedger;
import org.orderlyferry.ledger.RunLock;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.report.Software;

/**
 * A run while one process works on it, and no other.
 *
 * @param folder the run's
 * @param ledger what is done
 * @param steps does what isn't
 * @param listener hears of it all
 * @param wentOn whether the run was cut short before
 */
record RunSession(RunFolder folder, RunLedger ledger, StepRunner steps, RunListener listener, boolean wentOn) {

    /**
     * Works on the run that was cut short, or on a new one.
     *
     * @param kind what kind of run it is
     * @param allowed looks whether it may begin, while nobody else works on the crossing's runs
     * @param work does it
     * @throws UsageException if another process works on them, if a run of another kind was cut short, or if the crossing was
     *     edited since
     */
    @SuppressWarnings("try") // the lock is held, and nothing else is done with it
    static RunResult within(
            Crossing crossing,
            String kind,
            RunListener listener,
            StopSignal stop,
            Runnable allowed,
            Function<RunSession, RunResult> work) {
        try (RunLock lock = RunLock.take(crossing.keep(), listener::waits)) {
            allowed.run();
            Optional<RunFolder> unfinished =
                    Runs.unfinished(crossing.keep()).filter(f -> !isGivenUp(crossing, kind, f));
            boolean wentOn = unfinished.isPresent();
            RunFolder folder = unfinished.orElseGet(() -> RunFolder.next(crossing.keep()));
            if (wentOn) {
                mustBeOfKind(kind, folder);
                Runs.mustBeTheSame(crossing, folder);
            } else {
                CrossingJson.keep(crossing, folder);
            }
            try (RunLedger ledger = RunLedger.open(folder.path());
                    RunLog log = new RunLog(folder.path(), listener)) {
                log.run(folder.name(), wentOn);
                Software here = Software.here();
                ledger.note(
                        Step.RUN,
                        State.BEGUN,
                        Map.of(
                                "by",
                                RunLock.who(),
                                "kind",
                                kind,
                                "version",
                                here.version(),
                                "java",
                                here.java(),
                                "system",
                                here.system()));
                return logged(
                        new RunSession(
                                folder, ledger, new StepRunner(ledger, log, stop, folder, log.time()), log, wentOn),
                        log,
                        work);
            }
        }
    }

    /** A catch-up that has come to change nothing yet, and whose crossing was edited since, begins anew. */
    private static boolean isGivenUp(Crossing crossing, String kind, RunFolder folder) {
        if (!kind.equals(Runs.CATCH_UP)
                || CrossingJson.differences(crossing, folder).isEmpty()) {
            return false;
        }
        try (RunLedger ledger = RunLedger.open(folder.path())) {
            if (!Runs.isCatchUp(ledger) || ledger.has(Step.LOAD, State.BEGUN)) {
                return false;
            }
            ledger.note(Step.RUN, State.GIVEN_UP, Map.of("why", "the crossing was edited before anything was changed"));
            return true;
        }
    }

    private static void mustBeOfKind(String kind, RunFolder folder) {
        boolean catchUp = Runs.isCatchUp(RunLedger.read(folder.path()));
        if (catchUp != kind.equals(Runs.CATCH_UP)) {
            throw new UsageException((catchUp ? "the catch-up of " : "the run of ") + folder.name()
                    + " isn't finished; let it go on first");
        }
    }

    private static RunResult logged(RunSession session, RunLog log, Function<RunSession, RunResult> work) {
        try {
            return work.apply(session);
        } catch (RuntimeException e) {
            log.failed(e);
            throw e;
        }
    }

    /** A run that is refused before it has done anything isn't one to go on with. */
    void refused(UsageException why) {
        if (!wentOn
                && !ledger.has(Step.EXPORT, State.DONE)
                && !ledger.has(Step.BEFORE, State.BEGUN)
                && !ledger.has(Step.LOAD, State.BEGUN)) {
            ledger.note(Step.RUN, State.GIVEN_UP, Map.of("why", why.getMessage()));
        }
    }

    /** The end, when all steps are done. */
    RunResult ended(Optional<ReconcileResult> proof) {
        steps.end();
        boolean equal =
                ledger.last(Step.PROOF, State.DONE).orElseThrow().fact("equal").equals("true");
        return new RunResult(folder.path(), wentOn, ledger.lines(), proof, equal, steps.findings(), steps.leftBehind());
    }
}

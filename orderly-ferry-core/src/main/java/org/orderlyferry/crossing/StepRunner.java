package org.orderlyferry.crossing;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import org.orderlyferry.ledger.LedgerLine;
import org.orderlyferry.ledger.LedgerLine.State;
import org.orderlyferry.ledger.LedgerLine.Step;
import org.orderlyferry.ledger.RunFolder;
import org.orderlyferry.ledger.RunLedger;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.place.Place;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.report.RecordJson;
import org.orderlyferry.report.RecordedComparison;
import org.orderlyferry.report.StepNotes;
import org.orderlyferry.report.Timeline;
import org.orderlyferry.work.TransferResult;

/** Does a run's steps one after another, each once: what the ledger says is done isn't done again. */
final class StepRunner {

    private final RunLedger ledger;
    private final RunListener listener;
    private final StopSignal stop;
    private final RunFolder folder;
    private final Timeline time;
    private final List<Finding> findings = new ArrayList<>();
    private final List<LeftBehind> leftBehind = new ArrayList<>();
    private StepNotes notes = new StepNotes();

    StepRunner(RunLedger ledger, RunListener listener, StopSignal stop, RunFolder folder, Timeline time) {
        this.ledger = ledger;
        this.listener = listener;
        this.stop = stop;
        this.folder = folder;
        this.time = time;
    }

    /**
     * Does a step, unless it is done.
     *
     * @param work gives what the ledger is to say of it
     */
    void step(Step step, Supplier<Map<String, String>> work) {
        Optional<LedgerLine> done = ledger.last(step, State.DONE);
        if (done.isPresent()) {
            listener.done(done.get(), List.of());
            return;
        }
        stop.check();
        listener.begins(step);
        int before = findings.size();
        ledger.note(step, State.BEGUN, Map.of());
        notes = new StepNotes();
        time.begin();
        Map<String, String> facts = work.get();
        // before the ledger says that it is done: what is done has its record
        RecordJson.write(folder.record(step), notes.step(step.word(), time).withFacts(facts));
        ledger.note(step, State.DONE, facts);
        listener.done(ledger.last(step, State.DONE).orElseThrow(), findings.subList(before, findings.size()));
    }

    /** Notes that all is done. */
    void end() {
        if (!ledger.has(Step.RUN, State.DONE)) {
            ledger.note(Step.RUN, State.DONE, Map.of());
        }
    }

    /** Takes what a piece of work has found; a set tells again what its source has told. */
    void taken(TransferResult result) {
        notes.moved(result);
        result.findings().stream().filter(f -> !findings.contains(f)).forEach(findings::add);
        result.leftBehind().stream().filter(l -> !leftBehind.contains(l)).forEach(leftBehind::add);
    }

    /**
     * Takes what a load came to. What it leaves behind is all that is: it knows what the set lacks, and what of that the target
     * has all the same.
     */
    void loaded(TransferResult result) {
        leftBehind.clear();
        taken(result);
    }

    void found(List<Finding> more) {
        notes.found(more);
        findings.addAll(more);
    }

    /** Takes what a set tells that the step has filled. */
    void kept(Place set) {
        notes.kept(set);
    }

    /** Takes what comparing has come to. */
    void compared(RecordedComparison comparison) {
        notes.compared(comparison);
    }

    List<Finding> findings() {
        return findings;
    }

    List<LeftBehind> leftBehind() {
        return leftBehind;
    }
}

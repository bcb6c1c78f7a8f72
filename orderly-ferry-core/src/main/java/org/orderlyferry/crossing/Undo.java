package org.orderlyferry.crossing;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.ledger.LedgerLine.State;
import org.orderlyferry.ledger.LedgerLine.Step;
import org.orderlyferry.ledger.RunFolder;
import org.orderlyferry.ledger.RunLedger;
import org.orderlyferry.ledger.RunLock;
import org.orderlyferry.ledger.TableFacts;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Leftover;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.PlanFile;
import org.orderlyferry.work.TransferResult;

/**
 * Puts a target back as it was before the last run of a crossing, finished or not: what the run made goes, what it changed
 * comes back from the run's backup. Catch-ups since then go with it, and aren't undone by themselves. Undoing that was cut
 * short goes on. Not safe for use by several threads.
 */
@NullMarked
public final class Undo extends CrossingWork<Undo> {

    private Crossing crossing;
    private boolean acceptChanges;
    private Optional<Path> wanted = Optional.empty();
    private Optional<Run.StatementDecision> decision = Optional.empty();

    private Undo(Crossing crossing) {
        this.crossing = crossing;
    }

    @Override
    Undo self() {
        return this;
    }

    /** Of a crossing's last run. */
    public static Undo of(Crossing crossing) {
        return new Undo(crossing);
    }

    /**
     * Of a run, by its folder, which keeps the crossing as it was; it must be the crossing's last.
     *
     * @throws org.orderlyferry.problem.PlaceException if it isn't a run's folder
     */
    public static Undo ofRun(Path folder) {
        Undo undo = new Undo(Crossing.read(new RunFolder(folder).crossing()));
        undo.wanted = Optional.of(folder.toAbsolutePath().normalize());
        return undo;
    }

    /**
     * What is to be taken of a statement that undoes one, where it failed or was under way when undoing was cut short; one that
     * failed is run again without it, and for any other undoing is refused.
     */
    public Undo statement(Run.StatementDecision value) {
        decision = Optional.of(value);
        return this;
    }

    /** Whether what others have done to the tables since is thrown away too; refused unless told otherwise. */
    public Undo acceptChanges(boolean value) {
        acceptChanges = value;
        return this;
    }

    /**
     * Does it.
     *
     * @throws UsageException if there is no run to undo, if it can't be undone, or if somebody else has changed the tables
     *     since; nothing was changed then
     */
    @SuppressWarnings("try") // the lock is held, and nothing else is done with it
    public UndoResult undo() {
        try (RunLock lock = RunLock.take(crossing.keep(), listener::waits)) {
            RunFolder folder = last();
            // what was run is undone, whatever the file says since
            crossing = Crossing.read(folder.crossing());
            try (RunLedger ledger = RunLedger.open(folder.path())) {
                mustBeUndoable(folder, ledger);
                return undone(folder, ledger);
            }
        }
    }

    /**
     * Gives up the way back: removes the last run's backup, or what the target keeps of it, once all is signed.
     *
     * @return the run's folder
     * @throws UsageException if there is no run, or if it isn't finished
     */
    @SuppressWarnings("try") // likewise
    public Path giveUp() {
        try (RunLock lock = RunLock.take(crossing.keep(), listener::waits)) {
            RunFolder folder = last();
            try (RunLedger ledger = RunLedger.open(folder.path())) {
                if (!ledger.has(Step.RUN, State.DONE)) {
                    throw new UsageException("the run of " + folder.name() + " isn't finished; it may need its backup");
                }
                Crossing run = Crossing.read(folder.crossing());
                if (run.keepReplaced()) {
                    new ReplacedTables(new Ends(run, secrets), folder).giveUp();
                }
                ledger.note(Step.UNDO, State.GIVEN_UP, Map.of());
                FolderRemoval.remove(folder.backup());
                return folder.path();
            }
        }
    }

    private RunFolder last() {
        RunFolder last = Runs.lastWhole(crossing.keep())
                .orElseThrow(() -> new UsageException("there is no run in " + crossing.keep()));
        wanted.filter(w -> !w.equals(last.path().toAbsolutePath().normalize())).ifPresent(w -> {
            throw new UsageException(w + " isn't the crossing's last run, which is " + last.path()
                    + "; only that can be undone. Nothing was changed");
        });
        return last;
    }

    private void mustBeUndoable(RunFolder folder, RunLedger ledger) {
        if (ledger.has(Step.UNDO, State.DONE)) {
            throw new UsageException("the run of " + folder.name() + " was undone already");
        }
        if (ledger.has(Step.UNDO, State.GIVEN_UP)) {
            throw new UsageException("the way back of the run of " + folder.name() + " was given up");
        }
        boolean changes = !new Choices(crossing).refusesAll();
        if (changes && !crossing.backup()) {
            throw new UsageException("the run of " + folder.name()
                    + " was told to keep no backup, so what it has changed can't be" + " brought back");
        }
    }

    private UndoResult undone(RunFolder folder, RunLedger ledger) {
        listener.begins(Step.UNDO);
        Ends ends = new Ends(crossing, secrets);
        List<Finding> findings = new ArrayList<>();
        List<TableName> removed = new ArrayList<>();
        List<TableName> restored = new ArrayList<>();
        boolean equal = true;
        for (Step step : List.of(Step.BEFORE, Step.AFTER)) {
            findings.addAll(new Statements(step, crossing, ledger).unknown());
        }
        if (isTouched(folder, ledger, ends)) {
            if (!ledger.has(Step.UNDO, State.BEGUN) && !acceptChanges) {
                new LeftTarget(crossing, ends, listener, stop).mustBeUnchanged(folder, ledger);
            }
            boolean again = ledger.has(Step.UNDO, State.BEGUN);
            ledger.note(Step.UNDO, State.BEGUN, Map.of("by", RunLock.who()));
            if (crossing.keepReplaced()) {
                equal = broughtBack(folder, ledger, ends, again, restored, removed);
            } else if (Files.exists(folder.backup())) {
                try (Place backup = Places.open(folder.backup())) {
                    restored.addAll(backup.tables());
                    changed(folder, ledger, ends, backup, restored, removed, findings);
                    equal = restored.isEmpty() || isEqual(backup, ends);
                }
            } else {
                changed(folder, ledger, ends, null, restored, removed, findings);
            }
        }
        ledger.note(
                Step.UNDO,
                State.DONE,
                Map.of(
                        "removed",
                        TableFacts.names(removed),
                        "restored",
                        TableFacts.names(restored),
                        "equal",
                        Boolean.toString(equal)));
        catchUpsAreUndone(folder);
        listener.done(ledger.last(Step.UNDO, State.DONE).orElseThrow(), findings);
        return new UndoResult(folder.path(), removed, restored, equal, crossing.keepReplaced(), findings);
    }

    /** What the target has kept comes back as it was, so that only its records are counted. */
    private boolean broughtBack(
            RunFolder folder,
            RunLedger ledger,
            Ends ends,
            boolean again,
            List<TableName> restored,
            List<TableName> removed) {
        ReplacedTables replaced = new ReplacedTables(ends, folder);
        try (TargetPlace target = ends.target()) {
            new Statements(Step.AFTER, crossing, ledger).undo(target, decision);
            replaced.bringBack(target, again, restored, removed);
            new Statements(Step.BEFORE, crossing, ledger).undo(target, decision);
        }
        return restored.isEmpty() || replaced.areAsMany(restored);
    }

    private void changed(
            RunFolder folder,
            RunLedger ledger,
            Ends ends,
            @Nullable Place backup,
            List<TableName> restored,
            List<TableName> removed,
            List<Finding> findings) {
        try (TargetPlace target = ends.target()) {
            new Statements(Step.AFTER, crossing, ledger).undo(target, decision);
            Runs.there(crossing, target).stream()
                    .filter(t -> !restored.contains(t))
                    .forEach(removed::add);
            boolean first = isRemoved(target, removed, restored.isEmpty());
            if (backup != null && !restored.isEmpty()) {
                findings.addAll(restore(folder, ledger, backup, target).findings());
            }
            if (!first) {
                target.remove(removed);
            }
            new Statements(Step.BEFORE, crossing, ledger).undo(target, decision);
        }
    }

    /** What the run made may refer to what it changed, and then goes first; or the other way round. */
    private static boolean isRemoved(TargetPlace target, List<TableName> tables, boolean onlyWay) {
        try {
            target.remove(tables);
            return true;
        } catch (UsageException e) {
            if (onlyWay) {
                throw e;
            }
            return false;
        }
    }

    /** Whether the run has come to change the target; what a killed load has left is put right by that. */
    private boolean isTouched(RunFolder folder, RunLedger ledger, Ends ends) {
        LoadOutcome outcome = new LoadOutcome(crossing, folder, ends, listener, stop);
        boolean statements = ledger.has(Step.BEFORE, State.DONE);
        if (ledger.has(Step.UNDO, State.BEGUN) || ledger.has(Step.LOAD, State.DONE)) {
            outcome.cleared("");
            return true;
        }
        if (!Files.exists(folder.loadPlan())) {
            return statements;
        }
        // named by no plan, so that a load that was begun is undone and not kept
        if (outcome.cleared("") == Leftover.FINISHED) {
            return true;
        }
        boolean in = new Choices(crossing).has(LoadMode.MERGE)
                ? !outcome.isAsBefore()
                : outcome.isIn(new PlanFile(folder.loadPlan(), PlanFile.Moments.STILL));
        return in || statements;
    }

    /** With the run goes what was caught up since. */
    private void catchUpsAreUndone(RunFolder folder) {
        for (RunFolder later : RunFolder.all(crossing.keep())) {
            if (later.name().compareTo(folder.name()) > 0) {
                try (RunLedger of = RunLedger.open(later.path())) {
                    if (Runs.isCatchUp(of)) {
                        of.note(Step.UNDO, State.DONE, Map.of("with", folder.name()));
                    }
                }
            }
        }
    }

    private TransferResult restore(RunFolder folder, RunLedger ledger, Place backup, TargetPlace target) {
        try {
            return Load.from(backup)
                    .mode(LoadMode.REPLACE)
                    .lanes(crossing.lanes())
                    .listener(listener)
                    .stopSignal(stop)
                    .into(target);
        } catch (UsageException e) {
            // which has changed nothing: there may be tables that no other can take the place of
            if (!RecordsBack.isPossible(backup, target)) {
                throw e;
            }
            return new RecordsBack(folder, crossing, listener, stop).bring(backup, target, ledger);
        }
    }

    private boolean isEqual(Place backup, Ends ends) {
        try (Place target = ends.targetToRead()) {
            return Reconcile.between(backup, new OnlyTables(target, backup.tables()))
                    .lanes(crossing.lanes())
                    .listener(listener)
                    .stopSignal(stop)
                    .compare()
                    .isEqual();
        }
    }
}

package org.orderlyferry.crossing;

import java.nio.file.Files;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.ledger.RunFolder;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Leftover;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.work.PlanFile;
import org.orderlyferry.work.WorkPlan;

/**
 * Finds out whether the load of a run that was cut short is in: the process may have ended between the load's last commit
 * and the line in the ledger. What is begun in the target tells; where nothing is, the tallies do: those of the set, of the
 * backup, and of what is there now.
 */
final class LoadOutcome {

    private final Crossing crossing;
    private final Choices choices;
    private final RunFolder folder;
    private final Ends ends;
    private final ProgressListener listener;
    private final StopSignal stop;

    LoadOutcome(Crossing crossing, RunFolder folder, Ends ends, ProgressListener listener, StopSignal stop) {
        this.crossing = crossing;
        this.choices = new Choices(crossing);
        this.folder = folder;
        this.ends = ends;
        this.listener = listener;
        this.stop = stop;
    }

    /**
     * Whether it is in; if not, all is ready for it to go on, or to begin.
     *
     * @throws UsageException if the target is neither as it was before nor as the load leaves it
     */
    boolean isIn(PlanFile plan) {
        Optional<WorkPlan> planned = plan.read();
        Leftover left = cleared(planned.map(WorkPlan::hash).orElse(""));
        if (left == Leftover.FINISHED) {
            return true;
        }
        if (left == Leftover.KEPT || planned.isEmpty()) {
            // without a plan nothing was begun
            return false;
        }
        if (crossing.keepReplaced()) {
            Optional<Boolean> kept = new ReplacedTables(ends, folder).areKept();
            if (kept.isPresent()) {
                return kept.get();
            }
        }
        return isSeenToBeIn();
    }

    /** Puts right what a killed load has left. */
    Leftover cleared(String plan) {
        try (TargetPlace target = ends.target()) {
            return target.clear(plan);
        }
    }

    private boolean isSeenToBeIn() {
        if (isEmpty()) {
            return false;
        }
        List<TableName> merged = choices.of(LoadMode.MERGE);
        boolean others;
        boolean before;
        String shown;
        try (Place target = ends.targetToRead()) {
            List<TableName> there = Runs.there(crossing, target);
            boolean all = there.size() == crossing.tables().size();
            others = all && isAsLoaded(target);
            if (others && merged.isEmpty()) {
                return true;
            }
            before = isAsBefore(target, there);
            shown = target.address();
        }
        if (before) {
            return false;
        }
        if (others && isMerged()) {
            return true;
        }
        throw new UsageException("the run was cut short, and " + shown
                + " is neither as it was before the load nor as the load leaves it: somebody else has changed its tables."
                + " Nothing was changed");
    }

    private boolean isMerged() {
        try (Place set = Places.open(folder.set())) {
            return new Proof(crossing, folder, set, null, ends, listener, stop)
                    .notMerged()
                    .isEmpty();
        }
    }

    /** Whether none of the tables is there; a database that isn't there at all has none. */
    private boolean isEmpty() {
        try (TargetPlace target = ends.target()) {
            return Runs.there(crossing, target).isEmpty();
        }
    }

    /** Whether tables that weren't merged into are; those that were are told by merging once more. */
    private boolean isAsLoaded(Place target) {
        List<TableName> loaded = choices.of(LoadMode.CREATE, LoadMode.REPLACE, LoadMode.APPEND);
        if (loaded.isEmpty()) {
            return true;
        }
        try (Place set = Places.open(folder.set())) {
            Reconcile reconcile = reconcile(new OnlyTables(set, loaded), new OnlyTables(target, loaded));
            if (!choices.has(LoadMode.APPEND) || !Files.exists(folder.backup())) {
                return reconcile.compare().isEqual();
            }
            try (Place backup = Places.open(folder.backup())) {
                return reconcile
                        .onto(new OnlyTables(backup, choices.of(LoadMode.APPEND)))
                        .compare()
                        .isEqual();
            }
        }
    }

    /** Whether the tables are as they were when the backup was made. */
    boolean isAsBefore() {
        if (isEmpty()) {
            return !Files.exists(folder.backup());
        }
        try (Place target = ends.targetToRead()) {
            return isAsBefore(target, Runs.there(crossing, target));
        }
    }

    private boolean isAsBefore(Place target, List<TableName> there) {
        if (!Files.exists(folder.backup())) {
            return there.isEmpty() || !crossing.backup();
        }
        try (Place backup = Places.open(folder.backup())) {
            return backup.tables().equals(there.stream().sorted().toList())
                    && reconcile(backup, target).compare().isEqual();
        }
    }

    private Reconcile reconcile(Place from, Place target) {
        return Reconcile.between(from, target)
                .lanes(crossing.lanes())
                .listener(listener)
                .stopSignal(stop);
    }
}

package org.orderlyferry.crossing;

import java.nio.file.Files;
import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.work.Load;

/**
 * Shows that the target has what it should: the source's records, or the set's where the source goes on changing; after
 * adding to tables, these and what was there before, by digests that add up; after merging, that
 * merging the set once more would change nothing.
 */
final class Proof {

    private final Crossing crossing;
    private final RunFolder folder;
    private final Place from;
    private final Place set;
    private final boolean atSource;
    private final Ends ends;
    private final ProgressListener listener;
    private final StopSignal stop;
    private boolean equal;

    Proof(
            Crossing crossing,
            RunFolder folder,
            Place set,
            Place source,
            Ends ends,
            ProgressListener listener,
            StopSignal stop) {
        this.crossing = crossing;
        this.folder = folder;
        this.set = set;
        this.atSource = source != null;
        this.from = atSource ? source : set;
        this.ends = ends;
        this.listener = listener;
        this.stop = stop;
    }

    /** What was compared. */
    String between() {
        return crossing.onto() == LoadMode.MERGE
                ? "set and target, merged once more"
                : (atSource ? "source" : "set") + " and target";
    }

    boolean isEqual() {
        return equal;
    }

    /** Compares. */
    ReconcileResult result() {
        boolean there = crossing.onto() == LoadMode.MERGE && isThereAlready();
        try (Place target = ends.targetToRead()) {
            Reconcile reconcile = Reconcile.between(from, target)
                    .depth(crossing.onto() == LoadMode.MERGE ? Depth.COUNTS : crossing.proof())
                    .lanes(crossing.lanes())
                    .listener(listener)
                    .stopSignal(stop);
            ReconcileResult result = crossing.onto() == LoadMode.APPEND ? onto(reconcile) : reconcile.compare();
            equal = crossing.onto() == LoadMode.MERGE ? there : result.isEqual();
            return result;
        }
    }

    /** What was there before counts, too. */
    private ReconcileResult onto(Reconcile reconcile) {
        if (!Files.exists(folder.backup())) {
            return reconcile.compare();
        }
        try (Place backup = Places.open(folder.backup())) {
            return reconcile.onto(backup).compare();
        }
    }

    /**
     * Merged once more into what was there, the set must have no record that is new, and none that changes one; tables that
     * weren't there must have its records.
     */
    boolean isThereAlready() {
        List<TableName> had = List.of();
        if (Files.exists(folder.backup())) {
            try (Place backup = Places.open(folder.backup())) {
                had = backup.tables();
            }
        }
        List<TableName> made = new ArrayList<>(ends.tables());
        made.removeAll(had);
        if (!made.isEmpty()) {
            try (Place target = ends.targetToRead()) {
                boolean same = Reconcile.between(new OnlyTables(set, made), new OnlyTables(target, made))
                        .lanes(crossing.lanes())
                        .listener(listener)
                        .stopSignal(stop)
                        .compare()
                        .isEqual();
                if (!same) {
                    return false;
                }
            }
        }
        return had.isEmpty() || mergesToNothing(had);
    }

    /** Whether tables of the set, merged once more, change nothing. */
    boolean mergesToNothing(List<TableName> tables) {
        try (TargetPlace target = ends.target()) {
            return Load.from(new OnlyTables(set, tables))
                    .mode(LoadMode.MERGE)
                    .lanes(crossing.lanes())
                    .listener(listener)
                    .stopSignal(stop)
                    .into(target)
                    .tables()
                    .stream()
                    .allMatch(m -> m.merged()
                            .filter(d -> d.inserted() == 0 && d.updated() == 0)
                            .isPresent());
        }
    }
}

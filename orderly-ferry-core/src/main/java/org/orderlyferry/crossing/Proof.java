package org.orderlyferry.crossing;

import java.nio.file.Files;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.crossing.RunSite.Part;
import org.orderlyferry.ledger.RunFolder;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.reconcile.DifferencesPlace;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.reconcile.Verdict;
import org.orderlyferry.report.FirstDifferences;
import org.orderlyferry.report.RecordedComparison;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.MovedTable;
import org.orderlyferry.work.RemoteEngine;

/**
 * Shows that the target has what it should: the source's records, or the set's where the source goes on changing; after
 * adding to tables, these and what was there before, by digests that add up; after merging, that
 * merging the set once more would change nothing.
 */
final class Proof {

    private final Crossing crossing;
    private final Choices choices;
    private final RunFolder folder;
    private final Place from;
    private final Place set;
    private final boolean atSource;
    private final Ends ends;
    private final ProgressListener listener;
    private final StopSignal stop;
    private final FirstDifferences first = new FirstDifferences();
    private Optional<RemoteEngine> engine = Optional.empty();
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
        this.choices = new Choices(crossing);
        this.folder = folder;
        this.set = set;
        this.atSource = source != null;
        this.from = atSource ? source : set;
        this.ends = ends;
        this.listener = listener;
        this.stop = stop;
    }

    /** Has the records read by other processes. */
    void elsewhere(RemoteEngine value) {
        engine = Optional.of(value);
    }

    /** What was compared. */
    String between() {
        if (!choices.has(LoadMode.MERGE)) {
            return (atSource ? "source" : "set") + " and target";
        }
        return choices.of(LoadMode.MERGE).size() == crossing.tables().size()
                ? "set and target, merged once more"
                : "set and target, some merged once more";
    }

    boolean isEqual() {
        return equal;
    }

    /** What comparing has come to, for the run's record. */
    RecordedComparison recorded(ReconcileResult result) {
        return RecordedComparison.of(
                between(),
                equal,
                result,
                first.found(),
                Files.exists(folder.differences()) ? folder.differences().toString() : "");
    }

    /** Compares. */
    ReconcileResult result() {
        List<TableName> merged = choices.of(LoadMode.MERGE);
        List<TableName> open = merged.isEmpty() ? List.of() : notMerged();
        try (Place target = ends.targetToRead()) {
            Reconcile reconcile =
                    comparison(crossing, from, target).listener(listener).stopSignal(stop);
            engine.ifPresent(e -> reconcile.elsewhere(
                    e, site(atSource ? Part.SOURCE : Part.SET), site(Part.TARGET), Optional.of(site(Part.BACKUP))));
            ReconcileResult result = withDifferences(reconcile).decided(merged, open);
            equal = open.isEmpty() && result.isEqual();
            return result;
        }
    }

    private RunSite site(Part part) {
        return new RunSite(crossing, folder, part);
    }

    /** A comparison as a crossing has it. */
    static Reconcile comparison(Crossing crossing, Place from, Place target) {
        return new Choices(crossing)
                .proof(Reconcile.between(from, target))
                .pace(crossing.rowsPerSecond(), crossing.bytesPerSecond())
                .lanes(crossing.lanes());
    }

    /** Keeps records that differ in a set in the run's folder. */
    private ReconcileResult withDifferences(Reconcile reconcile) {
        boolean append = choices.has(LoadMode.APPEND);
        if (!choices.looksForRecords()) {
            return append ? onto(reconcile) : reconcile.compare();
        }
        try (DifferencesPlace differences = new DifferencesPlace()) {
            reconcile.differences(
                    difference -> {
                        first.found(difference);
                        differences.found(difference);
                    },
                    Long.MAX_VALUE);
            ReconcileResult result = append ? onto(reconcile) : reconcile.compare();
            differences.complete();
            if (!differences.tables().isEmpty()) {
                Export.from(differences).overwrite(true).to(folder.differences());
            }
            return result;
        }
    }

    /** What was there before counts, too. */
    private ReconcileResult onto(Reconcile reconcile) {
        if (!Files.exists(folder.backup())) {
            return reconcile.compare();
        }
        try (Place backup = Places.open(folder.backup())) {
            return reconcile
                    .onto(new OnlyTables(backup, choices.of(LoadMode.APPEND)))
                    .compare();
        }
    }

    /**
     * Tables that haven't what was to be merged into them. Merged once more into what was there, the set must have no record
     * that is new, and none that changes one; those that weren't there must have its records.
     */
    List<TableName> notMerged() {
        List<TableName> had = List.of();
        if (Files.exists(folder.backup())) {
            try (Place backup = Places.open(folder.backup())) {
                had = backup.tables();
            }
        }
        List<TableName> merged = choices.of(LoadMode.MERGE);
        List<TableName> made = new ArrayList<>(merged);
        made.removeAll(had);
        List<TableName> open = new ArrayList<>();
        if (!made.isEmpty()) {
            try (Place target = ends.targetToRead()) {
                Reconcile reconcile = Reconcile.between(new OnlyTables(set, made), new OnlyTables(target, made))
                        .lanes(crossing.lanes())
                        .listener(listener)
                        .stopSignal(stop);
                engine.ifPresent(e -> reconcile.elsewhere(e, site(Part.SET), site(Part.TARGET), Optional.empty()));
                reconcile.compare().tables().stream()
                        .filter(t -> t.verdict() != Verdict.EQUAL)
                        .forEach(t -> open.add(t.table()));
            }
        }
        List<TableName> changed = had.stream().filter(merged::contains).toList();
        if (!changed.isEmpty()) {
            open.addAll(changedByMerging(changed));
        }
        return open;
    }

    /** Which tables of the set would change something, merged once more. */
    List<TableName> changedByMerging(List<TableName> tables) {
        try (TargetPlace target = ends.target()) {
            Load load = Load.from(new OnlyTables(set, tables))
                    .mode(LoadMode.MERGE)
                    .lanes(crossing.lanes())
                    .listener(listener)
                    .stopSignal(stop);
            engine.ifPresent(e -> load.elsewhere(e, site(Part.SET)));
            return load.into(target).tables().stream()
                    .filter(m -> m.merged()
                            .filter(d -> d.inserted() == 0 && d.updated() == 0)
                            .isEmpty())
                    .map(MovedTable::table)
                    .toList();
        }
    }
}

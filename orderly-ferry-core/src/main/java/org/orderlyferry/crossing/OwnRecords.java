package org.orderlyferry.crossing;

import java.nio.file.Files;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.ledger.LedgerLine;
import org.orderlyferry.ledger.LedgerLine.State;
import org.orderlyferry.ledger.LedgerLine.Step;
import org.orderlyferry.ledger.RunFolder;
import org.orderlyferry.ledger.RunLedger;
import org.orderlyferry.ledger.TableFacts;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.reconcile.ChangedRecords;
import org.orderlyferry.reconcile.MissingKeys;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.tally.Tally;

/**
 * Tables that had records of their own before a run added to them. What the source doesn't have of them was never the
 * source's, so a catch-up takes nothing out of them, and they hold more than the source in the end.
 */
final class OwnRecords {

    private final RunFolder whole;
    private final List<TableName> tables;

    private OwnRecords(RunFolder whole, List<TableName> tables) {
        this.whole = whole;
        this.tables = tables;
    }

    /** By what a run of all records has written down of the target as it found it. */
    static OwnRecords of(RunFolder whole) {
        // as it was then: the crossing may have been edited since
        List<TableName> added = new Choices(Crossing.read(whole.crossing())).of(LoadMode.APPEND, LoadMode.MERGE);
        Optional<LedgerLine> backup = RunLedger.read(whole.path()).last(Step.BACKUP, State.DONE);
        if (backup.isEmpty() || backup.get().fact("why").equals(Run.TOLD)) {
            // nobody has looked
            return new OwnRecords(whole, added);
        }
        Set<TableName> there = Set.copyOf(TableFacts.named(backup.get().fact("tables")));
        List<TableName> kept = added.stream().filter(there::contains).toList();
        if (kept.isEmpty() || backup.get().fact("rows").equals("0")) {
            return new OwnRecords(whole, List.of());
        }
        return new OwnRecords(whole, Files.exists(whole.backup()) ? thatHadRecords(whole, kept) : kept);
    }

    private static List<TableName> thatHadRecords(RunFolder whole, List<TableName> tables) {
        try (Place backup = Places.open(whole.backup())) {
            return tables.stream()
                    .filter(t -> backup.keptTally(t).map(Tally::rows).orElse(1L) > 0)
                    .toList();
        }
    }

    /** Whether a table is one of them. */
    boolean has(TableName table) {
        return tables.contains(table);
    }

    /** Hears only of records that the source has had. */
    MissingKeys besides(MissingKeys keys) {
        return (key, batch) -> {
            if (!has(key.name())) {
                keys.missing(key, batch);
            }
        };
    }

    /** Those that have a key by which their records can be told from the source's. */
    List<TableName> withKey(Place source) {
        return tables.stream()
                .filter(t -> source.define(t).primaryKey().isPresent())
                .toList();
    }

    /** Compares; tables without keys with what they had before, so far as it is known. */
    ReconcileResult compared(Reconcile reconcile, Place source) {
        List<TableName> without = new ArrayList<>(tables);
        without.removeAll(withKey(source));
        if (without.isEmpty() || !Files.exists(whole.backup())) {
            return reconcile.compare();
        }
        try (Place backup = Places.open(whole.backup())) {
            return reconcile.onto(new OnlyTables(backup, without)).compare();
        }
    }

    /**
     * Those of some tables that lack a record of the source, or have it with other values; found by their keys.
     *
     * @param listener hears how far it is
     */
    static List<TableName> lacking(
            List<TableName> tables, Place source, Place target, ProgressListener listener, StopSignal stop) {
        if (tables.isEmpty()) {
            return List.of();
        }
        Map<TableName, Long> rows = new LinkedHashMap<>();
        tables.forEach(t -> rows.put(t, source.estimate(t)));
        listener.planned(tables, rows.values().stream().mapToLong(r -> r).sum());
        listener.stage(ProgressListener.Stage.MOVING);
        ChangedRecords changed = new ChangedRecords(source, target, MissingKeys.UNHEARD, listener);
        List<TableName> lacking = new ArrayList<>();
        rows.forEach((table, most) -> {
            listener.tableStarted(table, most);
            long found = changed.look(table, source.define(table).columnNames(), CatchUp.RANGE, stop);
            listener.looked(table, found);
            listener.tableFinished(table, most);
            if (found > 0) {
                lacking.add(table);
            }
        });
        return lacking;
    }
}

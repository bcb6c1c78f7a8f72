package org.orderlyferry.crossing;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.ledger.RunFolder;
import org.orderlyferry.ledger.RunLedger;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.OneAtATime;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.reconcile.ChangedRecords;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/**
 * Brings tables back as a backup has them, record by record: what was added is taken out, what was changed is changed back. For
 * tables that no other can take the place of, such as one that is partitioned; done again, it goes on.
 */
final class RecordsBack {

    private final RunFolder folder;
    private final Crossing crossing;
    private final ProgressListener listener;
    private final StopSignal stop;

    RecordsBack(RunFolder folder, Crossing crossing, ProgressListener listener, StopSignal stop) {
        this.folder = folder;
        this.crossing = crossing;
        this.listener = listener;
        this.stop = stop;
    }

    /** Whether records can be told by their keys, and go and come at once. */
    static boolean isPossible(Place backup, TargetPlace target) {
        return isPossible(backup.tables().stream().map(backup::define).toList(), target);
    }

    private static boolean isPossible(List<TableDefinition> tables, TargetPlace target) {
        return target.deletesWithLoads()
                && tables.stream().allMatch(t -> t.primaryKey().isPresent());
    }

    /** What would keep tables that are added to from coming back, if anything would. */
    @SuppressWarnings("try") // whether it can be rehearsed is all that is asked
    static Optional<String> obstacle(List<TableName> added, TargetPlace target) {
        List<TableDefinition> tables = added.stream().map(target::define).toList();
        if (tables.isEmpty() || isPossible(tables, target)) {
            return Optional.empty();
        }
        try (Loading rehearsal = target.rehearse(tables, LoadModes.all(LoadMode.REPLACE))) {
            return Optional.empty();
        } catch (UnsupportedOperationException e) {
            // such targets take any table for another
            return Optional.empty();
        } catch (UsageException e) {
            return Optional.of(String.join("; ", Refusals.of(e)));
        }
    }

    /** Does it. */
    TransferResult bring(Place backup, TargetPlace target, RunLedger ledger) {
        Path set = folder.path().resolve("back");
        Path gone = folder.path().resolve("back-gone");
        // what a killed one has left
        FolderRemoval.remove(set);
        List<TableName> tables = backup.tables();
        try (DeletedKeys keys = new DeletedKeys(gone, tables)) {
            ProgressListener told = new OneAtATime(listener);
            Export.from(new ChangedRecords(backup, target, keys, told))
                    .sliceRows(Math.min(CatchUp.RANGE, crossing.sliceRows()))
                    .listener(told)
                    .stopSignal(stop)
                    .to(set);
            keys.finish();
        }
        try (Place changed = Places.open(set)) {
            TransferResult result = Load.from(changed)
                    .mode(LoadMode.MERGE)
                    .lanes(crossing.lanes())
                    .removing(new Deletions(gone, tables, ledger).all(target))
                    .listener(listener)
                    .stopSignal(stop)
                    .into(target);
            FolderRemoval.remove(gone);
            return result;
        } finally {
            FolderRemoval.remove(set);
        }
    }
}

package org.orderlyferry.crossing;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.orderlyferry.ledger.RunFolder;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.work.MovedTable;
import org.orderlyferry.work.TransferResult;

/** What a crossing has chosen, table by table: some may say otherwise than all. Tables go by their names at the target. */
record Choices(Crossing crossing) {

    /** What is done with tables that are there. */
    LoadModes modes() {
        return modes(Stream.empty());
    }

    /** The same, but that tables are replaced of which the crossing says that they are refused. */
    LoadModes modesWithoutRefusal() {
        return modes(of(LoadMode.CREATE).stream());
    }

    private LoadModes modes(Stream<TableName> replaced) {
        Map<String, LoadMode> others = new HashMap<>();
        for (CrossingTable table : crossing.tables()) {
            table.own().onto().ifPresent(mode -> others.put(table.to().text(), mode));
        }
        replaced.forEach(table -> others.put(table.text(), LoadMode.REPLACE));
        others.values().removeIf(mode -> mode == crossing.onto());
        return new LoadModes(crossing.onto(), others);
    }

    private LoadMode mode(CrossingTable table) {
        return table.own().onto().orElse(crossing.onto());
    }

    /** The tables with which one of these is done, if they are there. */
    List<TableName> of(LoadMode... any) {
        List<LoadMode> wanted = Arrays.asList(any);
        return crossing.tables().stream()
                .filter(t -> wanted.contains(mode(t)))
                .map(CrossingTable::to)
                .toList();
    }

    /** Whether that is done with any. */
    boolean has(LoadMode mode) {
        return !of(mode).isEmpty();
    }

    /** Whether nothing that is there is ever changed. */
    boolean refusesAll() {
        return of(LoadMode.CREATE).size() == crossing.tables().size();
    }

    /** A comparison in the end: records that were merged are among others, so they are only counted. */
    Reconcile proof(Reconcile reconcile) {
        return proof(reconcile, of(LoadMode.MERGE));
    }

    /** A comparison of what must be equal, whatever was done with it. */
    Reconcile equality(Reconcile reconcile) {
        return proof(reconcile, List.of());
    }

    private Reconcile proof(Reconcile reconcile, List<TableName> counted) {
        Map<TableName, Depth> depths = crossing.tables().stream()
                .collect(Collectors.toMap(
                        CrossingTable::to,
                        t -> counted.contains(t.to())
                                ? Depth.COUNTS
                                : t.own().proof().orElse(crossing.proof())));
        Depth deepest = depths.values().stream().max(Depth::compareTo).orElse(crossing.proof());
        depths.values().removeIf(d -> d == deepest);
        depths.forEach(reconcile::depth);
        return reconcile.depth(deepest).rules(deepest == Depth.ROWS ? crossing.rules() : List.of());
    }

    /** Whether single records are looked for that differ. */
    boolean looksForRecords() {
        return crossing.tables().stream()
                .anyMatch(t -> mode(t) != LoadMode.MERGE && t.own().proof().orElse(crossing.proof()) == Depth.ROWS);
    }

    /** Whether any record may be rejected. */
    boolean mayReject() {
        return crossing.rejectsAllowed() > 0
                || crossing.tables().stream()
                        .anyMatch(t -> t.own().rejectsAllowed().orElse(0) > 0);
    }

    /**
     * Refuses a set, and takes it away, if more was rejected on the way into it than is allowed.
     *
     * @param besides how many records were rejected that didn't move
     * @return how many were rejected
     */
    long mustAllow(TransferResult made, long besides, RunFolder folder) {
        List<String> tooMany = beyond(made, besides);
        if (!tooMany.isEmpty()) {
            FolderRemoval.remove(folder.set());
            throw new UsageException(String.join("; ", tooMany) + "; each stands with its reason in " + folder.rejects()
                    + ". Nothing was changed at the target");
        }
        return made.rejected() + besides;
    }

    /** Where more was rejected than is allowed, as sentences. */
    List<String> beyond(TransferResult made, long besides) {
        List<String> tooMany = new ArrayList<>();
        long others = besides;
        for (MovedTable table : made.tables()) {
            OptionalLong allowed = crossing.tables().stream()
                    .filter(t -> t.to().equals(table.table()))
                    .map(t -> t.own().rejectsAllowed())
                    .findFirst()
                    .orElse(OptionalLong.empty());
            if (allowed.isEmpty()) {
                others += table.rejected();
            } else if (table.rejected() > allowed.getAsLong()) {
                tooMany.add(records(table.rejected()) + " of table " + table.table()
                        + " can't be taken, and the crossing allows " + allowed.getAsLong() + " of it");
            }
        }
        if (others > crossing.rejectsAllowed()) {
            tooMany.add(records(others) + " of the source can't be taken, and the crossing allows "
                    + crossing.rejectsAllowed());
        }
        return tooMany;
    }

    private static String records(long count) {
        return count == 1 ? "1 record" : count + " records";
    }
}

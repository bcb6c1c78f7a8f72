package org.orderlyferry.crossing;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.orderlyferry.ledger.LedgerLine.State;
import org.orderlyferry.ledger.LedgerLine.Step;
import org.orderlyferry.ledger.RunFolder;
import org.orderlyferry.ledger.RunLedger;
import org.orderlyferry.ledger.TableFacts;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.reconcile.ComparedTable;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.tally.Tally;

/** What the runs of a crossing are in. */
final class Runs {

    /** The kind of a run that moves all. */
    static final String WHOLE = "whole";

    /** The kind of a run that moves only what has changed. */
    static final String CATCH_UP = "catch-up";

    private Runs() {}

    /** The last run that wasn't refused before it had begun. */
    static Optional<RunFolder> last(Path keep) {
        List<RunFolder> all = RunFolder.all(keep);
        for (int i = all.size() - 1; i >= 0; i--) {
            if (!RunLedger.read(all.get(i).path()).has(Step.RUN, State.GIVEN_UP)) {
                return Optional.of(all.get(i));
            }
        }
        return Optional.empty();
    }

    /** The last run, if it was cut short. */
    static Optional<RunFolder> unfinished(Path keep) {
        return last(keep).filter(f -> {
            RunLedger ledger = RunLedger.read(f.path());
            return !ledger.has(Step.RUN, State.DONE)
                    && !ledger.has(Step.UNDO, State.BEGUN)
                    && !ledger.has(Step.UNDO, State.DONE);
        });
    }

    /** Which of a crossing's tables a target has. */
    static List<TableName> there(Crossing crossing, Place target) {
        List<TableName> all = target.tables();
        return crossing.tables().stream()
                .map(CrossingTable::to)
                .filter(all::contains)
                .toList();
    }

    /** The last run of all records that wasn't refused; catch-ups don't count. */
    static Optional<RunFolder> lastWhole(Path keep) {
        List<RunFolder> all = RunFolder.all(keep);
        for (int i = all.size() - 1; i >= 0; i--) {
            RunLedger ledger = RunLedger.read(all.get(i).path());
            if (!ledger.has(Step.RUN, State.GIVEN_UP) && !isCatchUp(ledger)) {
                return Optional.of(all.get(i));
            }
        }
        return Optional.empty();
    }

    static boolean isCatchUp(RunLedger ledger) {
        return ledger.last(Step.RUN, State.BEGUN)
                .filter(l -> l.fact("kind").equals(CATCH_UP))
                .isPresent();
    }

    /**
     * The keys in which a crossing differs from the one that a run was begun with, so that the run can't go on by it. Statements
     * that weren't done yet may be others by now, since one may have failed.
     */
    static List<String> differences(Crossing crossing, RunFolder folder) {
        List<String> differences = CrossingJson.differences(crossing, folder);
        Crossing before = Crossing.read(folder.crossing());
        RunLedger ledger = RunLedger.read(folder.path());
        for (Step step : List.of(Step.BEFORE, Step.AFTER)) {
            if (Statements.mayGoOn(step, before, crossing, ledger)) {
                differences.remove(step.word());
            }
        }
        return differences;
    }

    /** Refuses to go on with a run by another crossing than it was begun with, and keeps it as it is now with the run. */
    static void mustBeTheSame(Crossing crossing, RunFolder folder) {
        List<String> differences = differences(crossing, folder);
        if (!differences.isEmpty()) {
            throw new UsageException("the run of " + folder.name()
                    + " isn't finished, and the crossing was edited since: " + String.join(", ", differences)
                    + ". Put that back to go on, or throw the run away to begin from the start; nothing was changed");
        }
        if (!CrossingJson.differences(crossing, folder).isEmpty()) {
            CrossingJson.keep(crossing, folder);
        }
    }

    /** How much a set holds, as facts. */
    static Map<String, String> sums(Place set) {
        long rows = 0;
        for (TableName table : set.tables()) {
            rows += set.keptTally(table).map(Tally::rows).orElse(0L);
        }
        return Map.of("tables", TableFacts.names(set.tables()), "rows", Long.toString(rows));
    }

    /** How deeply, with the numbers of tables where it wasn't the same with all; merging says more than any depth. */
    private static String depth(ReconcileResult result, List<TableName> merged) {
        Map<Depth, Long> tables = result.tables().stream()
                .filter(t -> !merged.contains(t.table()))
                .filter(t -> t.sourceRows().isPresent() && t.targetRows().isPresent())
                .collect(Collectors.groupingBy(ComparedTable::depth, TreeMap::new, Collectors.counting()));
        return tables.size() < 2
                ? YamlReading.word(tables.keySet().stream().findFirst().orElse(result.depth()))
                : tables.entrySet().stream()
                        .map(e -> YamlReading.word(e.getKey()) + " of " + e.getValue())
                        .collect(Collectors.joining(", "));
    }

    /** What a comparison has found at the target, as facts; of tables that were merged into, the numbers. */
    static void atTarget(Map<String, String> facts, ReconcileResult result, List<TableName> merged) {
        facts.put("depth", depth(result, merged));
        result.tables()
                .forEach(t -> facts.put(
                        TableFacts.of(LeftTarget.AT_TARGET, t.table()),
                        t.targetRows().orElse(0) + " " + t.targetDigest()));
    }
}

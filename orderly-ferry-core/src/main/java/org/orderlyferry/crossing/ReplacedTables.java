package org.orderlyferry.crossing;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.ledger.LedgerLine;
import org.orderlyferry.ledger.LedgerLine.State;
import org.orderlyferry.ledger.LedgerLine.Step;
import org.orderlyferry.ledger.RunFolder;
import org.orderlyferry.ledger.RunLedger;
import org.orderlyferry.ledger.TableFacts;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Secrets;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.UsageException;

/**
 * The tables that a run replaces, where the crossing says that the target keeps them: they are neither exported before nor loaded
 * again to be back, but stand beside the new ones as they were.
 */
final class ReplacedTables {

    /** The fact that tells that tables are kept so. */
    static final String KEPT = "kept";

    private static final String ROWS = "rows ";

    private final Ends ends;
    private final RunFolder folder;

    ReplacedTables(Ends ends, RunFolder folder) {
        this.ends = ends;
        this.folder = folder;
    }

    /** What they are kept by: the run's moment. */
    String name() {
        return folder.name().replaceAll("\\D", "");
    }

    /** Why a crossing's tables can't be kept, as a sentence. */
    static Optional<String> obstacle(TargetPlace target, List<TableName> there) {
        return target.keptTables()
                .map(kept -> kept.obstacle(there))
                .orElse(Optional.of(target.address() + " keeps no tables that are replaced"))
                .map(why -> "the crossing says: keep-replaced: true, and " + why
                        + "; with false, they are exported before");
    }

    /**
     * What a run of these tables will replace, as facts.
     *
     * @throws UsageException if the target can't keep them
     */
    Map<String, String> noted(List<TableName> tables) {
        try (TargetPlace target = ends.target()) {
            List<TableName> all = target.tables();
            List<TableName> there = tables.stream().filter(all::contains).toList();
            if (there.isEmpty()) {
                return Map.of("tables", "", "why", "none of the tables is there yet");
            }
            obstacle(target, there).ifPresent(why -> {
                throw new UsageException(why + ". Nothing was changed");
            });
            // a ledger that has lost its end is behind the target, and those that are there are the new ones
            boolean late = !kept(target).isEmpty();
            Map<String, String> facts = new LinkedHashMap<>();
            long rows = 0;
            for (TableName table : there) {
                long count = target.count(table);
                rows += count;
                if (!late) {
                    facts.put(TableFacts.of(ROWS, table), Long.toString(count));
                }
            }
            facts.put("tables", TableFacts.names(there));
            facts.put("rows", Long.toString(rows));
            facts.put(KEPT, "in the target");
            return facts;
        }
    }

    /** Those that were there before the run, as it has noted. */
    private List<TableName> had() {
        return backup().map(l -> TableFacts.named(l.fact("tables"))).orElse(List.of());
    }

    private Optional<LedgerLine> backup() {
        return RunLedger.read(folder.path()).last(Step.BACKUP, State.DONE);
    }

    /**
     * Whether the run's load is in: in the moment in which it is, what it has replaced is kept.
     *
     * @return empty where nothing was there to be replaced, so that this doesn't tell
     */
    Optional<Boolean> areKept() {
        if (had().isEmpty()) {
            return Optional.empty();
        }
        try (TargetPlace target = ends.target()) {
            return Optional.of(!kept(target).isEmpty());
        }
    }

    private List<TableName> kept(TargetPlace target) {
        return target.keptTables().map(k -> k.of(name())).orElse(List.of());
    }

    /**
     * Brings them back, and takes away what else the run has made.
     *
     * @param again whether that was begun before, so that it may be done
     * @param restored gets the tables that are back
     * @param removed gets those that were made
     * @throws UsageException if they aren't kept any more
     */
    void bringBack(TargetPlace target, boolean again, List<TableName> restored, List<TableName> removed) {
        List<TableName> there = new ArrayList<>(target.tables());
        there.retainAll(ends.tables());
        List<TableName> kept = kept(target);
        if (!kept.isEmpty()) {
            restored.addAll(kept);
            there.removeAll(kept);
            removed.addAll(there);
            target.keptTables().orElseThrow().bringBack(name(), removed);
            return;
        }
        List<TableName> had = had();
        if (!had.isEmpty() && !again) {
            throw new UsageException("what the run of " + folder.name() + " has replaced isn't kept in "
                    + target.address() + " any more: somebody else has taken it away. Nothing was changed");
        }
        restored.addAll(had);
        there.removeAll(had);
        removed.addAll(there);
        target.remove(removed);
    }

    /** Whether tables have as many records as they had before the run. */
    boolean areAsMany(List<TableName> tables) {
        LedgerLine noted = backup().orElseThrow();
        try (Place target = ends.targetToRead()) {
            List<TableName> there = target.tables();
            return tables.stream()
                    .allMatch(t -> there.contains(t)
                            && (noted.fact(TableFacts.of(ROWS, t)).isEmpty()
                                    || noted.fact(TableFacts.of(ROWS, t)).equals(Long.toString(target.count(t)))));
        }
    }

    /** Has the target keep them no longer. */
    void giveUp() {
        try (TargetPlace target = ends.target()) {
            target.keptTables().ifPresent(kept -> kept.drop(name()));
        }
    }

    /** Those of earlier runs aren't kept any longer: only the last one can be undone. */
    static List<Finding> giveUpBefore(Crossing crossing, RunFolder folder, Secrets secrets) {
        List<Finding> findings = new ArrayList<>();
        List<RunFolder> runs = RunFolder.all(crossing.keep());
        for (int i = runs.size() - 1; i >= 0; i--) {
            RunFolder run = runs.get(i);
            if (run.name().compareTo(folder.name()) >= 0) {
                continue;
            }
            RunLedger before = RunLedger.read(run.path());
            if (isKeeping(before)) {
                giveUp(run, folder, secrets).ifPresent(findings::add);
            }
            if (!Runs.isCatchUp(before) && isProved(before)) {
                // which has done so with those before it
                break;
            }
        }
        return findings;
    }

    private static Optional<Finding> giveUp(RunFolder run, RunFolder last, Secrets secrets) {
        try {
            // where they are, whatever the file says since
            new ReplacedTables(new Ends(Crossing.read(run.crossing()), secrets), run).giveUp();
            try (RunLedger ledger = RunLedger.open(run.path())) {
                ledger.note(Step.UNDO, State.GIVEN_UP, Map.of("for", last.name()));
            }
            return Optional.empty();
        } catch (FerryException e) {
            return Optional.of(Finding.ofAll(
                    FindingCode.NOT_REMOVED,
                    "what the run of " + run.name() + " has replaced is still kept: " + e.getMessage()));
        }
    }

    private static boolean isProved(RunLedger ledger) {
        return ledger.last(Step.PROOF, State.DONE)
                .filter(l -> l.fact("equal").equals("true"))
                .isPresent();
    }

    private static boolean isKeeping(RunLedger ledger) {
        return ledger.has(Step.LOAD, State.DONE)
                && !ledger.has(Step.UNDO, State.DONE)
                && !ledger.has(Step.UNDO, State.GIVEN_UP)
                && ledger.last(Step.BACKUP, State.DONE)
                        .filter(l -> !l.fact(KEPT).isEmpty())
                        .isPresent();
    }
}

package org.orderlyferry.crossing;

import java.nio.file.Files;
import java.nio.file.Path;
import java.security.SecureRandom;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.ledger.LedgerLine;
import org.orderlyferry.ledger.LedgerLine.State;
import org.orderlyferry.ledger.LedgerLine.Step;
import org.orderlyferry.ledger.RunFolder;
import org.orderlyferry.ledger.RunLedger;
import org.orderlyferry.ledger.TableFacts;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.KeyRange;
import org.orderlyferry.place.Leftover;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.Listed;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.OneAtATime;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.reconcile.ChangeCount;
import org.orderlyferry.reconcile.ChangedRecords;
import org.orderlyferry.reconcile.ComparedTable;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.MissingKeys;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.reconcile.RecordSum;
import org.orderlyferry.reconcile.Verdict;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.report.FirstDifferences;
import org.orderlyferry.report.RecordedComparison;
import org.orderlyferry.tally.SeededDigest;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.PlanFile;
import org.orderlyferry.work.RejectFile;
import org.orderlyferry.work.TransferResult;
import org.orderlyferry.work.WorkPlan;

/**
 * Brings a target up to date after a run: finds what has changed at the source since, and moves only that. Records that are
 * new or changed are merged by their keys, so that a catch-up that was cut short goes on without anything being there twice;
 * records that are gone are taken out where the crossing says so. Not safe for use by several threads.
 */
@NullMarked
public final class CatchUp extends CrossingWork<CatchUp> {

    /** Ranges of a key have at most about so many records, which are held against each other in memory. */
    static final long RANGE = 100_000;

    /** The fact that tells what has changed of a table. */
    private static final String CHANGED = "changed ";

    /** The fact that tells how many records are gone of a table of which a column tells what has changed. */
    private static final String GONE = "gone ";

    /** The fact that tells what the target has of a table in the end, reckoned from what was found there and has come. */
    static final String LEFT = "left ";

    private static final String REJECTED = "rejected";

    private final Crossing crossing;

    // these are there from when it is run on
    @SuppressWarnings("NullAway.Init")
    private Ends ends;

    @SuppressWarnings("NullAway.Init")
    private RunFolder folder;

    @SuppressWarnings("NullAway.Init")
    private RunLedger ledger;

    @SuppressWarnings("NullAway.Init")
    private StepRunner steps;

    private boolean wentOn;

    @SuppressWarnings("NullAway.Init")
    private OwnRecords own;

    private Optional<ReconcileResult> proof = Optional.empty();

    private CatchUp(Crossing crossing) {
        this.crossing = crossing;
    }

    @Override
    CatchUp self() {
        return this;
    }

    /** Of a crossing that was run. */
    public static CatchUp of(Crossing crossing) {
        return new CatchUp(crossing);
    }

    /**
     * Does it, or goes on with it.
     *
     * @throws UsageException if the crossing was never run to its end, or was undone since, or if it has a table without a
     *     key that has changed
     */
    public RunResult run() {
        ends = new Ends(crossing, secrets);
        return RunSession.within(crossing, Runs.CATCH_UP, listener, stop, this::mustHaveRun, this::begun);
    }

    private void mustHaveRun() {
        RunFolder last = Runs.lastWhole(crossing.keep())
                .orElseThrow(() -> new UsageException("there is no run in " + crossing.keep()
                        + " that a catch-up could follow; run the crossing first"));
        RunLedger of = RunLedger.read(last.path());
        if (!of.has(Step.RUN, State.DONE)) {
            throw new UsageException("the run of " + last.name() + " isn't finished; run goes on with it first");
        }
        if (of.has(Step.UNDO, State.BEGUN) || of.has(Step.UNDO, State.DONE)) {
            throw new UsageException("the run of " + last.name() + " was undone; run the crossing first");
        }
    }

    private RunResult begun(RunSession session) {
        folder = session.folder();
        ledger = session.ledger();
        steps = session.steps();
        listener = session.listener();
        wentOn = session.wentOn();
        own = OwnRecords.of(Runs.lastWhole(crossing.keep()).orElseThrow());
        try {
            steps.step(Step.EXPORT, this::export);
            steps.step(Step.LOAD, this::load);
            if (crossing.followDeletes()) {
                steps.step(Step.DELETE, this::delete);
            }
            steps.step(Step.PROOF, this::prove);
            return session.ended(proof);
        } catch (UsageException e) {
            session.refused(e);
            throw e;
        }
    }

    private Map<String, String> delete() {
        try (TargetPlace target = ends.target()) {
            return deletions().rest(target);
        }
    }

    private Deletions deletions() {
        return new Deletions(deleted(), names(), ledger);
    }

    private List<TableName> names() {
        return crossing.tables().stream().map(CrossingTable::to).toList();
    }

    private Path deleted() {
        return folder.path().resolve("deleted");
    }

    /** What has changed becomes a set. */
    private Map<String, String> export() {
        Map<String, String> before = GrownValues.known(crossing, RunFolder.all(crossing.keep()));
        Map<String, String> facts = new TreeMap<>();
        Optional<Set<TableName>> counted = Optional.empty();
        if (!Files.exists(folder.set())) {
            Choices choices = new Choices(crossing);
            try (RejectFile rejects = choices.mayReject() ? new RejectFile(folder.rejects()) : null;
                    Place all = ends.source(rejects == null ? Rejects.STOP : rejects);
                    Place source = ends.sound(
                            all,
                            LoadModes.all(LoadMode.MERGE),
                            rejects == null ? Rejects.STOP : rejects,
                            listener,
                            stop);
                    Place target = ends.targetToRead();
                    DeletedKeys keys = new DeletedKeys(deleted(), names())) {
                List<TableName> comparable = mustHaveKeys(source, target, facts);
                long besides = rejects == null ? 0 : rejects.count();
                Map<TableName, KeyRange> grown = grown(before);
                ProgressListener told = new OneAtATime(listener);
                ChangedRecords changed = new ChangedRecords(
                                source,
                                target,
                                crossing.followDeletes() ? own.besides(keys) : MissingKeys.UNHEARD,
                                told)
                        .byServers(new SecureRandom().nextLong());
                // a column that tells what has changed needs no comparing
                Place from = new OneOrOther(source, changed, grown);
                facts.put(Run.SYSTEM, source.system());
                TransferResult result = Export.from(new OnlyTables(from, comparable))
                        .compression(crossing.compress())
                        .lanes(crossing.lanes())
                        .sliceRows(Math.min(RANGE, crossing.sliceRows()))
                        .pace(crossing.rowsPerSecond(), crossing.bytesPerSecond())
                        .listener(told)
                        .stopSignal(stop)
                        .to(folder.set());
                long rejected = choices.mustAllow(result, besides, folder);
                if (rejected > 0) {
                    facts.put(REJECTED, Long.toString(rejected));
                }
                steps.taken(result);
                if (crossing.followDeletes()) {
                    for (TableName table : grown.keySet()) {
                        if (comparable.contains(table) && !own.has(table)) {
                            long gone = GoneRecords.of(source, target, table, keys, stop);
                            facts.put(TableFacts.of(GONE, table), Long.toString(gone));
                        }
                    }
                }
                keys.finish();
                Set<TableName> more = ChangedTables.counted(source, target, comparable);
                // what they were read from on comes once more, and the load tells what of it is new
                more.addAll(grown.keySet());
                counted = Optional.of(more);
                changed.counts().forEach((table, count) -> {
                    facts.put(TableFacts.of(CHANGED, table), told(table, count));
                    RecordSum left = isFollowed(table) ? count.after().minus(count.gone()) : count.after();
                    OptionalLong seed = changed.seed(table);
                    facts.put(
                            TableFacts.of(LEFT, table),
                            left.rows() + " "
                                    + (seed.isPresent()
                                            ? new SeededDigest(seed.getAsLong(), left.digest())
                                            : left.digest()));
                });
            }
        }
        try (Place set = Places.open(folder.set())) {
            steps.kept(set);
            facts.putAll(Runs.sums(set));
            // by a set that was whole already, nobody has looked at counters
            counted.ifPresent(c -> facts.putAll(ChangedTables.facts(set, deleted(), names(), c)));
            facts.putAll(GrownValues.facts(crossing, set, before));
        }
        return facts;
    }

    private String told(TableName table, ChangeCount count) {
        return count.inserted() + " new, " + count.updated() + " changed, " + count.unchanged() + " as they were, "
                + count.missing() + " gone" + (isFollowed(table) || count.missing() == 0 ? "" : " and kept");
    }

    private boolean isFollowed(TableName table) {
        return crossing.followDeletes() && !own.has(table);
    }

    private Map<TableName, KeyRange> grown(Map<String, String> before) {
        Map<TableName, KeyRange> ranges = new LinkedHashMap<>();
        for (CrossingTable table : crossing.tables()) {
            if (!table.growsBy().isEmpty()) {
                String column = table.atTarget(table.growsBy()).orElseThrow();
                GrownValues.of(before, table)
                        .ifPresent(value -> ranges.put(
                                table.to(), new KeyRange(List.of(column), List.of(value), List.of(), false)));
            }
        }
        return ranges;
    }

    /** Tables without a key can only be shown to be as they were; all must be there. */
    private List<TableName> mustHaveKeys(Place source, Place target, Map<String, String> facts) {
        List<TableName> missing = new ArrayList<>(names());
        missing.removeAll(target.tables());
        if (!missing.isEmpty()) {
            throw new UsageException(target.address() + " has no table "
                    + Listed.of(missing)
                    + ", and a catch-up moves only what has changed since a run; nothing was changed");
        }
        List<TableName> with = new ArrayList<>();
        List<TableName> without = new ArrayList<>();
        for (TableName table : names()) {
            (source.define(table).primaryKey().isPresent() ? with : without).add(table);
        }
        if (!without.isEmpty()) {
            ReconcileResult result = own.compared(
                    Reconcile.between(new OnlyTables(source, without), new OnlyTables(target, without))
                            .listener(listener)
                            .stopSignal(stop),
                    source);
            if (!result.isEqual()) {
                throw new UsageException("these tables have no primary key, and have changed, so that a catch-up can't"
                        + " bring them up to date: "
                        + Listed.of(result.tables().stream()
                                .filter(t -> t.verdict() != Verdict.EQUAL)
                                .map(ComparedTable::table)
                                .toList())
                        + ". They can be loaded anew in place of those that are there; nothing was changed");
            }
            steps.compared(RecordedComparison.of("source and target", true, result, List.of(), ""));
            result.tables().forEach(t -> {
                facts.put(
                        TableFacts.of(CHANGED, t.table()),
                        told(t.table(), ChangeCount.ofEqual(t.sourceRows().orElse(0))));
                facts.put(TableFacts.of(LEFT, t.table()), t.targetRows().orElse(0) + " " + t.targetDigest());
            });
        }
        return with;
    }

    private Map<String, String> load() {
        PlanFile plan = new PlanFile(folder.loadPlan(), PlanFile.Moments.STILL);
        if (wentOn) {
            Optional<WorkPlan> planned = plan.read();
            Leftover left = new LoadOutcome(crossing, folder, ends, listener, stop)
                    .cleared(planned.map(WorkPlan::hash).orElse(""));
            if (left == Leftover.FINISHED) {
                return Map.of(Deletions.FOUND, "it was in already when the catch-up went on");
            }
        }
        try (Place set = ChangedTables.of(Places.open(folder.set()), ledger.last(Step.EXPORT, State.DONE));
                TargetPlace target = ends.target()) {
            if (set.tables().isEmpty()) {
                return Map.of("rows", "0", "tables", "", Run.SYSTEM, target.system());
            }
            boolean together = crossing.followDeletes() && target.deletesWithLoads();
            if (crossing.followDeletes() && !together) {
                deletions().makeRoom(target);
            }
            TransferResult result = Load.from(set)
                    .mode(LoadMode.MERGE)
                    .lanes(crossing.lanes())
                    .plan(plan)
                    .removing(together ? deletions().all(target) : List.of())
                    .listener(listener)
                    .stopSignal(stop)
                    .into(target);
            steps.loaded(result);
            Map<String, String> facts = Run.loaded(result);
            facts.putAll(Deletions.facts(result.deleted()));
            facts.put(Run.SYSTEM, target.system());
            return facts;
        }
    }

    /** Against the source where that stands still; else, merged once more, the set must change nothing. */
    private Map<String, String> prove() {
        Map<String, String> facts = new TreeMap<>();
        // what can't be taken of the source can't be held against the target, which may have it as it was
        Optional<LedgerLine> exported = ledger.last(Step.EXPORT, State.DONE);
        boolean all = exported.filter(l -> l.fact(REJECTED).isEmpty()).isPresent();
        if (crossing.sourceMoment() != SourceMoment.STILL || !all) {
            try (Place set = ChangedTables.of(Places.open(folder.set()), exported)) {
                boolean nothing = set.tables().isEmpty()
                        || new Proof(crossing, folder, set, null, ends, listener, stop)
                                .changedByMerging(set.tables())
                                .isEmpty();
                facts.put("equal", Boolean.toString(nothing));
                facts.put("between", "what has changed, merged once more");
                facts.put("depth", "rows");
                exported.ifPresent(l -> l.facts().forEach((name, value) -> {
                    if (name.startsWith(LEFT)) {
                        facts.put(name, value);
                    }
                }));
                return facts;
            }
        }
        try (Place source = ends.source();
                Place target = ends.targetToRead()) {
            FirstDifferences first = new FirstDifferences();
            List<TableName> more = own.withKey(source);
            Reconcile reconcile = new Choices(crossing)
                    .equality(Reconcile.between(source, target))
                    .pace(crossing.rowsPerSecond(), crossing.bytesPerSecond())
                    .differences(first, RecordedComparison.MOST)
                    .lanes(crossing.lanes())
                    .listener(listener)
                    .stopSignal(stop);
            // they hold more than the source, of which no record is a difference
            more.forEach(t -> reconcile.depth(t, Depth.DIGESTS));
            ReconcileResult result = own.compared(reconcile, source)
                    .decided(more, OwnRecords.lacking(more, source, target, listener, stop));
            proof = Optional.of(result);
            steps.compared(RecordedComparison.of("source and target", result.isEqual(), result, first.found(), ""));
            steps.found(result.findings());
            facts.put("equal", Boolean.toString(result.isEqual()));
            facts.put("between", "source and target");
            Runs.atTarget(facts, result, List.of());
            return facts;
        }
    }
}

package org.orderlyferry.crossing;

import java.nio.file.Files;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.apiguardian.api.API;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.delimited.DelimitedFormat;
import org.orderlyferry.ledger.LedgerLine.State;
import org.orderlyferry.ledger.LedgerLine.Step;
import org.orderlyferry.ledger.RunFolder;
import org.orderlyferry.ledger.RunLedger;
import org.orderlyferry.ledger.TableFacts;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.Listed;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.MovedTable;
import org.orderlyferry.work.PlanFile;
import org.orderlyferry.work.RejectFile;
import org.orderlyferry.work.RemoteEngine;
import org.orderlyferry.work.TransferResult;

/**
 * Runs a crossing: keeps what it is about to change, exports, loads, and proves. Each step is written down in the run's
 * ledger; a run that was cut short goes on where it stopped, with the same plans. Not safe for use by several threads; a
 * second run of the same crossing, in any process, is refused while one is under way.
 */
@NullMarked
public final class Run extends CrossingWork<Run> {

    /** The fact that tells what an end is. */
    static final String SYSTEM = "system";

    /** Why nothing of the target was kept, where the crossing says so. */
    static final String TOLD = "as it was told";

    private final Crossing crossing;
    private final Choices choices;
    private Optional<StatementDecision> decision = Optional.empty();
    private boolean fromTheStart;
    private Optional<RemoteEngine> engine = Optional.empty();

    // these are there from when it is run on
    @SuppressWarnings("NullAway.Init")
    private Ends ends;

    @SuppressWarnings("NullAway.Init")
    private RunFolder folder;

    @SuppressWarnings("NullAway.Init")
    private RunLedger ledger;

    private boolean wentOn;

    @SuppressWarnings("NullAway.Init")
    private StepRunner steps;

    private long rejected;
    private Optional<ReconcileResult> proof = Optional.empty();

    /** What a person says about a statement of which nobody knows whether it was done. */
    public enum StatementDecision {
        /** It was done. */
        DONE,
        /** It wasn't, or does no harm: it is run again. */
        AGAIN
    }

    private Run(Crossing crossing) {
        this.crossing = crossing;
        this.choices = new Choices(crossing);
    }

    @Override
    Run self() {
        return this;
    }

    /** A run of a crossing. */
    public static Run of(Crossing crossing) {
        return new Run(crossing);
    }

    /** What is to be taken of a statement that was begun when the run was cut short; without it, the run is refused. */
    public Run statement(StatementDecision value) {
        decision = Optional.of(value);
        return this;
    }

    /** Whether a run that was cut short is thrown away, with all that it has done to the target, instead of gone on with. */
    public Run fromTheStart(boolean value) {
        fromTheStart = value;
        return this;
    }

    /** Has the records exported, loaded and compared by other processes; by this one unless told otherwise. */
    @API(status = API.Status.INTERNAL)
    public Run engine(RemoteEngine value) {
        for (String address : List.of(crossing.from(), crossing.to())) {
            if (!PlaceAddress.of(address).leftOpen("NAME").equals(address)) {
                throw new UsageException(
                        "a password stands in the address " + PlaceAddress.of(address)
                                + ", and would be sent to other machines with it; write ${env:NAME}, of which each has its own");
            }
        }
        engine = Optional.of(value);
        return this;
    }

    /**
     * Does it, or goes on with it.
     *
     * @throws UsageException if it can't be done as the crossing says: another run is under way, the crossing was edited
     *     since the run was cut short, somebody else has changed the target
     * @throws org.orderlyferry.problem.FerryException if it fails; run again, it goes on
     */
    public RunResult run() {
        ends = new Ends(crossing, secrets);
        if (fromTheStart) {
            throwAway();
        }
        return RunSession.within(crossing, Runs.WHOLE, listener, stop, () -> {}, this::begun);
    }

    private void throwAway() {
        Optional<RunFolder> unfinished = Runs.unfinished(crossing.keep());
        if (unfinished.isEmpty()) {
            return;
        }
        if (Runs.isCatchUp(RunLedger.read(unfinished.get().path()))) {
            throw new UsageException("the catch-up of " + unfinished.get().name()
                    + " isn't finished, and can't be thrown away alone; let it go on, or undo the run before it");
        }
        Undo.of(crossing).secrets(secrets).listener(listener).stopSignal(stop).undo();
    }

    private RunResult begun(RunSession session) {
        folder = session.folder();
        ledger = session.ledger();
        steps = session.steps();
        listener = session.listener();
        wentOn = session.wentOn();
        try {
            steps.step(Step.BACKUP, this::backUp);
            steps.step(Step.EXPORT, this::export);
            statements(Step.BEFORE);
            steps.step(Step.LOAD, this::load);
            statements(Step.AFTER);
            steps.step(Step.PROOF, this::prove);
            return session.ended(proof);
        } catch (UsageException e) {
            session.refused(e);
            throw e;
        }
    }

    /** What the load is about to change, as it is now. */
    private Map<String, String> backUp() {
        refuseWhatIsThere();
        if (choices.refusesAll() || !crossing.backup()) {
            return Map.of("tables", "", "why", crossing.backup() ? "nothing that is there is changed" : TOLD);
        }
        if (crossing.keepReplaced()) {
            return new ReplacedTables(ends, folder).noted(choices.of(LoadMode.REPLACE));
        }
        if (!Files.exists(folder.backup())) {
            List<TableName> there;
            try (TargetPlace target = ends.target()) {
                there = Runs.there(crossing, target);
            }
            if (there.isEmpty()) {
                return Map.of("tables", "", "why", "none of the tables is there yet");
            }
            try (Place target = ends.targetToRead()) {
                steps.taken(Export.from(new OnlyTables(target, there))
                        .lanes(crossing.lanes())
                        .compression(crossing.compress())
                        .listener(listener)
                        .stopSignal(stop)
                        .to(folder.backup()));
            }
        }
        try (Place backup = Places.open(folder.backup())) {
            steps.kept(backup);
            return Runs.sums(backup);
        }
    }

    /** Seen before anything is exported. */
    private void refuseWhatIsThere() {
        List<TableName> refused = choices.of(LoadMode.CREATE);
        if (refused.isEmpty() || Files.exists(folder.loadPlan())) {
            return;
        }
        try (TargetPlace target = ends.target()) {
            List<TableName> there = Runs.there(crossing, target).stream()
                    .filter(refused::contains)
                    .toList();
            if (!there.isEmpty()) {
                throw new UsageException(target.address() + " has these tables already: "
                        + Listed.of(there)
                        + "; the crossing says: onto: refuse. Nothing was changed");
            }
        }
    }

    private Map<String, String> export() {
        Map<String, String> system = new HashMap<>();
        if (!Files.exists(folder.set())) {
            try (RejectFile rejects = choices.mayReject() ? new RejectFile(folder.rejects()) : null;
                    Place all = ends.source(rejects == null ? Rejects.STOP : rejects);
                    Place source = ends.sound(
                            all, choices.modes(), rejects == null ? Rejects.STOP : rejects, listener, stop)) {
                Export export = Export.from(source)
                        .format(new DelimitedFormat(), FileSettings.NONE)
                        .compression(crossing.compress())
                        .lanes(crossing.lanes())
                        .sliceRows(crossing.sliceRows())
                        .sliceBytes(crossing.sliceBytes())
                        .pace(crossing.rowsPerSecond(), crossing.bytesPerSecond())
                        .inKeyOrder(targetOrdersByKey())
                        .listener(listener)
                        .stopSignal(stop);
                engine.ifPresent(e -> export.elsewhere(e, new RunSite(crossing, folder, RunSite.Part.SOURCE)));
                crossing.tables().stream()
                        .filter(t -> !t.cutBy().isEmpty())
                        .forEach(t -> export.cutBy(t.to().toString(), columnAtTarget(t, t.cutBy())));
                if (crossing.sourceMoment() != SourceMoment.ONE) {
                    export.plan(new PlanFile(
                            folder.exportPlan(),
                            crossing.sourceMoment() == SourceMoment.STILL
                                    ? PlanFile.Moments.STILL
                                    : PlanFile.Moments.SEVERAL));
                }
                system.put(SYSTEM, source.system());
                TransferResult result = export.to(folder.set());
                rejected = choices.mustAllow(result, 0, folder);
                steps.taken(result);
                if (!result.failed().isEmpty()) {
                    throw new UsageException("not all tables could be read, so the run stops: " + result.failed());
                }
            }
        }
        try (Place set = Places.open(folder.set())) {
            steps.kept(set);
            Map<String, String> facts = new HashMap<>(Runs.sums(set));
            facts.putAll(GrownValues.facts(crossing, set, Map.of()));
            facts.putAll(system);
            if (rejected > 0) {
                facts.put("rejected", Long.toString(rejected));
            }
            return facts;
        }
    }

    private boolean targetOrdersByKey() {
        try (TargetPlace target = ends.target()) {
            return target.ordersByKey();
        }
    }

    private static String columnAtTarget(CrossingTable table, String column) {
        return table.columns().stream()
                .filter(c -> c.name().equals(column))
                .map(CrossingColumn::to)
                .findFirst()
                .orElseThrow(() -> new UsageException(
                        "table " + table.name() + " is to be cut by its column " + column + ", which isn't carried"));
    }

    private Map<String, String> load() {
        PlanFile plan = new PlanFile(folder.loadPlan(), PlanFile.Moments.STILL);
        if (wentOn && new LoadOutcome(crossing, folder, ends, listener, stop).isIn(plan)) {
            try (Place set = Places.open(folder.set())) {
                Map<String, String> facts = new HashMap<>(Runs.sums(set));
                facts.put("found", "it was in already when the run went on");
                return facts;
            }
        }
        refuseWhatIsThere();
        try (Place set = Places.open(folder.set());
                TargetPlace target = ends.target()) {
            Load load = Load.from(set)
                    .modes(choices.modes())
                    .lanes(crossing.lanes())
                    .pace(crossing.rowsPerSecond(), crossing.bytesPerSecond())
                    .plan(plan)
                    .listener(listener)
                    .stopSignal(stop);
            engine.ifPresent(e -> load.elsewhere(e, new RunSite(crossing, folder, RunSite.Part.SET)));
            if (crossing.keepReplaced() && target.keptTables().isPresent()) {
                load.keepingReplaced(new ReplacedTables(ends, folder).name());
            }
            TransferResult result = load.into(target);
            steps.loaded(result);
            Map<String, String> facts = loaded(result);
            facts.put(SYSTEM, target.system());
            return facts;
        }
    }

    static Map<String, String> loaded(TransferResult result) {
        Map<String, String> facts = new LinkedHashMap<>();
        facts.put("rows", Long.toString(result.rows()));
        facts.put(
                "tables",
                TableFacts.names(result.tables().stream().map(MovedTable::table).toList()));
        for (MovedTable moved : result.tables()) {
            moved.merged()
                    .ifPresent(m -> facts.put(
                            TableFacts.of("merged ", moved.table()),
                            m.inserted() + " new, " + m.updated() + " changed, " + m.unchanged() + " unchanged"));
        }
        return facts;
    }

    private void statements(Step step) {
        new Statements(step, crossing, ledger).run(ends, decision, listener, stop);
    }

    private Map<String, String> prove() {
        // what was rejected is at the source, and rightly not at the target
        boolean complete = ledger.last(Step.EXPORT, State.DONE)
                .filter(l -> l.fact("rejected").isEmpty())
                .isPresent();
        boolean atSource = complete && crossing.sourceMoment() == SourceMoment.STILL && !choices.has(LoadMode.MERGE);
        try (Place set = Places.open(folder.set());
                Place source = atSource ? ends.source() : null) {
            Proof shown = new Proof(crossing, folder, set, source, ends, listener, stop);
            engine.ifPresent(shown::elsewhere);
            // before it looks: what comes while it does is later than the mark
            Map<String, String> marks = crossing.keepReplaced() ? LeftTarget.marks(ends) : Map.of();
            ReconcileResult result = shown.result();
            proof = Optional.of(result);
            steps.found(result.findings());
            steps.compared(shown.recorded(result));
            if (shown.isEqual()) {
                steps.found(ReplacedTables.giveUpBefore(crossing, folder, secrets));
            }
            Map<String, String> facts = new LinkedHashMap<>();
            facts.put("equal", Boolean.toString(shown.isEqual()));
            facts.put("between", shown.between());
            Runs.atTarget(facts, result, choices.of(LoadMode.MERGE));
            facts.putAll(marks);
            return facts;
        }
    }
}

package org.orderlyferry.crossing;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import org.apiguardian.api.API;
import org.orderlyferry.ledger.LedgerLine.Step;
import org.orderlyferry.ledger.RunFolder;
import org.orderlyferry.ledger.RunLedger;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Secrets;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.place.Written;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.Listed;
import org.orderlyferry.problem.StoppedException;
import org.orderlyferry.progress.Plan;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.SliceSize;
import org.orderlyferry.work.TransferResult;

/** Says what a run would do, and changes nothing at either end. Not safe for use by several threads. */
@API(status = API.Status.INTERNAL)
public final class Check {

    private final Crossing crossing;
    private Secrets secrets = Secrets.unattended();
    private boolean values;
    private ProgressListener listener = ProgressListener.NONE;
    private StopSignal stop = new StopSignal();

    private final List<String> obstacles = new ArrayList<>();
    private final List<Finding> findings = new ArrayList<>();
    private final List<LeftBehind> leftBehind = new ArrayList<>();

    private Check(Crossing crossing) {
        this.crossing = crossing;
    }

    /** Of a crossing. */
    public static Check of(Crossing crossing) {
        return new Check(crossing);
    }

    /** Fills in what the addresses leave open. */
    public Check secrets(Secrets value) {
        secrets = value;
        return this;
    }

    /** Whether each value is looked at, too, which takes as long as reading all of them. */
    public Check values(boolean value) {
        values = value;
        return this;
    }

    /** Who hears of records that are looked at; nobody unless told otherwise. */
    public Check listener(ProgressListener value) {
        listener = value;
        return this;
    }

    /** What may end the check before its end, from another thread. */
    public Check stopSignal(StopSignal value) {
        stop = value;
        return this;
    }

    /**
     * Does it.
     *
     * @throws FerryException if an end can't be opened at all, or isn't as the crossing tells
     */
    public CheckResult check() {
        Ends ends = new Ends(crossing, secrets);
        Optional<RunFolder> unfinished = Runs.unfinished(crossing.keep());
        FirstRejects heard = new FirstRejects();
        try (Place source = ends.source(values ? heard : Rejects.STOP);
                TargetPlace target = ends.target()) {
            List<TableDefinition> definitions =
                    crossing.tables().stream().map(t -> source.define(t.to())).toList();
            List<CheckResult.Table> tables = new ArrayList<>();
            for (int i = 0; i < definitions.size(); i++) {
                stop.check();
                tables.add(table(crossing.tables().get(i), definitions.get(i), source, target));
            }
            unfinished.ifPresent(this::mayGoOn);
            if (unfinished.isEmpty()) {
                target(ends, source, heard, target, definitions, tables);
            }
            long rows = tables.stream().mapToLong(CheckResult.Table::rows).sum();
            OptionalLong space = space(tables);
            return new CheckResult(
                    source.system(),
                    target.system(),
                    tables,
                    obstacles,
                    findings,
                    leftBehind,
                    unfinished.map(RunFolder::name),
                    space,
                    time(source, tables, rows));
        }
    }

    /** What a person has to decide before it does. */
    private void mayGoOn(RunFolder run) {
        Runs.differences(crossing, run)
                .forEach(d -> obstacles.add(
                        "the run of " + run.name() + " isn't finished, and the crossing says otherwise since: " + d));
        RunLedger ledger = RunLedger.read(run.path());
        for (Step step : List.of(Step.BEFORE, Step.AFTER)) {
            new Statements(step, crossing, ledger).question().ifPresent(obstacles::add);
        }
    }

    private CheckResult.Table table(CrossingTable table, TableDefinition definition, Place source, TargetPlace target) {
        long rows = source.estimate(table.to());
        List<Slice> slices = List.of();
        try {
            Map<TableName, String> by = table.cutBy().isEmpty()
                    ? Map.of()
                    : Map.of(
                            table.to(),
                            table.columns().stream()
                                    .filter(c -> c.name().equals(table.cutBy()))
                                    .map(CrossingColumn::to)
                                    .findFirst()
                                    .orElse(table.cutBy()));
            slices = new SliceSize(crossing.sliceRows(), crossing.sliceBytes())
                    .slices(source, definition, rows, by, Cut.Standing.into(target));
            source.check(definition);
        } catch (FerryException e) {
            obstacles.add("table " + table.name() + " can't be read: " + e.getMessage());
        }
        List<String> columns =
                slices.isEmpty() ? List.of() : slices.get(0).range().columns();
        return new CheckResult.Table(
                table.name(),
                table.to(),
                rows,
                source.bytes(table.to()),
                new Plan.Table(table.to(), rows, Math.max(1, slices.size()), columns),
                target.tables().contains(table.to())
                        ? OptionalLong.of(target.estimate(table.to()))
                        : OptionalLong.empty());
    }

    /** What the target would take, and what it would refuse. */
    private void target(
            Ends ends,
            Place source,
            FirstRejects heard,
            TargetPlace target,
            List<TableDefinition> definitions,
            List<CheckResult.Table> tables) {
        List<TableName> there = tables.stream()
                .filter(t -> t.there().isPresent())
                .map(CheckResult.Table::to)
                .filter(t -> crossing.modes().of(t) == LoadMode.CREATE)
                .toList();
        if (!there.isEmpty()) {
            obstacles.add("the target has " + Listed.of(there) + " already, and the crossing says: onto: refuse");
        }
        List<TableName> from = definitions.stream().map(TableDefinition::name).toList();
        List<LeftBehind> sources = source.leftBehind(from);
        findings.addAll(source.notices(from));
        Choices choices = new Choices(crossing);
        LoadModes modes = there.isEmpty() ? choices.modes() : choices.modesWithoutRefusal();
        try {
            if (values) {
                TransferResult tried;
                try (Place sound = ends.sound(source, target, modes, heard, listener, stop)) {
                    tried = Load.from(sound)
                            .modes(modes)
                            .rejects(heard)
                            .rehearsal(true)
                            .lanes(crossing.lanes())
                            .listener(listener)
                            .stopSignal(stop)
                            .into(target);
                }
                findings.addAll(tried.findings());
                leftBehind.addAll(tried.leftBehind());
                refused(tried.refused());
                rejected(tried, choices, heard);
            } else {
                try (Loading rehearsal = target.rehearse(definitions, modes)) {
                    rehearsal.finish(new Written(List.of(), List.of(), Set.of()));
                    findings.addAll(rehearsal.findings());
                    leftBehind.addAll(rehearsal.lacking(sources));
                    leftBehind.addAll(rehearsal.leftBehind());
                    refused(rehearsal.isRefused());
                }
            }
            List<TableName> replaced = Runs.there(crossing, target).stream()
                    .filter(choices.of(LoadMode.REPLACE)::contains)
                    .toList();
            if (crossing.keepReplaced() && !replaced.isEmpty()) {
                ReplacedTables.obstacle(target, replaced).ifPresent(obstacles::add);
            }
            if (crossing.backup()) {
                RecordsBack.obstacle(
                                Runs.there(crossing, target).stream()
                                        .filter(choices.of(LoadMode.APPEND, LoadMode.MERGE)::contains)
                                        .toList(),
                                target)
                        .ifPresent(why -> findings.add(Finding.ofAll(
                                FindingCode.UNDO_LACKING,
                                "the run couldn't be undone: " + why
                                        + ", and without keys its records can't be told from those that come")));
            }
        } catch (FerryException e) {
            obstacles.add(e.getMessage());
            if (leftBehind.isEmpty()) {
                leftBehind.addAll(sources);
            }
        }
    }

    /** What the run would reject, and whether that is allowed. */
    private void rejected(TransferResult tried, Choices choices, FirstRejects heard) {
        if (tried.rejected() > 0) {
            obstacles.addAll(choices.beyond(tried, 0));
            String them = tried.rejected() == 1
                    ? "1 record would be rejected"
                    : tried.rejected() + " records would be rejected";
            List<String> first = heard.first();
            findings.add(Finding.ofAll(
                    FindingCode.RECORD_REJECTED,
                    them + (tried.rejected() > first.size() ? "; the first " + first.size() + " follow" : "")));
            first.forEach(why -> findings.add(Finding.ofAll(FindingCode.RECORD_REJECTED, why)));
        }
    }

    private void refused(boolean refused) {
        if (refused) {
            obstacles.add("the target refuses some values or definitions; they are told among the findings");
        }
    }

    /** What is free where the set will be, held against what the tables take. */
    private OptionalLong space(List<CheckResult.Table> tables) {
        Path there = crossing.keep().toAbsolutePath();
        while (there != null && !Files.exists(there)) {
            there = there.getParent();
        }
        if (there == null) {
            return OptionalLong.empty();
        }
        try {
            long free = Files.getFileStore(there).getUsableSpace();
            long wanted = tables.stream().mapToLong(t -> t.bytes().orElse(0)).sum();
            if (wanted > free) {
                obstacles.add("the tables take " + wanted + " bytes at the source, and where the set is kept, in "
                        + crossing.keep() + ", " + free + " are free");
            }
            return OptionalLong.of(free);
        } catch (IOException | UnsupportedOperationException e) {
            return OptionalLong.empty();
        }
    }

    /** From the last run's ledger, or else from short reads of the source. */
    private Optional<Duration> time(Place source, List<CheckResult.Table> tables, long rows) {
        Optional<Duration> before = LastTime.of(crossing.keep());
        if (before.isPresent() || rows == 0) {
            return before;
        }
        try {
            return Optional.of(ExpectedTime.of(source, tables, stop));
        } catch (StoppedException e) {
            throw e;
        } catch (FerryException e) {
            obstacles.add("the tables can't be read: " + e.getMessage());
            return Optional.empty();
        }
    }
}
